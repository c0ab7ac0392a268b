import { studioName } from '@/server/access';
import { BIN_DAYS, binOf } from '@/server/bin';
import { doingsOf } from '@/server/doors/doings';
import { browsersOf, linksOf, peopleOf } from '@/server/doors/people';
import { players } from '@/server/players';
import { STUDIO_TABS } from '@/ui/studio/tabs';
import { Studio } from '@/ui/studio/studio';
import { pageAccess } from '../door';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Studio' };

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** Who may come in, what lies in the bin, everything as one file, and what was done. `?show=` one of them. */
export default async function Page({ searchParams }: Props) {
  const access = await pageAccess();
  const { show } = await searchParams;
  const [studio, people, browsers, links, known, bin, doings] = await Promise.all([
    studioName(access),
    peopleOf(access),
    browsersOf(access),
    linksOf(access),
    players(access),
    binOf(access),
    access.role === 'owner' ? doingsOf(access) : [],
  ]);
  return (
    <Studio
      studio={studio}
      show={STUDIO_TABS.find((tab) => tab === show) ?? 'people'}
      me={{ id: access.personId, isOwner: access.role === 'owner', session: access.session }}
      atHome={!process.env.OMAGGIO_ORIGIN}
      people={people}
      browsers={browsers.map(({ madeAt, seenAt, ...browser }) => ({ ...browser, madeAt: madeAt.toISOString(), seenAt: seenAt.toISOString() }))}
      players={known.map(({ id, name, instrument }) => {
        const link = links.find(({ playerId }) => playerId === id);
        return {
          id,
          name,
          instrument,
          link: link
            ? { madeAt: link.madeAt.toISOString(), expiresAt: link.expiresAt?.toISOString() ?? null, usedAt: link.usedAt?.toISOString() ?? null }
            : null,
        };
      })}
      bin={bin.map(({ removedAt, ...row }) => ({
        ...row,
        removedAt: removedAt.toISOString(),
        goesAt: new Date(removedAt.getTime() + BIN_DAYS * 86_400_000).toISOString(),
      }))}
      doings={doings.map(({ at, ...doing }) => ({ ...doing, at: at.toISOString() }))}
    />
  );
}
