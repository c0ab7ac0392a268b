import { cookies } from 'next/headers';
import { arrangementFrom } from '@/core/util/shelf-order';
import { shelf } from '@/server/pieces';
import { studioName } from '@/server/access';
import { pageAccess } from '@/app/door';
import { Shelf } from '@/ui/shelf/shelf';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Shelf' };

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** `?find=` words that a piece must have, `?page=` counted from 1, `?order=` and `?group=`, else as this browser had them last. */
export default async function Page({ searchParams }: Props) {
  const access = await pageAccess();
  const said = await searchParams;
  const one = (name: string) => (typeof said[name] === 'string' ? said[name] : undefined);
  const search = one('find') ?? '';
  const arrangement = arrangementFrom(one('order'), one('group'), (await cookies()).get('shelf')?.value);
  const [shown, studio] = await Promise.all([shelf(access, { search, page: Number(one('page')) || 1, ...arrangement }), studioName(access)]);
  return (
    <Shelf
      studio={studio}
      isFirst={one('first') === 'yes'}
      asked={{ search, ...arrangement }}
      shown={{ ...shown, pieces: shown.pieces.map((piece) => ({ ...piece, receivedAt: piece.receivedAt.toISOString() })) }}
    />
  );
}
