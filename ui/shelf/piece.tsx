'use client';

import { Download, Rows3, Send, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { buttonClass } from '@/ui/kit/button';
import { IconButton } from '@/ui/kit/icon-button';
import { useMarkedFile } from '@/ui/kit/marked-file';
import { INSTRUMENTS } from './groups';
import { OutLine } from './out-line';
import { PartCheckLine } from './part-check';
import { RenamePiece } from './rename-piece';
import type { ShelfPiece } from './shelf';

/** A piece with its parts, each of which opens its Desk. */
export function Piece({ piece, onRenamed, onRemove }: { piece: ShelfPiece; onRenamed(): void; onRemove(): void }) {
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
        {piece.parts.filter(({ instrument }) => instrument !== null).length > 1 && (
          <Link className={buttonClass()} href={`/score/${piece.id}`}>
            <Rows3 size={15} aria-hidden /> Side by side
          </Link>
        )}
        <Link className={buttonClass()} href={`/hand-out/${piece.id}`}>
          <Send size={15} aria-hidden /> Hand out
        </Link>
        {markedFile.shown}
        {marked && (
          <a
            className={buttonClass()}
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
        <IconButton label={`Take ${piece.title} off the shelf`} onClick={onRemove}>
          <Trash2 size={15} aria-hidden />
        </IconButton>
      </div>
      {piece.out && <OutLine pieceId={piece.id} out={piece.out} />}
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
              {part.check && <PartCheckLine check={part.check} />}
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
