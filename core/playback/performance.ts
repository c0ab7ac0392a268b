/**
 * A passage as it would sound when played as planned: tones with the string they are on, new bows and slurred notes, shares of
 * sounding by articulation, slides where a shift is heard, and the beats for a count-in and a click.
 */
import { slideSeconds } from '../left-hand/shift';
import { GRACE_S } from '../score/time';
import { feltBeat, wholeBarTicks } from '../score/beat';
import { midiOf } from '../score/pitch';
import { loudnessOf } from '../score/loudness';
import { pizzicatoAt } from '../score/techniques';
import type { Line, LineEvent } from '../instruments/lines';
import type { Articulation, Note, Part } from '../score/score';
import type { Clock } from '../score/time';
import type { Instrument } from '../instruments/instrument';
import type { FingeredNote } from '../left-hand/fingering';
import { artificialOf } from '../left-hand/artificial';
import type { TickRange } from '../score/bars';

export interface Tone {
  noteIds: string[];
  /** Seconds from the start of the part. */
  startS: number;
  endS: number;
  /** Sounding frequency, equal temperament. */
  hertz: number;
  /** 1 is the highest. */
  string: number;
  /** 0 to 1. */
  level: number;
  plucked: boolean;
  /** Goes on under the same bow as the tone before it on this string. */
  slurred: boolean;
  accented: boolean;
  harmonic: boolean;
  /** Where the pitch slides to before it ends, when the shift after it is heard. */
  slide: { fromS: number; hertz: number } | null;
}

export interface Beat {
  s: number;
  /** First of its bar. */
  strong: boolean;
}

export interface Performance {
  tones: Tone[];
  beats: Beat[];
  /** One bar in the tempo of the beginning; times are negative from the beginning. */
  countIn: Beat[];
  fromS: number;
  toS: number;
}

export interface PerformanceRequest {
  /** With the edits in force. */
  part: Part;
  line: Line;
  fingering: readonly FingeredNote[];
  /** First notes of all strokes; any other note goes on under the bow. */
  newBows: ReadonlySet<string>;
  instrument: Instrument;
  clock: Pick<Clock, 'secondsAt'>;
  within: TickRange;
}

/** A4 (ISO 16:1975). */
const A4_HERTZ = 440;
const A4_MIDI = 69;

/** Frequency in equal temperament; halves of a half step allowed. @example hertzOf(69) === 440 */
export const hertzOf = (midi: number): number => A4_HERTZ * 2 ** ((midi - A4_MIDI) / 12);

/** Share of its time that a note sounds (judgement; dots in a singing style about half: common practice). */
const SHARES: ReadonlyArray<readonly [articulation: Articulation, share: number]> = [
  ['staccatissimo', 0.3],
  ['spiccato', 0.4],
  ['staccato', 0.5],
  ['portato', 0.85],
  ['strong-accent', 0.85],
  ['tenuto', 1],
];
const PLAIN_SHARE = 0.94;

/** Seconds of a slide at most, and the share of the note before that it may take (judgement). */

export function performanceOf(request: PerformanceRequest): Performance {
  const { part, line, clock, within } = request;
  const loudness = loudnessOf(part);
  const plucked = pizzicatoAt(part);
  const fingered = new Map(request.fingering.map((note) => [note.id, note]));
  const events = line.events.filter((event) => event.onset >= within.from && event.onset < within.to);
  const tones: Tone[] = [];
  let last: Tone[] = [];
  events.forEach((event, i) => {
    const slurred = !event.ids.some((id) => request.newBows.has(id)) && last.length > 0;
    const next = events[i + 1];
    const linked = next !== undefined && !next.ids.some((id) => request.newBows.has(id)) && next.onset <= event.end;
    const { startS, endS } = spanOf(events, i, clock, within);
    const share = linked ? 1 : shareOf(event.notes[0]!);
    const made = soundsOf(event, fingered, request.instrument).map(({ hertz, string, harmonic }): Tone => {
      const level = levelOf(loudness.stepsAt(event.onset), event.notes[0]!);
      return {
        noteIds: event.ids,
        startS,
        endS: startS + (endS - startS) * share,
        hertz,
        string,
        level,
        plucked: plucked(event.onset) || event.notes[0]!.leftPlucked,
        slurred: slurred && last.some((tone) => tone.string === string),
        accented: event.notes[0]!.articulations.some((each) => each.includes('accent')),
        harmonic,
        slide: null,
      };
    });
    slideInto(fingered.get(event.notes[0]!.id), last, made, startS, request.instrument);
    tones.push(...made);
    last = made;
  });
  const first = events[0]?.onset ?? within.from;
  const beats = beatsOf(part, { from: first, to: within.to }).map(({ tick, strong }) => ({ s: clock.secondsAt(tick), strong }));
  return { tones, beats, countIn: countInOf(part, first, clock), fromS: clock.secondsAt(first), toS: clock.secondsAt(within.to) };
}

