/** Which passage an address asks for. */
import type { Passage } from '@/core/score/passages';

/** By the note's bar, else by printed labels such as "17-32"; the first passage otherwise. */
export function passageAsked(passages: readonly Passage[], labels: readonly string[], bars: string | null, noteId: string | null): number {
  const exact = passages.findIndex((passage) => bars === addressOf(labels, passage));
  if (exact >= 0) return exact;
  const bar = noteId === null ? labels.indexOf(bars?.split('-')[0] ?? '') : Number(noteId.split('-').at(-5));
  return Math.max(
    0,
    passages.findIndex((passage) => bar >= passage.fromBar && bar <= passage.toBar),
  );
}

export function addressOf(labels: readonly string[], { fromBar, toBar }: Pick<Passage, 'fromBar' | 'toBar'>): string {
  return fromBar === toBar ? `${labels[fromBar]}` : `${labels[fromBar]}-${labels[toBar]}`;
}
