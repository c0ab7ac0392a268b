import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { compared } from '@/server/editions';
import { markingOfPart } from '@/server/markings';
import { partById } from '@/server/parts';
import { pageAccess } from '@/app/door';
import { TwoEditions } from '@/ui/edition/two-editions';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ partId: string; editionId: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const part = await partById(await pageAccess(), (await params).partId);
  return { title: part ? `Two editions of ${part.name}, ${part.title}` : 'Two editions' };
}

export default async function Page({ params }: Props) {
  const access = await pageAccess();
  const { partId, editionId } = await params;
  const part = await partById(access, partId);
  if (!part) notFound();
  const [comparison, marking] = await Promise.all([compared(access, part.id, editionId), markingOfPart(access, part.id)]);
  if (!comparison) notFound();
  return (
    <TwoEditions
      part={{ id: part.id, name: part.name, title: part.title, fileName: part.fileName, bars: part.bars }}
      markingId={marking.id}
      marking={marking.marking}
      comparison={comparison}
    />
  );
}
