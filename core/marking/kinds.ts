/**
 * Every kind of mark, and all that depends on the kind alone. A kind without an entry is a type error; one with an entry is stored,
 * checked, named, planned with and written into files everywhere.
 */
import { isPositionName } from '../instruments/positions';
import { barTextProblem } from '../score/bar-text';
import { parseCue } from '../score/cue-text';
import { parseClef, STRING_CLEF_NAMES } from '../score/clef';
import { DYNAMIC_NAMES } from '../score/dynamics';
import { PACES, paceOf, paceSign } from '../score/pace';
import { parsePitch } from '../score/pitch';
import { WRITABLE_ARTICULATIONS, type WritableArticulation } from '../score/score';
import { LIMITS } from '../util/limits';
import { isClean } from '../util/text';
import { BOW_ZONES, bowPlace, CHORD_WAYS, parseHairpin, STROKE_WISHES, STRUCK, UNEQUAL_RATIOS } from './values';

/** What is wrong with a value, in words; null when it can be said. */
type Problem = (value: string) => string | null;

/**
 * An element among a note's technical signs in MusicXML, instead of those that say the same; words of its own there (`other-technical`); or
 * something between two notes.
 */
type InFile = { replaces: readonly string[]; element(value: string): string } | { words(value: string): string } | 'slurs' | 'slides';

interface Entry {
  /** `player`: fingers and bows; `wish`: what the coach wishes of the bow; `edit`: against the print; `words`: for the player. */
  group: 'player' | 'wish' | 'edit' | 'words';
  /** `run`: a note, a bar or a run of bars. */
  at: 'note' | 'place' | 'run';
  /** A short list, or what else it may be. */
  values: readonly string[] | Problem;
  /** As the history and lists name it. */
  name: string;
  /** The plan of the left hand depends on it, and that of the bow arm. */
  fingers: boolean;
  bow: boolean;
  /** Written by a suggestion that is taken. */
  suggested: 'fingering' | 'bowing' | null;
  /** Compared where the same music comes again; `sequence`: also where it comes at another pitch. */
  alike: 'hand' | 'bow' | null;
  sequence: boolean;
  /** It is about the very pitch: never carried to another one. */
  ofPitch: boolean;
  /** How a mark of the player stands in a file; null where edits, wishes and words have their own way (`formats/musicxml/print-out.ts`, `directions-out.ts`). */
  inFile: InFile | null;
}

const words =
  (longest: number): Problem =>
  (value) => {
    if (value.trim() === '' || value.length > longest) return `Use 1 to ${longest} characters.`;
    return isClean(value) ? null : 'Leave out the characters that no file can hold (control characters, halves of a sign).';
  };

const PLAIN = { fingers: false, bow: false, suggested: null, alike: null, sequence: false, ofPitch: false } as const;
const says = (words: string) => ({ words: () => words });
/** Pencilled for the reader: the plan does not ask for it. */
const SIGN = { ...PLAIN, group: 'player', at: 'note' } as const;
const HAND = { ...PLAIN, group: 'player', at: 'note', fingers: true, alike: 'hand', ofPitch: true } as const;
const BOW = { ...PLAIN, group: 'player', at: 'note', bow: true, suggested: 'bowing', alike: 'bow' } as const;
const WISH = { ...PLAIN, group: 'wish', at: 'run', bow: true, inFile: null } as const;
const EDIT = { ...PLAIN, group: 'edit', fingers: true, bow: true, inFile: null } as const;
const WORDS = { ...PLAIN, group: 'words', inFile: null, at: 'run', values: words(LIMITS.note) } as const;
const YES: readonly string[] = ['yes'];
const FINGER: InFile = {
  replaces: ['fingering', 'thumb-position', 'open-string'],
  element: (value) => (value === 'T' ? '<thumb-position/>' : `<fingering>${value}</fingering>`),
};
const place: Problem = (value) => (bowPlace(value) ? null : `Use ${BOW_ZONES.slice(0, -1).join(', ')}, or a place from 0 % (frog) to 100 % (tip).`);

type ArticulationKind = `articulation:${WritableArticulation}`;
const articulations = Object.fromEntries(
  WRITABLE_ARTICULATIONS.map((name) => [`articulation:${name}`, { ...EDIT, at: 'note', values: ['yes', STRUCK], name: `articulation ${name}` }]),
) as unknown as Record<ArticulationKind, Entry & { group: 'edit'; at: 'note' }>;

