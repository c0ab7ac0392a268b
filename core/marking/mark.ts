/**
 * The marking: what the teacher says about one part. A flat map from a target and a kind to a mark.
 * It never touches the score; what the edition prints shows through wherever nothing is marked.
 */
import { DYNAMIC_NAMES } from '../score/dynamics';
import { parsePitch } from '../score/pitch';
import { fractionText, ticksOfFraction } from '../score/ticks';
import { LIMITS } from '../util/limits';
import { isClean } from '../util/text';
import { WRITABLE_ARTICULATIONS, type Note, type WritableArticulation } from '../score/score';

/** Fingers and bows: what the player does. */
export const PLAYER_KINDS = ['finger', 'string', 'covered', 'bow', 'retake', 'hook', 'slur'] as const;

/** What the coach wishes of the bow, at a note, a bar or a run of bars (`wishes.ts`). */
export const BOW_WISH_KINDS = ['bow-zone', 'bow-amount', 'bow-from', 'bow-to', 'stroke', 'slur-is', 'sound-school', 'chord-way', 'unequal'] as const;

/** Edits against the print, at a note or at a place. */
export const NOTE_EDIT_KINDS = ['pitch', 'accidental', ...WRITABLE_ARTICULATIONS.map((name) => `articulation:${name}` as const)] as const;
export const PLACE_EDIT_KINDS = ['dynamic', 'hairpin', 'tempo', 'text', 'printed-text', 'divisi'] as const;

/** Words for the player, at a note, a bar or a passage. */
export const WORD_KINDS = ['character', 'goal', 'away', 'tune', 'listen', 'question', 'words'] as const;

export type PlayerKind = (typeof PLAYER_KINDS)[number];
export type BowWishKind = (typeof BOW_WISH_KINDS)[number];
export type EditKind = (typeof NOTE_EDIT_KINDS)[number] | (typeof PLACE_EDIT_KINDS)[number];
export type WordKind = (typeof WORD_KINDS)[number];
export type MarkKind = PlayerKind | BowWishKind | EditKind | WordKind;

export const EDIT_KINDS: readonly EditKind[] = [...NOTE_EDIT_KINDS, ...PLACE_EDIT_KINDS];
export const MARK_KINDS: readonly MarkKind[] = [...PLAYER_KINDS, ...BOW_WISH_KINDS, ...EDIT_KINDS, ...WORD_KINDS];

const EDITS: ReadonlySet<string> = new Set(EDIT_KINDS);
const WORDS: ReadonlySet<string> = new Set(WORD_KINDS);
export const isEditKind = (kind: MarkKind): kind is EditKind => EDITS.has(kind);
export const isBowWishKind = (kind: MarkKind): kind is BowWishKind => (BOW_WISH_KINDS as readonly string[]).includes(kind);
export const isWordKind = (kind: MarkKind): kind is WordKind => WORDS.has(kind);
export const articulationKind = (name: WritableArticulation): EditKind => `articulation:${name}`;

/** Strikes out what the edition prints. */
export const STRUCK = 'none';

/** Parts of the bow by their names. */
export const BOW_ZONES = ['frog', 'lower half', 'balance', 'middle', 'upper half', 'tip', 'whole bow'] as const;
export type BowZone = (typeof BOW_ZONES)[number];

export const STROKE_WISHES = ['détaché', 'tenuto', 'staccato', 'martelé', 'portato', 'spiccato', 'accent'] as const;
export type StrokeWish = (typeof STROKE_WISHES)[number];

export const CHORD_WAYS = ['rolled', 'two and two', 'together'] as const;
export type ChordWay = (typeof CHORD_WAYS)[number];

export const UNEQUAL_RATIOS = ['even', '3:2', '5:3', '2:1', '3:1'] as const;

/** Kinds with a short list of values. */
export const MARK_VALUES: Readonly<Partial<Record<MarkKind, readonly string[]>>> = {
  finger: ['0', '1', '2', '3', '4', 'T', STRUCK],
  string: ['1', '2', '3', '4', '5', STRUCK],
  bow: ['down', 'up', STRUCK],
  retake: ['yes'],
  hook: ['yes'],
  /** split: a new bow begins at this note inside the printed slur; join: this note is slurred to the one before. */
  slur: ['split', 'join'],
  /** One finger over two strings, from this note on. */
  covered: ['yes'],
  'bow-zone': BOW_ZONES,
  stroke: STROKE_WISHES,
  /** At the first note of a printed slur: one bow, or a phrase that is bowed note by note. */
  'slur-is': ['bow', 'phrase'],
  /** How quiet notes are made: much bow and hardly any weight, or slow bow and a live vibrato. */
  'sound-school': ['flowing', 'held'],
  'chord-way': CHORD_WAYS,
  /** Long to short of each pair of the shorter notes, within the beat. */
  unequal: UNEQUAL_RATIOS,
  /** show: the sign is printed; bracket: as a reminder. */
  accidental: ['show', 'bracket', STRUCK],
  dynamic: [...DYNAMIC_NAMES, STRUCK],
  /** From this place on chords are divided between players, or one player holds them. */
  divisi: ['divided', 'together'],
  /** Strikes out the words that are printed at a place. */
  'printed-text': [STRUCK],
  ...Object.fromEntries(WRITABLE_ARTICULATIONS.map((name) => [articulationKind(name), ['yes', STRUCK]])),
};

/** The words that say it in the music. */
export const DIVISI_WORDS: Readonly<Record<string, string>> = { divided: 'div.', together: 'non div.' };

/** The longest text that a kind of mark may hold, in UTF-16 units: words for the player, or words that are printed. */
export const longestOf = (kind: MarkKind): number => (isWordKind(kind) ? LIMITS.note : LIMITS.printedWords);

