/** Small parts for tests, written as text: "G3 A3 | B3/2 r/1 (C4 D4)" — pitch, slash, length in quarters. */
import { accidentalStates } from '../score/accidentals';
import { noteId, pitchInId } from '../score/identity';
import { parsePitch } from '../score/pitch';
import { TICKS_PER_QUARTER } from '../score/ticks';
import { linesOf } from '../instruments/lines';
import type { Articulation, DynamicLevel, InstrumentKind, Part, Score } from '../score/score';

export interface MakeOptions {
  tempo?: number;
  fifths?: number;
  beats?: number;
  beatType?: number;
  /** Quarters per note where no length is given. */
  length?: number;
  dynamic?: DynamicLevel;
  pickupQuarters?: number;
  words?: Array<{ quarter: number; text: string }>;
  clefs?: Array<{ quarter: number; clef: string }>;
}

export const TICKS = TICKS_PER_QUARTER;

/**
 * "(" and ")" are slurs, "r" a rest, "+" joins a chord: `D4+A4`; a trailing "!" accents, "." is staccato, "-" tenuto,
 * "~" ties to the next note of that pitch, "*" asks for the natural harmonic, "^" is plucked by the left hand.
 */
export function makeScore(kind: InstrumentKind, music: string, options: MakeOptions = {}): { score: Score; part: Part } {
  const beats = options.beats ?? 4;
  const beatType = options.beatType ?? 4;
  const barTicks = (beats * 4 * TICKS) / beatType;
  const pickup = (options.pickupQuarters ?? 0) * TICKS;
  const part: Part = {
    id: 'P1',
    name: kind,
    instrument: kind,
    instrumentBecause: 'test',
    section: false,
    soundsHalfSteps: 0,
    transposesItself: false,
    bars: [],
    clefs: (options.clefs ?? []).map(({ quarter, clef }) => ({ tick: quarter * TICKS, staff: 1, clef: { sign: clef[0]!, line: Number(clef[1]), octave: 0 } })),
    keys: [{ tick: 0, fifths: options.fifths ?? 0 }],
    notes: [],
    slurs: [],
    dynamics: options.dynamic ? [{ tick: 0, text: options.dynamic, level: options.dynamic }] : [],
    hairpins: [],
    words: (options.words ?? []).map((word) => ({ tick: word.quarter * TICKS, text: word.text })),
    tempi: [{ tick: 0, quartersPerMinute: options.tempo ?? 96, printed: null }],
    plucked: [],
    rests: [],
  };
  let tick = 0;
  let slurFrom: { id: string; onset: number } | null = null;
  let tied: Set<string> = new Set();
  for (const raw of music.replace(/\|/g, ' ').trim().split(/\s+/)) {
    const opens = raw.startsWith('(');
    const closes = raw.endsWith(')');
    const [body, lengthText] = raw.replace(/[()]/g, '').split('/');
    const head = body!.replace(/[!.\-~*^]+$/, '');
    const signs = body!.slice(head.length);
    const ticks = Math.round((lengthText ? Number(lengthText) : (options.length ?? 1)) * TICKS);
    if (head !== 'r') {
      const nowTied = new Set<string>();
      for (const [ordinal, name] of head.split('+').entries()) {
        const pitch = parsePitch(name);
        if (!pitch) throw new Error(`no pitch: ${name}`);
        const articulations: Articulation[] = [];
        if (signs.includes('!')) articulations.push('accent');
        if (signs.includes('.')) articulations.push('staccato');
        if (signs.includes('-')) articulations.push('tenuto');
        const barIndex = tick < pickup ? 0 : Math.floor((tick - pickup) / barTicks) + (pickup ? 1 : 0);
        const inBar = tick < pickup || !pickup ? tick - barIndex * barTicks : (tick - pickup) % barTicks;
        const id = noteId({ barIndex, voice: '1', tick: inBar, pitch: pitchInId(pitch), ordinal: 0 });
        if (signs.includes('~')) nowTied.add(name);
        part.notes.push({
          id,
          barIndex,
          voice: '1',
          staff: 1,
          tick: inBar,
          onset: tick,
          duration: ticks,
          pitch,
          written: pitch,
          inChord: ordinal > 0,
          grace: null,
          cue: false,
          tiedFrom: tied.has(name),
          tiedTo: signs.includes('~'),
          articulations,
          fermata: false,
          trill: false,
          ornaments: [],
          accidental: null,
          length: { type: null, dots: 0, actual: 1, normal: 1 },
          tremolo: 0,
          tremoloWith: null,
          slide: null,
          chordSign: null,
          harmonicShows: null,
          leftPlucked: signs.includes('^'),
          harmonic: signs.includes('*') ? 'natural' : null,
          printed: { finger: null, string: null, bow: null },
          source: part.notes.length,
        });
        if (ordinal === 0 && opens) slurFrom = { id, onset: tick };
        if (ordinal === 0 && closes && slurFrom) {
          part.slurs.push({ from: slurFrom.id, to: id, voice: '1', onset: slurFrom.onset, endOnset: tick });
          slurFrom = null;
        }
      }
      tied = nowTied;
    } else part.rests.push({ barIndex: Math.floor(tick / barTicks), voice: '1', onset: tick, duration: ticks });
    tick += ticks;
  }
  for (let start = 0, index = 0; start < tick; index++) {
    const ticks = index === 0 && pickup ? pickup : barTicks;
    part.bars.push({
      index,
      label: String(pickup ? index : index + 1),
      onset: start,
      ticks,
      beats,
      beatType,
      fifths: options.fifths ?? 0,
      into: barTicks - ticks,
      pickup: ticks < barTicks,
      counted: pickup ? (index === 0 ? null : index - 1) : index,
      implicit: false,
      rehearsal: null,
      doubleBarAfter: false,
      repeatStart: false,
      repeatEnd: false,
      signs: null,
    });
    start += ticks;
  }
  // Signs as a usual edition prints them: where the note would be read wrong without one.
  const states = accidentalStates(part);
  part.notes = part.notes.map((note) => (states.get(note.id)!.needed ? { ...note, accidental: { alter: note.written.alter, courtesy: false } } : note));
  const timeLine = { bars: part.bars, tempi: [], words: [] };
  return { score: { title: 'Test', composer: null, timeLine, parts: [part], warnings: [] }, part };
}

export const firstLine = (part: Part) => linesOf(part)[0]!;
