/** The command line of bin/omaggio. */
import { FASTEST_TEMPO, SLOWEST_TEMPO } from '../core/score/time';
import { parseArgs } from 'node:util';
import { bad, good, type Result } from '../core/util/result';
import { SOUNDS, type Sounds } from '../core/instruments/as-told';
import { INSTRUMENT_KINDS } from '../core/instruments/instrument';
import { HAND_SIZES, LEVELS, type HandSize, type Level, type MeasuredHand } from '../core/instruments/player';
import type { InstrumentKind } from '../core/score/score';
import { DENSITIES, type Density } from '../core/left-hand/worth-writing';
import { preferenceHelp } from './preferences';

export const COMMANDS = ['parts', 'notes', 'finger', 'bow', 'check', 'drill', 'plan', 'listen', 'score', 'print'] as const;
export const PAPER_NAMES = ['a4', 'letter'] as const;
export type Command = (typeof COMMANDS)[number];
/** Those that answer in words and numbers. */
export type Answering = Exclude<Command, 'print'>;

export interface Options {
  command: Command;
  file: string;
  /** With listen: the recording. */
  take: string | null;
  json: boolean;
  part: string | null;
  bars: string | null;
  instrument: InstrumentKind | null;
  size: string | null;
  tuning: string | null;
  sounds: Sounds;
  level: Level;
  hand: HandSize;
  measured: MeasuredHand | null;
  /** Another player to compare the fingering with. */
  against: { instrument: InstrumentKind; size: string | null; hand: HandSize; measured: MeasuredHand | null } | null;
  tempo: number | null;
  /** Preferences as they were said; what they mean is read by preferences.ts. */
  set: ReadonlyArray<readonly [name: string, value: string]>;
  marks: string | null;
  /** How many fingers are written into the marked score. */
  write: Density;
  /** With check: whether what helps is worked out. */
  remedies: 'all' | 'none';
  ceiling: 'best' | 'planned';
  alternatives: number;
  out: string | null;
  paper: (typeof PAPER_NAMES)[number];
  /** Height of the staff on paper, mm. */
  staffMm: number;
  /** Of a divided part, from 0; null for all that is printed. */
  line: number | null;
  /** Which drill; null for all that fit. */
  kind: string | null;
  until: string | null;
  today: string | null;
  /** Of practice on a day. */
  minutes: number;
}

export const USAGE = `bin/omaggio COMMAND FILE [options]      FILE may be - for standard input

  parts     the parts of a score
  notes     every note of a part
  finger    fingerings, the best first
  bow       bow directions and distribution, the best first
  check     what will go wrong, and the tempo at which it does not
  drill     a passage as exercises (--bars; with --kind and -o one of them as MusicXML)
  plan      which passage on which day until a date (--until, --minutes)
  listen    a take against the part: FILE TAKE.wav
  score     which parts play together, what differs in them, and the tempo for all
  print     a part on paper, marks and all, in pages that can be turned (-o FILE.pdf)
  doctor    what is wrong with the data of the Omaggio that bin/start starts, and what to do (no FILE)

  --part NAME|ID|NUMBER     which part (the first string part otherwise)
  --bars 5-12               only these bars, as people say them: 5-12, E, E+2, -6
  --instrument violin|viola|cello|bass[:SIZE]   such as cello:3/4 or viola:15.5"
  --tuning orchestral|solo|low-B|low-C|high-C|extension|E1,A1,D2,G2   a name, or sounding, low to high
  --sounds ${SOUNDS.join('|')}   how the written notes sound
  --level ${LEVELS.join('|')}
  --hand ${HAND_SIZES.join('|')}|MM/MM   measured, first to fourth finger: comfortable/greatest, such as 95/120
  --against KIND[:SIZE][,HAND]   with finger: another player, and which notes make the difference
  --tempo 96                quarters per minute at the first tempo mark
  --set PREFERENCE=VALUE    how to play, or a cost of the model; may be repeated:
${preferenceHelp()}
  --marks FILE              marks to plan around: {"marks":[{"id","kind","value"}]}
  -k N                      how many alternatives (3)
  -o FILE                   the marked score: the marks, and for finger and bow the best alternative
  --write sparse|usual|every-note   how many fingers are written into it
  --ceiling best|planned    with check: tempi with the best marks for each, or with the plan for the wanted tempo alone
  --remedies all|none       with check: whether what helps is worked out for every finding
  --kind NAME               with drill: which one
  --until 2026-12-18        with plan: the day that it is for
  --minutes 25              with plan: minutes a day
  --today 2026-12-01        with plan: the first day, if it is not today
  --paper a4|letter         with print
  --staff 6.8               with print: height of the staff in mm, 4 to 9
  --line 1                  with print and listen: only this line of a divided part
  --json                    for programs
`;

