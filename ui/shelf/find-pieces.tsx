'use client';

import { Search, X } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';

/** The address of a page of the shelf. */
function shelfAddress(search: string, page = 1): string {
  const query = new URLSearchParams({ ...(search ? { find: search } : {}), ...(page > 1 ? { page: String(page) } : {}) }).toString();
  return query ? `/?${query}` : '/';
}

/** While somebody types, the shelf is not asked for every letter. */
const PAUSE_MS = 250;

/** Words to find a piece by; works as a plain form too. */
export function FindPieces({ search, found }: { search: string; found: number }) {
  const router = useRouter();
  const [text, setText] = useState(search);
  useEffect(() => {
    if (text.trim() === search) return;
    const timer = setTimeout(() => router.replace(shelfAddress(text.trim()), { scroll: false }), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text, search, router]);
  return (
    <form role="search" action="/" className="flex flex-wrap items-center gap-3">
      <label className="flex min-h-9 grow items-center gap-2 rounded-lg border border-line bg-sheet px-3 focus-within:border-soft">
        <Search size={16} className="shrink-0 text-soft" aria-hidden />
        <span className="sr-only">Find a piece by title, composer, part or file</span>
        <input
          name="find"
          maxLength={120}
          autoComplete="off"
          className="min-w-0 grow bg-transparent outline-none"
          placeholder="Find a piece: title, composer, part or file"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {text && (
          <button type="button" aria-label="Show all pieces" className="grid size-6 cursor-pointer place-items-center rounded" onClick={() => setText('')}>
            <X size={15} aria-hidden />
          </button>
        )}
      </label>
      <p role="status" className="text-soft">
        {found === 0 ? 'No piece has all these words' : `${found} ${found === 1 ? 'piece' : 'pieces'}${search ? ' found' : ''}`}
      </p>
    </form>
  );
}

/** Earlier and later pages; the latest pieces come first. */
export function Pages({ search, page, pages }: { search: string; page: number; pages: number }) {
  return (
    <nav aria-label="Pages of the shelf" className="flex items-center justify-center gap-4">
      {page > 1 ? (
        <Link className="button" href={shelfAddress(search, page - 1)}>
          Later pieces
        </Link>
      ) : null}
      <span className="text-soft">
        page {page} of {pages}
      </span>
      {page < pages ? (
        <Link className="button" href={shelfAddress(search, page + 1)}>
          Earlier pieces
        </Link>
      ) : null}
    </nav>
  );
}
