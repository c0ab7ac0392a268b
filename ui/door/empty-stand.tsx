import { Music2 } from 'lucide-react';

/** The Stand of a player before anything was handed out to them. */
export function EmptyStand({ name, studio }: { name: string; studio: string }) {
  return (
    <main className="mx-auto grid max-w-xl gap-3 p-6 pt-16 text-center">
      <Music2 size={30} className="mx-auto text-soft" aria-hidden />
      <h1 className="text-2xl">{name}</h1>
      <p className="text-soft">{studio}</p>
      <p>Nothing has been handed out to you yet. Keep this address: your parts will be here.</p>
    </main>
  );
}