const FLAGS = {
  part: { type: 'string' },
  bars: { type: 'string' },
  instrument: { type: 'string' },
  tuning: { type: 'string' },
  sounds: { type: 'string' },
  level: { type: 'string' },
  hand: { type: 'string' },
  against: { type: 'string' },
  tempo: { type: 'string' },
  set: { type: 'string', multiple: true },
  marks: { type: 'string' },
  remedies: { type: 'string' },
  ceiling: { type: 'string' },
  write: { type: 'string' },
  alternatives: { type: 'string', short: 'k' },
  out: { type: 'string', short: 'o' },
  paper: { type: 'string' },
  staff: { type: 'string' },
  line: { type: 'string' },
  kind: { type: 'string' },
  until: { type: 'string' },
  today: { type: 'string' },
  minutes: { type: 'string' },
  json: { type: 'boolean' },
} as const;

export function readOptions(argv: readonly string[]): Result<Options> {
  let parsed;
  try {
    parsed = parseArgs({
      args: [...argv],
      allowPositionals: true,
      options: FLAGS,
    });
  } catch (error) {
    return bad('command line', `${(error as Error).message.split('. ')[0]}.`, 'Run bin/omaggio without arguments to see all options.');
  }
  const { values, positionals } = parsed;
  const command = oneOf('command', positionals[0] ?? '', COMMANDS);
  if (!command.ok) return command;
  const [, file, take] = positionals;
  if (file === undefined || positionals.length > (command.value === 'listen' ? 3 : 2))
    return bad('command line', `Expected one file, got ${positionals.length - 1}.`, 'Give one MusicXML file, or - for standard input.');
  const [kind, size] = splitOnce(values.instrument ?? '', ':');
  const instrument = kind ? oneOf('--instrument', kind, INSTRUMENT_KINDS) : good(null);
  if (!instrument.ok) return instrument;
  const sounds = oneOf('--sounds', values.sounds ?? 'file', SOUNDS);
  if (!sounds.ok) return sounds;
  const level = oneOf('--level', values.level ?? 'advanced', LEVELS);
  if (!level.ok) return level;
  const hand = handIn('--hand', values.hand ?? 'medium');
  if (!hand.ok) return hand;
  const against = values.against === undefined ? good(null) : otherPlayer(values.against);
  if (!against.ok) return against;
  const tempo = values.tempo === undefined ? good(null) : numberIn('--tempo', values.tempo, SLOWEST_TEMPO, FASTEST_TEMPO);
  if (!tempo.ok) return tempo;
  const write = oneOf('--write', (values.write ?? 'usual').replace('-', ' '), DENSITIES);
  if (!write.ok) return write;
  const remedies = oneOf('--remedies', values.remedies ?? 'all', ['all', 'none'] as const);
  if (!remedies.ok) return remedies;
  const ceiling = oneOf('--ceiling', values.ceiling ?? 'best', ['best', 'planned'] as const);
  if (!ceiling.ok) return ceiling;
  const alternatives = numberIn('-k', values.alternatives ?? '3', 1, 12);
  if (!alternatives.ok) return alternatives;
  const minutes = numberIn('--minutes', values.minutes ?? '25', 0, 600);
  if (!minutes.ok) return minutes;
  const onPaper = paperOptions(values);
  if (!onPaper.ok) return onPaper;
  const set = (values.set ?? []).map((entry) => splitOnce(entry, '=')).map(([name, value]) => [name, value ?? ''] as const);
  return good({
    command: command.value,
    file,
    take: take ?? null,
    json: values.json ?? false,
    part: values.part ?? null,
    bars: values.bars ?? null,
    instrument: instrument.value,
    size: size ?? null,
    tuning: values.tuning ?? null,
    sounds: sounds.value,
    level: level.value,
    ...hand.value,
    against: against.value,
    tempo: tempo.value,
    set,
    marks: values.marks ?? null,
    write: write.value,
    remedies: remedies.value,
    ceiling: ceiling.value,
    alternatives: Math.round(alternatives.value),
    out: values.out ?? null,
    ...onPaper.value,
    kind: values.kind?.replaceAll('-', ' ') ?? null,
    until: values.until ?? null,
    today: values.today ?? null,
    minutes: minutes.value,
  });
}

