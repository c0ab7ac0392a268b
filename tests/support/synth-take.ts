/** Takes that are made: a bowed tone with harmonics, vibrato, noise and room, errors of pitch and time planted and known exactly. */
import type { LineEvent } from '../../core/instruments/lines';
import { frequencyHz, midiOf } from '../../core/score/pitch';
import type { Clock } from '../../core/score/time';
import { chance } from './random-score';

export interface SynthAsked {
  events: readonly LineEvent[];
  slurred: readonly boolean[];
  clock: Clock;
  seed: number;
  rate?: number;
  /** So many times as quick as the clock says. */
  pace?: number;
  /** dB between tone and noise. */
  snrDb?: number;
  /** Cents of the whole instrument. */
  tuning?: number;
  /** Standard deviation of each note, cents; or the cents of each note. */
  spread?: number | readonly number[];
  /** Notes that are left out; half steps that are played instead. */
  missing?: ReadonlySet<number>;
  wrong?: ReadonlyMap<number, number>;
  /** Seconds in which the room falls by 60 dB; 0 for none. */
  reverbS?: number;
  /** Order in which events are played; all once otherwise. */
  order?: readonly number[];
}

export interface SynthTake {
  samples: Float32Array;
  rate: number;
  /** In the order of playing. */
  truth: Array<{ event: number; onsetS: number; endS: number; cents: number }>;
}

/** Seconds of the room before the first note. */
const BEFORE_S = 0.8;

/** Two numbers of chance into a normally distributed one (Box and Muller 1958). */
export function normals(seed: number): () => number {
  const { below } = chance(seed);
  const uniform = () => (below(1_000_000) + 0.5) / 1_000_000;
  return () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
}

export function synthTake(asked: SynthAsked): SynthTake {
  const { events, slurred, clock, seed, rate = 44_100, pace = 1, snrDb = 30, tuning = 0, spread = 12, reverbS = 0.3 } = asked;
  const normal = normals(seed);
  const order = (asked.order ?? events.map((_, i) => i)).filter((i) => !asked.missing?.has(i));
  let at = BEFORE_S;
  let drift = 0;
  const truth = order.map((event, k) => {
    const { onset, end } = events[event]!;
    const next = order[k + 1] !== undefined && order[k + 1] === event + 1 ? events[event + 1]!.onset : end;
    drift = 0.8 * drift + 0.012 * normal();
    const lasts = (Math.max(0.03, clock.secondsAt(end) - clock.secondsAt(onset)) / pace) * (1 + drift);
    const until = (Math.max(0.03, clock.secondsAt(next) - clock.secondsAt(onset)) / pace) * (1 + drift);
    const joined = slurred[event + 1] === true && order[k + 1] === event + 1;
    const cents = typeof spread === 'number' ? spread * normal() : spread[event]!;
    const note = { event, onsetS: at, endS: at + (joined ? until : Math.max(0.03, lasts - 0.03)), cents };
    at += until;
    return note;
  });
  const samples = new Float64Array(Math.ceil((at + 0.6) * rate));
  for (const note of truth) tone(samples, rate, note, events[note.event]!, tuning + note.cents, asked.wrong?.get(note.event) ?? 0, normal);
  if (reverbS > 0) reverb(samples, rate, reverbS);
  let power = 0;
  let loud = 0;
  for (const sample of samples) if (Math.abs(sample) > 0.02) [power, loud] = [power + sample * sample, loud + 1];
  const noise = Math.sqrt(power / Math.max(1, loud)) * 10 ** (-snrDb / 20);
  // Darker than white, as rooms are.
  let low = 0;
  const out = new Float32Array(samples.length);
  samples.forEach((sample, i) => {
    low = 0.7 * low + normal() * 0.714;
    out[i] = (sample + noise * low) * 0.5;
  });
  return { samples: out, rate, truth };
}

function tone(
  samples: Float64Array,
  rate: number,
  { onsetS, endS }: { onsetS: number; endS: number },
  event: LineEvent,
  cents: number,
  halfSteps: number,
  normal: () => number,
): void {
  const [from, to] = [Math.round(onsetS * rate), Math.round(endS * rate)];
  const release = Math.round(0.05 * rate);
  const attack = Math.round(0.03 * rate);
  for (const { pitch } of event.notes) {
    const base = frequencyHz(midiOf(pitch) + halfSteps) * 2 ** (cents / 1_200);
    const bright = 0.9 + 0.25 * Math.abs(normal());
    const count = Math.max(3, Math.min(18, Math.floor(7_000 / base)));
    const amplitude = Array.from({ length: count }, (_, h) => 0.3 / (h + 1) ** bright / event.notes.length);
    const vibrato = endS - onsetS > 0.35 ? 10 + 4 * Math.abs(normal()) : 0;
    const [rateHz, start] = [5 + 0.4 * normal(), 3 * normal()];
    let phase = 10 * normal();
    for (let i = from; i < to + release && i < samples.length; i++) {
      const t = (i - from) / rate;
      // It sets in when the tone stands.
      const width = vibrato * Math.max(0, Math.min(1, (t - 0.12) / 0.2));
      phase += ((2 * Math.PI * base) / rate) * 2 ** ((width * Math.sin(2 * Math.PI * rateHz * t + start)) / 1_200);
      const envelope = Math.min(1, (i - from) / attack) * (i > to ? 1 - (i - to) / release : 1);
      let value = 0;
      for (let h = 0; h < count; h++) value += amplitude[h]! * Math.sin((h + 1) * phase);
      samples[i]! += envelope * value;
    }
  }
}

/** Four combs in parallel (Schroeder 1962), a fifth of it mixed in. */
function reverb(samples: Float64Array, rate: number, seconds: number): void {
  const wet = new Float64Array(samples.length);
  for (const delayS of [0.0297, 0.0371, 0.0411, 0.0437]) {
    const delay = Math.round(delayS * rate);
    const gain = 10 ** ((-3 * delayS) / seconds);
    const line = new Float64Array(samples.length);
    for (let i = 0; i < samples.length; i++) {
      line[i] = samples[i]! + (i >= delay ? gain * line[i - delay]! : 0);
      if (i >= delay) wet[i]! += line[i - delay]! / 4;
    }
  }
  for (let i = 0; i < samples.length; i++) samples[i]! += 0.2 * wet[i]!;
}

/** One channel, 16 bit. */
export function wavOf(samples: Float32Array, rate: number): Uint8Array {
  const view = new DataView(new ArrayBuffer(44 + 2 * samples.length));
  const text = (at: number, said: string) => [...said].forEach((letter, i) => view.setUint8(at + i, letter.charCodeAt(0)));
  text(0, 'RIFF');
  view.setUint32(4, 36 + 2 * samples.length, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, 2 * rate, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  text(36, 'data');
  view.setUint32(40, 2 * samples.length, true);
  samples.forEach((sample, i) => view.setInt16(44 + 2 * i, Math.round(Math.max(-1, Math.min(1, sample)) * 32_767), true));
  return new Uint8Array(view.buffer);
}
