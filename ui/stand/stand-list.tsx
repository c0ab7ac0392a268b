import Link from 'next/link';
import { EmptyStand } from '@/ui/door/empty-stand';
import { handoutName } from './stand-data';

interface OnStand {
  partId: string;
  title: string;
  part: string;
  number: number;
  madeAt: string;
  word: string;
  isOpened: boolean;
}

/** The parts that lie on a player's stand, the latest first. */
export function StandList({ name, studio, parts, as }: { name: string; studio: string; parts: readonly OnStand[]; as: string | null }) {
  if (parts.length === 0) return <EmptyStand name={name} studio={studio} />;
  return (
    <main className="mx-auto grid max-w-2xl grid-cols-[minmax(0,1fr)] gap-4 p-5 pt-10">
      <header>
        <p className="text-soft">{studio}</p>
        <h1 className="text-2xl">{as === null ? name : 'A player’s stand, as they see it'}</h1>
      </header>
      <ul className="grid grid-cols-[minmax(0,1fr)] gap-3">
        {parts.map(({ partId, title, part, number, madeAt, word, isOpened }) => (
          <li key={partId}>
            <Link
              href={`/stand/${partId}${as === null ? '' : `?as=${as}`}`}
              className="grid grid-cols-[minmax(0,1fr)] gap-1 rounded-xl border border-line bg-sheet px-4 py-3 hover:border-soft"
            >
              <span className="flex flex-wrap items-baseline gap-x-3">
                <span className="min-w-0 font-serif text-lg font-semibold break-words">{title}</span>
                <span className="min-w-0 break-words">{part}</span>
                {!isOpened && <span className="ml-auto rounded-full border border-rosin px-2 text-[13px] text-rosin">new</span>}
              </span>
              <span className="text-soft">{handoutName(number, madeAt)}</span>
              {word && <span className="line-clamp-2 break-words whitespace-pre-line">{word}</span>}
            </Link>
          </li>
        ))}
      </ul>
    </main>
  );
}
