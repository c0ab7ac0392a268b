/**
 * The bars in the order in which they are played: repeats, voltas, Da Capo, Dal Segno, Fine and Coda.
 * Rules (common practice): a repeat without a number is played twice; a volta is played in the passes that it names;
 * after a Da Capo or Dal Segno repeats are not taken again and the last volta is the one that counts.
 */
import type { Bar } from './score';

export interface Played {
  /** Bar indices in the order of playing. */
  order: number[];
  /** What could not be understood, in words; the bars are then played on as written. */
  doubts: Array<{ barIndex: number; text: string }>;
}

/** More bars than this times the written ones are taken for a mistake in the signs. */
const MOST_TIMES = 40;

type Written = Pick<Bar, 'repeatStart' | 'repeatEnd' | 'signs'>;

/** @example bars 1–2 repeated with two voltas of one bar each: `[0, 1, 0, 2]` */
export function playedOrder(bars: readonly Written[]): Played {
  const order: number[] = [];
  const doubts: Played['doubts'] = [];
  const voltaOf = voltasOf(bars);
  const most = Math.max(1, ...bars.flatMap((bar) => bar.signs?.volta ?? []));
  let start = 0;
  let pass = 1;
  let jumped = false;
  /** In the coda repeats are taken again. */
  let repeats = true;
  let at = 0;
  const find = (sign: 'segno' | 'coda', from: number) => bars.findIndex((bar, i) => i >= from && bar.signs?.[sign]);
  while (at < bars.length && order.length < bars.length * MOST_TIMES) {
    const bar = bars[at]!;
    if (bar.repeatStart && at !== start) {
      start = at;
      pass = 1;
    }
    const volta = voltaOf[at]!;
    const wanted = !repeats ? lastPass(voltaOf, at) : pass;
    if (volta && !volta.numbers.includes(wanted)) {
      at = volta.end + 1;
      continue;
    }
    order.push(at);
    const { signs } = bar;
    if (jumped && signs?.fine) return { order, doubts };
    if (jumped && signs?.toCoda) {
      const coda = find('coda', at + 1);
      if (coda > at) {
        at = coda;
        start = coda;
        pass = 1;
        repeats = true;
        continue;
      }
      doubts.push({ barIndex: at, text: 'The sign sends the player to a coda that the part does not have.' });
    }
    if (bar.repeatEnd && repeats) {
      const again = volta ? hasVolta(voltaOf, start, pass + 1, most) : pass < (signs?.times ?? 2);
      if (again) {
        pass++;
        at = start;
        continue;
      }
      start = at + 1;
      pass = 1;
    }
    if (signs?.jump && !jumped) {
      const target = signs.jump === 'da capo' ? 0 : find('segno', 0);
      if (target >= 0 && target <= at) {
        jumped = true;
        repeats = false;
        at = target;
        continue;
      }
      doubts.push({ barIndex: at, text: 'The sign sends the player back to a segno that the part does not have.' });
    }
    at++;
  }
  if (at < bars.length) doubts.push({ barIndex: at, text: 'The repeat signs lead round in a circle; the bars are taken once, as written.' });
  return at < bars.length ? { order: bars.map((_, i) => i), doubts } : { order, doubts };
}

interface Volta {
  numbers: readonly number[];
  start: number;
  end: number;
}

/** The volta that each bar lies in. A volta without an end reaches to the repeat, or is one bar long. */
function voltasOf(bars: readonly Written[]): Array<Volta | null> {
  const result: Array<Volta | null> = bars.map(() => null);
  bars.forEach((bar, i) => {
    const numbers = bar.signs?.volta;
    if (!numbers) return;
    let end = bars.findIndex(
      (candidate, k) =>
        k >= i && (candidate.signs?.voltaEnd || candidate.repeatEnd || (k > i && candidate.signs?.volta !== undefined && candidate.signs?.volta !== null)),
    );
    if (end > i && bars[end]!.signs?.volta) end--;
    if (end < 0) end = i;
    const volta = { numbers, start: i, end };
    for (let k = i; k <= end; k++) result[k] = volta;
  });
  return result;
}

/** Whether some volta of the stretch from a bar on is played in that pass. */
function hasVolta(voltas: ReadonlyArray<Volta | null>, from: number, pass: number, most: number): boolean {
  if (pass > most) return false;
  let i = voltas.findIndex((volta, k) => k >= from && volta !== null);
  while (i >= 0 && i < voltas.length && voltas[i]) {
    if (voltas[i]!.numbers.includes(pass)) return true;
    i = voltas[i]!.end + 1;
  }
  return false;
}

/** The highest number in the row of voltas that a bar belongs to: the one that is played after a Da Capo. */
function lastPass(voltas: ReadonlyArray<Volta | null>, at: number): number {
  let first = at;
  while (first > 0 && voltas[first - 1]) first--;
  let most = 1;
  for (let i = first; i < voltas.length && voltas[i]; i++) most = Math.max(most, ...voltas[i]!.numbers);
  return most;
}

/** The order as players say it: `"1–8, 1–7, 9–16"`, by printed labels. */
export function orderInWords(bars: readonly Pick<Bar, 'label'>[], order: readonly number[]): string {
  const runs: Array<[number, number]> = [];
  for (const index of order) {
    const last = runs.at(-1);
    if (last && last[1] === index - 1) last[1] = index;
    else runs.push([index, index]);
  }
  return runs.map(([from, to]) => (from === to ? bars[from]!.label : `${bars[from]!.label}–${bars[to]!.label}`)).join(', ');
}
