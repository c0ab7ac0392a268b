/** A `<note>` of a corrected bar: as printed but for its rhythm, or new. Children in the order of the MusicXML content model. */
import { pitchName, type Pitch } from '../../score/pitch';
import { isTuplet, valueName, type NoteLength } from '../../score/note-length';
import type { XmlElement } from '../raw/xml';
import type { RhythmSigns } from './bar-signs';

export interface NoteWanted {
  what: 'note' | 'grace' | 'rest';
  /** Null for a rest. */
  pitch: Pitch | null;
  /** Null for a rest of the whole bar. */
  length: NoteLength | null;
  /** In divisions; not written for grace notes. */
  duration: number;
  inChord: boolean;
  /** Tied from the note before, and to the next. */
  tiedFrom: boolean;
  tiedTo: boolean;
  voice: string;
  /** Null where the part has one staff. */
  staff: number | null;
  signs: RhythmSigns;
  /** `<slur>` elements of notes that are gone. */
  slurs: readonly string[];
  /** A small note of another part, with a sign where it needs one: no tie sounds. */
  cue?: { accidental: string | null };
}

const KEPT_BEFORE_VOICE = new Set(['instrument', 'footnote', 'level']);
const KEPT_AFTER_RATIO = new Set(['stem', 'notehead', 'notehead-text']);
const KEPT_AT_END = new Set(['lyric', 'play', 'listen']);

/** @param printed the element that it is, with its own pitch or another one; null for a new note */
export function noteMade(text: string, wanted: NoteWanted, printed: XmlElement | null, printedPitch: string | null): string {
  const raw = (element: XmlElement) => text.slice(element.start, element.end);
  const children = printed?.children ?? [];
  const all = (names: ReadonlySet<string>) => children.filter(({ name }) => names.has(name)).map(raw);
  const named = (name: string) => children.filter((each) => each.name === name).map(raw);
  const { pitch, length, tiedFrom, tiedTo } = wanted;
  const samePitch = pitch !== null && printedPitch === pitchName(pitch);
  const isGrace = wanted.what === 'grace';
  const parts = [
    ...(isGrace ? firstOf(named('grace'), '<grace slash="yes"/>') : []),
    ...(wanted.cue ? ['<cue/>'] : named('cue')),
    wanted.inChord ? '<chord/>' : '',
    ...(pitch ? (samePitch ? named('pitch') : [pitchXml(pitch)]) : wanted.length === null ? ['<rest measure="yes"/>'] : firstOf(named('rest'), '<rest/>')),
    isGrace ? '' : `<duration>${wanted.duration}</duration>`,
    tiedFrom && !wanted.cue ? '<tie type="stop"/>' : '',
    tiedTo && !wanted.cue ? '<tie type="start"/>' : '',
    ...all(KEPT_BEFORE_VOICE),
    `<voice>${wanted.voice}</voice>`,
    length ? `<type>${valueName(length.of)}</type>${'<dot/>'.repeat(length.dots)}` : '',
    ...(wanted.cue?.accidental ? [`<accidental>${wanted.cue.accidental}</accidental>`] : samePitch ? named('accidental') : []),
    length && isTuplet(length)
      ? `<time-modification><actual-notes>${length.actual}</actual-notes><normal-notes>${length.normal}</normal-notes></time-modification>`
      : '',
    ...all(KEPT_AFTER_RATIO),
    ...firstOf(named('staff'), wanted.staff === null ? '' : `<staff>${wanted.staff}</staff>`),
    ...(wanted.inChord ? [] : isGrace ? named('beam') : wanted.signs.beams),
    notations(raw, children, wanted),
    ...all(KEPT_AT_END),
  ];
  const tag = printed && printed.closeStart > printed.openEnd ? text.slice(printed.start, printed.openEnd) : '<note>';
  return `${tag}${parts.join('')}</note>`;
}

const firstOf = (there: string[], otherwise: string): string[] => (there.length ? there.slice(0, 1) : [otherwise]);

/** Signs about the rhythm, which is another one now. */
const OF_RHYTHM = new Set(['tied', 'tuplet']);

function notations(raw: (element: XmlElement) => string, children: readonly XmlElement[], { tiedFrom, tiedTo, signs, inChord, slurs }: NoteWanted): string {
  const kept = children.filter(({ name }) => name === 'notations').flatMap((each) => each.children.filter(({ name }) => !OF_RHYTHM.has(name)).map(raw));
  const made = [
    tiedFrom ? '<tied type="stop"/>' : '',
    tiedTo ? '<tied type="start"/>' : '',
    signs.tuplet && !inChord ? `<tuplet type="${signs.tuplet}" number="1"/>` : '',
    ...settledSlurs(kept, slurs),
  ].join('');
  return made ? `<notations>${made}</notations>` : '';
}

/** A slur that would begin and end at one note is none. */
function settledSlurs(kept: readonly string[], moved: readonly string[]): string[] {
  const ends = [...kept, ...moved];
  const key = (sign: string, type: string) => (/^<slur\b/.test(sign) && sign.includes(`type="${type}"`) ? (/number="(\w+)"/.exec(sign)?.[1] ?? '1') : null);
  if (moved.length === 0) return ends;
  return ends.filter((sign) => {
    const [start, stop] = [key(sign, 'start'), key(sign, 'stop')];
    if (start !== null) return !ends.some((other) => key(other, 'stop') === start);
    return stop === null || !ends.some((other) => key(other, 'start') === stop);
  });
}

const pitchXml = ({ step, alter, octave }: Pitch): string =>
  `<pitch><step>${step}</step>${alter ? `<alter>${alter}</alter>` : ''}<octave>${octave}</octave></pitch>`;
