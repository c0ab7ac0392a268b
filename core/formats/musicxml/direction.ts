/** Directions of a MusicXML part: dynamics, hairpins, words, tempo, rehearsal marks. */
import type { DynamicMark, Hairpin, Part, TempoMark, WordMark } from '../../score/score';
import { fromTheStart } from '../../score/time';
import { levelOf } from '../../score/dynamics';
import { child, childText, type XmlElement } from '../raw/xml';
import { readPlaySound, readPlayWords, type BarSigns } from './play-signs';

export interface DirectionSink {
  dynamics: DynamicMark[];
  words: WordMark[];
  tempi: ReadTempo[];
  /** Tempi that nobody can play, as they stand in the file. */
  oddTempi: string[];
  plucked: Part['plucked'];
  /** Ends of hairpins as they were met. */
  wedges: WedgeEnd[];
  /** Which sign of the part an element is. */
  signOf: ReadonlyMap<XmlElement, number>;
}

/** A tempo as it is read: metric modulations know only the ratio to the tempo before. */
export type ReadTempo = TempoMark & { ratio?: number };

export const emptySink = (signOf: DirectionSink['signOf']): DirectionSink => ({
  dynamics: [],
  words: [],
  tempi: [],
  oddTempi: [],
  plucked: [],
  wedges: [],
  signOf,
});

/** Puts what the direction says into the sink; returns its rehearsal mark, if it has one. */
export function readDirection(element: XmlElement, tick: number, sink: DirectionSink, bar: BarSigns): string | null {
  let rehearsal: string | null = null;
  let metronome: XmlElement | null = null;
  for (const type of element.children) {
    if (type.name !== 'direction-type') continue;
    for (const sign of type.children) {
      switch (sign.name) {
        case 'dynamics':
          readDynamics(sign, tick, sink);
          break;
        case 'wedge':
          readWedge(sign, tick, sink);
          break;
        case 'words':
          if (!sign.text.trim()) break;
          sink.words.push({ tick, text: sign.text.trim(), source: sink.signOf.get(sign)! });
          readPlayWords(sign.text.trim(), bar);
          break;
        case 'rehearsal':
          rehearsal = sign.text.trim() || rehearsal;
          break;
        case 'metronome':
          metronome = sign;
          break;
        case 'segno':
          bar.segno = true;
          break;
        case 'coda':
          bar.someCoda = true;
          break;
      }
    }
  }
  const sound = child(element, 'sound');
  const fromSound = sound ? readSound(sound, tick, sink, bar) : null;
  const printed = metronome ? readMetronome(metronome) : null;
  const perMinute = metronome ? childText(metronome, 'per-minute') : null;
  if (!printed && perMinute && /^[\d.\s-]+$/.test(perMinute)) sink.oddTempi.push(perMinute.trim());
  if (!metronome || !printed) return rehearsal;
  const source = sink.signOf.get(metronome)!;
  if (fromSound) Object.assign(fromSound, { printed: printed.text, source: [source, ...fromSound.source!] });
  else {
    const { ratio, quartersPerMinute } = printed;
    sink.tempi.push({ tick, quartersPerMinute: quartersPerMinute ?? 0, printed: printed.text, source: [source], ...(ratio === null ? {} : { ratio }) });
  }
  return rehearsal;
}

/** What a `<sound>` says; its tempo is in quarters per minute already. Returns the tempo mark it made, if any. */
export function readSound(sound: XmlElement, tick: number, sink: DirectionSink, bar: BarSigns): ReadTempo | null {
  readPlaySound(sound, bar);
  if (sound.attributes.pizzicato === 'yes' || sound.attributes.pizzicato === 'no') sink.plucked.push({ tick, on: sound.attributes.pizzicato === 'yes' });
  const tempo = Number(sound.attributes.tempo);
  if (sound.attributes.tempo !== undefined && !isTempo(tempo)) sink.oddTempi.push(sound.attributes.tempo);
  if (!isTempo(tempo)) return null;
  const mark: ReadTempo = { tick, quartersPerMinute: tempo, printed: null, source: [sink.signOf.get(sound)!] };
  sink.tempi.push(mark);
  return mark;
}

const isTempo = (quartersPerMinute: number): boolean => Number.isFinite(quartersPerMinute) && quartersPerMinute > 0 && quartersPerMinute <= FASTEST;

/** Quarters per minute beyond which a tempo is a mistake in the file. */
const FASTEST = 1000;

