import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { partView } from '@/server/part-view';
import { partById, partsOfPiece } from '@/server/parts';
import { withVariant } from '@/core/marking/variant';
import { studioName } from '@/server/access';
import { pageAccess } from '@/app/door';
import { CheckSheet } from '@/ui/sheet/check-sheet';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ partId: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata({ params }: Pick<Props, 'params'>): Promise<Metadata> {
  const part = await partById(await pageAccess(), (await params).partId);
  return { title: part ? `Check sheet, ${part.name}, ${part.title}` : 'Check sheet' };
}

/** One page for the lesson: what will go wrong, how to hear it, what to do. */
/** Where on the Desk one came from. */
const PLACE = ['bars', 'at', 'note'] as const;

export default async function Page({ params, searchParams }: Props) {
  const access = await pageAccess();
  const asked = await searchParams;
  const place = new URLSearchParams(PLACE.flatMap((name) => (typeof asked[name] === 'string' ? [[name, asked[name]]] : [])));
  place.set('tab', 'findings');
  const [view, studio] = await Promise.all([partView(access, (await params).partId), studioName(access)]);
  if (!view) notFound();
  const { part, marking, variants, passages, players, settings, musicVersion } = view;
  const own = variants.find(({ playerId }) => playerId === settings.playerId);
  const siblings = await partsOfPiece(access, part.pieceId);
  return (
    <CheckSheet
      data={{
        studio,
        title: part.title,
        back: `/desk/${part.id}?${place.toString()}`,
        part: { id: part.id, name: part.name, instrument: part.instrument },
        musicVersion,
        severalParts: siblings.length > 1,
        marking: own ? withVariant(marking.marking, own.marking) : marking.marking,
        passages,
        player: players.find(({ id }) => id === settings.playerId) ?? null,
        settings,
      }}
    />
  );
}
