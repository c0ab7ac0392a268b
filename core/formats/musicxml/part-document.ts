/**
 * One part of a score as a document of its own, with the time line of the score in front of it: so that whoever reads the part alone
 * (the Desk, a worker) counts as all other parts do. Only documents that we have cut ourselves are read this way.
 */
import { z } from 'zod';
import { onTimeLine, type LineBar, type TimeLine } from '../../score/time-line';
import { bad, good, type Result } from '../../util/result';
import { cutPart } from './cut';
import { readMusicXml, type MusicXmlDocument, type ReadScore } from './read';

const HEAD = '<?xml version="1.0" encoding="UTF-8"?>';
const LINE = /^<\?xml [^>]*\?>\n?<\?time-line ([\s\S]*?)\?>\n?/;

/** What most bars have; it is not written. */
const USUAL = {
  beats: 4,
  beatType: 4,
  into: 0,
  pickup: false,
  implicit: false,
  rehearsal: null,
  doubleBarAfter: false,
  repeatStart: false,
  repeatEnd: false,
  signs: null,
} as const satisfies Partial<LineBar>;

const signsShape = z.object({
  times: z.number().nullable(),
  volta: z.array(z.number()).nullable(),
  voltaEnd: z.boolean(),
  segno: z.boolean(),
  coda: z.boolean(),
  toCoda: z.boolean(),
  fine: z.boolean(),
  jump: z.enum(['da capo', 'dal segno']).nullable(),
});
const barShape = z.object({
  label: z.string(),
  ticks: z.number().nonnegative(),
  beats: z.number().positive().default(USUAL.beats),
  beatType: z.number().positive().default(USUAL.beatType),
  into: z.number().nonnegative().default(USUAL.into),
  pickup: z.boolean().default(USUAL.pickup),
  counted: z.number().nullable(),
  implicit: z.boolean().default(USUAL.implicit),
  rehearsal: z.string().nullable().default(USUAL.rehearsal),
  doubleBarAfter: z.boolean().default(USUAL.doubleBarAfter),
  repeatStart: z.boolean().default(USUAL.repeatStart),
  repeatEnd: z.boolean().default(USUAL.repeatEnd),
  signs: signsShape.nullable().default(USUAL.signs),
});
const lineShape = z.object({
  bars: z.array(barShape),
  tempi: z.array(z.object({ tick: z.number(), quartersPerMinute: z.number().positive(), printed: z.string().nullable() })),
  words: z.array(z.object({ tick: z.number(), text: z.string() })),
});

/** The line as text that may stand in a processing instruction. */
function lineText({ bars, tempi, words }: TimeLine): string {
  const short = bars.map(({ index: _, onset: __, ...bar }) =>
    Object.fromEntries(Object.entries(bar).filter(([key, value]) => (USUAL as Record<string, unknown>)[key] !== value)),
  );
  return JSON.stringify({ bars: short, tempi, words }).replace(/>/g, '\\u003e');
}

function lineFrom(text: string): TimeLine | null {
  const read = lineShape.safeParse(JSON.parse(text));
  if (!read.success) return null;
  let onset = 0;
  const bars = read.data.bars.map((bar, index): LineBar => {
    const placed = { ...bar, index, onset };
    onset += bar.ticks;
    return placed;
  });
  return { ...read.data, bars };
}

export function partDocument(document: MusicXmlDocument, partId: string, timeLine: TimeLine): string {
  return cutPart(document, partId).replace(HEAD, () => `${HEAD}\n<?time-line ${lineText(timeLine)}?>`);
}

/** The document with bars of another length on its time line. @param lengths ticks of bars, by index */
export function withBarLengths(text: string, lengths: ReadonlyMap<number, number>): string {
  const said = LINE.exec(text);
  const line = said?.[1] === undefined ? null : lineFrom(said[1]);
  if (!said || !line) return text;
  const moved = (tick: number) =>
    tick + line.bars.reduce((sum, bar) => sum + (bar.onset + bar.ticks <= tick ? (lengths.get(bar.index) ?? bar.ticks) - bar.ticks : 0), 0);
  const bars = line.bars.map((bar) => ({ ...bar, ticks: lengths.get(bar.index) ?? bar.ticks }));
  const at = <T extends { tick: number }>(mark: T): T => ({ ...mark, tick: moved(mark.tick) });
  const now = { bars, tempi: line.tempi.map(at), words: line.words.map(at) };
  return text.replace(said[0], () => `${HEAD}\n<?time-line ${lineText(now)}?>\n`);
}

/** Whether a document says how its score counts; those of before the time line do not. */
export const hasTimeLine = (text: string): boolean => LINE.test(text);

/** A part that `partDocument` has made, laid on the time line of its score; without one it is on its own. */
export function readPartDocument(text: string): Result<ReadScore> {
  const read = readMusicXml(text);
  const said = LINE.exec(text)?.[1];
  if (!read.ok || said === undefined) return read;
  const line = lineFrom(said);
  if (!line) return bad(null, 'The time line of this part cannot be read.', 'Bring the file in again.');
  const { score } = read.value;
  return good({ ...read.value, score: { ...score, timeLine: line, parts: score.parts.map((part) => onTimeLine(part, line)) } });
}
