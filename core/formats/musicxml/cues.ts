/** Cues put into a part: small notes of another one, in a voice of their own behind all that stands in the bar. */
import { ticksOfEvent, tiedOn, type BarEvent } from '../../score/bar-text';
import { feltBeat } from '../../score/beat';
import { parseCue } from '../../score/cue-text';
import { keyAlter, pitchName, type Pitch } from '../../score/pitch';
import type { Bar, Part } from '../../score/score';
import { TICKS_PER_QUARTER } from '../../score/ticks';
import { child, escapeXml, type XmlElement } from '../raw/xml';
import { rhythmSigns } from './bar-signs';
import type { Correction } from './correction';
import type { TextEdit } from './edits';
import { finerBy } from './finer';
import { insertion } from './layout';
import { noteMade } from './note-made';
import { accidentalName } from './print-out';
import { divisionsAtStart, divisionsBefore, lastDivisions } from './spot';

/** @param lose told of every cue that the file has no place for */
export function cueEdits(
  text: string,
  part: Part | undefined,
  measures: readonly XmlElement[],
  cues: readonly Correction[],
  lose: (key: string) => void,
): TextEdit[] {
  return cues.flatMap(({ key, barIndex, tick, value }, i): TextEdit[] => {
    const said = parseCue(value);
    const [bar, measure] = [part?.bars[barIndex], measures[barIndex]];
    const divisions = measure && (lastDivisions(measure) ?? divisionsAtStart(measure) ?? divisionsBefore(measures, barIndex));
    const lasts = said?.events.reduce((sum, event) => sum + ticksOfEvent(event, bar?.ticks ?? 0), 0) ?? 0;
    if (!said || !bar || !measure || !divisions || tick !== 0 || lasts > bar.ticks + 1) {
      lose(key);
      return [];
    }
    // A cue goes on where the bar before has the same: its name is said once.
    const before = cues[i - 1];
    const goesOn = before?.barIndex === barIndex - 1 && parseCue(before.value) !== null && sharesName(parseCue(before.value)!.name, said.name);
    const xml = cueXml(said.events, goesOn ? null : said.name, {
      bar,
      measure,
      divisions,
      voice: freeVoice(part!, barIndex),
      staves: part!.notes.some((note) => note.staff > 1),
    });
    if (xml === null) {
      lose(key);
      return [];
    }
    // Behind the notes, in front of the barline at the end.
    const barline = measure.children.at(-1);
    if (barline?.name === 'barline' && barline.attributes.location !== 'left') return [{ start: barline.start, end: barline.start, text: xml }];
    return insertion(text, measure, xml, '');
  });
}

/** "Violin I" goes on after "Violin I, an octave lower". */
const sharesName = (before: string, now: string): boolean => before === now || before.startsWith(`${now}, `);

const freeVoice = (part: Part, barIndex: number): string => {
  const taken = new Set([...part.notes, ...part.rests].filter((each) => each.barIndex === barIndex).map(({ voice }) => voice));
  let voice = 2;
  while (taken.has(String(voice))) voice++;
  return String(voice);
};

interface Around {
  bar: Bar;
  measure: XmlElement;
  divisions: number;
  voice: string;
  staves: boolean;
}

function cueXml(events: readonly BarEvent[], name: string | null, { bar, measure, divisions, voice, staves }: Around): string | null {
  const finer = finerBy(events, divisions, bar.ticks);
  if (finer === null) return null;
  const counted = divisions * finer;
  const duration = (event: BarEvent) => Math.round((ticksOfEvent(event, bar.ticks) * counted) / TICKS_PER_QUARTER);
  const signs = rhythmSigns(events, feltBeat(bar), bar.into, bar.ticks);
  const said = (value: number) => `<attributes><divisions>${value}</divisions></attributes>`;
  const back = cursorAtEnd(measure) * finer;
  const out = [finer === 1 ? '' : said(counted), back > 0 ? `<backup><duration>${back}</duration></backup>` : ''];
  let told = name === null;
  let tied = new Set<string>();
  events.forEach((event, i) => {
    if (event.what === 'gap') {
      out.push(`<forward><duration>${duration(event)}</duration></forward>`);
      return;
    }
    if (!told)
      out.push(
        `<direction placement="above"><direction-type><words font-style="italic" font-size="8">${escapeXml(name!)}</words></direction-type></direction>`,
      );
    told = true;
    const shared = {
      what: event.what,
      length: event.length,
      duration: duration(event),
      voice,
      staff: staves ? 1 : null,
      signs: signs[i]!,
      slurs: [] as string[],
    };
    const heads = event.heads.length ? event.heads : [null];
    heads.forEach((head, n) => {
      const tiedFrom = head !== null && tied.has(pitchName(head.pitch));
      const accidental = head && !tiedFrom ? signOf(head.pitch, bar) : null;
      out.push(noteMade('', { ...shared, pitch: head?.pitch ?? null, inChord: n > 0, tiedFrom, tiedTo: head?.tied ?? false, cue: { accidental } }, null, null));
    });
    tied = new Set(tiedOn(event));
  });
  if (finer !== 1) out.push(said(divisions));
  return out.join('');
}

/** Shown where it is not in the key: a cue has no bar of its own that signs hold in. */
const signOf = ({ step, alter }: Pitch, { fifths }: Bar): string | null => (alter === keyAlter(fifths, step) ? null : accidentalName(alter));

/** How far into the bar the writing stands after its last element, in divisions. */
function cursorAtEnd(measure: XmlElement): number {
  let at = 0;
  for (const element of measure.children) {
    const lasts = Number(child(element, 'duration')?.text ?? 0);
    if (element.name === 'note' && !child(element, 'chord') && !child(element, 'grace')) at += lasts;
    else if (element.name === 'forward') at += lasts;
    else if (element.name === 'backup') at -= lasts;
  }
  return Math.max(0, at);
}
