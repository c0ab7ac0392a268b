/** A mark that corrects the text of a file, at its place. */
export interface Correction {
  key: string;
  barIndex: number;
  tick: number;
  value: string;
}
