/** What a bowing of a phrase is asked (`accept`, `also` in tests/data/phrases/bow-arm*.json): each sentence there is one question here. */
import type { z } from 'zod';
import { FINDINGS, type FindingKind } from '../../core/checks/kinds';
import { readScoreBytes } from '../../core/formats/read';
import type { Note, Part } from '../../core/score/score';
import type { bowShape, checkShape } from '../../headless/shapes';
import type { Phrase } from './phrase-file';

export interface Asked {
  phrase: Phrase;
  xml: string;
  bow: z.infer<typeof bowShape>;
  check: z.infer<typeof checkShape>;
}
export interface BowCheck {
  said: string;
  /** Whether every good teacher would ask for it. */
  sure: boolean;
  holds: boolean;
  /** What there was instead. */
  found: string;
}

type Way = Asked['bow']['alternatives'][number];
type Stroke = Way['strokes'][number];

interface Known extends Asked {
  part: Part;
  /** One for each head that is not tied from the one before; of a chord its first note. */
  heads: Note[];
  way: Way;
  strokes: Stroke[];
  strokeOf: Map<string, Stroke>;
  row: string;
}

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor((values.length - 1) / 2)] ?? NaN;
const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
const middle = ({ from, to }: Stroke): number => (from + to) / 2;
const of = ({ strokes }: Known, bar: number): Stroke[] => strokes.filter(({ barIndex }) => barIndex === bar);
const lastBar = ({ strokes }: Known): number => strokes.at(-1)!.barIndex;
const directions = (strokes: readonly Stroke[]): string => strokes.map(({ direction }) => direction[0]).join('');
const turned = (row: string): string => row.replace(/[du]/g, (each) => (each === 'd' ? 'u' : 'd'));
const findings = ({ check }: Known, kind: string, least = 1) => check.findings.filter((each) => each.kind === kind && each.severity >= least);

/** The row of each bar that has strokes: where a stroke begins, its direction; where it goes on, "-". */
function barRows({ heads, strokeOf }: Known): string[] {
  const rows = new Map<number, string>();
  for (const head of heads) {
    const stroke = strokeOf.get(head.id)!;
    const sign = stroke.noteIds[0] === head.id ? stroke.direction[0]! : '-';
    rows.set(head.barIndex, (rows.get(head.barIndex) ?? '') + sign);
  }
  return [...rows].sort(([a], [b]) => a - b).map(([, row]) => row);
}
/** Bars with as many heads as the first: the last long note of a figure is none of them. */
const likeFirst = (rows: readonly string[]): string[] => rows.filter((row) => row.length === rows[0]!.length);
/** The bars in which the opening notes come again: bowed as at first, or turned round, or it is said why not. */
function twice(known: Known): boolean {
  const rows = barRows(known);
  const bars = [...new Set(known.heads.map(({ barIndex }) => barIndex))];
  const again = bars.findIndex((bar, i) => i > 0 && known.heads.filter(({ barIndex }) => barIndex === bar).length > 1 && sameTune(known, bars[0]!, bar));
  if (again < 0) return true;
  const length = Math.min(again, rows.length - again);
  const [first, second] = [rows.slice(0, length).join(''), rows.slice(again, again + length).join('')];
  return first === second || first === turned(second) || known.way.unlike.length > 0;
}
const sameTune = ({ heads }: Known, a: number, b: number): boolean => {
  const tune = (bar: number) => heads.filter(({ barIndex }) => barIndex === bar).map(({ pitch, duration, tick }) => JSON.stringify([pitch, duration, tick]));
  return tune(a).join() === tune(b).join();
};

const slursKept = ({ part, heads, strokeOf }: Known): boolean =>
  part.slurs.every(({ onset, endOnset, from }) => {
    const inside = heads.filter((head) => head.onset >= onset && head.onset <= endOnset);
    return new Set(inside.map(({ id }) => strokeOf.get(id))).size === 1 && Boolean(strokeOf.get(from));
  });

