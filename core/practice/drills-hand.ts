/** Drills of the left hand: shifts with their guide notes, what lies in one hand as double stops, trills from their end, an easier place first. */
import type { MadeHead, MadeNote, MadeStep } from '../formats/musicxml/made-part';
import { trillPlan, TRILL_NOTES_PER_S } from '../left-hand/ornaments';
import { fingerName } from '../instruments/player';
import { midiOf, spelled, transposed, type Pitch } from '../score/pitch';
import { quartersOf } from '../score/ticks';
import type { DrillKind, DrillOptions } from './drill';
import { onString, plainHead, stepAbove, writtenAs, type Passage, type PassageNote } from './passage';
import { asPlayed, asWritten } from './runs-of-notes';

/** Times that a shift is played there and back. */
const TIMES = 4;

/** There with the guide note heard, and back; then silent; then into the bar. */
function shift(passage: Passage): MadeStep[] | null {
  const { notes, beat, bar } = passage;
  const steps: MadeStep[] = [];
  notes.forEach((note, i) => {
    // The hand comes from the note that was stopped last, whatever open strings lie between.
    const before = notes.slice(0, i).findLast(({ heads }) => heads[0]!.planned && heads[0]!.planned.place.finger !== 0);
    const moved = note.heads[0]!.planned?.shift;
    if (!before || !moved || before.heads.length !== 1 || note.heads.length !== 1) return;
    const [from, to] = [onString(before.heads[0]!), onString(note.heads[0]!)];
    const guide = moved.guide && guideHead(moved.guide, before.heads[0]!.planned!.place.finger, passage);
    const slurred = (heads: ReadonlyArray<MadeHead | null>, lengths: readonly number[]): MadeNote[] =>
      heads.flatMap((head, k) => (head ? [{ heads: [head], ticks: lengths[k]!, slurred: heads.slice(k + 1).some(Boolean) }] : []));
    const there = guide
      ? [...slurred([from, guide, to], [beat, beat, 2 * beat]), ...slurred([to, guide, from], [beat, beat, 2 * beat])]
      : [...slurred([from, null, to], [2 * beat, 0, 2 * beat]), ...slurred([to, null, from], [2 * beat, 0, 2 * beat])];
    const silent = slurred([from, null, to], [2 * beat, 0, 2 * beat]);
    const where = `bar ${passage.part.bars[note.barIndex]?.label ?? bar.label}`;
    steps.push(
      {
        words: `${where}: ${guide ? 'the guide note heard' : 'the same finger'}, there and back, ${TIMES} times`,
        notes: Array.from({ length: TIMES }, () => there).flat(),
      },
      ...(guide ? [{ words: 'the guide note silent', notes: Array.from({ length: TIMES }, () => silent).flat() }] : []),
      { words: 'into the bar', notes: asWritten(notes.filter(({ barIndex }) => barIndex === note.barIndex)) },
    );
  });
  return steps.length ? steps.slice(0, MOST_STEPS) : null;
}

const MOST_STEPS = 12;

/** The pitch that the old finger reaches when the hand has arrived. */
function guideHead({ string, stop }: { string: number; stop: number }, finger: number, { player, part, fifths }: Passage): MadeHead {
  const open = player.instrument.strings[string - 1]!;
  return { pitch: writtenAs(spelled(midiOf(open) + stop, fifths), part), finger: fingerName(finger), string };
}

/** Neighbours on two neighbouring strings in one hand, sounded together; then broken again. */
function blocked(passage: Passage): MadeStep[] | null {
  const { notes } = passage;
  const together: MadeNote[] = [];
  let pairs = 0;
  for (let i = 0; i < notes.length; i++) {
    const [note, next] = [notes[i]!, notes[i + 1]];
    if (next && lieTogether(note, next)) {
      const heads = [note, next].map(({ heads: [head] }) => onString(head!)).sort((a, b) => midiOf(a.pitch) - midiOf(b.pitch));
      together.push({ heads, ticks: note.until + next.ticks, slurred: false });
      pairs++;
      i++;
    } else together.push(...asPlayed(note, { slurred: false }));
  }
  if (pairs < 2) return null;
  return [
    { words: 'what lies in one hand together, softly', notes: together },
    { words: 'broken again', notes: asWritten(notes) },
  ];
}

function lieTogether(a: PassageNote, b: PassageNote): boolean {
  if (a.heads.length !== 1 || b.heads.length !== 1 || a.until - a.ticks > 1) return false;
  const [one, other] = [a.heads[0]!.planned?.place, b.heads[0]!.planned?.place];
  if (!one || !other || Math.abs(one.string - other.string) !== 1) return false;
  const isOpen = one.finger === 0 || other.finger === 0;
  return isOpen || (one.hand === other.hand && one.finger !== other.finger);
}