const entries = {
  finger: { ...HAND, values: ['0', '1', '2', '3', '4', 'T', STRUCK], name: 'Finger', suggested: 'fingering', inFile: FINGER },
  string: {
    ...HAND,
    values: ['1', '2', '3', '4', '5', STRUCK],
    name: 'String',
    suggested: 'fingering',
    inFile: { replaces: ['string'], element: (value) => `<string>${value}</string>` },
  },
  /** One finger over two strings, from this note on. */
  covered: { ...HAND, values: YES, name: 'Covered interval', inFile: says('covered interval') },
  bow: { ...BOW, values: ['down', 'up', STRUCK], name: 'Bow', inFile: { replaces: ['down-bow', 'up-bow'], element: (value) => `<${value}-bow/>` } },
  retake: { ...BOW, values: YES, name: 'Retake', sequence: true, inFile: says('retake') },
  hook: { ...BOW, values: YES, name: 'Hook', sequence: true, inFile: says('hook') },
  /** split: a new bow begins at this note inside the printed slur; join: this note is slurred to the one before. A slur hides or shows a shift. */
  slur: { ...BOW, values: ['split', 'join'], name: 'Slur', sequence: true, fingers: true, inFile: 'slurs' },

  /** A position by its name: the hand is planned there. */
  position: {
    ...HAND,
    values: (value: string) => (isPositionName(value) ? null : 'Use the name of a position, such as half, first, third, or II-III on the bass.'),
    name: 'Position',
    inFile: { words: (value) => `${value} position` },
  },
  /** Another finger that does as well, for whoever likes it better. */
  'other-finger': {
    ...SIGN,
    values: ['0', '1', '2', '3', '4', 'T'],
    name: 'Other finger',
    alike: 'hand',
    ofPitch: true,
    inFile: { replaces: [], element: (value) => `<fingering alternate="yes">${value}</fingering>` },
  },
  extension: { ...SIGN, values: YES, name: 'Extension', alike: 'hand', ofPitch: true, inFile: says('extension') },
  /** The finger stays down. */
  stay: { ...SIGN, values: YES, name: 'Stay', ofPitch: true, inFile: says('stay') },
  /** A slide that is heard, to the next note. */
  slide: { ...SIGN, values: YES, name: 'Slide', inFile: 'slides' },
  /** How the tempo is meant from this note on: eased, pushed, a note that takes time, in time again, a stretch at another tempo. */
  pace: {
    ...SIGN,
    fingers: true,
    bow: true,
    values: (value: string) => (paceOf(value) ? null : `Use ${PACES.join(', ')}, or a tempo such as at 80 % (50 to 150).`),
    name: 'Tempo',
    inFile: { words: paceSign },
  },
  /** A pair of glasses: look up, or look out. */
  'look-up': { ...SIGN, values: YES, name: 'Look up', inFile: says('look up') },
  /** Whatever else is pencilled over a note. */
  sign: { ...SIGN, values: words(LIMITS.sign), name: 'Sign', inFile: { words: (value) => value } },

  'bow-zone': { ...WISH, values: BOW_ZONES, name: 'bow-zone', alike: 'bow', sequence: true },
  'bow-amount': {
    ...WISH,
    values: (value: string) => (BOW_AMOUNT.test(value) ? null : 'Use little, half, whole, or a length such as 12 cm.'),
    name: 'bow-amount',
    alike: 'bow',
    sequence: true,
  },
  'bow-from': { ...WISH, values: place, name: 'bow-from' },
  'bow-to': { ...WISH, values: place, name: 'bow-to' },
  stroke: { ...WISH, values: STROKE_WISHES, name: 'stroke', alike: 'bow', sequence: true },
  /** At the first note of a printed slur: one bow, or a phrase that is bowed note by note. */
  'slur-is': { ...WISH, values: ['bow', 'phrase'], name: 'slur-is', fingers: true },
  /** How quiet notes are made: much bow and hardly any weight, or slow bow and a live vibrato. */
  'sound-school': { ...WISH, values: ['flowing', 'held'], name: 'sound-school' },
  'chord-way': { ...WISH, values: CHORD_WAYS, name: 'chord-way' },
  /** Long to short of each pair of the shorter notes, within the beat. */
  unequal: { ...WISH, values: UNEQUAL_RATIOS, name: 'unequal' },

  pitch: {
    ...EDIT,
    at: 'note',
    values: (value: string) => (parsePitch(value) ? null : 'Use a written pitch such as F#4 or Bb3.'),
    name: 'pitch',
    ofPitch: true,
  },
  /** show: the sign is printed; bracket: as a reminder. */
  accidental: { ...EDIT, at: 'note', values: ['show', 'bracket', STRUCK], name: 'accidental', ofPitch: true },
  ...articulations,
  dynamic: { ...EDIT, at: 'place', values: [...DYNAMIC_NAMES, STRUCK], name: 'dynamic' },
  hairpin: {
    ...EDIT,
    at: 'place',
    values: (value: string) =>
      value === STRUCK || parseHairpin(value) ? null : 'Use "crescendo" or "diminuendo" with the bar index of its end and the place in that bar, in quarters.',
    name: 'hairpin',
  },
  tempo: { ...EDIT, at: 'place', values: words(LIMITS.printedWords), name: 'tempo' },
  text: { ...EDIT, at: 'place', values: words(LIMITS.printedWords), name: 'text' },
  /** Strikes out the words that are printed at a place. */
  'printed-text': { ...EDIT, at: 'place', values: [STRUCK], name: 'printed-text' },
  /** From this place on chords are divided between players, or one player holds them. */
  divisi: { ...EDIT, at: 'place', values: ['divided', 'together'], name: 'divisi' },

  /** The notes of a bar, at its beginning, as text (`score/bar-text.ts`): rhythm, rests, ties, notes more or less. */
  bar: {
    ...EDIT,
    at: 'place',
    values: (value: string) => (value.length > LIMITS.barText ? `Use up to ${LIMITS.barText} characters.` : barTextProblem(value)),
    name: 'notes of the bar',
  },
  clef: { ...EDIT, at: 'place', values: (value: string) => (parseClef(value) ? null : `Use ${STRING_CLEF_NAMES.join(', ')}.`), name: 'clef' },
  /** Small notes of another part in a bar, at its beginning, as text (`score/cue-text.ts`). */
  cue: {
    ...EDIT,
    at: 'place',
    values: (value: string) =>
      value.length > LIMITS.barText
        ? `Use up to ${LIMITS.barText} characters.`
        : parseCue(value)
          ? null
          : 'Use the name of a part and its notes, such as Violin I | x/2 A4/4 B4/4.',
    name: 'cue',
  },

  character: { ...WORDS, name: 'character' },
  goal: { ...WORDS, name: 'goal' },
  away: { ...WORDS, name: 'away' },
  tune: { ...WORDS, name: 'tune' },
  listen: { ...WORDS, name: 'listen' },
  question: { ...WORDS, name: 'question' },
  /** Bows, slurs or dynamics that differ from other parts on purpose; why. */
  apart: { ...WORDS, name: 'apart' },
  words: { ...WORDS, name: 'words' },
} satisfies Record<string, Entry>;