const hookedOrSaid = (known: Known): boolean => known.strokes.some(({ hooked }) => hooked) || findings(known, 'bow must race back').length > 0;
const changedInTie = ({ part, strokes }: Known): boolean =>
  part.notes.some((note) => note.tiedFrom && strokes.some(({ noteIds }) => noteIds[0] === note.id)) ||
  strokes.length > part.notes.filter((n) => !n.tiedFrom).length;
const inPart = (known: Known, level: string): Stroke[] => {
  const marks = [...known.part.dynamics].sort((a, b) => a.tick - b.tick);
  return known.strokes.filter((stroke) => {
    const onset = known.part.notes.find(({ id }) => id === stroke.noteIds[0])!.onset;
    return marks.findLast(({ tick }) => tick <= onset)?.text === level;
  });
};
const thirds = (known: Known): [number, number] => {
  const size = Math.max(1, Math.floor(known.strokes.length / 3));
  return [mean(known.strokes.slice(0, size).map(({ cmPerS }) => cmPerS)), mean(known.strokes.slice(-size - 1, -1).map(({ cmPerS }) => cmPerS))];
};
/** Of a change of dynamics the strokes after it. */
const placed = (known: Known): Stroke[] => (known.phrase.kind === 'place' ? inPart(known, known.part.dynamics.at(-1)!.text) : known.strokes);
const lane = (known: Known): string => median(known.strokes.map(({ sound }) => sound.contact)).toFixed(3);

