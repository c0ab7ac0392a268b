import { partView } from '@/server/part-view';
import { partsOnShelf } from '@/server/pieces';
import { players } from '@/server/players';
import { studioName } from '@/server/access';
import { pageAccess } from '@/app/door';
import { Players } from '@/ui/players/players';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Players' };

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** People, and how a part fits each of them. */
export default async function Page({ searchParams }: Props) {
  const access = await pageAccess();
  const asked = (await searchParams).part;
  const [people, onShelf, studio, view] = await Promise.all([
    players(access),
    partsOnShelf(access),
    studioName(access),
    typeof asked === 'string' && /^[0-9a-f-]{36}$/.test(asked) ? partView(access, asked) : null,
  ]);
  const parts = onShelf.map(({ id, title, name, instrument }) => ({ id, name: `${title}, ${name}`, instrument }));
  return (
    <Players
      studio={studio}
      players={people}
      parts={parts}
      part={
        view && view.part.instrument
          ? {
              id: view.part.id,
              title: view.part.title,
              name: view.part.name,
              instrument: view.part.instrument,
              musicVersion: view.musicVersion,
              marking: view.marking.marking,
              variants: view.variants,
              passages: view.passages,
              settings: view.settings,
            }
          : null
      }
    />
  );
}
