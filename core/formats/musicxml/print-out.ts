/** Edits against the print as real notation: pitches and accidentals, articulations, dynamics, hairpins, tempi, words. */
import { levelOf } from '../../score/dynamics';
import { pitchName } from '../../score/pitch';
import { barIndexAt, WRITABLE_ARTICULATIONS, type Articulation, type Note, type Part } from '../../score/score';
import { markAt, markKey, type Marking } from '../../marking/mark';
import { articulationKind } from '../../marking/kinds';
import { DIVISI_WORDS, parseHairpin, STRUCK } from '../../marking/values';
import { editedPart, parseTempo, printEdits, type PrintEdit } from '../../marking/print-edits';
import { placeTarget, targetOf } from '../../marking/target';
import { child, escapeXml, type XmlElement } from '../raw/xml';
import type { TextEdit } from './edits';
import { layoutOf, withSpace } from './layout';
import { ALTER_OF, ARTICULATION_OF } from './notations';
import { signsIn, type NotePlan } from './note-plan';
import { signsOf } from './signs';
import { directions, type, type Lose } from './directions-out';

export interface PrintOut {
  text: string;
  measures: readonly XmlElement[];
  elements: readonly XmlElement[];
  /** As printed. */
  part: Part;
  marking: Marking;
  planFor(note: Note): NotePlan;
  lose: Lose;
}

export function printEditsOut(out: PrintOut): TextEdit[] {
  const edits = printEdits(out.marking).filter((edit) => !edit.mark.off);
  if (edits.length === 0) return [];
  return [...notesOut(out), ...placesOut(out, edits)];
}

/** Notes whose pitch, sign or articulations differ between the print and the edited part. */
function notesOut({ text, elements, part, marking, planFor }: PrintOut): TextEdit[] {
  const edited = editedPart(part, marking);
  const edits: TextEdit[] = [];
  part.notes.forEach((print, i) => {
    const wanted = edited.notes[i]!;
    if (wanted === print) return;
    const element = elements[print.source]!;
    if (pitchName(print.written) !== pitchName(wanted.written)) edits.push(...pitchEdits(text, child(element, 'pitch')!, wanted));
    edits.push(...accidentalEdits(text, element, print, wanted));
    for (const name of WRITABLE_ARTICULATIONS) {
      const mark = markAt(marking, print.id, articulationKind(name));
      if (!mark || mark.off) continue;
      const there = signsIn(element, 'articulations').filter((sign) => ARTICULATION_OF[sign.name] === name);
      if (mark.value === STRUCK) there.forEach((sign) => planFor(print).remove.add(sign));
      else if (there.length === 0) planFor(print).add.articulations.push(`<${ELEMENT_OF[name]}/>`);
    }
  });
  return edits;
}

const inverted = <T extends string | number>(names: Readonly<Record<string, T>>): Map<T, string> => {
  const result = new Map<T, string>();
  for (const [name, value] of Object.entries(names)) if (!result.has(value)) result.set(value, name);
  return result;
};
const ELEMENT_OF = Object.fromEntries(inverted<Articulation>(ARTICULATION_OF)) as Record<Articulation, string>;
/** By the alteration: "double-sharp" rather than "sharp-sharp". */
const ACCIDENTAL_NAMES = inverted<number>(ALTER_OF);
/** Null for what no sign says. */
export const accidentalName = (alter: number): string | null => ACCIDENTAL_NAMES.get(alter) ?? null;

function pitchEdits(text: string, pitch: XmlElement, { written }: Note): TextEdit[] {
  const step = child(pitch, 'step')!;
  const octave = child(pitch, 'octave')!;
  const alter = child(pitch, 'alter');
  const content = (element: XmlElement, value: string): TextEdit => ({ start: element.openEnd, end: element.closeStart, text: value });
  const edits = [content(step, written.step), content(octave, String(written.octave))];
  if (alter && written.alter === 0) edits.push({ ...withSpace(text, alter), text: '' });
  else if (alter && alter.closeStart > alter.openEnd) edits.push(content(alter, String(written.alter)));
  else if (alter) edits.push({ start: alter.start, end: alter.end, text: `<alter>${written.alter}</alter>` });
  else if (written.alter !== 0) edits.push({ start: step.end, end: step.end, text: `${layoutOf(text, pitch).line(1)}<alter>${written.alter}</alter>` });
  return edits;
}

