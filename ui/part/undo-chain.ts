/**
 * One chain for all that was done on a part: marks for everybody and for single players, passages, settings, and what was done from
 * its Desk to other parts. Each has a log of its own (a lane); what was done last is taken back first, whatever it was, and what was
 * done at once is taken back at once.
 */
import type { Logged, Stacks } from '@/core/marking/history';

export interface Lane {
  stacks: Stacks<Logged>;
  /** Its name where it is not the part itself: "Violin II, Staircase". */
  of?: string;
  /** False where something was changed since that is not known here. */
  may?(row: Logged): boolean;
  takeBack(row: Logged): void;
}

/** What is undone or done again next: in words, and how. */
export interface Step {
  what: string;
  act(): void;
}

interface At {
  lane: Lane;
  row: Logged;
}

/** What would be taken back now, or done again; null where there is nothing. */
export function nextStep(lanes: readonly Lane[], which: 'undo' | 'redo'): Step | null {
  const freshAt = lanes.reduce((latest, { stacks }) => (stacks.freshAt > latest ? stacks.freshAt : latest), '');
  const tops = lanes.flatMap((lane): At[] => {
    const row = lane.stacks[which].findLast((each) => may(lane, each));
    return row && (which === 'undo' || row.at > freshAt) ? [{ lane, row }] : [];
  });
  const last = tops.reduce<At | null>((best, top) => (best === null || top.row.at > best.row.at ? top : best), null);
  if (!last) return null;
  const { together } = last.row;
  const all = together ? lanes.flatMap((lane) => lane.stacks[which].filter((row) => row.together === together).map((row): At => ({ lane, row }))) : [last];
  const possible = all.filter(({ lane, row }) => may(lane, row));
  const not = all.flatMap(({ lane, row }) => (may(lane, row) || !lane.of ? [] : [lane.of]));
  const what = `${last.lane.of ? `${last.lane.of}: ` : ''}${last.row.reason.replace(/^Undo: /, '')}`;
  return {
    what: not.length ? `${what} (not in ${not.join(' and ')}, which was changed since)` : what,
    act: () => possible.forEach(({ lane, row }) => lane.takeBack(row)),
  };
}

const may = (lane: Lane, row: Logged): boolean => !lane.may || lane.may(row);
