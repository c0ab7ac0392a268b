import { shelf } from '@/server/pieces';
import { currentStudio, studioName } from '@/server/studio';
import { Shelf } from '@/ui/shelf/shelf';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Shelf' };

export default async function Page() {
  const studioId = await currentStudio();
  const [pieces, studio] = await Promise.all([shelf(studioId), studioName(studioId)]);
  return <Shelf studio={studio} pieces={pieces.map((piece) => ({ ...piece, receivedAt: piece.receivedAt.toISOString() }))} />;
}