function paperOptions(values: { paper?: string; staff?: string; line?: string }): Result<Pick<Options, 'paper' | 'staffMm' | 'line'>> {
  const paper = oneOf('--paper', values.paper ?? 'a4', PAPER_NAMES);
  if (!paper.ok) return paper;
  const staffMm = numberIn('--staff', values.staff ?? '6.8', 4, 9);
  if (!staffMm.ok) return staffMm;
  const line = values.line === undefined ? good(null) : numberIn('--line', values.line, 1, 20);
  if (!line.ok) return line;
  return good({ paper: paper.value, staffMm: staffMm.value, line: line.value === null ? null : Math.round(line.value) - 1 });
}

/** A preset, or millimetres from first to fourth finger. */
function handIn(name: string, text: string): Result<{ hand: HandSize; measured: MeasuredHand | null }> {
  const measured = /^(\d+(?:\.\d+)?)\/(\d+(?:\.\d+)?)$/.exec(text);
  if (measured) return good({ hand: 'medium', measured: { comfortable: Number(measured[1]), greatest: Number(measured[2]) } });
  const hand = oneOf(name, text, HAND_SIZES);
  return hand.ok ? good({ hand: hand.value, measured: null }) : hand;
}

/** "viola:16.5",large": instrument, size and hand of another player. */
function otherPlayer(text: string): Result<NonNullable<Options['against']>> {
  const [player, handText] = splitOnce(text, ',');
  const [kind, size] = splitOnce(player, ':');
  const instrument = oneOf('--against', kind, INSTRUMENT_KINDS);
  if (!instrument.ok) return instrument;
  const hand = handIn('--against', handText ?? 'medium');
  return hand.ok ? good({ instrument: instrument.value, size: size ?? null, ...hand.value }) : hand;
}

function oneOf<T extends string>(name: string, value: string, allowed: readonly T[]): Result<T> {
  return (allowed as readonly string[]).includes(value)
    ? good(value as T)
    : bad(name, value ? `"${value}" is not known.` : 'It is missing.', `Use one of ${allowed.join(', ')}.`);
}

function numberIn(name: string, text: string, least: number, most: number): Result<number> {
  const value = Number(text);
  return text.trim() !== '' && Number.isFinite(value) && value >= least && value <= most
    ? good(value)
    : bad(name, `"${text}" is no number from ${least} to ${most}.`, 'Give a plain number, such as 96.');
}

function splitOnce(text: string, at: string): [string, string | undefined] {
  const place = text.indexOf(at);
  return place < 0 ? [text, undefined] : [text.slice(0, place), text.slice(place + 1)];
}
