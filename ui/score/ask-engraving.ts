import { z } from 'zod';
import type { Marking } from '@/core/marking/mark';
import { problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import { Refused } from '@/ui/kit/queries';
import type { Engraving } from './engraving';

/** What has to be there for an answer to be a picture. */
export const engravingShape = z.object({
  systems: z.array(
    z.object({ svg: z.string(), widthPx: z.number(), heightPx: z.number(), heads: z.record(z.string(), z.unknown()), bars: z.array(z.unknown()) }).loose(),
  ),
  /** Last bar of the picture, where not all of them are drawn at once. */
  toBar: z.number().optional(),
});

const NO_PICTURE: Problem = {
  place: null,
  what: 'Something else than Omaggio answers, perhaps the sign-in page of a network.',
  remedy: 'The picture comes when Omaggio answers; the table shows the notes meanwhile.',
};

/** Refused, and likely to be answered when it is asked again. */
export class NotNow extends Refused {}

export interface EngravingAsked {
  fromBar: number;
  toBar: number;
  widthPx: number;
  marking?: Marking;
  concert?: boolean;
  octaves?: number;
}

/**
 * Bars as the server engraves them, as many of those asked for as it draws at once.
 * @throws Refused in words; NotNow where nobody answered, or something else did
 */
export async function askEngraving(url: string, asked: EngravingAsked, signal: AbortSignal): Promise<Engraving & { toBar: number }> {
  const response = await sendJson('POST', url, asked, signal);
  signal.throwIfAborted();
  if (!response?.ok) {
    const problem = await problemOf(response);
    throw response === null || response.status >= 500 ? new NotNow(problem) : new Refused(problem);
  }
  const answer = engravingShape.safeParse(await response.json().catch(() => null));
  if (!answer.success) throw new NotNow(NO_PICTURE);
  return { ...(answer.data as unknown as Engraving), toBar: answer.data.toBar ?? asked.toBar };
}
