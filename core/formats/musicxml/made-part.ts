/** A part that no file had: notes one after the other become a MusicXML document, in bars, with ties, beams and brackets of tuplets. */
import type { BarEvent } from '../../score/bar-text';
import { feltBeat } from '../../score/beat';
import { isTuplet, lengthsOf, ticksOfLength, valueName, type NoteLength } from '../../score/note-length';
import { keyAlter, type Pitch } from '../../score/pitch';
import type { Clef } from '../../score/score';
import { TICKS_PER_QUARTER } from '../../score/ticks';
import { rounded } from '../../util/round';
import { escapeXml } from '../raw/xml';
import { rhythmSigns } from './bar-signs';

/** Of the quarter: powers of two to 1/128, and groups of 3, 5, 7 and 9. */
const DIVISIONS = 10_080;

export interface MadeHead {
  /** Written. */
  pitch: Pitch;
  /** 0 to 4 or T; null for none. */
  finger: string | null;
  /** 1 is the highest; null for none. */
  string: number | null;
}

export interface MadeNote {
  /** Low to high; none for a rest. */
  heads: readonly MadeHead[];
  ticks: number;
  /** To the next note. */
  slurred: boolean;
  bow?: 'down' | 'up' | undefined;
  dot?: boolean | undefined;
}

export interface MadeStep {
  /** Over its first note. */
  words: string;
  notes: readonly MadeNote[];
}

export interface MadePart {
  title: string;
  name: string;
  fifths: number;
  beats: number;
  beatType: number;
  clef: Clef;
  /** Half steps to add to what is written. */
  soundsHalfSteps: number;
  /** Null where none is said. */
  quartersPerMinute: number | null;
  /** Each begins with a bar of its own. */
  steps: readonly MadeStep[];
}

/** A note or the part of one that lies in a bar, as one written length. */
interface Piece {
  note: MadeNote;
  length: NoteLength;
  isFirst: boolean;
  isLast: boolean;
}

/** Null where note values cannot say it. */
export function madePart(part: MadePart): string | null {
  const whole = (TICKS_PER_QUARTER * 4 * part.beats) / part.beatType;
  const measures: string[] = [];
  for (const step of part.steps) {
    const bars = inBars(settled(step.notes), whole);
    if (!bars) return null;
    let open = false;
    bars.forEach((pieces, i) => {
      const isFirst = measures.length === 0;
      const opening = (isFirst ? attributes(part) + tempo(part) : '') + (i === 0 && step.words ? said(step.words) : '');
      const { xml, slurOpen } = written(pieces, whole, part, open);
      open = slurOpen;
      const end = i === bars.length - 1 ? '<barline location="right"><bar-style>light-light</bar-style></barline>' : '';
      measures.push(`<measure number="${measures.length + 1}">\n${opening}${xml}${end}</measure>`);
    });
  }
  return (
    `<?xml version="1.0" encoding="UTF-8"?>\n<score-partwise version="3.1">\n<work><work-title>${escapeXml(part.title)}</work-title></work>\n` +
    `<part-list><score-part id="P1"><part-name>${escapeXml(part.name)}</part-name></score-part></part-list>\n<part id="P1">\n${measures.join('\n')}\n</part>\n</score-partwise>\n`
  );
}

const attributes = ({ fifths, beats, beatType, clef, soundsHalfSteps }: MadePart): string =>
  `<attributes><divisions>${DIVISIONS}</divisions><key><fifths>${fifths}</fifths></key><time><beats>${beats}</beats><beat-type>${beatType}</beat-type></time>` +
  `<clef><sign>${escapeXml(clef.sign)}</sign><line>${clef.line}</line>${clef.octave ? `<clef-octave-change>${clef.octave}</clef-octave-change>` : ''}</clef>` +
  `${soundsHalfSteps === 0 ? '' : transpose(soundsHalfSteps)}</attributes>\n`;

function transpose(halfSteps: number): string {
  const octaves = Math.trunc(halfSteps / 12);
  return `<transpose><chromatic>${halfSteps - 12 * octaves}</chromatic>${octaves ? `<octave-change>${octaves}</octave-change>` : ''}</transpose>`;
}

const tempo = ({ quartersPerMinute }: MadePart): string =>
  quartersPerMinute === null
    ? ''
    : `<direction placement="above"><direction-type><metronome><beat-unit>quarter</beat-unit><per-minute>${rounded(quartersPerMinute, 0)}</per-minute></metronome></direction-type><sound tempo="${rounded(quartersPerMinute, 2)}"/></direction>\n`;

const said = (words: string): string => `<direction placement="above"><direction-type><words>${escapeXml(words)}</words></direction-type></direction>\n`;

/** A slur goes to a note, not to a rest, and not beyond the end. */
const settled = (notes: readonly MadeNote[]): MadeNote[] =>
  notes.map((note, i) => ({ ...note, slurred: note.slurred && note.heads.length > 0 && (notes[i + 1]?.heads.length ?? 0) > 0 }));