/** Children that come after `<accidental>` in a note (MusicXML note content model). */
const AFTER_ACCIDENTAL = new Set(['time-modification', 'stem', 'notehead', 'notehead-text', 'staff', 'beam', 'notations', 'lyric', 'play', 'listen']);

export function accidentalEdits(text: string, element: XmlElement, print: Pick<Note, 'accidental'>, { accidental }: Pick<Note, 'accidental'>): TextEdit[] {
  const before = print.accidental;
  if (before?.alter === accidental?.alter && before?.courtesy === accidental?.courtesy) return [];
  const there = child(element, 'accidental');
  if (!accidental) return there ? [{ ...withSpace(text, there), text: '' }] : [];
  const name = ACCIDENTAL_NAMES.get(accidental.alter);
  if (name === undefined) return [];
  const sign = `<accidental${accidental.courtesy ? ' cautionary="yes" parentheses="yes"' : ''}>${name}</accidental>`;
  if (there) return [{ start: there.start, end: there.end, text: sign }];
  const next = element.children.find((candidate) => AFTER_ACCIDENTAL.has(candidate.name));
  const at = next ? withSpace(text, next).start : element.children.at(-1)!.end;
  return [{ start: at, end: at, text: layoutOf(text, element).line(1) + sign }];
}

/** Signs at places: what the print has there goes, what is wanted is put before the note. */
function placesOut({ text, measures, part, lose }: PrintOut, edits: readonly PrintEdit[]): TextEdit[] {
  const signs = signsOf(measures);
  const gone = new Set<XmlElement>();
  const owners = new Set<XmlElement>();
  const strike = (source: number | undefined) => {
    const sign = source === undefined ? undefined : signs[source];
    if (!sign) return;
    gone.add(sign.element);
    owners.add(sign.owner);
  };
  const result: TextEdit[] = [];
  const put = directions(text, measures, part, result);
  const wedges = new WedgeNumbers();
  for (const { from, to, source } of part.hairpins) {
    const struck = edits.some(({ target, kind }) => kind === 'hairpin' && target === placeTargetAt(part, from));
    const sign = source && signs[source[0]];
    if (sign && !struck) wedges.take(Number(sign.element.attributes.number ?? 1), from, to);
  }
  for (const { target: targetText, kind, mark } of edits) {
    const target = targetOf(targetText);
    const bar = target.on === 'place' ? part.bars[target.barIndex] : undefined;
    if (!bar || target.on !== 'place') continue;
    const { barIndex, tick: inBar } = target;
    const placed = (there: boolean) => there || lose(markKey(targetText, kind));
    const tick = bar.onset + inBar;
    switch (kind) {
      case 'dynamic':
        part.dynamics.filter((dynamic) => dynamic.tick === tick).forEach((dynamic) => strike(dynamic.source));
        if (levelOf(mark.value) !== undefined) placed(put(barIndex, inBar, type(`<dynamics>${dynamicElement(mark.value)}</dynamics>`), '', 'below'));
        break;
      case 'text':
        placed(put(barIndex, inBar, type(`<words>${escapeXml(mark.value)}</words>`)));
        break;
      case 'divisi':
        placed(put(barIndex, inBar, type(`<words font-style="italic">${DIVISI_WORDS[mark.value]}</words>`)));
        break;
      case 'printed-text':
        part.words.filter((word) => word.tick === tick).forEach((word) => strike(word.source));
        break;
      case 'tempo': {
        part.tempi.filter((tempo) => tempo.tick === tick).forEach((tempo) => tempo.source?.forEach(strike));
        if (mark.value === STRUCK) break;
        const { words, unit, dotted, perMinute, quartersPerMinute } = parseTempo(mark.value);
        const wordsXml = words ? type(`<words font-weight="bold">${escapeXml(words)}</words>`) : '';
        const metronome = `<metronome><beat-unit>${unit}</beat-unit>${dotted ? '<beat-unit-dot/>' : ''}<per-minute>${perMinute}</per-minute></metronome>`;
        placed(
          put(
            barIndex,
            inBar,
            wordsXml + (perMinute === null ? '' : type(metronome)),
            quartersPerMinute === null ? '' : `<sound tempo="${quartersPerMinute}"/>`,
          ),
        );
        break;
      }
      case 'hairpin': {
        part.hairpins.filter((hairpin) => hairpin.from === tick).forEach((hairpin) => hairpin.source?.forEach(strike));
        const wanted = parseHairpin(mark.value);
        if (!wanted || !part.bars[wanted.toBar] || part.bars[wanted.toBar]!.onset + wanted.toTick <= tick) break;
        const number = wedges.free(tick, part.bars[wanted.toBar]!.onset + wanted.toTick);
        if (number === null) {
          placed(false);
          break;
        }
        const end = put(wanted.toBar, wanted.toTick, type(`<wedge number="${number}" type="stop"/>`), '', 'below');
        placed(put(barIndex, inBar, type(`<wedge number="${number}" type="${wanted.kind}"/>`), '', 'below') && end);
        break;
      }
    }
  }
  for (const owner of owners) result.push(...withoutSigns(text, owner, gone));
  return result;
}

