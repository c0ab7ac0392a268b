import type { Stroke } from '@/core/bow-arm/describe';
import { noteById } from '@/core/score/find';
import type { Part } from '@/core/score/score';
import type { Engraving, System } from './engraving';
import type { DrawnStroke } from './bow-track';
import { headsInOrder, LABEL_WIDTH } from './layout';

/** What is left free at the right edge of a system. */
const EDGE_PX = 10;

/**
 * Where each stroke begins and ends on the page: at its first head, and at the next head after its last note. One that goes on in the
 * next system ends at the edge of this one, where the bow is then, and goes on from there.
 */
export function strokesBySystem(engraving: Engraving, fromBar: number, part: Part | null, strokes: readonly Stroke[]): DrawnStroke[][] {
  if (!part) return engraving.systems.map(() => []);
  let nextBar = fromBar;
  const places = engraving.systems.map((system) => {
    const firstBar = nextBar;
    nextBar += system.bars.length;
    return { system, firstBar };
  });
  const heads = new Map<string, number>();
  engraving.systems.forEach(({ heads: own }, i) => Object.keys(own).forEach((id) => heads.set(id, i)));
  const rows = places.map((): DrawnStroke[] => []);
  for (const stroke of strokes) {
    const found = new Set(stroke.noteIds.flatMap((id) => heads.get(id) ?? []));
    for (const i of found) {
      const { system, firstBar } = places[i]!;
      rows[i]!.push(drawnIn(system, firstBar, part, stroke, { before: found.has(i - 1), after: found.has(i + 1) }));
    }
  }
  return rows;
}

function drawnIn(system: System, firstBar: number, part: Part, stroke: Stroke, goesOn: { before: boolean; after: boolean }): DrawnStroke {
  const ids = stroke.noteIds.filter((id) => system.heads[id]);
  const end = system.widthPx - EDGE_PX;
  const firstId = ids.reduce((a, b) => (system.heads[b]!.x < system.heads[a]!.x ? b : a));
  const lastId = ids.reduce((a, b) => (system.heads[b]!.x > system.heads[a]!.x ? b : a));
  const first = goesOn.before ? Math.max(LABEL_WIDTH, (system.bars[0]?.from ?? 0) - 2) : system.heads[firstId]!.x;
  const sounding = goesOn.after ? end : endAt(system, firstBar, part, stroke, lastId, end);
  const share = shareAt(part, stroke);
  const begins = goesOn.before ? share(noteById(part, firstId)!.onset) : 0;
  const note = noteById(part, lastId)!;
  const ends = goesOn.after ? share(note.onset + note.duration) : 1;
  return { stroke, from: first, to: Math.max(first + 4, sounding), begins, ends };
}

/** Share of the stroke that is over at a tick; the bow goes evenly. */
function shareAt(part: Part, { noteIds, onset }: Stroke): (tick: number) => number {
  const end = noteIds.reduce((latest, id) => {
    const note = noteById(part, id);
    return note ? Math.max(latest, note.onset + note.duration) : latest;
  }, onset);
  return (tick) => Math.min(1, Math.max(0, (tick - onset) / Math.max(1, end - onset)));
}

/** Where a stroke that ends in this system ends: before the next head, or within its bar where its note does. */
function endAt(system: System, firstBar: number, part: Part, stroke: Stroke, lastId: string, end: number): number {
  const last = system.heads[lastId]!.x;
  const note = noteById(part, lastId);
  const next = headsInOrder(system).find((head) => head.x > last + 1 && !stroke.noteIds.includes(head.id));
  const nextNote = next && noteById(part, next.id);
  const bar = note && part.bars[note.barIndex]!;
  const barBox = note ? system.bars[note.barIndex - firstBar] : undefined;
  const borders = [next && nextNote ? { x: next.x, tick: nextNote.onset } : null, bar && barBox ? { x: barBox.to, tick: bar.onset + bar.ticks } : null].filter(
    (border) => border !== null && border.x > last,
  );
  const border = borders.sort((a, b) => a!.tick - b!.tick)[0];
  const share = note && border ? Math.min(1, note.duration / Math.max(1, border.tick - note.onset)) : 1;
  return Math.min(end, border ? last + (border.x - last) * share : end) - (border && border.x === next?.x ? 0 : 2);
}
