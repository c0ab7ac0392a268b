/** What a player should know of the others at a note: who has the tune, the chord and the own note in it, whom to tune to, what it rubs against. */
import { midiOf, pitchName, type Pitch } from '../score/pitch';
import type { Note, Part } from '../score/score';
import { silenceInWords } from '../score/silence';
import { linesOf, type LineEvent } from '../instruments/lines';
import { chordName, className, type Degree } from './chord';
import type { OtherPart } from './ensemble';
import { entriesOf, type Entry, type HasTune } from './entries';
import { harmonyOf } from './harmony';
import { notesInChord, type InChord } from './in-chord';
import { rolesOf, roleAt, type Phrase, type Role } from './roles';

type Known = Pick<OtherPart, 'id' | 'name' | 'part'>;

export interface With {
  name: string;
  pitch: string;
  interval: string;
}

export interface Around {
  /** What the part does here, as sure as it is (0 to 1). */
  role: { role: Role; sure: number };
  /** Others that have the tune here. */
  tune: string[];
  /** Null where no reading is sure. */
  chord: string | null;
  /** What the note is in it. */
  inChord: string | null;
  /** The same note in other parts, in whatever octave, the lowest first: whom to tune to. */
  tuneTo: With[];
  /** Notes of other parts a second, a seventh or a ninth away. */
  rubs: With[];
  /** Where it is the first one after a bar of silence or more. */
  entry: (Entry & { silent: string }) | null;
}

const kept = new WeakMap<Part, { of: readonly Part[]; phrases: Phrase[] }>();

/** Roles of all parts; the same parts have the very same. */
export function phrasesOf(parts: readonly Known[]): Phrase[] {
  const [first] = parts;
  if (!first) return [];
  const known = kept.get(first.part);
  if (known && known.of.length === parts.length && known.of.every((part, i) => part === parts[i]!.part)) return known.phrases;
  const phrases = rolesOf(parts);
  kept.set(first.part, { of: parts.map(({ part }) => part), phrases });
  return phrases;
}

/** Who has the tune at a bar. */
export function tuneIn(parts: readonly Known[]): HasTune {
  const phrases = phrasesOf(parts);
  return (id, bar) => roleAt(phrases, id, bar)?.role === 'tune';
}

/** @param parts of the score, the own one among them; null where the note is not there */
export function around(noteId: string, ownId: string, parts: readonly Known[]): Around | null {
  const own = parts.find(({ id }) => id === ownId);
  const lines = own ? linesOf(own.part) : [];
  const line = lines.find(({ events }) => events.some(({ ids }) => ids.includes(noteId)));
  const event = line?.events.find(({ ids }) => ids.includes(noteId));
  const note = own?.part.notes.find(({ id }) => id === noteId);
  if (!own || !line || !event || !note) return null;
  const others = parts.filter(({ id }) => id !== ownId);
  const phrases = phrasesOf(parts);
  const { barIndex } = note;
  const role = roleAt(phrases, ownId, barIndex);
  const hasTune = tuneIn(parts);
  const all = notesInChord({ ...line, events: eventsAround(line.events, event) }, own.part.bars, harmonyOf(parts.map(({ part }) => part)));
  const here = all.filter((each) => each.noteId === event.notes.find(({ id }) => id === noteId)?.id || event.ids.includes(each.noteId));
  // Of a tied note the head that was asked for decides; where the chord changes under it to one that it is foreign to, that is told.
  const under = here.filter(({ tick }) => tick < note.onset + note.duration);
  const first = under.find(({ foreign, tick }) => foreign && tick >= note.onset) ?? under.at(-1) ?? null;
  const heard = event.grace ? [] : soundingWith(note, others);
  const entry = entriesOf(own.part, others, hasTune).find((each) => event.ids.includes(each.noteId)) ?? null;
  return {
    role: { role: role?.role ?? 'silent', sure: role?.sure ?? 0 },
    tune: others.filter(({ id }) => hasTune(id, barIndex)).map(({ name }) => name),
    chord: first && chordName(first.chord),
    inChord: first && asWords(first, note),
    tuneTo: heard.filter(({ by }) => by % 12 === 0).map(withName),
    rubs: heard.filter(({ by }) => RUBS.has(Math.abs(by) % 12)).map(withName),
    entry: entry && { ...entry, silent: silenceInWords(entry.silence) },
  };
}

