/** Engraved passages, cached by content. */
import { createHash } from 'node:crypto';
import { isWordKind, splitKey, type Marking } from '../core/marking/mark';
import { barOfTarget } from '../core/marking/target';
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

export async function engraved(studioId: string, partId: string, marking: Marking, view: PassageView): Promise<Engraving | null> {
  const music = await musicOf(studioId, partId);
  if (music === null) return null;
  const marks = Object.entries(marking)
    .filter(([key]) => {
      const { target, kind } = splitKey(key);
      const bar = barOfTarget(target);
      return !isWordKind(kind) && bar >= view.fromBar - 1 && bar <= view.toBar + 1;
    })
    .map(([key, { value, off }]) => `${key}=${value}${off ? ' off' : ''}`)
    .sort();
  const key = createHash('sha1')
    .update(JSON.stringify([studioId, music.version, view, marks]))
    .digest('base64');
  let engraving = kept.get(key);
  if (!engraving) {
    engraving = inWorker('engravePassage', { music: music.text, marking, ...view });
    engraving.catch(() => kept.delete(key));
    kept.set(key, engraving);
    if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
  }
  return engraving;
}