/** Notes cut at the bar lines, the last bar filled up with rests. */
function inBars(notes: readonly MadeNote[], whole: number): Piece[][] | null {
  const bars: Piece[][] = [[]];
  let left = whole;
  const all = [...notes];
  const sum = notes.reduce((ticks, note) => ticks + note.ticks, 0);
  const lacks = (whole - (sum % whole)) % whole;
  if (lacks > 0.5) all.push({ heads: [], ticks: lacks, slurred: false });
  for (const note of all) {
    let ticks = note.ticks;
    let isFirst = true;
    while (ticks > 0.5) {
      if (left < 0.5) {
        bars.push([]);
        left = whole;
      }
      const here = Math.min(ticks, left);
      const lengths = lengthsOf(here);
      if (!lengths) return null;
      lengths.forEach((length, i) => bars.at(-1)!.push({ note, length, isFirst: isFirst && i === 0, isLast: here >= ticks - 0.5 && i === lengths.length - 1 }));
      isFirst = false;
      ticks -= here;
      left -= here;
    }
  }
  return bars;
}

function written(pieces: readonly Piece[], whole: number, part: MadePart, wasOpen: boolean): { xml: string; slurOpen: boolean } {
  const events: BarEvent[] = pieces.map(({ note, length }) => ({
    what: note.heads.length ? 'note' : 'rest',
    heads: note.heads.map(({ pitch }) => ({ pitch, tied: false })),
    length,
  }));
  const signs = rhythmSigns(events, feltBeat(part), 0, whole);
  let open = wasOpen;
  const held = new Map<string, number>();
  const xml = pieces.map((piece, i) => {
    const { note } = piece;
    const stops = open && piece.isLast && !note.slurred;
    const starts = !open && piece.isFirst && note.slurred;
    if (starts) open = true;
    if (stops) open = false;
    const heads = note.heads.length ? note.heads : [null];
    return heads
      .map((head, h) => noteXml(piece, head, h, signs[i]!, { starts, stops }, head && piece.isFirst ? accidental(head.pitch, part.fifths, held) : ''))
      .join('\n');
  });
  return { xml: `${xml.join('\n')}\n`, slurOpen: open };
}

const SIGNS: ReadonlyMap<number, string> = new Map([
  [-2, 'flat-flat'],
  [-1, 'flat'],
  [0, 'natural'],
  [1, 'sharp'],
  [2, 'double-sharp'],
]);

/** The sign that a pitch needs in its bar, after what stood there before. @param held by letter and octave, what holds in the bar */
function accidental({ step, alter, octave }: Pitch, fifths: number, held: Map<string, number>): string {
  const place = `${step}${octave}`;
  if ((held.get(place) ?? keyAlter(fifths, step)) === alter) return '';
  held.set(place, alter);
  const name = SIGNS.get(alter);
  return name ? `<accidental>${name}</accidental>` : '';
}

function noteXml(
  { note, length, isFirst, isLast }: Piece,
  head: MadeHead | null,
  index: number,
  { beams, tuplet }: ReturnType<typeof rhythmSigns>[number],
  slur: { starts: boolean; stops: boolean },
  sign: string,
): string {
  const [from, to] = [!isFirst, !isLast];
  const main = index === 0;
  const technical = [
    main && isFirst && note.bow ? `<${note.bow}-bow/>` : '',
    isFirst && head?.finger ? (head.finger === 'T' ? '<thumb-position/>' : `<fingering>${escapeXml(head.finger)}</fingering>`) : '',
    isFirst && head?.string ? `<string>${head.string}</string>` : '',
  ].join('');
  const notations = [
    head && from ? '<tied type="stop"/>' : '',
    head && to ? '<tied type="start"/>' : '',
    main && slur.stops ? '<slur type="stop" number="1"/>' : '',
    main && slur.starts ? '<slur type="start" number="1"/>' : '',
    main && tuplet ? `<tuplet type="${tuplet}" number="1"/>` : '',
    technical && `<technical>${technical}</technical>`,
    main && isFirst && note.dot ? '<articulations><staccato/></articulations>' : '',
  ].join('');
  const { step, alter, octave } = head?.pitch ?? { step: 'C', alter: 0, octave: 4 };
  return [
    '<note>',
    main ? '' : '<chord/>',
    head ? `<pitch><step>${step}</step>${alter ? `<alter>${alter}</alter>` : ''}<octave>${octave}</octave></pitch>` : '<rest/>',
    `<duration>${Math.round((ticksOfLength(length) * DIVISIONS) / TICKS_PER_QUARTER)}</duration>`,
    head && from ? '<tie type="stop"/>' : '',
    head && to ? '<tie type="start"/>' : '',
    `<voice>1</voice><type>${valueName(length.of)}</type>${'<dot/>'.repeat(length.dots)}`,
    sign,
    isTuplet(length) ? `<time-modification><actual-notes>${length.actual}</actual-notes><normal-notes>${length.normal}</normal-notes></time-modification>` : '',
    main ? beams.join('') : '',
    notations && `<notations>${notations}</notations>`,
    '</note>',
  ].join('');
}
