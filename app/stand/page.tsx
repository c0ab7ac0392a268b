import { pageAccess } from '@/app/door';
import { studioName } from '@/server/access';
import { standOf } from '@/server/handouts/on-the-stand';
import { StandList } from '@/ui/stand/stand-list';
import { readerOf } from './reader';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Stand', manifest: '/stand/manifest' };

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** What was handed out to a player; one who teaches looks at a player's stand by `?as=`. */
export default async function Page({ searchParams }: Props) {
  const access = await pageAccess('stand');
  const { as } = await searchParams;
  const reader = readerOf(access, typeof as === 'string' ? as : null);
  const [studio, parts] = await Promise.all([studioName(access), reader ? standOf(access, reader) : []]);
  return (
    <StandList
      name={access.person}
      studio={studio}
      as={access.playerId === null ? reader : null}
      parts={parts.map(({ madeAt, ...part }) => ({ ...part, madeAt: madeAt.toISOString() }))}
    />
  );
}