/** The target of a place that the part begins a sign at. */
function placeTargetAt(part: Part, tick: number): string {
  const barIndex = barIndexAt(part.bars, tick);
  return placeTarget(barIndex, tick - part.bars[barIndex]!.onset);
}

/** MusicXML 3.0 knows the numbers 1 to 6 for wedges that overlap; files rarely use the last, so they are given first. */
class WedgeNumbers {
  private readonly taken: Array<{ number: number; from: number; to: number }> = [];

  take(number: number, from: number, to: number): void {
    this.taken.push({ number, from, to });
  }

  /** One that no other wedge has meanwhile, nor where it begins or ends if that can be had; null where all are taken. */
  free(from: number, to: number): number | null {
    const without = (meets: (other: { from: number; to: number }) => boolean) => {
      const busy = new Set(this.taken.filter(meets).map((other) => other.number));
      return [6, 5, 4, 3, 2, 1].find((candidate) => !busy.has(candidate)) ?? null;
    };
    const number = without((other) => other.from <= to && from <= other.to) ?? without((other) => other.from < to && from < other.to);
    if (number !== null) this.take(number, from, to);
    return number;
  }
}

const PLAIN_DYNAMICS = /^(p{1,6}|f{1,6}|mp|mf|sf|sfp|sfpp|fp|rf|rfz|sfz|sffz|fz)$/;
const dynamicElement = (name: string): string => (PLAIN_DYNAMICS.test(name) ? `<${name}/>` : `<other-dynamics>${name}</other-dynamics>`);

/** Takes signs out of a direction or a note; what would be left empty goes with them. */
function withoutSigns(text: string, owner: XmlElement, gone: ReadonlySet<XmlElement>): TextEdit[] {
  const goes = (element: XmlElement): boolean =>
    gone.has(element) || (HOLDERS.has(element.name) && element.children.length > 0 && element.children.every(goes));
  const remove = (element: XmlElement): TextEdit => ({ ...withSpace(text, element), text: '' });
  const types = owner.children.filter((candidate) => candidate.name === 'direction-type');
  if (gone.has(owner) || (owner.name === 'direction' && types.length > 0 && types.every(goes))) return [remove(owner)];
  const inside = (element: XmlElement): TextEdit[] => (goes(element) ? [remove(element)] : element.children.flatMap(inside));
  return owner.children.flatMap(inside);
}

const HOLDERS = new Set(['direction-type', 'dynamics', 'notations']);
