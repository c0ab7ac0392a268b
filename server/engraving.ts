/** Engraved passages, cached by content. */
import { createHash } from 'node:crypto';
import { splitKey, type Marking } from '../core/marking/mark';
import type { Engraving } from '../workers/server/engraver';
import { musicOf } from './parts';
import { inWorker } from './workers';

const KEPT = 200;
const kept = new Map<string, Promise<Engraving>>();

export interface PassageView {
  fromBar: number;
  toBar: number;
  widthPx: number;
}

/** Bar index of a note id: part, bar, voice, tick, pitch, ordinal. */
const barOf = (noteId: string): number => Number(noteId.split('-').at(-5));

export async function engraved(studioId: string, partId: string, marking: Marking, view: PassageView): Promise<Engraving | null> {
  const music = await musicOf(studioId, partId);
  if (music === null) return null;
  const marks = Object.entries(marking)
    .filter(([key]) => {
      const bar = barOf(splitKey(key).target);
      return bar >= view.fromBar - 1 && bar <= view.toBar + 1;
    })
    .map(([key, { value }]) => `${key}=${value}`)
    .sort();
  const key = createHash('sha1')
    .update(JSON.stringify([studioId, partId, view, marks]))
    .digest('base64');
  let engraving = kept.get(key);
  if (!engraving) {
    engraving = inWorker('engravePassage', { music, marking, ...view });
    engraving.catch(() => kept.delete(key));
    kept.set(key, engraving);
    if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
  }
  return engraving;
}