/** Each question: a pattern of its words, and whether it holds. */
const QUESTIONS: ReadonlyArray<readonly [RegExp, (known: Known, words: RegExpExecArray) => boolean]> = [
  [/^printed slurs kept$/, slursKept],
  [
    /^no slurs or hooks added$/,
    (k) =>
      k.strokes.every(({ hooked }) => !hooked) &&
      k.strokes.every(
        (s) => s.noteIds.length === 1 || k.part.slurs.length > 0 || s.noteIds.every((id) => !k.heads.some((h) => h.id === id) || id === s.noteIds[0]),
      ),
  ],
  [/^(?:cm|each slur|no bow-time wasted: quarter) ([\d.]+)-([\d.]+)(?: cm)?$/, (k, [, a, b]) => between(median(k.strokes.map(({ cm }) => cm)), a, b)],
  [/^lies ([\d.]+)-([\d.]+)$/, (k, [, a, b]) => between(median(placed(k).map(middle)), a, b)],
  [/^no bow finding$/, ({ check }) => check.findings.every(({ kind }) => FINDINGS[kind as FindingKind].side !== 'bow')],
  [/^no "(.+)" of 2\+$/, (k, [, kind]) => findings(k, kind!, 2).length === 0],
  [/^no race back of 2\+$/, (k) => findings(k, 'bow must race back', 2).length === 0],
  [/^no "(.+)"$/, (k, [, kind]) => findings(k, kind!).length === 0],
  [/^says "(.+)"$/, (k, [, kind]) => findings(k, kind!).length > 0],
  [/^said that it is late$/, (k) => findings(k, 'retake late').length > 0],
  [/^rate finding only if over ten a second$/, (k) => findings(k, 'stroke too quick').length === 0],
  [/^hooked, or the race back is said$/, (k) => /^(du)+d?$/i.test(k.row) === false || hookedOrSaid(k)],
  [/^cut at (?:the bar line|bar lines)$/, (k) => cutAtBars(k)],
  [/^begin below a quarter$/, (k) => median(k.strokes.map(({ from }) => from)) < 0.25],
  [/^(?:chord )?begins below \.3$/, (k) => k.strokes.at(-1)!.from < 0.3],
  [/^fp begins below \.4$/, (k) => inPart(k, 'fp').every(({ from }) => from < 0.4)],
  [/^uses most of the bow$/, (k) => Math.abs(k.strokes.at(-1)!.to - k.strokes.at(-1)!.from) > 0.5],
  [/^from the lower part outwards$/, (k) => k.strokes[0]!.from < 0.5 && k.strokes[0]!.to > k.strokes[0]!.from],
  [/^from the upper half$/, (k) => k.strokes[0]!.from >= 0.5 || middle(k.strokes[0]!) >= 0.5],
  [/^takes more and more$/, (k) => thirds(k)[1] > thirds(k)[0] * 1.1],
  [/^takes less and less$/, (k) => thirds(k)[1] < thirds(k)[0] * 0.95],
  [/^bar 4 takes at least 1\.5 times bar 1$/, (k) => mean(of(k, 3).map(({ cm }) => cm)) >= 1.5 * mean(of(k, 0).map(({ cm }) => cm))],
  [/^comes from the upper half or middle/, (k) => mean(of(k, 0).map(middle)) > 0.4 && mean(of(k, 3).map(middle)) < mean(of(k, 0).map(middle))],
  [/^p takes at most \.75 of f$/, (k) => cmOfQuarter(k, 'p') <= 0.75 * cmOfQuarter(k, 'f')],
  [/^p is not at the frog$/, (k) => median(inPart(k, 'p').map(middle)) > 0.2],
  [/^echo takes at most \.8$/, (k) => cmOfQuarter(k, 'p') <= 0.8 * cmOfQuarter(k, 'f')],
  [/^same bows both times, or said$/, twice],
  [
    /^comes round, or said$/,
    (k) => k.strokes[0]!.direction !== k.strokes.at(-1)!.direction || k.way.changes.length > 0 || findings(k, 'repeat does not come round').length > 0,
  ],
  [/^all bars alike$/, (k) => new Set(likeFirst(barRows(k))).size === 1],
  [/^all bars alike \(or turned round\)$/, (k) => alikeOrTurned(likeFirst(barRows(k)))],
  [/^all alike or alternating$/, (k) => /^(d+|u+|(du)+d?|(ud)+u?)$/.test(directions(k.strokes.slice(0, -1)))],
  [/^stays in one place$/, (k) => spread(k) < 0.15],
  [/^changed on the way, or said$/, (k) => changedInTie(k) || findings(k, 'bow runs out').length > 0],
  [/^a change of bow is planned$/, changedInTie],
  [/^last note down$/, (k) => k.strokes.at(-1)!.direction === 'down'],
  [/^begins down$/, (k) => k.strokes[0]!.direction === 'down'],
  [
    /^bar 3 begins down \(or hemiola u d u\)$/,
    (k) => of(k, 2)[0]?.direction === 'down' || /^udu/.test(directions(k.strokes.filter(({ barIndex }) => barIndex >= 2))),
  ],
  [/^bar (\d+) (?:begins )?down$/, (k, [, bar]) => of(k, Number(bar) - 1)[0]?.direction === 'down'],
  [/^more bow at the top$/, (k) => k.strokes[1]!.cmPerS > k.strokes[0]!.cmPerS || k.strokes[0]!.cmPerS > k.strokes.at(-1)!.cmPerS],
  [/^missing$/, (k) => k.strokes.every(({ sound }) => sound.missingDb > -1)],
  [/^lane$/, (k) => laneFits(k)],
  [/^weight$/, (k) => k.strokes.every(({ sound }) => (/pp/.test(k.phrase.music) ? /hardly|light/ : /firm|heavy/).test(sound.weight))],
  [/^vibrato$/, (k) => k.strokes.every(({ sound }) => /none|open|no /.test(sound.vibrato) || sound.vibrato === '')],
  [/^cm\/s at most (\d+)$/, (k, [, most]) => median(k.strokes.map(({ cmPerS }) => cmPerS)) <= Number(most)],
  [/^no stroke over (\d+) cm$/, (k, [, most]) => k.strokes.every(({ cm }) => cm <= Number(most))],
  [/^called spiccato$/, (k) => k.strokes.every(({ kind }) => /spiccato/.test(kind))],
  [/^first <= others$/, ({ bow }) => bow.alternatives.every(({ total }) => bow.alternatives[0]!.total <= total + 1e-6)],
  [/^floor below the wanted tempo$/, ({ check }) => check.tempo.floor === null || check.tempo.floor < check.tempo.wanted],
];