/** What a kind of mark may say, in words; null when the value is one of them. */
export function valueProblem(kind: MarkKind, value: string): string | null {
  const listed = MARK_VALUES[kind];
  if (listed) return listed.includes(value) ? null : `Use one of ${listed.join(', ')}.`;
  if (kind === 'bow-amount') return BOW_AMOUNT.test(value) ? null : 'Use little, half, whole, or a length such as 12 cm.';
  if (kind === 'bow-from' || kind === 'bow-to')
    return bowPlace(value) ? null : `Use ${BOW_ZONES.slice(0, -1).join(', ')}, or a place from 0 % (frog) to 100 % (tip).`;
  if (kind === 'pitch') return parsePitch(value) ? null : 'Use a written pitch such as F#4 or Bb3.';
  if (kind === 'hairpin')
    return value === STRUCK || parseHairpin(value)
      ? null
      : 'Use "crescendo" or "diminuendo" with the bar index of its end and the place in that bar, in quarters.';
  const longest = longestOf(kind);
  if (value.trim() === '' || value.length > longest) return `Use 1 to ${longest} characters.`;
  return isClean(value) ? null : 'Leave out the characters that no file can hold (control characters, halves of a sign).';
}

const BOW_AMOUNT = /^(little|half|whole|(?:[1-9]\d?(?:\.\d)?) cm)$/;

/** A stretch of the bow that a place is said by, 0 frog to 1 tip; null for what is no place. @example `bowPlace('63 %')` */
export function bowPlace(value: string): { from: number; to: number } | null {
  const percent = /^(\d{1,3}) %$/.exec(value);
  if (percent) {
    const at = Number(percent[1]) / 100;
    return at <= 1 ? { from: at, to: at } : null;
  }
  return value === 'whole bow' ? null : (ZONES[value as BowZone] ?? null);
}

/** Where the parts of the bow lie, 0 frog to 1 tip (common practice; the balance point about a quarter from the frog). */
export const ZONES: Readonly<Record<BowZone, { from: number; to: number }>> = {
  frog: { from: 0, to: 0.15 },
  'lower half': { from: 0, to: 0.5 },
  balance: { from: 0.2, to: 0.36 },
  middle: { from: 0.38, to: 0.62 },
  'upper half': { from: 0.5, to: 1 },
  tip: { from: 0.85, to: 1 },
  'whole bow': { from: 0, to: 1 },
};

/** A hairpin's value: its kind and where it ends, bar index and ticks into that bar; written as a fraction of a quarter. */
export interface HairpinValue {
  kind: 'crescendo' | 'diminuendo';
  toBar: number;
  toTick: number;
}

export const hairpinValue = ({ kind, toBar, toTick }: HairpinValue): string => `${kind} ${toBar} ${fractionText(toTick)}`;

export function parseHairpin(value: string): HairpinValue | null {
  const [, kind, toBar, at] = /^(crescendo|diminuendo) (\d+) (\d+(?:_\d+)?)$/.exec(value) ?? [];
  const toTick = at === undefined ? null : ticksOfFraction(at);
  return toTick === null ? null : { kind: kind as HairpinValue['kind'], toBar: Number(toBar), toTick };
}

export type Origin = 'coach' | 'suggestion';

export interface Mark {
  value: string;
  origin: Origin;
  /** Why: edits against the print carry it. */
  why?: string;
  /** Set aside: kept and listed, but not in force and not exported. */
  off?: true;
  /** Who made it; told by the server, no part of what the mark says. */
  by?: string;
}

/** `${target}|${kind}` → mark. */
export type Marking = Readonly<Record<string, Mark>>;

export const EMPTY_MARKING: Marking = {};

export const markKey = (target: string, kind: MarkKind): string => `${target}|${kind}`;

export function splitKey(key: string): { target: string; kind: MarkKind } {
  const at = key.lastIndexOf('|');
  return { target: key.slice(0, at), kind: key.slice(at + 1) as MarkKind };
}

type MarksOfTarget = Readonly<Partial<Record<MarkKind, Mark>>>;

/** Marks by target, made once for each marking: plans and checks ask for every note. A marking is never changed in place. */
const byTarget = new WeakMap<Marking, ReadonlyMap<string, MarksOfTarget>>();

/** All marks of one target; undefined where there are none. */
export function marksOf(marking: Marking, target: string): MarksOfTarget | undefined {
  let index = byTarget.get(marking);
  if (!index) {
    const made = new Map<string, Partial<Record<MarkKind, Mark>>>();
    for (const [key, mark] of Object.entries(marking)) {
      const at = splitKey(key);
      const known = made.get(at.target);
      if (known) known[at.kind] = mark;
      else made.set(at.target, { [at.kind]: mark });
    }
    byTarget.set(marking, (index = made));
  }
  return index.get(target);
}

export function markAt(marking: Marking, target: string, kind: MarkKind): Mark | undefined {
  return marksOf(marking, target)?.[kind];
}

/** The finger in force on a note: the mark, else the edition's; null where neither says anything. */
export function fingerInForce(note: Note, marking: Marking): string | null {
  return inForce(markAt(marking, note.id, 'finger')?.value, note.printed.finger);
}

export function stringInForce(note: Note, marking: Marking): number | null {
  const value = inForce(markAt(marking, note.id, 'string')?.value, note.printed.string === null ? null : String(note.printed.string));
  return value === null ? null : Number(value);
}

export function bowInForce(note: Note, marking: Marking): 'down' | 'up' | null {
  return inForce(markAt(marking, note.id, 'bow')?.value, note.printed.bow) as 'down' | 'up' | null;
}

function inForce(marked: string | undefined, printed: string | null): string | null {
  if (marked === undefined) return printed;
  return marked === STRUCK ? null : marked;
}
