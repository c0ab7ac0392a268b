/** A text of several tunes, as collections in ABC are. */

export interface TuneInText {
  /** As its X: field says. */
  number: string;
  title: string;
  /** The tune by itself, with what the text says for all tunes before it. */
  text: string;
}

/** The tunes of a text in order (ABC 2.1: each begins with X: and ends with an empty line or the next one). */
export function tunesIn(text: string): TuneInText[] {
  const starts = [...text.matchAll(/^X:.*$/gm)].map((match) => match.index);
  const [first] = starts;
  if (first === undefined) return [];
  const head = text.slice(0, first).trim();
  return starts.map((start, i) => {
    const own = text.slice(start, starts[i + 1] ?? text.length).trim();
    const field = (name: string) => new RegExp(`^${name}:[ \\t]*(.*?)[ \\t]*$`, 'm').exec(own)?.[1] ?? '';
    return { number: field('X'), title: field('T') || `Tune ${field('X') || i + 1}`, text: `${head && `${head}\n`}${own}\n` };
  });
}
