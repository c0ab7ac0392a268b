/** Engraved passages, cached by content. */
import type { Access } from './access';
import { createHash } from 'node:crypto';
import { splitKey, type Marking } from '../core/marking/mark';
import { isCorrection, isWordKind } from '../core/marking/kinds';
import { barOfTarget } from '../core/marking/target';
import { ByteCache } from '../core/util/byte-cache';
import { LIMITS } from '../core/util/limits';
import type { Engraving } from '../workers/server/engraver';
import { musicOf } from './parts';
import { SharedWork } from './shared-work';
import { inWorker, TaskTooMuch, type Asker } from './workers';

const KEPT_BYTES = 24 * 1024 * 1024;
const kept = new ByteCache<Engraving>(KEPT_BYTES);
const underWay = new SharedWork<Engraving>();
/** Passages that took too much, so that they do not hold a worker again and again. */
const tooMuch = new ByteCache<TaskTooMuch>(1024 * 1024);

export interface PassageView {
  fromBar: number;
  toBar: number;
  widthPx: number;
  /** As it sounds, moved by octaves (`core/instruments/play-on.ts`). */
  concert?: boolean | undefined;
  octaves?: number | undefined;
}

/** No more bars than can be looked at: the others are engraved when they come into view. */
export const inView = ({ fromBar, toBar, widthPx, concert = false, octaves = 0 }: PassageView): Required<PassageView> => ({
  concert,
  octaves,
  fromBar,
  toBar: Math.min(toBar, fromBar + LIMITS.barsEngraved - 1),
  widthPx,
});

export async function engraved(access: Access, partId: string, marking: Marking, view: PassageView, asker: Asker): Promise<Engraving | null> {
  const music = await musicOf(access, partId);
  if (music === null) return null;
  const near = Object.entries(marking).filter(([key]) => {
    const { target, kind } = splitKey(key);
    const bar = barOfTarget(target);
    return !isWordKind(kind) && bar !== null && (isCorrection(kind) || (bar >= view.fromBar - 1 && bar <= view.toBar + 1));
  });
  const marks = near.map(([key, { value, off }]) => `${key}=${value}${off ? ' off' : ''}`).sort();
  const key = createHash('sha1')
    .update(JSON.stringify([access.studio, music.version, view, marks]))
    .digest('base64');
  const known = kept.get(key);
  if (known) return known;
  const failed = tooMuch.get(key);
  if (failed) throw failed;
  try {
    const engraving = await underWay.get(key, asker.signal, (signal) =>
      inWorker(
        'engravePassage',
        { music: music.text, marking: Object.fromEntries(near), ...view, concert: view.concert ?? false, octaves: view.octaves ?? 0 },
        { client: asker.client, signal },
      ),
    );
    kept.set(key, engraving, bytesOf(engraving));
    return engraving;
  } catch (error) {
    if (error instanceof TaskTooMuch) tooMuch.set(key, error, 1024);
    throw error;
  }
}

/** A picture's text, two bytes a letter since it has signs of music in it, and about two hundred bytes for the place of a note head. */
const bytesOf = ({ systems }: Engraving): number => systems.reduce((sum, { svg, heads }) => sum + 2 * svg.length + 200 * Object.keys(heads).length, 0);
