'use client';

import { Volume2 } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { OVERLAY } from '@/ui/kit/dialog';
import { giveBack } from '../dialogs';

interface Props<T> {
  open: boolean;
  items: readonly T[];
  title: string;
  legend: string;
  /** What is compared, in a word: "Bowing". */
  what: string;
  nameOf(item: T, index: number): string;
  /** Drawn above the figures; the columns that are shown decide what differs. */
  picture(item: T, shown: readonly T[]): ReactNode;
  rows: ReadonlyArray<readonly [name: string, value: (item: T) => string]>;
  /** Against the best one, in words. */
  against(item: T): string;
  taken(item: T): boolean;
  onOpen(open: boolean): void;
  onClosed(): void;
  onTake(index: number): void;
  /** Plays it, or stops; null where nothing can be heard. */
  onPlay: ((item: T) => void) | null;
  accent: 'spruce' | 'rosin';
}

const SHOWN = 3;
const BUTTON = { spruce: 'button button-spruce', rosin: 'button button-rosin' } as const;
const INK = { spruce: 'text-spruce', rosin: 'text-rosin' } as const;

/** Up to three ways to do a passage side by side: only where they differ is inked, one table of figures below. */
export function Compare<T>(props: Props<T>) {
  const { open, items, title, legend, what, nameOf, picture, rows, against, taken, onOpen, onClosed, onTake, onPlay, accent } = props;
  const [chosen, setChosen] = useState<readonly number[]>([0, 1, 2]);
  const columns = chosen.slice(0, SHOWN).filter((index) => items[index]);
  const shown = columns.map((index) => items[index]!);
  const choose = (column: number, index: number) => setChosen(chosen.map((each, i) => (i === column ? index : each)));
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content
          className="fixed top-[6vh] left-1/2 z-50 max-h-[88vh] w-[min(70rem,96vw)] -translate-x-1/2 overflow-auto rounded-xl border border-line bg-sheet p-5 shadow-xl"
          aria-describedby={undefined}
          onCloseAutoFocus={giveBack(onClosed)}
        >
          <Dialog.Title className="text-lg">{title}</Dialog.Title>
          <p className="text-[13px] text-soft">{legend}</p>
          <div className="mt-1 overflow-x-auto pt-2">
            <table className="w-full min-w-160 table-fixed border-separate border-spacing-x-4 text-left text-[13px]">
              <thead>
                <tr>
                  <td className="w-32" />
                  {columns.map((index, column) => (
                    <th key={column} scope="col" className="pb-1 align-bottom">
                      <select
                        aria-label={`${what} in column ${column + 1}`}
                        className="field w-full font-semibold"
                        value={index}
                        onChange={(event) => choose(column, Number(event.target.value))}
                      >
                        {items.map((item, i) => (
                          <option key={i} value={i} disabled={i !== index && columns.includes(i)}>
                            {nameOf(item, i)}
                          </option>
                        ))}
                      </select>
                    </th>
                  ))}
                </tr>
                <tr>
                  <td />
                  {columns.map((index) => (
                    <td key={index} className="align-top">
                      {picture(items[index]!, shown)}
                      {onPlay && (
                        <button
                          type="button"
                          className={`flex min-h-6 cursor-pointer items-center gap-1 text-xs font-semibold ${INK[accent]}`}
                          onClick={() => onPlay(items[index]!)}
                        >
                          <Volume2 size={13} aria-hidden /> Hear it
                        </button>
                      )}
                    </td>
                  ))}
                </tr>
              </thead>
              <tbody>
                {rows.map(([name, value]) => (
                  <tr key={name}>
                    <th scope="row" className="border-t border-line py-1 font-normal text-soft">
                      {name}
                    </th>
                    {columns.map((index) => (
                      <td key={index} className="border-t border-line py-1 font-semibold">
                        {value(items[index]!)}
                      </td>
                    ))}
                  </tr>
                ))}
                <tr>
                  <th scope="row" className="border-t border-line py-1 align-top font-normal text-soft">
                    against the best
                  </th>
                  {columns.map((index) => (
                    <td key={index} className="border-t border-line py-1 align-top">
                      {index === 0 ? 'costs least on the whole' : against(items[index]!) || 'hardly any difference'}
                    </td>
                  ))}
                </tr>
                <tr>
                  <td />
                  {columns.map((index) => (
                    <td key={index} className="pt-2">
                      {taken(items[index]!) ? (
                        <span className="text-xs font-semibold text-spruce">as marked</span>
                      ) : (
                        <button type="button" className={BUTTON[accent]} onClick={() => onTake(index)}>
                          Take {index === 0 ? 'the best' : 'this one'}
                        </button>
                      )}
                    </td>
                  ))}
                </tr>
              </tbody>
            </table>
          </div>
          <Dialog.Close className="button mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
