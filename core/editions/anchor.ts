/** Marks of one edition on another: what finds its place moves there, what finds none is kept with where it stood. */
import { noteById } from '../score/find';
import { pitchName } from '../score/pitch';
import type { BarRange } from '../score/bars';
import type { Part } from '../score/score';
import type { Change } from '../marking/change';
import { splitKey, type Mark, type Marking } from '../marking/mark';
import { hairpinValue, parseHairpin } from '../marking/values';
import { placeOfTarget } from '../marking/notes';
import { barsTarget, barTarget, placeTarget, targetOf } from '../marking/target';
import { align, type Alignment } from './align';

/** A target that has no place in the part: where it stood, and the target itself. */
const LOST = /^lost \[(.*?)\] (.*)$/;

/** Where a mark without a place once stood, in words, and its target then; null for all others. */
export function lostTarget(target: string): { at: string; target: string } | null {
  const match = LOST.exec(target);
  return match && { at: match[1]!, target: match[2]! };
}

export interface Reanchored {
  marking: Marking;
  /** What leads from the marking before to the one after. */
  changes: Change[];
  /** Marks that found no place now. */
  lost: number;
}

export function reanchor(marking: Marking, before: Part, after: Part): Reanchored {
  const moved = new Anchors(before, after);
  const result: Record<string, Mark> = {};
  const changes: Change[] = [];
  let lost = 0;
  for (const [key, mark] of Object.entries(marking)) {
    const { target, kind } = splitKey(key);
    const found = moved.target(target);
    const value = found === null || lostTarget(target) ? mark : moved.value(kind, mark);
    if (found === null) lost++;
    const wanted = found ?? lostText(before, target);
    let next = `${wanted}|${kind}`;
    // Two marks that fall onto one place: the first stays, the other is kept without a place.
    if (result[next]) {
      next = `${lostText(before, target)}|${kind}`;
      lost++;
    }
    result[next] = value;
    if (next === key && value === mark) continue;
    changes.push({ target, kind, from: mark, to: null }, { target: splitKey(next).target, kind, from: null, to: value });
  }
  return { marking: result, changes: inSafeOrder(changes), lost };
}

/** Where each of some targets of one edition is on the other; null where it has no place there. */
export function targetsOn(targets: readonly string[], before: Part, after: Part): Map<string, string | null> {
  const moved = new Anchors(before, after);
  return new Map(targets.map((target) => [target, moved.target(target)]));
}

/** Takes away before it puts, so that no mark is put where another one still stands. */
function inSafeOrder(changes: readonly Change[]): Change[] {
  const gone = changes.filter((change) => change.to === null);
  const put = changes.filter((change) => change.to !== null);
  const puts = new Map(put.map((change) => [`${change.target}|${change.kind}`, change]));
  const merged: Change[] = [];
  for (const change of gone) {
    const key = `${change.target}|${change.kind}`;
    const same = puts.get(key);
    if (same) puts.delete(key);
    merged.push(same ? { ...change, to: same.to } : change);
  }
  return [...merged, ...puts.values()];
}

function lostText(part: Part, target: string): string {
  if (lostTarget(target)) return target;
  const place = placeOfTarget(part, target);
  const note = noteById(part, target);
  const at = [place?.at ?? 'an earlier file', note ? pitchName(note.written) : ''].filter(Boolean).join(' ');
  return `lost [${at}] ${target}`;
}

class Anchors {
  private readonly alignment: Alignment;
  private readonly barOf = new Map<number, number>();

  constructor(
    private readonly before: Part,
    private readonly after: Part,
  ) {
    this.alignment = align(before, after);
    for (const { ours, theirs } of this.alignment.bars) if (ours !== null && theirs !== null) this.barOf.set(ours, theirs);
  }

  /** The target in the other edition; null where it has none. */
  target(text: string): string | null {
    const lost = lostTarget(text);
    if (lost) return this.exists(lost.target) ? lost.target : null;
    const target = targetOf(text);
    switch (target.on) {
      case 'note':
        return this.alignment.notes.get(target.id) ?? null;
      case 'bar': {
        const bar = this.barOf.get(target.barIndex);
        return bar === undefined ? null : barTarget(bar);
      }
      case 'bars': {
        const range = this.range(target);
        return range && barsTarget(range);
      }
      case 'place': {
        const place = this.place(target.barIndex, target.tick);
        return place && placeTarget(place.barIndex, place.tick);
      }
    }
  }

  /** Bars that the other edition has of a range; null where it has none of them. */
  range({ fromBar, toBar }: BarRange): BarRange | null {
    let from: number | null = null;
    let to: number | null = null;
    for (let bar = fromBar; bar <= toBar; bar++) {
      const there = this.barOf.get(bar);
      if (there === undefined) continue;
      from ??= there;
      to = there;
    }
    return from === null || to === null ? null : { fromBar: from, toBar: to };
  }

  value(kind: string, mark: Mark): Mark {
    const hairpin = kind === 'hairpin' ? parseHairpin(mark.value) : null;
    if (!hairpin) return mark;
    const end = this.place(hairpin.toBar, hairpin.toTick);
    const value = end ? hairpinValue({ kind: hairpin.kind, toBar: end.barIndex, toTick: end.tick }) : mark.value;
    return value === mark.value ? mark : { ...mark, value };
  }

  /** With the note that begins there, else at the same time in the bar. */
  private place(barIndex: number, tick: number): { barIndex: number; tick: number } | null {
    const bar = this.barOf.get(barIndex);
    if (bar === undefined) return null;
    const note = this.before.notes.find((candidate) => candidate.barIndex === barIndex && candidate.tick === tick);
    const there = note && noteById(this.after, this.alignment.notes.get(note.id) ?? '');
    if (there) return { barIndex: there.barIndex, tick: there.tick };
    return { barIndex: bar, tick: Math.min(tick, this.after.bars[bar]!.ticks) };
  }

  private exists(target: string): boolean {
    return placeOfTarget(this.after, target) !== null;
  }
}

/**
 * Passages on the other edition; those whose bars are all gone are left out. Where every bar lay in a passage, every bar does there too:
 * bars that the other edition has more go to the passage before them, or to the first one.
 */
export function reanchorRanges<T extends BarRange>(ranges: readonly T[], before: Part, after: Part): T[] {
  const moved = new Anchors(before, after);
  const there = ranges.flatMap((range) => {
    const place = moved.range(range);
    return place ? [{ ...range, ...place }] : [];
  });
  const isInside = (bar: number, list: readonly BarRange[]) => list.some(({ fromBar, toBar }) => bar >= fromBar && bar <= toBar);
  if (there.length === 0 || !before.bars.every((_, bar) => isInside(bar, ranges))) return there;
  for (const { index } of after.bars) {
    if (isInside(index, there)) continue;
    const last = there.filter(({ toBar }) => toBar < index).reduce<T | null>((best, range) => (best === null || range.toBar > best.toBar ? range : best), null);
    if (last) last.toBar = index;
    else there.reduce((best, range) => (range.fromBar < best.fromBar ? range : best)).fromBar = index;
  }
  return there;
}