/** Tempo marks in order; a metric modulation takes its tempo from the one before it. */
export function settledTempi(read: readonly ReadTempo[]): TempoMark[] {
  const inOrder = [...read].sort((a, b) => a.tick - b.tick);
  let before: number | null = null;
  const settled: TempoMark[] = [];
  for (const { ratio, ...mark } of inOrder) {
    const quartersPerMinute: number | null = ratio === undefined ? mark.quartersPerMinute : before === null ? null : before * ratio;
    if (quartersPerMinute === null || quartersPerMinute > FASTEST) continue;
    before = quartersPerMinute;
    settled.push({ ...mark, quartersPerMinute });
  }
  return fromTheStart(settled);
}

export function readDynamics(sign: XmlElement, tick: number, sink: DirectionSink): void {
  for (const dynamic of sign.children) {
    const text = dynamic.name === 'other-dynamics' ? dynamic.text.trim() : dynamic.name;
    const level = levelOf(text);
    if (level !== undefined) sink.dynamics.push({ tick, text, level, source: sink.signOf.get(dynamic)! });
  }
}

function readWedge(sign: XmlElement, tick: number, sink: DirectionSink): void {
  const number = sign.attributes.number ?? '1';
  const type = sign.attributes.type;
  if (type === 'crescendo' || type === 'diminuendo' || type === 'stop') sink.wedges.push({ number, type, tick, source: sink.signOf.get(sign)! });
}

interface WedgeEnd {
  number: string;
  type: Hairpin['kind'] | 'stop';
  tick: number;
  source: number;
}

/** Hairpins from their ends in the order of time: a file with voices may have the end before the beginning. */
export function settledHairpins(wedges: readonly WedgeEnd[]): Hairpin[] {
  const inOrder = [...wedges].sort((a, b) => a.tick - b.tick || Number(a.type !== 'stop') - Number(b.type !== 'stop'));
  const open = new Map<string, WedgeEnd>();
  const hairpins: Hairpin[] = [];
  for (const end of inOrder) {
    const begun = open.get(end.number);
    if (end.type !== 'stop') open.set(end.number, end);
    else if (begun && begun.type !== 'stop') {
      hairpins.push({ kind: begun.type, from: begun.tick, to: end.tick, source: [begun.source, end.source] });
      open.delete(end.number);
    }
  }
  return hairpins.sort((a, b) => a.from - b.from);
}

const QUARTERS_OF_UNIT: Readonly<Record<string, number>> = { breve: 8, whole: 4, half: 2, quarter: 1, eighth: 0.5, '16th': 0.25, '32nd': 0.125 };

interface ReadMetronome {
  quartersPerMinute: number | null;
  /** New quarters per minute by old, where one note value is set equal to another. */
  ratio: number | null;
  text: string;
}

function readMetronome(element: XmlElement): ReadMetronome | null {
  const units = noteValues(element);
  const [first, second] = units;
  if (!first) return null;
  if (second) return { quartersPerMinute: null, ratio: second.quarters / first.quarters, text: `${first.text} = ${second.text}` };
  const text = childText(element, 'per-minute');
  const perMinute = Number(/\d+(\.\d+)?/.exec(text ?? '')?.[0]);
  if (!isTempo(perMinute * first.quarters)) return null;
  return { quartersPerMinute: first.quarters * perMinute, ratio: null, text: `${first.text} = ${text}` };
}

/** The note values of a metronome mark in order, in either of the format's two ways of writing them. */
function noteValues(element: XmlElement): Array<{ quarters: number; text: string }> {
  const values: Array<{ unit: string; dots: number }> = [];
  for (const sign of element.children) {
    if (sign.name === 'beat-unit') values.push({ unit: sign.text.trim(), dots: 0 });
    else if (sign.name === 'beat-unit-dot' && values.length) values.at(-1)!.dots++;
    else if (sign.name === 'metronome-note')
      values.push({ unit: childText(sign, 'metronome-type') ?? '', dots: sign.children.filter((dot) => dot.name === 'metronome-dot').length });
  }
  if (values.length > 2) return [];
  return values.flatMap(({ unit, dots }) => {
    const base = QUARTERS_OF_UNIT[unit];
    return base ? [{ quarters: base * (2 - 0.5 ** dots), text: `${dots ? 'dotted ' : ''}${unit}` }] : [];
  });
}