const between = (value: number, least: string | undefined, most: string | undefined): boolean => value >= Number(least) && value <= Number(most);
const cmOfQuarter = (k: Known, level: string): number =>
  mean(
    inPart(k, level)
      .filter(({ barIndex }) => barIndex < lastBar(k))
      .map(({ cmPerS }) => cmPerS),
  );
const alikeOrTurned = (rows: readonly string[]): boolean => rows.every((row) => row === rows[0] || turned(row) === rows[0]);
const spread = (k: Known): number => {
  const starts = k.strokes.filter(({ barIndex, beat }) => beat === 1 && barIndex < lastBar(k)).map(middle);
  return Math.max(...starts) - Math.min(...starts);
};
const cutAtBars = (k: Known): boolean =>
  k.part.slurs.every(({ onset, endOnset }) => {
    const starts = k.heads.filter((head) => head.onset > onset && head.onset <= endOnset && k.strokeOf.get(head.id)!.noteIds[0] === head.id);
    return starts.some((head) => head.tick === 0);
  });
const laneFits = (k: Known): boolean => {
  const soft = /pp/.test(k.phrase.music);
  const words = k.strokes.map(({ sound }) => sound.lane);
  return words.every((each) => (soft ? !/bridge/.test(each) || /away/.test(each) : !/fingerboard/.test(each)));
};

/** @returns the row of directions, and every question with its answer */
export function bowChecksOf(asked: Asked): { row: string; checks: BowCheck[] } {
  const { phrase, xml, bow } = asked;
  const read = readScoreBytes(new TextEncoder().encode(xml));
  if (!read.ok) throw new Error(phrase.name);
  const part = read.value.score.parts[0]!;
  const heads = part.notes.filter((note) => !note.inChord && !note.tiedFrom);
  const way = bow.alternatives[0]!;
  const strokeOf = new Map(way.strokes.flatMap((stroke) => stroke.noteIds.map((id) => [id, stroke] as const)));
  const rowOf = ({ id }: Note): string => {
    const stroke = strokeOf.get(id);
    if (!stroke) return '?';
    const sign = stroke.direction[0]!;
    return stroke.noteIds[0] === id ? sign.toUpperCase() : sign;
  };
  const row = heads
    .filter(({ id }) => strokeOf.has(id))
    .map(rowOf)
    .join('');
  const known: Known = { ...asked, part, heads: heads.filter(({ id }) => strokeOf.has(id)), way, strokes: way.strokes, strokeOf, row };
  const checks: BowCheck[] = [];
  if (phrase.accept) checks.push({ said: phrase.accept.join(' or '), sure: phrase.sure, holds: phrase.accept.some((each) => accepts(each, row)), found: row });
  for (const words of phrase.also ?? []) {
    const said = words.replace(/ \(taste\)$/, '');
    const question = QUESTIONS.find(([pattern]) => pattern.test(said));
    if (!question) throw new Error(`${phrase.name}: nobody knows what "${said}" asks`);
    const found = `${row}; cm ${median(way.strokes.map(({ cm }) => cm)).toFixed(1)}, lies ${median(way.strokes.map(middle)).toFixed(2)}, contact ${lane(known)}, ${asked.check.findings.map(({ kind, severity }) => `${kind} ${severity}`).join(', ')}`;
    checks.push({ said: words, sure: phrase.sure && said === words, holds: question[1](known, question[0].exec(said)!), found });
  }
  return { row, checks };
}

/** Where the wanted row has capitals a capital begins a stroke; without them only directions count. */
function accepts(wanted: string, row: string): boolean {
  const pattern = /^\/(.*)\/(i?)$/.exec(wanted);
  if (pattern) return new RegExp(pattern[1]!, pattern[2]).test(row);
  const plain = wanted.replace(/ /g, '');
  return /[DU]/.test(plain) ? row === plain : row.toLowerCase() === plain;
}
