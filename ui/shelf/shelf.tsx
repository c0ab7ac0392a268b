'use client';

import { Button } from '@/ui/kit/button';
import { Download, FileUp, Keyboard, LoaderCircle, Music2, Trash2, Users } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, type DragEvent } from 'react';
import { tunesIn } from '@/core/formats/abc/tunes';
import { LIMITS } from '@/core/util/limits';
import type { ShelfGroup } from '@/core/util/shelf-order';
import { FileButton, SCORE_FILES } from '@/ui/kit/file-button';
import { useMarkedFile } from '@/ui/kit/marked-file';
import { ProblemNote, problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import { ThemeSwitch } from '@/ui/kit/theme';
import { ChooseTunes, type TuneBook } from './choose-tunes';
import { FindPieces, Pages, type Asked } from './find-pieces';
import { RenamePiece } from './rename-piece';
import { isPaper, layToPiece, PAPER_FILES, papersOfDraft } from '@/ui/typing/papers';
import { TYPED_DRAFT, TypedPassage } from '@/ui/typing/typed-passage';

export interface ShelfPart {
  id: string;
  name: string;
  instrument: string | null;
  bars: number;
  notes: number;
  marks: number;
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
  parts: ShelfPart[];
}

export interface ShownPieces {
  pieces: ShelfPiece[];
  /** On all pages. */
  found: number;
  page: number;
  pages: number;
}

export function Shelf({ studio, asked, shown }: { studio: string; asked: Asked; shown: ShownPieces }) {
  const { pieces } = shown;
  const { search } = asked;
  const router = useRouter();
  const [reading, setReading] = useState<string | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [notice, setNotice] = useState<string | null>(null);
  const [removed, setRemoved] = useState<{ id: string; title: string } | null>(null);
  const [over, setOver] = useState(false);
  const [typing, setTyping] = useState(false);
  const [book, setBook] = useState<TuneBook | null>(null);

  async function takeIn(files: readonly File[]) {
    setProblems([]);
    setNotice(null);
    let opened: string | null = null;
    const failed: Problem[] = [];
    for (const file of files) {
      setReading(file.name);
      const tunes = /\.(abc|txt)$/i.test(file.name) && file.size <= LIMITS.fileBytes ? tunesIn(await file.text()) : [];
      if (tunes.length > 1) {
        setBook({ fileName: file.name, tunes });
        continue;
      }
      if (isPaper(file)) {
        const wrong = await papersOfDraft(TYPED_DRAFT).add(file);
        if (wrong) failed.push(wrong);
        else setTyping(true);
        continue;
      }
      const taken = await send(file);
      if ('what' in taken) {
        failed.push(taken);
        continue;
      }
      if (taken.known === 'new') opened = taken.firstPartId;
      else if (taken.known === 'put back') setNotice(`${taken.title} was here before: it is back on the shelf, with its marks.`);
      else setNotice(`${taken.title} lies on the shelf already; its marks are as they were.`);
    }
    setReading(null);
    setProblems(failed);
    if (opened && files.length === 1) router.push(`/desk/${opened}`);
    else router.refresh();
  }

  /** What was typed is taken in like any file, and the sheets that lie beside it go with it. */
  async function takeTyped(file: File, draft: string): Promise<Problem | null> {
    const taken = await send(file);
    if ('what' in taken) return taken;
    const left = await layToPiece(draft, taken.pieceId).catch(() => []);
    setProblems(left);
    setTyping(false);
    if (left.length) router.refresh();
    else router.push(`/desk/${taken.firstPartId}`);
    return null;
  }

  async function setOnShelf(piece: { id: string; title: string }, onShelf: boolean) {
    const response = await sendJson('PATCH', `/api/pieces/${piece.id}`, { onShelf });
    if (!response?.ok) return setProblems([await problemOf(response)]);
    setRemoved(onShelf ? null : piece);
    router.refresh();
  }

  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void takeIn([...event.dataTransfer.files]);
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
      <header className="flex h-13 items-center gap-4 border-b border-line px-4">
        <span className="font-serif text-xl font-semibold">Omaggio</span>
        <span className="text-soft">Shelf</span>
        <span className="grow" />
        <Link href="/players" className="button">
          <Users size={15} aria-hidden /> Players
        </Link>
        <ThemeSwitch />
      </header>
      <main className="mx-auto grid max-w-6xl gap-4 p-6">
        <h1 className="text-2xl">{studio}</h1>
        <section
          aria-label="Take in a part"
          className={`flex flex-wrap items-center gap-4 rounded-xl border-2 border-dashed px-5 py-4 ${over ? 'border-spruce bg-spruce-pale' : 'border-line bg-sheet'}`}
        >
          <FileUp size={26} className="text-spruce" aria-hidden />
          <p className="grow">
            <strong className="font-serif text-base">Drop a part or a score anywhere on this page.</strong>
            <br />
            <span className="text-soft">
              MusicXML (.musicxml, .xml, .mxl) or ABC (.abc), up to 32 MB. It is kept exactly as it came. A photograph or PDF is laid beside a passage that you
              type.
            </span>
          </p>
          <FileButton
            label="Score file"
            accept={`${SCORE_FILES},${PAPER_FILES}`}
            multiple
            className="button-spruce"
            disabled={reading !== null}
            onFiles={(files) => void takeIn(files)}
          >
            Choose a file
          </FileButton>
          <Button onClick={() => setTyping(true)}>
            <Keyboard size={15} aria-hidden /> Type a passage
          </Button>
        </section>
        <div aria-live="polite" className="grid gap-2 empty:hidden">
          {reading && (
            <p className="flex items-center gap-2 text-soft">
              <LoaderCircle size={16} className="animate-spin" aria-hidden /> Reading {reading} …
            </p>
          )}
          {notice && <p className="rounded-lg border border-line bg-sheet px-3 py-2">{notice}</p>}
          {removed && (
            <p className="flex items-center gap-3 rounded-lg border border-line bg-sheet px-3 py-2">
              <span className="grow">{removed.title} was taken off the shelf. Its marks are kept.</span>
              <Button onClick={() => void setOnShelf(removed, true)}>Put it back</Button>
            </p>
          )}
        </div>
        {problems.map((problem, i) => (
          <ProblemNote key={`${problem.place}${i}`} problem={problem} onClose={() => setProblems(problems.filter((_, k) => k !== i))} />
        ))}
        {(pieces.length > 0 || search) && <FindPieces asked={asked} found={shown.found} />}
        {pieces.length === 0 && search === '' && !reading && (
          <section className="rounded-xl border border-line bg-sheet p-8 text-center">
            <Music2 size={30} className="mx-auto text-soft" aria-hidden />
            <h2 className="mt-3 text-lg">The shelf is empty</h2>
            <p className="mt-1 text-soft">
              Export a part as MusicXML from your notation program and drop it here: it opens at once, cut into passages. If you only have paper, type a
              passage.
            </p>
          </section>
        )}
        {inGroups(pieces).map(({ group, of }) => (
          <section key={group ?? ''} aria-label={asked.group === 'none' ? 'Pieces' : headingOf(asked.group, group)} className="grid gap-3">
            {asked.group !== 'none' && <h2 className="border-b border-line pb-1 text-base text-soft">{headingOf(asked.group, group)}</h2>}
            <div className="grid gap-4 md:grid-cols-2">
              {of.map((piece) => (
                <Piece key={piece.id} piece={piece} onRenamed={() => router.refresh()} onRemove={() => void setOnShelf(piece, false)} />
              ))}
            </div>
          </section>
        ))}
        {shown.pages > 1 && <Pages asked={asked} page={shown.page} pages={shown.pages} />}
        <ChooseTunes
          book={book}
          onClose={() => setBook(null)}
          onTake={(files) => {
            setBook(null);
            void takeIn(files);
          }}
        />
        <TypedPassage open={typing} onOpen={setTyping} onDone={takeTyped} />
      </main>
    </div>
  );
}

