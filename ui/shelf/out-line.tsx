import Link from 'next/link';
import { agoInWords } from '@/ui/kit/when';

/** What is out of a piece. */
export interface PieceOut {
  players: number;
  opened: number;
  /** Answers that are not dealt with. */
  open: number;
  hurts: boolean;
  lastAt: string;
}

/** What is out, who has seen it, and what waits for an answer. */
export function OutLine({ pieceId, out: { players, opened, open, hurts, lastAt } }: { pieceId: string; out: PieceOut }) {
  return (
    <p className="mt-1 flex flex-wrap items-baseline gap-x-2 text-[13px]">
      <Link href={`/hand-out/${pieceId}`} className="text-soft underline decoration-line underline-offset-4">
        <span suppressHydrationWarning>Handed out {agoInWords(lastAt)}</span>, opened by {opened} of {players}
      </Link>
      {open > 0 && (
        <Link href={`/hand-out/${pieceId}`} className={`font-semibold underline underline-offset-4 ${hurts ? 'text-plum' : 'text-rosin'}`}>
          {open} {open === 1 ? 'answer' : 'answers'} to deal with{hurts ? ': something hurts' : ''}
        </Link>
      )}
    </p>
  );
}
