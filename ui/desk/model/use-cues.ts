'use client';

import { hasCue, withoutCue, type Entry } from '@/core/ensemble/entries';
import type { Change } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import { noteById } from '@/core/score/find';
import type { Part } from '@/core/score/score';
import type { Problem } from '@/ui/kit/problem';
import { placeLabel } from '@/ui/kit/music';
import type { RemoteAnalyst } from '@/ui/part/use-analyst';
import type { Conditions } from '@/workers/questions';

interface Asked {
  analyst: RemoteAnalyst | null;
  conditions: Conditions;
  marking: Marking;
  part: Part | null;
  /** From where the next entry is looked for, ticks. */
  from: number;
  change(reason: string, changes: readonly Change[]): void;
  onProblem(problem: Problem): void;
}

const NO_ENTRY: Problem = {
  place: null,
  what: 'There is no entry after a bar of rest from here on.',
  remedy: 'Select a note before one; a cue is printed in the two bars before an entry.',
};
const NOT_SAID = (where: string): Problem => ({
  place: where,
  what: 'What is heard before this entry cannot be printed as a cue.',
  remedy: 'Its rhythm is beyond note values, or no other part plays there.',
});

/** Cues before entries: printed small into the part, and taken away. */
export function useCues({ analyst, conditions, marking, part, from, change, onProblem }: Asked) {
  async function print(entry: Pick<Entry, 'noteId' | 'barIndex'>, index: number, name: string) {
    if (!analyst || !part) return;
    const note = noteById(part, entry.noteId);
    const where = note ? placeLabel(part, note) : '';
    const changes = await analyst.cue(conditions, entry.noteId, index);
    if (changes.length === 0) onProblem(NOT_SAID(where));
    else change(`${where}: cue of ${name}`, changes);
  }
  function takeAway(entry: Pick<Entry, 'noteId' | 'barIndex'>) {
    if (!part) return;
    const note = noteById(part, entry.noteId);
    change(`${note ? placeLabel(part, note) : ''}: cue taken away`, withoutCue(entry, part, marking));
  }
  return {
    print,
    takeAway,
    isPrinted: (entry: Pick<Entry, 'barIndex'>) => hasCue(entry, marking),
    /** By one key: the best cue of the next entry, from the selection on. */
    async atSelection() {
      if (!analyst || !part) return;
      const entries = await analyst.entries(conditions);
      const next = entries.find(({ noteId }) => (noteById(part, noteId)?.onset ?? -1) >= from);
      if (!next) return onProblem(NO_ENTRY);
      if (hasCue(next, marking)) return takeAway(next);
      await print(next, 0, next.cues[0]?.name ?? '');
    },
  };
}
