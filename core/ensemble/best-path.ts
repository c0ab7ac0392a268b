/** The cheapest choice for each place in a row, where every change costs something: a shortest path through the columns. */

/** @param columns what each state costs at each place; all of one length @param changing what another state costs at a place @returns the state at each place */
export function bestPath(columns: ReadonlyArray<readonly number[]>, changing: (place: number) => number): number[] {
  const from: number[][] = [];
  let before = columns[0] ? [...columns[0]] : [];
  for (let i = 1; i < columns.length; i++) {
    const cheapest = before.reduce((best, cost, state) => (cost < before[best]! ? state : best), 0);
    const change = before[cheapest]! + changing(i);
    const came: number[] = [];
    before = columns[i]!.map((cost, state) => {
      const stays = before[state]! <= change;
      came.push(stays ? state : cheapest);
      return cost + (stays ? before[state]! : change);
    });
    from.push(came);
  }
  const path: number[] = [];
  let state = before.reduce((best, cost, each) => (cost < before[best]! ? each : best), 0);
  for (let i = columns.length - 1; i >= 0; i--) {
    path[i] = state;
    if (i > 0) state = from[i - 1]![state]!;
  }
  return path;
}