/** The last notes of the trill into the next note, then one more at a time. */
function trillFromEnd(passage: Passage, { quartersPerMinute }: DrillOptions): MadeStep[] | null {
  const { notes, beat, fifths, player } = passage;
  const at = notes.findIndex(({ source, heads }) => source.trill && heads.length === 1);
  const [note, next] = [notes[at], notes[at + 1]];
  if (!note || !next) return null;
  const seconds = (quartersOf(note.ticks) * 60) / quartersPerMinute;
  const { backwards } = trillPlan({ seconds, notesPerS: TRILL_NOTES_PER_S[player.level], begins: 'main', ending: true });
  const main = note.heads[0]!.pitch;
  const above = stepAbove(main, fifths);
  const pitches: Readonly<Record<string, Pitch>> = { m: main, u: above, l: stepBelow(main, fifths) };
  const small = beat / 4;
  return backwards.map((letters) => ({
    words: `the last ${letters.length}`,
    notes: [
      ...[...letters].map((letter): MadeNote => ({
        heads: [{ pitch: pitches[letter]!, finger: letter === 'm' ? note.heads[0]!.finger : null, string: null }],
        ticks: small,
        slurred: true,
      })),
      { heads: next.heads.map(plainHead), ticks: beat, slurred: false },
    ],
  }));
}

function stepBelow(pitch: Pitch, fifths: number): Pitch {
  const octaveBelow = { ...pitch, octave: pitch.octave - 1 };
  let each = octaveBelow;
  for (let i = 0; i < 6; i++) each = stepAbove(each, fifths);
  return each;
}

/** Half steps over the open string from which a note is high. */
const HIGH = 9;

/** The sound first, in a low position; then where it is written. */
function octaveBelow(passage: Passage): MadeStep[] | null {
  const { notes, player, part } = passage;
  const isHigh = notes.some(({ heads }) => heads.some(({ stop }) => (stop ?? 0) >= HIGH));
  const down = (pitch: Pitch) => transposed(pitch, -7, -12);
  const lowest = midiOf(writtenAs(player.instrument.strings.at(-1)!, part));
  if (!isHigh || notes.some(({ heads }) => heads.some(({ pitch }) => midiOf(down(pitch)) < lowest))) return null;
  return [
    {
      words: 'an octave lower: have the sound in the ear',
      notes: notes.flatMap((note) => asPlayed(note, { heads: note.heads.map(({ pitch }) => ({ pitch: down(pitch), finger: null, string: null })) })),
    },
    { words: 'where it is written', notes: asWritten(notes) },
  ];
}

/** The highest note: its octave first, then the note, then out of what comes before it. */
function findTheNote(passage: Passage): MadeStep[] | null {
  const { notes, beat, player, part } = passage;
  const single = notes.filter(({ heads }) => heads.length === 1);
  if (single.length === 0) return null;
  const top = single.reduce((high, note) => (midiOf(note.heads[0]!.pitch) > midiOf(high.heads[0]!.pitch) ? note : high));
  const head = top.heads[0]!;
  const before = notes[notes.indexOf(top) - 1];
  const low = transposed(head.pitch, -7, -12);
  if ((head.stop ?? 0) < HIGH || midiOf(low) < midiOf(writtenAs(player.instrument.strings.at(-1)!, part))) return null;
  const long = (each: MadeHead): MadeNote => ({ heads: [each], ticks: 2 * beat, slurred: false });
  return [
    {
      words: 'where it is easy, then the same an octave higher',
      notes: [long({ pitch: low, finger: null, string: null }), long(onString(head)), long({ pitch: low, finger: null, string: null }), long(onString(head))],
    },
    ...(before
      ? [
          {
            words: 'out of the note before',
            notes: Array.from({ length: TIMES }, () => [
              ...asPlayed(before, { ticks: beat, slurred: false }),
              ...asPlayed(top, { ticks: beat, slurred: false }),
            ]).flat(),
          },
        ]
      : []),
  ];
}

export const ofTheHand = {
  shift: {
    name: 'Shift with its guide note',
    listenFor: 'The guide note is in tune while the hand learns the way; then it is lighter and quicker until it is gone.',
    caution: 'The thumb is loose and goes along; leave off when the hand grows tight.',
    steps: shift,
  },
  blocked: {
    name: 'In one hand',
    listenFor: 'The fingers of a figure fall together, and are in tune with each other.',
    caution: 'Softly, never pressed; leave off when the hand grows tired.',
    steps: blocked,
  },
  'trill from its end': {
    name: 'Trill from its end',
    listenFor: 'Each step is as quick as it can be and runs into the next note without a gap.',
    caution: 'Short and light: a trill that is forced grows slower.',
    steps: trillFromEnd,
  },
  'octave below': {
    name: 'An octave below',
    listenFor: 'The high passage has the sound and the intonation of the low one.',
    caution: null,
    steps: octaveBelow,
  },
  'find the note': { name: 'Find the note', listenFor: 'The note is in the ear before the finger is there.', caution: null, steps: findTheNote },
} satisfies Record<string, DrillKind>;
