/** What changed from one hand-out to the next, as people say it: "31: up, was down. 62: slurs 1 + 2, were 3." */
import { differences } from '../editions/differences';
import { reanchor } from '../editions/anchor';
import { linesOf } from '../instruments/lines';
import { againstPrint } from '../marking/against-print';
import { difference, type Change } from '../marking/change';
import { markInWords } from '../marking/in-words';
import { slurLinks } from '../marking/links';
import { bowInForce, fingerInForce, markKey, stringInForce, type Marking } from '../marking/mark';
import { isBowWishKind, isCorrection, isEditKind, isWordKind, type MarkKind } from '../marking/kinds';
import { NOTE_LABELS, placeOfTarget } from '../marking/notes';
import { wishInWords } from '../marking/wishes';
import { sayBar } from '../score/address';
import { beatOf } from '../score/beat';
import { noteById } from '../score/find';
import type { Part } from '../score/score';
import { rounded } from '../util/round';

/** One state of a part as one player reads it. */
export interface Reading {
  /** Name or text of its file: another one was put in its place where they differ. */
  music: string;
  /** The part of its file, and the same with notes and clefs as they are corrected. */
  file: Part;
  part: Part;
  marking: Marking;
  tempo: number | null;
  /** Of a divided part, from 0. */
  line: number | null;
}

/** All that changed in one bar. */
export interface ChangedBar {
  /** Null for what is about the whole part. */
  barIndex: number | null;
  /** As people say the bar; "the part" for the whole. */
  at: string;
  texts: string[];
}

/** In the order of the bars as they are now, the whole part first. */
export function changesInWords(before: Reading, after: Reading): ChangedBar[] {
  const found: Found[] = [...ofTheWhole(before, after)];
  let earlier = before;
  if (before.music !== after.music) {
    for (const each of differences(before.file, {}, after.file)) found.push(printedOtherwise(each, after.part));
    earlier = { ...before, file: after.file, part: after.part, marking: reanchor(before.marking, before.part, after.part).marking };
  }
  const changes = difference(earlier.marking, after.marking);
  found.push(...slursInWords(earlier, after, changes));
  for (const change of changes) {
    const text = changeInWords(earlier, after, change);
    const place = text === null ? null : (placeOfTarget(after.part, change.target) ?? placeOfTarget(earlier.part, change.target));
    if (text !== null) found.push({ barIndex: place?.barIndex ?? null, onset: place?.onset ?? -1, text });
  }
  return byBar(after.part, found);
}

interface Found {
  barIndex: number | null;
  onset: number;
  text: string;
}

function ofTheWhole(before: Reading, after: Reading): Found[] {
  const texts: string[] = [];
  const quarters = (tempo: number | null) => (tempo === null ? 'as printed' : `${tempo} quarters a minute`);
  if (before.tempo !== after.tempo) texts.push(`tempo ${quarters(after.tempo)}, was ${quarters(before.tempo)}`);
  const line = (index: number | null) => (index === null ? 'all that can be played' : `line ${index + 1}`);
  if (before.line !== after.line) texts.push(`you play ${line(after.line)}, it was ${line(before.line)}`);
  if (before.music !== after.music) texts.push('the part was replaced by another file');
  return texts.map((text) => ({ barIndex: null, onset: -1, text }));
}

/** What two files of the part print differently. */
function printedOtherwise({ theirBar, look, ours, theirs, kind }: ReturnType<typeof differences>[number], part: Part): Found {
  const barIndex = theirBar ?? look.theirs;
  return { barIndex, onset: part.bars[barIndex]?.onset ?? -1, text: `${kind === 'bar' ? '' : `${kind} `}${theirs}, was ${ours}` };
}

function byBar(part: Part, found: readonly Found[]): ChangedBar[] {
  const bars = new Map<number | null, Found[]>();
  for (const each of [...found].sort((a, b) => (a.barIndex ?? -1) - (b.barIndex ?? -1) || a.onset - b.onset))
    bars.set(each.barIndex, [...(bars.get(each.barIndex) ?? []), each]);
  return [...bars].map(([barIndex, each]) => {
    const bar = barIndex === null ? undefined : part.bars[barIndex];
    if (!bar) return { barIndex, at: 'the part', texts: each.map(({ text }) => text) };
    // Where only one moment of the bar is meant the bar is enough.
    const isOne = new Set(each.map(({ onset }) => onset)).size === 1;
    const texts = each.map(({ onset, text }) => (isOne ? text : `on ${rounded(beatOf(bar, onset - bar.onset), 2)} ${text}`));
    return { barIndex, at: sayBar(part.bars, bar.index), texts: [...new Set(texts)] };
  });
}