function spanOf(events: readonly LineEvent[], i: number, clock: Pick<Clock, 'secondsAt'>, within: TickRange): { startS: number; endS: number } {
  const event = events[i]!;
  const onsetS = clock.secondsAt(event.onset);
  if (!event.grace) {
    // Grace notes before the next beat take their time from this note.
    let graces = 0;
    while (events[i + 1 + graces]?.grace) graces++;
    const endS = clock.secondsAt(Math.min(event.end, within.to));
    return { startS: onsetS, endS: graces ? Math.max(onsetS + 0.05, Math.min(endS, clock.secondsAt(events[i + 1]!.onset) - graces * GRACE_S)) : endS };
  }
  let after = 0;
  while (events[i + 1 + after]?.grace && events[i + 1 + after]!.onset === event.onset) after++;
  const endS = onsetS - after * GRACE_S;
  return { startS: endS - GRACE_S, endS };
}

function shareOf(note: Note): number {
  if (note.fermata) return 1;
  for (const [articulation, share] of SHARES) if (note.articulations.includes(articulation)) return share;
  return PLAIN_SHARE;
}

/** From ppp to fff in steps of about 5 dB; an accent a step more. */
function levelOf(steps: number, note: Note): number {
  const accent = note.articulations.some((each) => each.includes('accent')) ? 0.7 : 0;
  return Math.min(1, 10 ** ((-5 * (7 - Math.min(7, steps + accent))) / 20));
}

interface Sound {
  hertz: number;
  string: number;
  harmonic: boolean;
}

/** What sounds: stopped and open strings as written, harmonics as the string gives them. */
function soundsOf(event: LineEvent, fingered: ReadonlyMap<string, FingeredNote>, { strings }: Instrument): Sound[] {
  const isOpen = (note: Note) => fingered.get(note.id)?.place.finger === 0;
  const artificial = event.notes.some((note) => note.harmonic === 'artificial' && !isOpen(note)) ? artificialOf(event.notes) : null;
  if (artificial) {
    const string = fingered.get(event.notes[0]!.id)?.place.string ?? 1;
    return [{ hertz: hertzOf(midiOf(artificial.base) + artificial.touch.sounds), string, harmonic: true }];
  }
  return event.notes.map((note, i) => {
    const place = fingered.get(note.id)?.place;
    const string = place?.string ?? Math.min(strings.length, event.notes.length - i);
    if (place && place.harmonic !== null) return { hertz: hertzOf(midiOf(strings[string - 1]!)) * place.harmonic, string, harmonic: true };
    // An open string sounds as itself, whatever is written: also where only the strings are played.
    const open = strings[string - 1];
    return { hertz: hertzOf(place?.finger === 0 && open ? midiOf(open) : midiOf(note.pitch)), string, harmonic: false };
  });
}

/** A shift that is heard slides on the note before it: with the same finger into the new note, with the old one to the guide note. */
function slideInto(to: FingeredNote | undefined, last: readonly Tone[], made: readonly Tone[], startS: number, { strings }: Instrument): void {
  const shift = to?.shift;
  const [tone] = last;
  if (!shift || !tone || last.length > 1 || made.length !== 1 || tone.plucked) return;
  const heard = shift.heard === 'in a slur' || (shift.kind === 'same finger' && shift.heard === 'at a bow change');
  if (!heard || tone.endS < startS - 0.02) return;
  const seconds = slideSeconds(tone.endS - tone.startS);
  const hertz = shift.guide ? hertzOf(midiOf(strings[shift.guide.string - 1]!) + shift.guide.stop) : made[0]!.hertz;
  tone.slide = { fromS: tone.endS - seconds, hertz };
}

function beatsOf(part: Part, { from, to }: TickRange): Array<{ tick: number; strong: boolean }> {
  const beats: Array<{ tick: number; strong: boolean }> = [];
  for (const bar of part.bars) {
    if (bar.onset + bar.ticks <= from || bar.onset >= to) continue;
    const step = feltBeat(bar);
    const first = bar.onset + ((step - (bar.into % step)) % step);
    for (let tick = first; tick < bar.onset + bar.ticks; tick += step)
      if (tick >= from && tick < to) beats.push({ tick, strong: tick - bar.onset + bar.into === 0 });
  }
  return beats;
}

/** A whole bar before the beginning, less what an upbeat (or a start in mid-bar) takes of it, in the tempo of the beginning. */
function countInOf(part: Part, first: number, clock: Pick<Clock, 'secondsAt'>): Beat[] {
  const bar = part.bars.find((each) => first >= each.onset && first < each.onset + each.ticks);
  if (!bar) return [];
  const step = feltBeat(bar);
  const whole = wholeBarTicks(bar);
  const secondsPerTick = (clock.secondsAt(first + step) - clock.secondsAt(first)) / step;
  const missing = bar.into + (first - bar.onset);
  const beats: Beat[] = [];
  for (let tick = -whole - missing; tick < -1e-9; tick += step) {
    // Counted from the first beat of the bar that leads in.
    beats.push({ s: clock.secondsAt(first) + tick * secondsPerTick, strong: Math.abs((tick + missing) % whole) < 1e-9 });
  }
  return missing > 0 ? beats.filter(({ s }) => s >= clock.secondsAt(first) - (missing + whole) * secondsPerTick - 1e-9) : beats;
}
