import { buttonClass } from '@/ui/kit/button';
import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="text-2xl">There is nothing here</h1>
      <p className="mt-3">The piece may have been taken off the shelf, or the address is not complete. Nothing was lost.</p>
      <p className="mt-4">
        <Link className={buttonClass()} href="/">
          To the shelf
        </Link>
      </p>
    </main>
  );
}
