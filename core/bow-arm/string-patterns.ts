/** Figures over two or more strings that come again and again, by their names: what the right arm has to learn once. */
import type { Line } from '../instruments/lines';
import { TICKS_PER_QUARTER } from '../score/ticks';
import { levelOf, type StringOf } from './crossings';
import type { Stroke } from './describe';

export interface StringPattern {
  /** First and last note. */
  from: string;
  to: string;
  /** Strings that it goes over, 1 the highest; the highest first. */
  strings: number[];
  /** @example "back and forth", "in pairs", "three and one", "there and back over three strings" */
  name: string;
  slurred: 'separate' | 'slurred' | 'mixed';
}

/** Groups of a two-string figure that make it one: two changes there and two back. */
const LEAST_GROUPS = 4;
/** Groups between the first and the last from which a figure other than note by note is sure. */
const SURE_FROM = 3;
/** Longest figure over three or more strings that is looked for, in notes, and how often it has to come. */
const LONGEST = 8;
const LEAST_TIMES = 2;

/** A rest of an eighth ends a figure: the arm is set anew. */
const REST_TICKS = TICKS_PER_QUARTER / 2;

/** Notes on one level, one after the other. */
interface Group {
  level: number;
  notes: string[];
}

/** @param strokes as planned; notes that are not bowed, or whose string is not known, end a figure */
export function stringPatterns(strokes: readonly Stroke[], line: Line, stringOf: StringOf): StringPattern[] {
  const strokeOf = new Map(strokes.flatMap((stroke) => stroke.noteIds.map((id) => [id, stroke] as const)));
  const found: StringPattern[] = [];
  for (const groups of stretchesOf(line, strokeOf, stringOf)) {
    let at = 0;
    while (at < groups.length) {
      const several = overSeveral(groups, at);
      const two = several ? null : overTwo(groups, at);
      const pattern = several ?? two;
      if (!pattern) {
        at++;
        continue;
      }
      const ids = groups.slice(at, pattern.until).flatMap(({ notes }) => notes);
      found.push({ from: ids[0]!, to: ids.at(-1)!, strings: pattern.strings, name: pattern.name, slurred: slurredIn(ids, strokeOf) });
      // The last group of one figure may be the first of the next.
      at = pattern.until - (two ? 1 : 0);
    }
  }
  return found;
}

function stretchesOf(line: Line, strokeOf: ReadonlyMap<string, Stroke>, stringOf: StringOf): Group[][] {
  const stretches: Group[][] = [];
  let now: Group[] = [];
  let end = 0;
  for (const event of line.events) {
    const id = event.ids[0]!;
    const level = strokeOf.has(id) ? levelOf(event, stringOf) : null;
    if (event.grace) continue;
    if (level === null || event.onset - end >= REST_TICKS) {
      if (now.length) stretches.push(now);
      now = [];
    }
    end = event.end;
    if (level === null) continue;
    const last = now.at(-1);
    if (last && last.level === level) last.notes.push(id);
    else now.push({ level, notes: [id] });
  }
  if (now.length) stretches.push(now);
  return stretches;
}

interface Found {
  /** Index of the group after its last. */
  until: number;
  strings: number[];
  name: string;
}

/** Two strings in turn. */
function overTwo(groups: readonly Group[], from: number): Found | null {
  const [a, b] = [groups[from], groups[from + 1]];
  if (!a || !b) return null;
  let until = from + 2;
  while (groups[until] && groups[until]!.level === groups[until - 2]!.level) until++;
  if (until - from < LEAST_GROUPS) return null;
  const strings = [a.level, b.level].sort((x, y) => x - y);
  // The first and the last group may be cut off: what lies between tells the figure.
  const inside = groups.slice(from + 1, until - 1).map(({ notes }) => notes.length);
  const name = nameOfTwo(inside);
  return name === null ? null : { until, strings, name };
}

const COUNTS = ['', 'one', 'two', 'three', 'four', 'five', 'six'];

/** Null where the groups change: nothing comes again. */
function nameOfTwo(sizes: readonly number[]): string | null {
  const [odd, even] = [sizes.filter((_, i) => i % 2 === 0), sizes.filter((_, i) => i % 2 === 1)];
  const same = (list: readonly number[]): number | null => (list.every((size) => size === list[0]) ? (list[0] ?? null) : null);
  const [x, y] = [same(odd), same(even)];
  if (x === null || y === null || !COUNTS[x] || !COUNTS[y]) return null;
  if (sizes.length < SURE_FROM && (x !== 1 || y !== 1)) return null;
  if (x === y) return x === 1 ? 'back and forth' : x === 2 ? 'in pairs' : `in groups of ${COUNTS[x]}`;
  return `${COUNTS[Math.max(x, y)]} and ${COUNTS[Math.min(x, y)]}`;
}

/** The same row of three or more levels, again and again. */
function overSeveral(groups: readonly Group[], from: number): Found | null {
  for (let length = 3; length <= LONGEST; length++) {
    const levels = groups.slice(from, from + length).map(({ level }) => level);
    const distinct = [...new Set(levels)].sort((x, y) => x - y);
    if (levels.length < length || distinct.length < 3) continue;
    let until = from;
    while (groups[until] && groups[until]!.level === levels[(until - from) % length]) until++;
    if (until - from < length * LEAST_TIMES) continue;
    const turns = levels.filter((level, i) => {
      const [before, after] = [levels.at(i - 1)!, levels[(i + 1) % length]!];
      return (level > before && level > after) || (level < before && level < after);
    }).length;
    const over = `over ${COUNTS[distinct.length] ?? distinct.length} strings`;
    return { until, strings: distinct, name: turns === 2 && isSweep(levels) ? `there and back ${over}` : `${over}, every ${length} notes` };
  }
  return null;
}

/** To the other end step by step and back. */
function isSweep(levels: readonly number[]): boolean {
  const steps = levels.map((level, i) => Math.abs(level - levels[(i + 1) % levels.length]!));
  return steps.every((step) => step <= 1);
}

function slurredIn(ids: readonly string[], strokeOf: ReadonlyMap<string, Stroke>): StringPattern['slurred'] {
  const joined = ids.slice(1).map((id, i) => strokeOf.get(id) === strokeOf.get(ids[i]!));
  if (joined.every((is) => !is)) return 'separate';
  return joined.filter(Boolean).length * 2 >= joined.length ? 'slurred' : 'mixed';
}
