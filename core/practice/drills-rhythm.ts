/** Drills about time: taken apart, in other rhythms, filled, bare, from the end. */
import type { MadeNote, MadeStep } from '../formats/musicxml/made-part';
import { midiOf } from '../score/pitch';
import type { DrillKind } from './drill';
import { plainHead, type Passage, type PassageNote } from './passage';
import { asPlayed, asWritten, inRows, restOf, runOf, separate } from './runs-of-notes';

const QUICK = 'Small groups, with rests between: stop when the hand or the arm grows tight.';

function groups(passage: Passage): MadeStep[] | null {
  const run = runOf(passage);
  if (!run) return null;
  const { beat } = passage;
  const withStops = (size: number, stop: number) => inRows(run, size).flatMap((row) => [...separate(row), restOf(stop)]);
  // The first of the next group is where the group goes: it is held.
  const overlapping = (size: number): MadeNote[] =>
    inRows(run, size).flatMap((row, i) => {
      const next = run[(i + 1) * size];
      return [...separate(row), ...(next ? [{ heads: next.heads.map(plainHead), ticks: beat, slurred: false }] : [restOf(beat)])];
    });
  const perBeat = Math.round(beat / run[0]!.ticks);
  const sizes = [...new Set([4, 3, perBeat])].filter((size) => size >= 2 && size < run.length);
  return [
    ...sizes.map((size) => ({ words: `groups of ${size}, a beat between`, notes: withStops(size, beat) })),
    { words: 'into the first of the next group, held', notes: overlapping(sizes[0]!) },
    { words: 'half a beat between', notes: withStops(sizes[0]!, beat / 2) },
    { words: 'without a stop, as it is slurred', notes: asWritten(run) },
  ];
}

/** Shares of the time of so many notes. */
const RHYTHMS: ReadonlyArray<{ words: string; shares: readonly number[] }> = [
  { words: 'long, short', shares: [1.5, 0.5] },
  { words: 'short, long', shares: [0.5, 1.5] },
  { words: 'long and three short', shares: [2, 2 / 3, 2 / 3, 2 / 3] },
  { words: 'three short and long', shares: [2 / 3, 2 / 3, 2 / 3, 2] },
];

function rhythms(passage: Passage): MadeStep[] | null {
  const run = runOf(passage);
  if (!run) return null;
  return RHYTHMS.map(({ words, shares }) => ({
    words,
    notes: inRows(run, shares.length).flatMap((row) =>
      row.flatMap((note, i) => asPlayed(note, { ticks: row.length === shares.length ? Math.round(note.ticks * shares[i]!) : note.ticks, slurred: false })),
    ),
  }));
}

/** A long value is filled with the smallest one that it is made of. */
function filled({ notes }: Passage): MadeStep[] | null {
  const small = Math.min(...notes.map(({ ticks }) => ticks));
  const isLong = ({ ticks }: PassageNote) => ticks > small * 1.9 && Math.abs(ticks / small - Math.round(ticks / small)) < 0.01;
  if (!notes.some(isLong)) return null;
  const fill = (note: PassageNote): MadeNote[] => {
    if (!isLong(note)) return asPlayed(note, { slurred: false });
    const times = Math.round(note.ticks / small);
    const each = Array.from({ length: times }, (): MadeNote => ({ heads: note.heads.map(plainHead), ticks: small, slurred: false }));
    return note.until - note.ticks > 1 ? [...each, restOf(note.until - note.ticks)] : each;
  };
  return [
    { words: 'every long note in the smallest value', notes: notes.flatMap(fill) },
    { words: 'as it is, the small value heard within', notes: asWritten(notes) },
  ];
}

function bare({ notes, part }: Passage): MadeStep[] | null {
  const [from, to] = [notes[0]!.barIndex, notes.at(-1)!.barIndex];
  const hasGrace = part.notes.some(({ grace, barIndex }) => grace !== null && barIndex >= from && barIndex <= to);
  const isOrnate = notes.some(({ source }) => source.trill || source.ornaments.length > 0);
  return hasGrace || isOrnate ? [{ words: 'the rhythm underneath', notes: asWritten(notes) }] : null;
}

/** Steps of a chain at most, so that it stays an exercise. */
const LINKS = 6;

function chain({ notes }: Passage): MadeStep[] | null {
  const bars = [...new Set(notes.map(({ barIndex }) => barIndex))];
  if (bars.length < 2) return null;
  const links = Math.min(LINKS, bars.length);
  return Array.from({ length: links }, (_, i) => {
    const from = i === links - 1 ? bars[0]! : bars[bars.length - 1 - i]!;
    const words = i === 0 ? 'the last bar' : i === links - 1 ? 'all of it' : `the last ${i + 1} bars`;
    return { words, notes: asWritten(notes.filter(({ barIndex }) => barIndex >= from)) };
  });
}

/** The lowest note of each beat: where the hand goes. */
function skeleton({ notes, beat, bar }: Passage): MadeStep[] | null {
  const byBeat = new Map<number, PassageNote[]>();
  for (const note of notes) {
    const at = Math.floor((note.onset - bar.onset) / beat + 1e-6);
    byBeat.set(at, [...(byBeat.get(at) ?? []), note]);
  }
  const rows = [...byBeat.values()];
  if (rows.length < 2 || notes.length < rows.length * 1.5) return null;
  const first = rows.map((row) => row[0]!);
  const lowest = rows.map((row) => row.reduce((low, note) => (height(note) < height(low) ? note : low)));
  const made = (chosen: readonly PassageNote[]): MadeNote[] =>
    chosen.map((note, i) => {
      const [here, next] = [[...byBeat.keys()][i]!, [...byBeat.keys()][i + 1]];
      return { heads: note.heads.map(plainHead), ticks: ((next ?? here + 1) - here) * beat, slurred: false };
    });
  const steps = [{ words: 'the first note of each beat', notes: made(first) }];
  if (lowest.some((note, i) => note !== first[i])) steps.push({ words: 'the lowest note of each beat', notes: made(lowest) });
  return [...steps, { words: 'as it is', notes: asWritten(notes) }];
}

const height = ({ heads }: PassageNote): number => midiOf(heads[0]!.pitch);

export const ofTheRhythm = {
  groups: {
    name: 'Groups with stops',
    listenFor: 'Every group is as even as one gesture, and the hand is over the next group before the stop ends.',
    caution: QUICK,
    steps: groups,
  },
  rhythms: { name: 'In other rhythms', listenFor: 'The short notes are as clear as the long ones, with the same fingers.', caution: QUICK, steps: rhythms },
  filled: {
    name: 'Long notes filled',
    listenFor: 'The small notes go on through the long ones, and stay inside when they are silent.',
    caution: null,
    steps: filled,
  },
  bare: { name: 'Without ornaments', listenFor: 'The rhythm stands before anything is added to it.', caution: null, steps: bare },
  chain: { name: 'Chain from the end', listenFor: 'One always plays towards what one knows.', caution: null, steps: chain },
  skeleton: { name: 'Skeleton', listenFor: 'The hand goes to each place at once, without looking for it.', caution: null, steps: skeleton },
} satisfies Record<string, DrillKind>;
