'use client';

export default function ErrorPage({ reset }: { reset: () => void }) {
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="text-2xl">This page could not be shown</h1>
      <p className="mt-3">What was saved is safe, and marks not yet saved are kept in this browser. The server log says more.</p>
      <p className="mt-4">
        <Button onClick={reset}>Try again</Button>
      </p>
    </main>
  );
}
import { Button } from '@/ui/kit/button';
