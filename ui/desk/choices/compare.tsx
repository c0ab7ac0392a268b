'use client';

import { Volume2 } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import type { BarRange } from '@/core/score/bars';
import type { Part } from '@/core/score/score';
import { Button } from '@/ui/kit/button';
import { Dialog, type Opened } from '@/ui/kit/dialog';
import { Said } from '@/ui/kit/terms';

/** What every comparison is given. */
export interface Compared extends Opened {
  part: Part;
  range: BarRange;
  passageName: string;
  secondsAt(tick: number): number;
  onTake(index: number): void;
}

interface Props<T> extends Opened {
  items: readonly T[];
  /** What is compared, in a word ("Bowing"), and what is said over and under it. */
  words: { what: string; title: string; legend: string };
  column: Column<T>;
  accent: 'spruce' | 'rosin';
  onTake(index: number): void;
  onPlay(item: T): void;
}

/** How one way is shown. */
export interface Column<T> {
  nameOf(item: T, index: number): string;
  /** Drawn above the figures; the columns that are shown decide what differs. */
  picture(item: T, shown: readonly T[]): ReactNode;
  rows: ReadonlyArray<readonly [name: string, value: (item: T) => string]>;
  /** Against the best one, in words. */
  against(item: T): string;
  taken(item: T): boolean;
}

const SHOWN = 3;
const INK = { spruce: 'text-spruce', rosin: 'text-rosin' } as const;

/** Up to three ways to do a passage side by side: only where they differ is inked, one table of figures below. */
export function Compare<T>({ items, words, column, accent, onTake, onPlay, ...opened }: Props<T>) {
  const [chosen, setChosen] = useState<readonly number[]>([0, 1, 2]);
  const columns = chosen.slice(0, SHOWN).filter((index) => items[index]);
  return (
    <Dialog {...opened} title={words.title} size="widest">
      <p className="text-[13px] text-soft">{words.legend}</p>
      <div className="mt-1 overflow-x-auto pt-2">
        <table className="w-full min-w-160 table-fixed border-separate border-spacing-x-4 text-left text-[13px]">
          <thead>
            <Names
              items={items}
              columns={columns}
              column={column}
              what={words.what}
              onChoose={(at, index) => setChosen(chosen.map((each, i) => (i === at ? index : each)))}
            />
            <tr>
              <td />
              {columns.map((index) => (
                <td key={index} className="align-top">
                  {column.picture(
                    items[index]!,
                    columns.map((each) => items[each]!),
                  )}
                  <button
                    type="button"
                    className={`flex min-h-6 cursor-pointer items-center gap-1 text-xs font-semibold ${INK[accent]}`}
                    onClick={() => onPlay(items[index]!)}
                  >
                    <Volume2 size={13} aria-hidden /> Hear it
                  </button>
                </td>
              ))}
            </tr>
          </thead>
          <tbody>
            <Figures items={items} columns={columns} column={column} />
            <tr>
              <td />
              {columns.map((index) => (
                <td key={index} className="pt-2">
                  {column.taken(items[index]!) ? (
                    <span className="text-xs font-semibold text-spruce">as marked</span>
                  ) : (
                    <Button look={accent} onClick={() => onTake(index)}>
                      Take {index === 0 ? 'the best' : 'this one'}
                    </Button>
                  )}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
    </Dialog>
  );
}

interface Shown<T> {
  items: readonly T[];
  /** Indices of what is shown. */
  columns: readonly number[];
  column: Column<T>;
}

function Names<T>({ items, columns, column, what, onChoose }: Shown<T> & { what: string; onChoose(at: number, index: number): void }) {
  return (
    <tr>
      <td className="w-32" />
      {columns.map((index, at) => (
        <th key={at} scope="col" className="pb-1 align-bottom">
          <select
            aria-label={`${what} in column ${at + 1}`}
            className="field w-full font-semibold"
            value={index}
            onChange={(event) => onChoose(at, Number(event.target.value))}
          >
            {items.map((item, i) => (
              <option key={i} value={i} disabled={i !== index && columns.includes(i)}>
                {column.nameOf(item, i)}
              </option>
            ))}
          </select>
        </th>
      ))}
    </tr>
  );
}

function Figures<T>({ items, columns, column }: Shown<T>) {
  return (
    <>
      {column.rows.map(([name, value]) => (
        <tr key={name}>
          <th scope="row" className="border-t border-line py-1 font-normal text-soft">
            {name}
          </th>
          {columns.map((index) => (
            <td key={index} className="border-t border-line py-1 font-semibold">
              <Said>{value(items[index]!)}</Said>
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
            {index === 0 ? 'costs least on the whole' : column.against(items[index]!) || 'hardly any difference'}
          </td>
        ))}
      </tr>
    </>
  );
}
