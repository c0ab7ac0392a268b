'use client';

import { buttonClass } from '@/ui/kit/button';
import { Search, X } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { LabelledSelect } from '@/ui/kit/labelled-select';
import { arrangementFrom, SHELF_GROUPS, SHELF_ORDERS, type ShelfArrangement, type ShelfGroup, type ShelfOrder } from '@/core/util/shelf-order';

export interface Asked extends ShelfArrangement {
  search: string;
}

/** The address of a page of the shelf. What is as usual is said too: the browser may remember something else. */
function shelfAddress({ search, order, group }: Asked, page = 1): string {
  return `/?${new URLSearchParams({ ...(search ? { find: search } : {}), order, group, ...(page > 1 ? { page: String(page) } : {}) }).toString()}`;
}

/** While somebody types, the shelf is not asked for every letter. */
const PAUSE_MS = 250;

const ORDER_NAMES: Readonly<Record<ShelfOrder, string>> = {
  newest: 'latest first',
  marked: 'last marked first',
  title: 'by title',
  composer: 'by composer',
};
const GROUP_NAMES: Readonly<Record<ShelfGroup, string>> = { none: 'no groups', composer: 'by composer', instrument: 'by instrument', marked: 'marked or not' };

/** Words to find a piece by, how pieces are sorted and grouped; works as a plain form too. */
export function FindPieces({ asked, found }: { asked: Asked; found: number }) {
  const { search, order, group } = asked;
  const router = useRouter();
  const form = useRef<HTMLFormElement>(null);
  const field = useRef<HTMLInputElement>(null);
  const timer = useRef<number | undefined>(undefined);
  /** What this form asked for last: another search comes from the address, and is put into the field. */
  const wanted = useRef(search);
  useEffect(() => {
    if (search === wanted.current || !field.current) return;
    wanted.current = search;
    field.current.value = search;
  }, [search]);
  useEffect(() => () => window.clearTimeout(timer.current), []);

  /** Asks for what the form says by then. */
  function ask(afterMs = 0) {
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(() => {
      const said = new FormData(form.current!);
      const text = (name: string) => String(said.get(name) ?? '').trim();
      const arrangement = arrangementFrom(text('order'), text('group'));
      wanted.current = text('find');
      document.cookie = `shelf=${arrangement.order}.${arrangement.group}; path=/; max-age=31536000; samesite=lax`;
      router.replace(shelfAddress({ search: wanted.current, ...arrangement }), { scroll: false });
    }, afterMs);
  }

  return (
    <form ref={form} role="search" action="/" className="flex flex-wrap items-center gap-3">
      <label className="flex min-h-9 grow items-center gap-2 rounded-lg border border-line bg-sheet px-3 focus-within:border-soft">
        <Search size={16} className="shrink-0 text-soft" aria-hidden />
        <span className="sr-only">Find a piece by title, composer, part or file</span>
        <input
          ref={field}
          name="find"
          maxLength={120}
          autoComplete="off"
          className="min-w-0 grow bg-transparent outline-none"
          placeholder="Find a piece: title, composer, part or file"
          defaultValue={search}
          onChange={() => ask(PAUSE_MS)}
        />
        {search && (
          <button
            type="button"
            aria-label="Show all pieces"
            className="grid size-6 cursor-pointer place-items-center rounded"
            onClick={() => {
              field.current!.value = '';
              ask();
            }}
          >
            <X size={15} aria-hidden />
          </button>
        )}
      </label>
      <LabelledSelect label="Sorted" name="order" first={order} options={SHELF_ORDERS.map((each) => [each, ORDER_NAMES[each]])} onChange={() => ask()} />
      <LabelledSelect label="Grouped" name="group" first={group} options={SHELF_GROUPS.map((each) => [each, GROUP_NAMES[each]])} onChange={() => ask()} />
      <p role="status" className="text-soft">
        {found === 0 ? 'No piece has all these words' : `${found} ${found === 1 ? 'piece' : 'pieces'}${search ? ' found' : ''}`}
      </p>
    </form>
  );
}

/** Pages before and after. */
export function Pages({ asked, page, pages }: { asked: Asked; page: number; pages: number }) {
  const [before, after] = asked.order === 'newest' && asked.group === 'none' ? ['Later pieces', 'Earlier pieces'] : ['Pieces before', 'More pieces'];
  return (
    <nav aria-label="Pages of the shelf" className="flex items-center justify-center gap-4">
      {page > 1 ? (
        <Link className={buttonClass()} href={shelfAddress(asked, page - 1)}>
          {before}
        </Link>
      ) : null}
      <span className="text-soft">
        page {page} of {pages}
      </span>
      {page < pages ? (
        <Link className={buttonClass()} href={shelfAddress(asked, page + 1)}>
          {after}
        </Link>
      ) : null}
    </nav>
  );
}
