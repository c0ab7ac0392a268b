import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import { notFound } from 'next/navigation';
import { deedsOf, elsewhereOf } from '@/server/deeds';
import { engraved, inView } from '@/server/engraving';
import { history, markingOfPart } from '@/server/markings';
import { editionsOf } from '@/server/editions';
import { seenAsText, seenNow } from '@/server/live/news';
import { musicOf, partById, partSettings, partsOfPiece, passagesOf } from '@/server/parts';
import { players } from '@/server/players';
import { pageAccess } from '@/app/door';
import { variantOf } from '@/server/variants';
import { withVariant } from '@/core/marking/variant';
import { Desk } from '@/ui/desk/desk';
import { PANEL_TABS } from '@/ui/desk/model/tabs';
import { passageAsked } from '@/ui/desk/model/passage-asked';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ partId: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const part = await partById(await pageAccess(), (await params).partId);
  return { title: part ? `${part.name}, ${part.title}` : 'Desk' };
}

/** Fits the Desk at 1280 px. */
const USUAL_WIDTH = 720;

export default async function Page({ params, searchParams }: Props) {
  const access = await pageAccess();
  const part = await partById(access, (await params).partId);
  if (!part) notFound();
  const asked = await searchParams;
  const one = (name: string): string | null => {
    const value = asked[name];
    return typeof value === 'string' ? value : null;
  };
  const noteId = one('note');
  const at = one('at');
  const width = Number((await cookies()).get('score-width')?.value);
  const widthPx = width >= 240 && width <= 4000 ? Math.round(width) : USUAL_WIDTH;
  // Before all the rest: what is stored while the page is read is told to it.
  const seen = await seenNow(access, part.id);
  const [marking, passages, people, settings, siblings, music, known] = await Promise.all([
    markingOfPart(access, part.id),
    passagesOf(access, part.id),
    players(access),
    partSettings(access, part.id),
    partsOfPiece(access, part.pieceId),
    musicOf(access, part.id),
    editionsOf(access, part.id),
  ]);
  const passageIndex = passageAsked(passages, part.barLabels, { bars: one('bars'), note: noteId, at });
  const passage = passages[passageIndex] ?? { fromBar: 0, toBar: part.bars - 1 };
  const variant = await variantOf(access, part.id, settings.playerId);
  const shown = variant ? withVariant(marking.marking, variant.marking) : marking.marking;
  const open = [marking.id, ...(variant ? [variant.markingId] : [])];
  const ofEverybody = history(access, marking.id);
  const [changes, deeds, elsewhere, engraving] = await Promise.all([
    ofEverybody,
    deedsOf(access, part.id),
    ofEverybody.then((sets) => elsewhereOf(access, part.id, open, [...sets, ...(variant?.history ?? [])])),
    engraved(access, part.id, shown, inView({ fromBar: passage.fromBar, toBar: passage.toBar, widthPx }), {
      client: (await cookies()).get('client')?.value ?? 'unnamed',
    }).catch((error) => {
      console.error(error);
      return null;
    }),
  ]);
  return (
    <Desk
      key={part.id}
      data={{
        pieceId: part.pieceId,
        title: part.title,
        part: { id: part.id, name: part.name, instrument: part.instrument },
        musicVersion: music?.version ?? '',
        seen: seenAsText(seen),
        typed: /\.abc$/i.test(part.fileName),
        editions: known,
        siblings,
        warnings: part.warnings,
        markingId: marking.id,
        marking: marking.marking,
        history: changes.map(({ author: _, ...set }) => set),
        elsewhere,
        deeds: { passages: deeds.filter(({ about }) => about === 'passages'), settings: deeds.filter(({ about }) => about === 'settings') },
        variant,
        passages,
        players: people,
        settings,
        passageIndex,
        noteId,
        bars: one('bars'),
        at,
        tab: PANEL_TABS.find((tab) => tab === one('tab')) ?? 'choices',
        widthPx,
        engraving,
      }}
    />
  );
}
