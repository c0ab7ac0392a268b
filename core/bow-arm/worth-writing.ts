/** Which signs of a bowing a player needs. */
import type { BowChangeKind, Bowing } from './describe';

/** A mark that a bowing asks for. */
export interface BowMark {
  noteId: string;
  kind: 'bow' | 'retake' | 'hook' | 'slur';
  value: string;
}

/**
 * Where it begins, where it does not simply alternate, where the bow is set anew after a rest, and every slur that is
 * split or made.
 */
export function bowMarksWorthWriting(bowing: Bowing): BowMark[] {
  const marks: BowMark[] = [];
  const writtenAt = (...kinds: BowChangeKind[]) => bowing.changes.filter((change) => kinds.includes(change.kind)).flatMap((change) => change.writtenAt);
  const cuts = new Set(writtenAt('split', 'remove-slur'));
  const joined = writtenAt('join');
  bowing.strokes.forEach((stroke, i) => {
    const noteId = stroke.noteIds[0]!;
    const before = bowing.strokes[i - 1];
    const next = bowing.strokes[i + 1];
    const again = before?.endDirection === stroke.direction;
    const againNext = next !== undefined && next.direction === stroke.endDirection && (next.hooked || next.retake);
    const makesJoin = stroke.noteIds.some((id) => joined.includes(id));
    const cut = cuts.has(noteId);
    if (!before || stroke.retake || stroke.hooked || again || againNext || makesJoin || cut) marks.push({ noteId, kind: 'bow', value: stroke.direction });
    if (stroke.hooked) marks.push({ noteId, kind: 'hook', value: 'yes' });
    if (stroke.retake && again) marks.push({ noteId, kind: 'retake', value: 'yes' });
    if (cut) marks.push({ noteId, kind: 'slur', value: 'split' });
  });
  for (const noteId of joined) marks.push({ noteId, kind: 'slur', value: 'join' });
  return marks;
}
