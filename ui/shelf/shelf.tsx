'use client';

import { DoorOpen, FileUp, Keyboard, Music2, Users } from 'lucide-react';
import Link from 'next/link';
import { useState, type DragEvent, type ReactNode } from 'react';
import { Button, buttonClass } from '@/ui/kit/button';
import { FileButton, SCORE_FILES } from '@/ui/kit/file-button';
import { Notice } from '@/ui/kit/notice';
import { PageHeader } from '@/ui/kit/page-header';
import { ProblemNote } from '@/ui/kit/problem';
import { Waiting } from '@/ui/kit/waiting';
import { PAPER_FILES } from '@/ui/typing/papers';
import { TypedPassage } from '@/ui/typing/typed-passage';
import { CheckShelfButton, CheckShelfNotices, useShelfCheck, type Round } from './check-shelf';
import { ChooseTunes } from './choose-tunes';
import { FindPieces, Pages, type Asked } from './find-pieces';
import { headingOf, inGroups } from './groups';
import type { PartCheck } from './part-check';
import type { PieceOut } from './out-line';
import { Piece } from './piece';
import { useShelf } from './use-shelf';

export interface ShelfPart {
  id: string;
  name: string;
  instrument: string | null;
  bars: number;
  notes: number;
  marks: number;
  /** Of its last check; null where there was none. */
  check: PartCheck | null;
}

export interface ShelfPiece {
  id: string;
  title: string;
  composer: string | null;
  fileName: string;
  receivedAt: string;
  /** The first of them. */
  warnings: Array<{ place: string; text: string }>;
  warningCount: number;
  /** Under which heading it stands, where the shelf is grouped. */
  group: string | null;
  /** Null where nothing of it was ever handed out. */
  out: PieceOut | null;
  parts: ShelfPart[];
}

export interface ShownPieces {
  pieces: ShelfPiece[];
  /** On all pages. */
  found: number;
  page: number;
  pages: number;
}

interface Props {
  studio: string;
  asked: Asked;
  shown: ShownPieces;
  /** The check of the whole shelf that is under way. */
  round: Round | null;
  /** The first browser ever. */
  isFirst: boolean;
}

/** Everything that was taken in, and the way in. */
export function Shelf({ studio, asked, shown, round, isFirst }: Props) {
  const { pieces } = shown;
  const shelf = useShelf();
  const check = useShelfCheck(round);
  const { reading, problems, notice, removed, book } = shelf;
  return (
    <DropZone onFiles={(files) => void shelf.takeIn(files)}>
      {(over) => (
        <>
          <PageHeader>
            {pieces.length > 0 && <CheckShelfButton check={check} />}
            <Link href="/players" className={buttonClass()}>
              <Users size={15} aria-hidden /> Players
            </Link>
            <Link href="/studio" className={buttonClass()}>
              <DoorOpen size={15} aria-hidden /> Studio
            </Link>
          </PageHeader>
          <main className="mx-auto grid max-w-6xl gap-4 p-6">
            <h2 className="text-2xl">{studio}</h2>
            {isFirst && (
              <Notice>
                This is the first browser here, so it was let in as the owner’s. Others need a key: <strong>Studio</strong> makes one, or <code>bin/key</code>{' '}
                in the terminal.
              </Notice>
            )}
            <TakeIn over={over} busy={reading !== null} onFiles={(files) => void shelf.takeIn(files)} onType={() => shelf.setTyping(true)} />
            <div aria-live="polite" className="grid gap-2 empty:hidden">
              {reading && <Waiting>Reading {reading} …</Waiting>}
              {notice && <Notice>{notice}</Notice>}
              <CheckShelfNotices check={check} />
              {removed && (
                <Notice actions={<Button onClick={() => void shelf.setOnShelf(removed, true)}>Put it back</Button>}>
                  {removed.title} was taken off the shelf. It lies in the bin for 30 days, with its marks.
                </Notice>
              )}
            </div>
            {problems.map((problem, i) => (
              <ProblemNote key={`${problem.place}${i}`} problem={problem} onClose={() => shelf.dismiss(i)} />
            ))}
            {(pieces.length > 0 || asked.search) && <FindPieces asked={asked} found={shown.found} />}
            {pieces.length === 0 && asked.search === '' && !reading && <EmptyShelf />}
            {inGroups(pieces).map(({ group, of }) => (
              <section key={group ?? ''} aria-label={asked.group === 'none' ? 'Pieces' : headingOf(asked.group, group)} className="grid gap-3">
                {asked.group !== 'none' && <h2 className="border-b border-line pb-1 text-base text-soft">{headingOf(asked.group, group)}</h2>}
                <div className="grid gap-4 md:grid-cols-2">
                  {of.map((piece) => (
                    <Piece key={piece.id} piece={piece} onRenamed={shelf.refresh} onRemove={() => void shelf.setOnShelf(piece, false)} />
                  ))}
                </div>
              </section>
            ))}
            {shown.pages > 1 && <Pages asked={asked} page={shown.page} pages={shown.pages} />}
            <ChooseTunes
              book={book}
              onClose={() => shelf.setBook(null)}
              onTake={(files) => {
                shelf.setBook(null);
                void shelf.takeIn(files);
              }}
            />
            <TypedPassage open={shelf.typing} onOpen={shelf.setTyping} onDone={shelf.takeTyped} />
          </main>
        </>
      )}
    </DropZone>
  );
}

/** Files may be dropped anywhere on the page. */
function DropZone({ onFiles, children }: { onFiles(files: readonly File[]): void; children(over: boolean): ReactNode }) {
  const [over, setOver] = useState(false);
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    onFiles([...event.dataTransfer.files]);
  };
  return (
    <div
      className="min-h-full"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={onDrop}
    >
      {children(over)}
    </div>
  );
}

interface TakeInProps {
  over: boolean;
  busy: boolean;
  onFiles(files: readonly File[]): void;
  onType(): void;
}

function TakeIn({ over, busy, onFiles, onType }: TakeInProps) {
  return (
    <section
      aria-label="Take in a part"
      className={`flex flex-wrap items-center gap-4 rounded-xl border-2 border-dashed px-5 py-4 ${over ? 'border-spruce bg-spruce-pale' : 'border-line bg-sheet'}`}
    >
      <FileUp size={26} className="text-spruce" aria-hidden />
      <p className="min-w-0 flex-1 basis-96">
        <strong className="font-serif text-base">Drop a part or a score anywhere on this page.</strong>
        <br />
        <span className="text-soft">
          MusicXML (.musicxml, .xml, .mxl) or ABC (.abc), up to 32 MB. It is kept exactly as it came. A photograph or PDF is laid beside a passage that you
          type.
        </span>
      </p>
      <FileButton label="Score file" accept={`${SCORE_FILES},${PAPER_FILES}`} multiple className="button-spruce" disabled={busy} onFiles={onFiles}>
        Choose a file
      </FileButton>
      <Button onClick={onType}>
        <Keyboard size={15} aria-hidden /> Type a passage
      </Button>
    </section>
  );
}

function EmptyShelf() {
  return (
    <section className="rounded-xl border border-line bg-sheet p-8 text-center">
      <Music2 size={30} className="mx-auto text-soft" aria-hidden />
      <h2 className="mt-3 text-lg">The shelf is empty</h2>
      <p className="mt-1 text-soft">
        Export a part as MusicXML from your notation program and drop it here: it opens at once, cut into passages. If you only have paper, type a passage.
      </p>
    </section>
  );
}
