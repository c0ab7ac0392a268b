import { redirect } from 'next/navigation';
import { WHYS, wordsOf, waysIn } from '@/server/doors/come-in';
import { ComeIn } from '@/ui/door/come-in';
import { safePlace } from '../come-in';
import { visitor } from '../door';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Come in' };

interface Props {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** How to come in. `?to=` where one wanted to go, `?why=` what did not open the door. */
export default async function Page({ searchParams }: Props) {
  const said = await searchParams;
  const to = safePlace(typeof said.to === 'string' ? said.to : null);
  const access = await visitor();
  const why = WHYS.find((each) => each === said.why);
  if (access && !why) redirect(access.role === 'player' ? '/stand' : to);
  const { phrases, unclaimed } = await waysIn();
  if (unclaimed && !process.env.OMAGGIO_ORIGIN && !why) redirect('/first');
  return <ComeIn to={to} phrases={phrases} atHome={!process.env.OMAGGIO_ORIGIN} problem={why ? wordsOf(why) : null} isIn={access !== null} />;
}