const NUMERALS = ['', 'I', 'II', 'III', 'IV', 'V'];
const BOWS: Readonly<Record<string, string>> = { down: 'down', up: 'up' };

/** @returns null for what is said elsewhere, or means nothing to a reader */
function changeInWords(before: Reading, after: Reading, { target, kind, from, to }: Change): string | null {
  if (kind === 'slur' || kind === 'slur-is') return null;
  const [was, now] = [saidOf(before, target, kind, from?.value ?? null), saidOf(after, target, kind, to?.value ?? null)];
  if (was === now) return null;
  const name = NAMES[kind] ?? '';
  if (now === null) return `no ${name || was!} any more${name ? `, was ${was}` : ''}`.trim();
  const said = `${name ? `${name} ` : ''}${now}`;
  return was === null ? said : `${said}, was ${was}`;
}

/** What needs its name to be understood. */
const NAMES: Readonly<Partial<Record<MarkKind, string>>> = { finger: 'finger', string: 'string', 'other-finger': 'other finger' };

function saidOf(reading: Reading, target: string, kind: MarkKind, value: string | null): string | null {
  const note = noteById(reading.part, target);
  if (note) {
    if (kind === 'finger') return fingerInForce(note, reading.marking);
    if (kind === 'string') return NUMERALS[stringInForce(note, reading.marking) ?? 0] || null;
    if (kind === 'bow') return BOWS[bowInForce(note, reading.marking) ?? ''] ?? null;
  }
  if (value === null) return printed(reading, target, kind);
  if (kind === 'other-finger') return value;
  if (isWordKind(kind)) return `“${NOTE_LABELS[kind] ? `${NOTE_LABELS[kind]}: ` : ''}${value}”`;
  if (isBowWishKind(kind)) return wishInWords(kind, value);
  if (isEditKind(kind)) return editInWords(reading, target, kind, value)?.now ?? markInWords(kind, value).toLowerCase();
  return markInWords(kind, value).toLowerCase();
}

/** Without an edit there is what is printed. */
function printed(reading: Reading, target: string, kind: MarkKind): string | null {
  if (!isEditKind(kind)) return null;
  const said = editInWords(reading, target, kind, '');
  return said && said.print !== '' && said.print !== 'nothing' ? said.print : null;
}

function editInWords({ part, file }: Reading, target: string, kind: MarkKind, value: string) {
  if (!placeOfTarget(isCorrection(kind) ? file : part, target)) return null;
  return againstPrint(part, { [markKey(target, kind)]: { value, origin: 'coach' } }, file)[0] ?? null;
}

/** The slurs of a bar, said once by the notes that each has: "slurs 1 + 2, were 3". */
function slursInWords(before: Reading, after: Reading, changes: readonly Change[]): Found[] {
  if (!changes.some(({ kind }) => kind === 'slur' || kind === 'slur-is')) return [];
  const lines = linesOf(after.part);
  const earlier = linesOf(before.part);
  return lines.flatMap((line, k) => {
    const [was, now] = [earlier[k] ? slurLinks(before.part, earlier[k], before.marking) : [], slurLinks(after.part, line, after.marking)];
    const found: Found[] = [];
    for (let i = 1; i < line.events.length; i++) {
      if ((was[i] ?? false) === now[i]) continue;
      // From the first note of what hangs together in either to its last.
      let [from, to] = [i - 1, i];
      while (from > 0 && (was[from] || now[from])) from--;
      while (to + 1 < line.events.length && (was[to + 1] || now[to + 1])) to++;
      const first = line.events[from]!.notes[0]!;
      found.push({ barIndex: first.barIndex, onset: first.onset, text: slurText(groups(was, from, to), groups(now, from, to)) });
      i = to;
    }
    return found;
  });
}

function groups(links: readonly boolean[], from: number, to: number): number[] {
  const sizes = [1];
  for (let i = from + 1; i <= to; i++) {
    if (links[i]) sizes[sizes.length - 1]!++;
    else sizes.push(1);
  }
  return sizes;
}

const slurText = (was: readonly number[], now: readonly number[]): string =>
  now.every((size) => size === 1)
    ? `no slur any more, was ${was.join(' + ')}`
    : was.every((size) => size === 1)
      ? `slurred ${now.join(' + ')}`
      : `slurred ${now.join(' + ')}, was ${was.join(' + ')}`;

/** A bar's changes in one line. @example "31: up, was down; finger 3" */
export const changedLine = ({ at, texts }: ChangedBar): string => `${at}: ${texts.join('; ')}`;
