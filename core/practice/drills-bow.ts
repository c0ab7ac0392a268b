/** Drills of the bow: other slurs, the open strings alone, the stroke without the left hand. */
import type { MadeNote, MadeStep } from '../formats/musicxml/made-part';
import { keyAlter, letterIndex, midiOf, naturalAt, type Pitch } from '../score/pitch';
import type { DrillKind } from './drill';
import { openStringOf, type Passage, type PassageNote } from './passage';
import { asPlayed, asWritten, inRows, restOf, runOf, separate, slurredBy } from './runs-of-notes';

/** Notes under one bow. */
function bows(notes: readonly PassageNote[]): PassageNote[][] {
  const all: PassageNote[][] = [];
  notes.forEach((note, i) => {
    if (notes[i - 1]?.slurred) all.at(-1)!.push(note);
    else all.push([note]);
  });
  return all;
}

function slursSwapped(passage: Passage): MadeStep[] | null {
  const { notes } = passage;
  if (notes.length < 4) return null;
  const under = bows(notes);
  const steps: MadeStep[] = [];
  if (under.some((bow) => bow.length > 1)) steps.push({ words: 'all separate', notes: separate(notes) });
  steps.push({ words: 'two and two', notes: slurredBy(notes, [2]) });
  const most = passage.bar.ticks;
  // Twice as much on a bow, where a bar is not more than it holds.
  const doubled = inRows(under, 2).flatMap((pair) => {
    const row = pair.flat();
    const isOne = row.reduce((sum, { until }) => sum + until, 0) <= most;
    return row.flatMap((note, i) => asPlayed(note, { slurred: isOne ? i < row.length - 1 : note.slurred }));
  });
  if (under.some((bow) => bow.length > 1) && under.length > 1) steps.push({ words: 'twice as many on a bow', notes: doubled });
  return [...steps, { words: 'as it is slurred', notes: asWritten(notes) }];
}

function openStrings(passage: Passage): MadeStep[] | null {
  const strings = new Set(passage.notes.flatMap(({ heads }) => heads.map(({ planned }) => planned?.place.string)));
  if (strings.has(undefined) || strings.size < 2) return null;
  return [
    {
      words: 'the open strings alone, the same bows',
      notes: passage.notes.flatMap((note) => asPlayed(note, { heads: note.heads.flatMap((head) => openStringOf(head, passage) ?? []) })).map(without),
    },
    { words: 'with the left hand', notes: asWritten(passage.notes) },
  ];
}

/** Two heads on one string are one open string. */
const without = (note: MadeNote): MadeNote => ({
  ...note,
  heads: note.heads.filter(({ string }, i) => note.heads.findIndex((other) => other.string === string) === i),
});

/** Each bow as one note on an open string: it must not feel what the left hand does. */
function bowAlone(passage: Passage): MadeStep[] | null {
  const under = bows(passage.notes);
  if (!under.some((bow) => bow.length > 1)) return null;
  const open = under.map((bow) => openStringOf(bow[0]!.heads[0]!, passage));
  if (open.includes(null)) return null;
  const alone = under.flatMap((bow, i): MadeNote[] => {
    const ticks = bow.reduce((sum, { until }) => sum + until, 0);
    const rest = bow.at(-1)!.until - bow.at(-1)!.ticks;
    const note: MadeNote = { heads: [open[i]!], ticks: ticks - rest, slurred: false };
    return rest > 1 ? [note, restOf(rest)] : [note];
  });
  return [
    { words: 'the bow alone, on the open string', notes: alone },
    { words: 'with the left hand: the bow does not feel it', notes: asWritten(passage.notes) },
  ];
}

/** The strokes of the first bar on one open string, then on the scale of the key. */
function strokeAlone(passage: Passage): MadeStep[] | null {
  const [first] = passage.notes;
  const bar = passage.notes.filter(({ barIndex }) => barIndex === first!.barIndex);
  const open = openStringOf(first!.heads[0]!, passage);
  if (bar.length < 3 || !open) return null;
  const degrees = scaleFrom(open.pitch, passage.fifths);
  return [
    { words: 'the strokes on one open string', notes: bar.flatMap((note) => asPlayed(note, { heads: [open] })) },
    {
      words: 'the same on a scale',
      notes: bar.flatMap((note, i) => asPlayed(note, { heads: [{ pitch: degrees[i % degrees.length]!, finger: null, string: null }] })),
    },
  ];
}

/** Up an octave in the key and down again, from an open string. */
function scaleFrom(open: Pitch, fifths: number): Pitch[] {
  const from = letterIndex(open);
  const up = Array.from({ length: 8 }, (_, i): Pitch => {
    const natural = naturalAt(from + i);
    return { ...natural, alter: keyAlter(fifths, natural.step) };
  }).filter((pitch) => midiOf(pitch) >= midiOf(open));
  return [...up, ...up.slice(1, -1).reverse()];
}

/** Slurs of a run, and its strokes (common practice). */
const VARIANTS: ReadonlyArray<{ words: string; groups: readonly number[]; dots?: boolean }> = [
  { words: 'separate, in the middle', groups: [1] },
  { words: 'two and two', groups: [2] },
  { words: 'three and one', groups: [3, 1] },
  { words: 'one and three', groups: [1, 3] },
  { words: 'two slurred, two separate', groups: [2, 1, 1] },
  { words: 'four and four', groups: [4] },
  { words: 'two slurred, two with dots', groups: [2, 1, 1], dots: true },
];

function variants(passage: Passage): MadeStep[] | null {
  const run = runOf(passage);
  if (!run) return null;
  const twos = run.length - (run.length % 4) || run.length;
  return VARIANTS.map(({ words, groups, dots = false }) => ({ words, notes: slurredBy(run.slice(0, twos), groups, dots) }));
}

/** Chords and double stops a voice at a time. */
function oneVoice({ notes }: Passage): MadeStep[] | null {
  if (!notes.some(({ heads }) => heads.length > 1)) return null;
  const only = (which: (note: PassageNote) => number) =>
    notes.flatMap((note) => asPlayed(note, { heads: [note.heads[which(note)]!].map(({ pitch, finger }) => ({ pitch, finger, string: null })) }));
  return [
    { words: 'the lower voice alone, with its fingers', notes: only(() => 0) },
    { words: 'the upper voice alone, with its fingers', notes: only(({ heads }) => heads.length - 1) },
    { words: 'both, softly', notes: asWritten(notes) },
  ];
}

export const ofTheBow = {
  'slurs swapped': {
    name: 'Slurs swapped',
    listenFor: 'What is slurred sounds as clear as what is separate, and the other way round.',
    caution: null,
    steps: slursSwapped,
  },
  'open strings': {
    name: 'Open strings alone',
    listenFor: 'The bow stays as near to both strings as it can: no bump where it crosses.',
    caution: null,
    steps: openStrings,
  },
  'bow alone': { name: 'Bow alone', listenFor: 'The bow is as even as if the left hand did nothing.', caution: null, steps: bowAlone },
  'stroke alone': {
    name: 'Stroke on one note',
    listenFor: 'Each stroke has its length, its weight and its place of the bow.',
    caution: null,
    steps: strokeAlone,
  },
  'bow variants': { name: 'Bow variants', listenFor: 'The left hand does the same whatever the bow does.', caution: null, steps: variants },
  'one voice': {
    name: 'A voice at a time',
    listenFor: 'Each voice is in tune by itself before they are heard together.',
    caution: 'Softly, never pressed; leave off when the hand grows tired.',
    steps: oneVoice,
  },
} satisfies Record<string, DrillKind>;
