import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { pageAccess } from '@/app/door';
import { scoreView } from '@/server/part-view';
import { Crossread } from '@/ui/crossread/crossread';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ pieceId: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const view = await scoreView(await pageAccess(), (await params).pieceId);
  return { title: view ? `Side by side, ${view.title}` : 'Side by side' };
}

/** All parts of a piece side by side; `?bar=` as it is printed. */
export default async function Page({ params, searchParams }: Props) {
  const view = await scoreView(await pageAccess(), (await params).pieceId);
  if (!view) notFound();
  const { bar } = await searchParams;
  return <Crossread key={view.pieceId} data={{ ...view, bar: typeof bar === 'string' ? bar : null }} />;
}
