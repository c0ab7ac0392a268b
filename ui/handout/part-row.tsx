'use client';

import Link from 'next/link';
import { changedLine } from '@/core/handout/in-words';
import { agoInWords } from '@/ui/kit/when';
import { isNewTo, type Chosen, type PartOut, type PlayerOut } from './hand-out-data';

interface Props {
  pieceId: string;
  part: PartOut;
  players: readonly PlayerOut[];
  chosen: Chosen;
  onChosen(chosen: Chosen): void;
}

/** One part: what is out, what would be next, and who gets it. */
export function PartRow({ pieceId, part, players, chosen, onChosen }: Props) {
  const { partId, part: name, last, has, next } = part;
  const seen = has.filter(({ openedAt }) => openedAt !== null).length;
  return (
    <li className="grid gap-2 rounded-xl border border-line bg-sheet px-4 py-3">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <label className="flex min-h-7 min-w-0 cursor-pointer items-center gap-2 font-semibold">
          <input type="checkbox" checked={chosen.isIn} onChange={(event) => onChosen({ ...chosen, isIn: event.target.checked })} />
          <span className="truncate">{name}</span>
        </label>
        <span className="text-soft">
          {last ? (
            <>
              Hand-out {last.number}, <span suppressHydrationWarning>{agoInWords(last.madeAt)}</span>
              {has.length > 0 && `, opened by ${seen} of ${has.length}`}
            </>
          ) : (
            'not handed out yet'
          )}
        </span>
        <span className="ml-auto flex gap-3">
          {last && (
            <a href={`/api/pieces/${pieceId}/hand-outs/paper?part=${partId}`} download className="underline">
              On paper
            </a>
          )}
          <Link href={`/desk/${partId}`} className="underline">
            Desk
          </Link>
        </span>
      </div>
      <WhoGetsIt part={part} players={players} chosen={chosen} onChosen={onChosen} />
      {last && next && <Next next={next} />}
      {last && !next && <p className="text-[13px] text-soft">Nothing has changed since.</p>}
    </li>
  );
}

function Next({ next: { number, changes, ownMarks } }: { next: NonNullable<PartOut['next']> }) {
  return (
    <details className="text-[13px]" open={changes.length <= 6}>
      <summary className="cursor-pointer text-rosin">
        {changes.length === 0 ? 'Own marks of players changed' : `${changes.length} ${changes.length === 1 ? 'bar' : 'bars'} changed`}: it would be Hand-out{' '}
        {number}
      </summary>
      <ul className="mt-1 grid max-h-60 gap-0.5 overflow-y-auto pl-4">
        {changes.map((change) => (
          <li key={change.barIndex ?? -1} className="break-words">
            {changedLine(change)}
          </li>
        ))}
        {ownMarks > 0 && changes.length > 0 && (
          <li className="text-soft">{ownMarks === 1 ? 'One player has' : `${ownMarks} players have`} own marks beside these.</li>
        )}
      </ul>
    </details>
  );
}

/** Everybody of the studio, those who get it first. */
function WhoGetsIt({ part, players, chosen, onChosen }: Omit<Props, 'pieceId'>) {
  const rank = ({ id, instrument }: PlayerOut) => (part.usual.includes(id) ? 0 : instrument === part.instrument ? 1 : 2);
  const inOrder = [...players].sort((a, b) => rank(a) - rank(b) || a.name.localeCompare(b.name));
  return (
    <div role="group" aria-label={`Who gets ${part.part}`} className="flex flex-wrap gap-1.5">
      {inOrder.map(({ id, name, hasLink }) => {
        const isChosen = chosen.players.includes(id);
        const given = part.has.find(({ playerId }) => playerId === id);
        const state = [
          given ? (given.openedAt ? 'opened' : 'not opened yet') : isChosen ? 'new to it' : '',
          isChosen && !hasLink && !given?.openedAt ? 'no link yet' : '',
        ]
          .filter(Boolean)
          .join(', ');
        return (
          <span
            key={id}
            className={`flex min-h-7 max-w-full items-center gap-1.5 rounded-full border px-2.5 text-[13px] ${isChosen ? 'border-spruce bg-spruce-pale' : 'border-line'}`}
          >
            <label className="flex min-w-0 cursor-pointer items-center gap-1.5">
              <input
                type="checkbox"
                checked={isChosen}
                onChange={() => onChosen({ isIn: true, players: isChosen ? chosen.players.filter((each) => each !== id) : [...chosen.players, id] })}
              />
              <span className="truncate">{name}</span>
            </label>
            {state && <span className="shrink-0 text-soft">{state}</span>}
            {!isNewTo(part, id) && (
              <Link href={`/stand/${part.partId}?as=${id}`} className="shrink-0 underline" aria-label={`${part.part} on the stand of ${name}`}>
                look
              </Link>
            )}
          </span>
        );
      })}
    </div>
  );
}
