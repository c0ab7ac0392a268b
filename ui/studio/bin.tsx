'use client';

import { Button, TextButton, buttonClass } from '@/ui/kit/button';
import { Confirm } from '@/ui/kit/confirm';
import { ProblemNote } from '@/ui/kit/problem';
import { useDoing } from '@/ui/kit/use-doing';
import { agoInWords } from '@/ui/kit/when';

export interface InBin {
  kind: 'piece' | 'player';
  id: string;
  name: string;
  removedAt: string;
  /** When it is erased by itself. */
  goesAt: string;
}

/** What was taken away: back, or gone for good. */
export function Bin({ bin, isOwner }: { bin: readonly InBin[]; isOwner: boolean }) {
  const doing = useDoing();
  const putBack = ({ kind, id }: InBin) =>
    kind === 'piece' ? doing.send('PATCH', `/api/pieces/${id}`, { onShelf: true }) : doing.send('PUT', `/api/players/${id}`, { removed: false });
  return (
    <section aria-label="Bin" className="grid grid-cols-1 gap-3">
      <p className="max-w-prose">Pieces that were taken off the shelf and players who were taken out of the list lie here for 30 days, with all their marks.</p>
      {doing.problem && <ProblemNote problem={doing.problem} onClose={doing.forget} />}
      {bin.length === 0 && <p className="text-soft">The bin is empty.</p>}
      <ul className="grid grid-cols-1 gap-1">
        {bin.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-1.5">
            <strong className="min-w-0 truncate" title={row.name}>
              {row.name}
            </strong>
            <span className="text-soft">{row.kind}</span>
            <span className="text-[13px]">
              taken away {agoInWords(row.removedAt)}, erased {agoInWords(row.goesAt)}
            </span>
            <span className="grow" />
            {row.kind === 'player' && (
              <a className={buttonClass({ small: true })} href={`/api/players/${row.id}/everything`} download>
                What is kept about them
              </a>
            )}
            {isOwner && (
              <Confirm
                trigger={<TextButton className="text-[13px] text-plum">erase for good</TextButton>}
                question={`Erase ${row.name} for good?`}
                yes="Erase"
                onYes={() => void doing.send('DELETE', `/api/${row.kind === 'piece' ? 'pieces' : 'players'}/${row.id}`)}
              >
                {row.kind === 'piece'
                  ? 'The file, its parts, all marks in them and the sheets beside them are erased. This cannot be taken back.'
                  : 'Own marks, seats, links and the name are erased. This cannot be taken back. Backups that were made before still have them.'}
              </Confirm>
            )}
            <Button small aria-label={`Put ${row.name} back`} onClick={() => void putBack(row)}>
              Put back
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
