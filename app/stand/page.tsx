import { pageAccess } from '@/app/door';
import { studioName } from '@/server/access';
import { EmptyStand } from '@/ui/door/empty-stand';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Stand' };

/** What was handed out to a player: nothing yet. */
export default async function Page() {
  const access = await pageAccess('stand');
  return <EmptyStand name={access.person} studio={await studioName(access)} />;
}