/** Its neighbours decide how a note is foreign; what is further away does not. */
function eventsAround(events: readonly LineEvent[], event: LineEvent): LineEvent[] {
  const at = events.indexOf(event);
  return events.slice(Math.max(0, at - 8), at + 9);
}

/** Half steps within the octave that rub: seconds and sevenths. */
const RUBS = new Set([1, 2, 10, 11]);

interface Heard {
  name: string;
  pitch: Pitch;
  /** Half steps from the own note, up or down. */
  by: number;
}

/** What the others sound while the note begins, from the lowest. */
function soundingWith(note: Note, others: readonly Known[]): Heard[] {
  return others
    .flatMap(({ name, part }) =>
      part.notes
        .filter((other) => !other.cue && !other.grace && other.onset <= note.onset && other.onset + other.duration > note.onset)
        .map(({ pitch }) => ({ name, pitch, by: midiOf(pitch) - midiOf(note.pitch) })),
    )
    .sort((a, b) => midiOf(a.pitch) - midiOf(b.pitch));
}

const withName = ({ name, pitch, by }: Heard): With => ({ name, pitch: pitchName(pitch), interval: intervalName(by) });

const NAMES = [
  'unison',
  'half step',
  'whole step',
  'minor third',
  'major third',
  'fourth',
  'tritone',
  'fifth',
  'minor sixth',
  'major sixth',
  'minor seventh',
  'major seventh',
];
/** @example -12 is "octave below", 14 "ninth above", 1 "half step above" */
export function intervalName(by: number): string {
  const size = Math.abs(by);
  const where = by === 0 ? '' : by > 0 ? ' above' : ' below';
  if (size === 0) return NAMES[0]!;
  if (size % 12 === 0) return `${size === 12 ? 'octave' : `${size / 12} octaves`}${where}`;
  if (size === 13) return `minor ninth${where}`;
  if (size === 14) return `ninth${where}`;
  return `${NAMES[size % 12]!}${size > 12 ? ' and octaves' : ''}${where}`;
}

/** What pure tuning over the root asks of a member of a chord, in cents against equal temperament (5:4, 6:5 and 3:2, textbook ratios). */
const PURE: Readonly<Partial<Record<Degree, Readonly<Record<number, number>>>>> = {
  third: { 4: 1200 * Math.log2(5 / 4) - 400, 3: 1200 * Math.log2(6 / 5) - 300 },
  fifth: { 7: 1200 * Math.log2(3 / 2) - 700 },
};

function asWords({ chord, degree, foreign, resolvesTo }: InChord, note: Note): string {
  const root = className(chord.root);
  if (degree) {
    const over = (((midiOf(note.pitch) - chord.root * 7) % 12) + 12) % 12;
    const cents = PURE[degree]?.[over];
    const pure = cents === undefined ? '' : `; pure over ${root} it is ${Math.abs(Math.round(cents))} cents ${cents < 0 ? 'lower' : 'higher'} than equal`;
    return `${degree} of ${root}${pure}`;
  }
  return `${FOREIGN_WORDS[foreign!]}${resolvesTo ? `; it goes to ${pitchName(resolvesTo)}` : ''}`;
}

const FOREIGN_WORDS: Readonly<Record<NonNullable<InChord['foreign']>, string>> = {
  leaning: 'leaning note: the weight lies on it',
  suspended: 'suspended from the chord before',
  passing: 'passing note',
  neighbour: 'neighbour',
  escaping: 'escaping note',
  anticipated: 'anticipated from the chord to come',
  pedal: 'stays while the chords change',
  foreign: 'foreign to the chord',
};
