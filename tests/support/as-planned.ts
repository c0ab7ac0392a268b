/**
 * What the program says of the tuned phrases today, to the last figure (tests/data/as-planned): a constant, comparison or branch that is
 * changed by mistake is seen there. What is changed on purpose is written anew by `npm run agreement -- --write` and read in the diff.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { z } from 'zod';
import type { bowShape, checkShape, fingerShape } from '../../headless/shapes';
import { ask, phrasesOf } from './agreement';
import { constantsNow } from './constants';
import type { Phrase } from './phrase-file';

type Recorded = Record<string, string[]>;
export const RECORDS = ['left-hand', 'bow-arm', 'for-whom', 'constants'] as const;
type RecordName = (typeof RECORDS)[number];

const fileOf = (name: RecordName): string => join('tests', 'data', 'as-planned', `${name}.json`);
const recordedBefore = (name: RecordName): Recorded => JSON.parse(readFileSync(fileOf(name), 'utf8')) as Recorded;
export const record = (name: RecordName): void => writeFileSync(fileOf(name), `${JSON.stringify(recordedNow(name), null, 1)}\n`);

function recordedNow(name: RecordName): Recorded {
  if (name === 'for-whom') return forWhom();
  if (name === 'constants') return constantsNow();
  const phrases = phrasesOf(name);
  return Object.fromEntries(phrases.map((phrase) => [phrase.name, name === 'left-hand' ? [...handSaid(phrase), ...checkSaid(phrase)] : bowSaid(phrase)]));
}

/** Three figures: the last ones are not the same on every machine. */
const figure = (value: unknown): unknown => (typeof value === 'number' ? Number(value.toPrecision(3)) : value);

/** What is said otherwise than it was recorded, of the first few phrases: enough to see what it is about. */
export function changedIn(name: RecordName): { now: Recorded; before: Recorded } {
  const [now, before] = [recordedNow(name), recordedBefore(name)];
  const changed = Object.keys({ ...now, ...before }).filter((phrase) => now[phrase]?.join('\n') !== before[phrase]?.join('\n'));
  const of = (all: Recorded): Recorded => Object.fromEntries(changed.slice(0, 3).flatMap((phrase) => (all[phrase] ? [[phrase, all[phrase]]] : [])));
  return { now: of(now), before: of(before) };
}

const pairs = (of: Record<string, unknown>): string =>
  Object.entries(of)
    .filter(([, value]) => value !== null && value !== undefined && Math.abs(Number(value)) !== 0 && !(Math.abs(Number(value)) < 1e-6))
    .map(([key, value]) => `${key} ${typeof value === 'object' ? JSON.stringify(value, (_name, inner) => figure(inner)) : String(figure(value))}`)
    .join(', ');

function handSaid(phrase: Phrase, ...options: string[]): string[] {
  const { alternatives, advice } = ask<z.infer<typeof fingerShape>>(phrase, 'finger', ['-k', '5', ...options]);
  return [
    ...alternatives.map(
      ({ notes, total, terms, strategy }) =>
        `${notes.map(({ finger }) => finger).join('')}@${notes.map(({ string }) => string).join('')} ${total} ${strategy}: ${pairs(terms)}`,
    ),
    ...(alternatives[0]?.notes ?? []).flatMap(({ shift, extension, position, covered, harmonic }) =>
      shift || extension || covered || harmonic ? [`${position}: ${pairs({ shift, extension, covered, harmonic })}`] : [],
    ),
    ...advice.map(({ kind, text }) => `${kind}: ${text}`),
  ];
}

function bowSaid(phrase: Phrase): string[] {
  const { alternatives } = ask<z.infer<typeof bowShape>>(phrase, 'bow', ['-k', '4']);
  return [
    ...alternatives.flatMap(({ strokes, total, terms, strategy, changes, tempo, unlike, resets }, i) => [
      `${strategy} ${total}: ${pairs(terms)}`,
      strokes
        .map(
          ({ direction, from, to, retake, hooked }) =>
            `${retake ? 'r' : ''}${hooked ? 'h' : ''}${direction[0]!}${Math.round(from * 1000) / 10}-${Math.round(to * 1000) / 10}`,
        )
        .join(' '),
      ...(i > 0
        ? []
        : [
            strokes
              .map(({ kind, zone, sound }) => [kind, zone, figure(sound.contact), sound.weight, sound.vibrato, figure(sound.missingDb)].join(' '))
              .filter((said, k, all) => k === 0 || said !== all[k - 1])
              .join('; '),
            ...changes.map(({ kind, bar, beat, why }) => `${kind} ${bar}/${beat}: ${why}`),
            pairs({ ...tempo, unlike: unlike.length ? unlike : null, resets: resets.length ? resets : null }),
          ]),
    ]),
    ...checkSaid(phrase),
  ];
}

function checkSaid(phrase: Phrase, ...options: string[]): string[] {
  const { findings, tempo } = ask<z.infer<typeof checkShape>>(phrase, 'check', ['--remedies', 'none', '--ceiling', 'planned', ...options]);
  return [
    `check ${pairs({ ...tempo, limitedBy: tempo.limitedBy && `${tempo.limitedBy.kind} ${tempo.limitedBy.bar}/${tempo.limitedBy.beat}` })}`,
    ...findings.map(
      ({ kind, bar, beat, severity, numbers, hear }) => `${bar}/${beat} ${kind} ${severity}: ${pairs(numbers)}${hear.map((way) => ` [${way.kind}]`).join('')}`,
    ),
  ];
}

/** The same few phrases for other players and tastes. */
const FOR_WHOM: readonly string[][] = [
  ['--level', 'beginner'],
  ['--level', 'intermediate', '--hand', 'small'],
  ['--level', 'professional', '--hand', 'large'],
  ['--hand', '60/70'],
  ...['first position', 'orchestral', 'singing', 'historical'].map((preset) => ['--set', `preset=${preset}`]),
  ...['open-strings=open', 'open-strings=stopped', 'chromatic=finger each', 'chromatic=sliding', 'slides=wanted', 'thumb-from=5', 'pitch=just'].map((set) => [
    '--set',
    set,
  ]),
  ['--tempo', '50'],
  ['--tempo', '180'],
];
/** Of the phrases every so many. */
const EVERY = 24;

const forWhom = (): Recorded =>
  Object.fromEntries(
    [...phrasesOf('left-hand'), ...phrasesOf('bow-arm')]
      .filter(({ options }, i) => i % EVERY === 0 && !options)
      .flatMap((phrase) =>
        FOR_WHOM.map((options) => [`${phrase.name} ${options.join(' ')}`, [...handSaid(phrase, ...options).slice(0, 2), ...checkSaid(phrase, ...options)]]),
      ),
  );
