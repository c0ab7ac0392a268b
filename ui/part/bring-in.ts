import { z } from 'zod';
import { good, type Result } from '@/core/util/result';
import { problemOf } from '@/ui/kit/problem';

const madeShape = z.object({ id: z.string() });

/** Another file of a part, laid beside it as an edition. */
export async function bringInEdition(partId: string, file: File): Promise<Result<{ id: string }>> {
  const response = await fetch(`/api/parts/${partId}/editions?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file }).catch(() => null);
  const made = response?.ok ? madeShape.safeParse(await response.json().catch(() => null)) : null;
  return made?.success ? good(made.data) : { ok: false, problem: await problemOf(response) };
}
