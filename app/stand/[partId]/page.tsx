import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { pageAccess } from '@/app/door';
import { changedFor, sheetOf } from '@/server/handouts/on-the-stand';
import { pencilOf, showsPencil } from '@/server/handouts/pencil';
import { answersBy } from '@/server/handouts/said';
import { OURSELVES } from '@/server/workers';
import { Stand } from '@/ui/stand/stand';
import { readerOf } from '../reader';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Stand', manifest: '/stand/manifest' };

interface Props {
  params: Promise<{ partId: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** One part on the stand, as it was last handed out to this player. */
export default async function Page({ params, searchParams }: Props) {
  const access = await pageAccess('stand');
  const { as } = await searchParams;
  const reader = readerOf(access, typeof as === 'string' ? as : null);
  const { partId } = await params;
  const sheet = reader && (await sheetOf(access, partId, reader));
  if (!reader || !sheet) notFound();
  const { given, frozen, earlier } = sheet;
  const [changes, answers, isShown] = await Promise.all([
    earlier ? changedFor(access, earlier.frozen, frozen, OURSELVES) : null,
    answersBy(access, partId, reader),
    showsPencil(access, partId, reader),
  ]);
  const pencil = access.playerId !== null || isShown ? await pencilOf(access, partId, reader, sheet, OURSELVES) : [];
  return (
    <Stand
      key={given.id}
      sheet={{
        partId,
        handoutId: given.id,
        title: frozen.title,
        composer: frozen.composer,
        part: frozen.part,
        number: given.number,
        madeAt: given.madeAt.toISOString(),
        word: given.word,
        changes: earlier && changes ? { since: earlier.number, bars: changes } : null,
        isOpened: given.openedAt !== null,
        copied: given.copied,
        answers: answers.map(({ at, settledAt, ...answer }) => ({ ...answer, at: at.toISOString(), isSettled: settledAt !== null })),
        pencil: { marks: pencil, isShown },
        as: access.playerId === null ? reader : null,
      }}
    />
  );
}
