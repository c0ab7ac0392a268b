import { cookies } from 'next/headers';
import { arrangementFrom } from '@/core/util/shelf-order';
import { checksOf, roundNow } from '@/server/jobs/shelf-check';
import { outOfShelf, type OutOfShelf } from '@/server/handouts/coach';
import { shelf } from '@/server/pieces';
import { studioName } from '@/server/access';
import { pageAccess } from '@/app/door';
import { Shelf } from '@/ui/shelf/shelf';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Shelf' };

const outShown = (out: OutOfShelf | undefined) => (out ? { ...out, lastAt: out.lastAt.toISOString() } : null);

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
  const [shown, studio, round] = await Promise.all([
    shelf(access, { search, page: Number(one('page')) || 1, ...arrangement }),
    studioName(access),
    roundNow(access),
  ]);
  const [checks, out] = await Promise.all([
    checksOf(
      access,
      shown.pieces.flatMap(({ parts }) => parts.map(({ id }) => id)),
    ),
    outOfShelf(
      access,
      shown.pieces.map(({ id }) => id),
    ),
  ]);
  return (
    <Shelf
      studio={studio}
      isFirst={one('first') === 'yes'}
      asked={{ search, ...arrangement }}
      round={round}
      shown={{
        ...shown,
        pieces: shown.pieces.map(({ parts, receivedAt, ...piece }) => ({
          ...piece,
          receivedAt: receivedAt.toISOString(),
          out: outShown(out[piece.id]),
          parts: parts.map((part) => ({ ...part, check: checks[part.id] ?? null })),
        })),
      }}
    />
  );
}