const BOW_AMOUNT = /^(little|half|whole|(?:[1-9]\d?(?:\.\d)?) cm)$/;

export type MarkKind = keyof typeof entries;
type Of<Part extends Partial<Entry>> = { [Kind in MarkKind]: (typeof entries)[Kind] extends Part ? Kind : never }[MarkKind];
export type PlayerKind = Of<{ group: 'player' }>;
export type BowWishKind = Of<{ group: 'wish' }>;
export type EditKind = Of<{ group: 'edit' }>;
export type PlaceEditKind = Of<{ group: 'edit'; at: 'place' }>;
export type NoteEditKind = Of<{ group: 'edit'; at: 'note' }>;
export type WordKind = Of<{ group: 'words' }>;

export const MARKS: Readonly<Record<MarkKind, Entry>> = entries;
/** In the order of the table. */
export const MARK_KINDS = Object.keys(entries) as MarkKind[];
export const kindsWhere = <Kind extends MarkKind = MarkKind>(is: (entry: Entry) => boolean): Kind[] =>
  MARK_KINDS.filter((kind): kind is Kind => is(MARKS[kind]));

export const PLAYER_KINDS = kindsWhere<PlayerKind>(({ group }) => group === 'player');
export const BOW_WISH_KINDS = kindsWhere<BowWishKind>(({ group }) => group === 'wish');
export const NOTE_EDIT_KINDS = kindsWhere<NoteEditKind>(({ group, at }) => group === 'edit' && at === 'note');
export const PLACE_EDIT_KINDS = kindsWhere<PlaceEditKind>(({ group, at }) => group === 'edit' && at === 'place');
export const WORD_KINDS = kindsWhere<WordKind>(({ group }) => group === 'words');

export const isEditKind = (kind: MarkKind): kind is EditKind => MARKS[kind].group === 'edit';
export const isBowWishKind = (kind: MarkKind): kind is BowWishKind => MARKS[kind].group === 'wish';
/** Corrections of notes and clefs, and cues: the score is read anew with them (`formats/musicxml/corrected.ts`). */
export const isCorrection = (kind: MarkKind): boolean => kind === 'bar' || kind === 'clef' || kind === 'cue';
export const isWordKind = (kind: MarkKind): kind is WordKind => MARKS[kind].group === 'words';
export const articulationKind = (name: WritableArticulation): ArticulationKind => `articulation:${name}`;

/** The short list of a kind that has one. */
export const valuesOf = (kind: MarkKind): readonly string[] | null => {
  const { values } = MARKS[kind];
  return typeof values === 'function' ? null : values;
};

/** What a kind of mark may say, in words; null when the value is one of them. */
export function valueProblem(kind: MarkKind, value: string): string | null {
  const { values } = MARKS[kind];
  if (typeof values === 'function') return values(value);
  return values.includes(value) ? null : `Use one of ${values.join(', ')}.`;
}
