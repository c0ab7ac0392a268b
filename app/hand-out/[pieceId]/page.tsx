import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { pageAccess } from '@/app/door';
import { linksOf } from '@/server/doors/people';
import { answersTo, outOfPiece } from '@/server/handouts/coach';
import { partById } from '@/server/parts';
import { players } from '@/server/players';
import { OURSELVES } from '@/server/workers';
import { HandOuts } from '@/ui/handout/hand-outs';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Hand-outs' };

/** What is out of a piece, what changed since, and handing it out. */
export default async function Page({ params }: { params: Promise<{ pieceId: string }> }) {
  const access = await pageAccess();
  const { pieceId } = await params;
  const [parts, people, links] = await Promise.all([outOfPiece(access, pieceId, OURSELVES), players(access), linksOf(access)]);
  if (!parts) notFound();
  const [about, ...answers] = await Promise.all([partById(access, parts[0]!.partId), ...parts.map(({ partId }) => answersTo(access, { partId }))]);
  return (
    <HandOuts
      pieceId={pieceId}
      title={about!.title}
      players={people.map(({ id, name, instrument }) => ({ id, name, instrument, hasLink: links.some(({ playerId }) => playerId === id) }))}
      answers={answers.flat().map(({ at, settledAt, ...answer }) => ({ ...answer, at: at.toISOString(), isSettled: settledAt !== null }))}
      parts={parts.map(({ last, has, usual, ...part }) => ({
        ...part,
        // Somebody who sits here may lie in the bin.
        usual: usual.filter((id) => people.some((each) => each.id === id)),
        last: last && { ...last, madeAt: last.madeAt.toISOString() },
        has: has.map(({ openedAt, ...each }) => ({ ...each, openedAt: openedAt?.toISOString() ?? null })),
      }))}
    />
  );
}
