/** The keys as somebody wants them on this device. */
import { z } from 'zod';
import { keptHere, useKept } from '@/ui/kit/kept';
import { isOwn, type OwnKeys } from './keys';

const USUAL: OwnKeys = {};
const shape = z.record(z.string().refine(isOwn), z.string().length(1));

const kept = keptHere<OwnKeys>('omaggio.keys', USUAL, (stored) => shape.catch(USUAL).parse(stored));

export const ownKeys = kept.now;
export const setOwnKeys = kept.set;
export const useOwnKeys = (): OwnKeys => useKept(kept);
