/** Figures of a benchmark, a line for each thing that was measured. */

/** The value that so large a share of them does not exceed. */
const share = (values: readonly number[], at: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * at))]!;

/** @param values milliseconds */
export const say = (what: string, values: readonly number[]): void =>
  console.log(`${what.padEnd(52)} ${values.length} times  median ${share(values, 0.5).toFixed(0)} ms  95 % ${share(values, 0.95).toFixed(0)} ms`);
