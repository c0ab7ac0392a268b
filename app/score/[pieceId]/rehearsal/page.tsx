import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { studioName } from '@/server/access';
import { pageAccess } from '@/app/door';
import { scoreView } from '@/server/part-view';
import { Rehearsal } from '@/ui/crossread/rehearsal';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ pieceId: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata({ params }: Pick<Props, 'params'>): Promise<Metadata> {
  const view = await scoreView(await pageAccess(), (await params).pieceId);
  return { title: view ? `Rehearsal page, ${view.title}` : 'Rehearsal page' };
}

/** One page for the rehearsal, of the whole score or with `?for=` a part's id of its section. */
export default async function Page({ params, searchParams }: Props) {
  const access = await pageAccess();
  const [view, studio] = await Promise.all([scoreView(access, (await params).pieceId), studioName(access)]);
  if (!view) notFound();
  const { for: asked } = await searchParams;
  return <Rehearsal data={{ ...view, bar: null }} studio={studio} partId={view.parts.some(({ id }) => id === asked) ? (asked as string) : null} />;
}
