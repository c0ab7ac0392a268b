import { shelf } from '@/server/pieces';
import { currentStudio, studioName } from '@/server/studio';
import { Shelf } from '@/ui/shelf/shelf';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Shelf' };

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** `?find=` words that a piece must have, `?page=` counted from 1. */
export default async function Page({ searchParams }: Props) {
  const studioId = await currentStudio();
  const { find, page } = await searchParams;
  const search = typeof find === 'string' ? find : '';
  const [shown, studio] = await Promise.all([shelf(studioId, { search, page: Number(page) || 1 }), studioName(studioId)]);
  return (
    <Shelf
      studio={studio}
      search={search}
      shown={{ ...shown, pieces: shown.pieces.map((piece) => ({ ...piece, receivedAt: piece.receivedAt.toISOString() })) }}
    />
  );
}