interface Taken {
  title: string;
  known: 'new' | 'on the shelf' | 'put back';
  pieceId: string;
  firstPartId: string;
}

async function send(file: File): Promise<Taken | Problem> {
  const response = await fetch(`/api/pieces?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file }).catch(() => null);
  return response?.ok ? ((await response.json()) as Taken) : problemOf(response);
}

const INSTRUMENTS: Readonly<Record<string, string>> = { violin: 'violin', viola: 'viola', cello: 'cello', bass: 'double bass' };

/** Pieces come in the order of their groups. */
function inGroups(pieces: readonly ShelfPiece[]): Array<{ group: string | null; of: ShelfPiece[] }> {
  const groups: Array<{ group: string | null; of: ShelfPiece[] }> = [];
  for (const piece of pieces) {
    const last = groups.at(-1);
    if (last && last.group === piece.group) last.of.push(piece);
    else groups.push({ group: piece.group, of: [piece] });
  }
  return groups;
}

function headingOf(by: ShelfGroup, group: string | null): string {
  if (by === 'composer') return group ?? 'Composer not known';
  if (by === 'marked') return group === 'marked' ? 'Marked' : 'Not marked yet';
  if (group === 'several') return 'Several instruments';
  return group ? `For ${INSTRUMENTS[group]}` : 'For other instruments';
}

function Piece({ piece, onRenamed, onRemove }: { piece: ShelfPiece; onRenamed(): void; onRemove(): void }) {
  const marked = piece.parts.some((part) => part.marks > 0);
  const markedFile = useMarkedFile();
  return (
    <article
      className={`min-w-0 rounded-xl border border-line bg-sheet px-5 py-4 ${piece.parts.length > 2 ? 'md:col-span-2' : ''}`}
      aria-labelledby={`title-${piece.id}`}
    >
      <div className="flex items-start gap-3">
        <div className="min-w-0 grow">
          <h2 id={`title-${piece.id}`} className="mr-3 inline text-lg">
            {piece.title}
          </h2>
          {piece.composer && <span className="text-soft">{piece.composer}</span>}
        </div>
        {markedFile.shown}
        {marked && (
          <a
            className="button"
            href={`/api/pieces/${piece.id}/marked`}
            download
            onClick={(event) => {
              event.preventDefault();
              void markedFile.take(`/api/pieces/${piece.id}/marked`);
            }}
          >
            <Download size={15} aria-hidden /> Marked score
          </a>
        )}
        <RenamePiece piece={piece} onRenamed={onRenamed} />
        <Button className="px-2" aria-label={`Take ${piece.title} off the shelf`} title="Take off the shelf" onClick={onRemove}>
          <Trash2 size={15} aria-hidden />
        </Button>
      </div>
      <ul className="mt-3 grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-2">
        {piece.parts.map((part) => (
          <li key={part.id}>
            <Link href={`/desk/${part.id}`} className="block rounded-lg border border-line bg-paper px-3 py-2 hover:border-spruce">
              <span className="flex items-baseline justify-between gap-2">
                <strong>{part.name}</strong>
                <span className="text-xs text-soft">{part.bars} bars</span>
              </span>
              <span className="flex items-baseline justify-between gap-2 text-xs">
                <span className="text-soft">{part.instrument ? INSTRUMENTS[part.instrument] : 'instrument not known'}</span>
                <span className={part.marks ? 'font-semibold text-spruce' : 'text-soft'}>
                  {part.marks ? `${part.marks} ${part.marks === 1 ? 'mark' : 'marks'}` : 'unmarked'}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {piece.warnings.length > 0 && (
        <details className="mt-3 text-[13px]">
          <summary className="cursor-pointer text-soft">Noticed while reading: {piece.warningCount}</summary>
          <ul className="mt-1 list-disc pl-5">
            {piece.warnings.map((warning, i) => (
              <li key={i}>
                <strong>{warning.place}:</strong> {warning.text}
              </li>
            ))}
            {piece.warningCount > piece.warnings.length && <li>and {piece.warningCount - piece.warnings.length} more of the same kinds</li>}
          </ul>
        </details>
      )}
      <p className="mt-2 text-xs text-soft">{piece.fileName}</p>
    </article>
  );
}
