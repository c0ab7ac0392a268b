/** Parts that are not for a bowed string instrument, and which one they can be played on. */
import { midiOf } from '../score/pitch';
import type { InstrumentKind, Part } from '../score/score';
import type { Told } from './as-told';
import { INSTRUMENT_KINDS, instrumentOf } from './instrument';

export interface WayToPlay {
  kind: InstrumentKind;
  /** Octaves that the part is moved by. */
  octaves: number;
  because: string;
}

/** Half steps over the highest open string up to which teachers let such parts be played (judgement: about fifth position). */
const COMFORTABLE_OVER_TOP = 14;

/** How far a clef is from what players of an instrument read first (common practice). */
const CLEF_DISTANCE: Readonly<Record<InstrumentKind, Readonly<Record<string, number>>>> = {
  violin: { G2: 0 },
  viola: { C3: 0, G2: 1.5 },
  cello: { F4: 0, C4: 1, G2: 4 },
  bass: { F4: 1, G2: 6 },
};
const FOREIGN_CLEF = 5;
/** Moving a part by an octave weighs as much as this (judgement). */
const OCTAVE_COST = 3;
/** Every tenth of the notes that lies above what is comfortable. */
const TOO_HIGH_COST = 1.5;

/** Every instrument that can play it at some octave, the likeliest first; empty for a part without notes. */
export function waysToPlay(part: Part): WayToPlay[] {
  const pitches = part.notes.filter((note) => !note.cue).map((note) => midiOf(note.pitch));
  if (pitches.length === 0) return [];
  const lowest = pitches.reduce((a, b) => Math.min(a, b));
  const clef = part.clefs[0]?.clef;
  const named = clef ? `${clef.sign}${clef.line}` : 'G2';
  return INSTRUMENT_KINDS.map((kind) => {
    const open = openStrings(kind);
    const [bottom, top] = [Math.min(...open), Math.max(...open) + COMFORTABLE_OVER_TOP];
    const tooHigh = (octaves: number) => pitches.filter((midi) => midi + 12 * octaves > top).length / pitches.length;
    const options = [0, -1, 1, -2, 2].filter((octaves) => lowest + 12 * octaves >= bottom);
    const costOf = (octaves: number) => OCTAVE_COST * Math.abs(octaves) + 10 * TOO_HIGH_COST * tooHigh(octaves);
    const octaves = options.reduce<number | null>((best, each) => (best === null || costOf(each) < costOf(best) ? each : best), null);
    if (octaves === null) return null;
    const cost = costOf(octaves) + (CLEF_DISTANCE[kind][named] ?? FOREIGN_CLEF);
    return { cost, way: { kind, octaves, because: because(octaves, tooHigh(octaves)) } };
  })
    .filter((each) => each !== null)
    .sort((a, b) => a.cost - b.cost)
    .map(({ way }) => way);
}

const openStrings = (kind: InstrumentKind): number[] => {
  const made = instrumentOf(kind);
  if (!made.ok) throw new Error(made.problem.what);
  return made.value.strings.map(midiOf);
};

function because(octaves: number, tooHigh: number): string {
  const moved = octaves === 0 ? 'its range fits as it sounds' : `its range fits ${octavesInWords(octaves)}`;
  return tooHigh > 0 ? `${moved}, but for a few high notes` : moved;
}

/** @example "an octave lower", "as it sounds" */
export function octavesInWords(octaves: number): string {
  if (octaves === 0) return 'as it sounds';
  return `${Math.abs(octaves) === 1 ? 'an octave' : `${Math.abs(octaves)} octaves`} ${octaves > 0 ? 'higher' : 'lower'}`;
}

/** What is told, with the best guess where neither the file nor the coach says a string instrument. */
export function toldOrGuessed(part: Part, told: Told): Told {
  if (told.instrument !== null || part.instrument !== null) return told;
  const [best] = waysToPlay(part);
  return best ? { ...told, instrument: best.kind, octaves: told.octaves || best.octaves } : { ...told, instrument: 'violin' };
}
