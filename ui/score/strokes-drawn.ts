import type { Stroke } from '@/core/bow-arm/describe';
import { noteById } from '@/core/score/find';
import type { Part } from '@/core/score/score';
import type { Engraving, System } from './engraving';
import type { DrawnStroke } from './bow-track';
import { headsInOrder } from './layout';

/** What is left free at the right edge of a system. */
const EDGE_PX = 10;

/** Where each stroke begins and ends on the page: at its first head, and at the next head after its last note. */
export function strokesBySystem(engraving: Engraving, fromBar: number, part: Part | null, strokes: readonly Stroke[]): DrawnStroke[][] {
  let nextBar = fromBar;
  return engraving.systems.map((system) => {
    const firstBar = nextBar;
    nextBar += system.bars.length;
    return part ? strokes.flatMap((stroke) => drawnIn(system, firstBar, part, stroke) ?? []) : [];
  });
}

function drawnIn(system: System, firstBar: number, part: Part, stroke: Stroke): DrawnStroke | null {
  const ids = stroke.noteIds.filter((id) => system.heads[id]);
  if (ids.length === 0) return null;
  const end = system.widthPx - EDGE_PX;
  const first = system.heads[ids[0]!]!.x;
  const lastId = ids.reduce((a, b) => (system.heads[b]!.x > system.heads[a]!.x ? b : a));
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
  const sounding = border ? last + (border.x - last) * share : end;
  return { stroke, from: first, to: Math.max(first + 4, Math.min(end, sounding) - (border?.x === next?.x ? 0 : 2)) };
}
