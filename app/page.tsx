import { shelf } from '@/server/pieces';
import { currentStudio } from '@/server/studio';
import { Shelf } from '@/ui/shelf/shelf';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Shelf' };

export default async function Page() {
  const pieces = await shelf(await currentStudio());
  return <Shelf pieces={pieces.map((piece) => ({ ...piece, receivedAt: piece.receivedAt.toISOString() }))} />;
}
