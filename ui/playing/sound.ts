'use client';

/**
 * What a passage sounds like: one plain bowed tone of our own for each string (a sawtooth through a filter, a little vibrato),
 * plucked strings, harmonics, a click. The package is fetched from our own server when something is played for the first time.
 */
import type { Performance, Tone as Played } from '@/core/playback/performance';

export interface SoundOptions {
  sound: boolean;
  click: boolean;
  countIn: boolean;
  /** 1 is the wanted tempo. */
  speed: number;
}

type Package = typeof import('tone');
type Context = InstanceType<Package['Context']>;

/** Seconds between asking and sounding, so that the first note is not cut. */
const READY_S = 0.15;

export class SoundPlayer {
  /** Of the passage that sounds: what is stopped goes with everything in it, and the context is closed. */
  private context: Context | null = null;
  /** Counts the starts: one that was overtaken while its package came makes no sound. */
  private run = 0;

  /**
   * Starts to play; the answer says where in the music it is, in seconds of the part (before its beginning while it counts in).
   * Null where it was stopped or started anew meanwhile.
   */
  async start(performance: Performance, options: SoundOptions): Promise<(() => number) | null> {
    this.stop();
    const mine = ++this.run;
    const tone = await import('tone');
    if (mine !== this.run) return null;
    const context = new tone.Context({ latencyHint: 'interactive' });
    this.context = context;
    tone.setContext(context);
    await context.resume();
    if (mine !== this.run) return null;
    const { fromS, countIn } = performance;
    const countInS = options.countIn && countIn[0] ? (fromS - countIn[0].s) / options.speed : 0;
    const beginning = context.currentTime + READY_S + countInS;
    const at = (s: number) => beginning + (s - fromS) / options.speed;
    const out = new tone.Limiter(-3).toDestination();
    if (options.sound) this.strings(tone, performance.tones, at, out);
    const beats = [...(options.countIn ? countIn : []), ...(options.click ? performance.beats : [])];
    if (beats.length) this.clicks(tone, beats, at, out);
    return () => fromS + (context.currentTime - beginning) * options.speed;
  }

  stop(): void {
    this.run++;
    this.context?.dispose();
    this.context = null;
  }

  private strings(tone: Package, tones: readonly Played[], at: (s: number) => number, out: InstanceType<Package['Limiter']>): void {
    for (const string of new Set(tones.map((each) => each.string))) {
      const own = tones.filter((each) => each.string === string);
      const bowed = own.filter((each) => !each.plucked && !each.harmonic);
      if (bowed.length) this.bowed(tone, bowed, at, out);
      const plucked = own.filter((each) => each.plucked);
      if (plucked.length) {
        const voice = new tone.MonoSynth({
          oscillator: { type: 'sawtooth' },
          envelope: { attack: 0.002, decay: 0.5, sustain: 0, release: 0.2 },
          filterEnvelope: { attack: 0.001, decay: 0.25, sustain: 0, release: 0.2, baseFrequency: 220, octaves: 3.5 },
          volume: -8,
        });
        voice.connect(out);
        for (const { hertz, startS, level } of plucked) voice.triggerAttackRelease(hertz, 0.35, at(startS), Math.max(0.3, level));
      }
      const harmonics = own.filter((each) => each.harmonic && !each.plucked);
      if (harmonics.length) {
        const voice = new tone.Synth({ oscillator: { type: 'triangle' }, envelope: { attack: 0.05, decay: 0.1, sustain: 0.8, release: 0.3 }, volume: -10 });
        voice.connect(out);
        for (const { hertz, startS, endS, level } of harmonics) voice.triggerAttackRelease(hertz, at(endS) - at(startS), at(startS), level);
      }
    }
  }

  private bowed(tone: Package, tones: readonly Played[], at: (s: number) => number, out: InstanceType<Package['Limiter']>): void {
    const body = new tone.Filter({ type: 'peaking', frequency: 1100, gain: 4, Q: 0.8 }).connect(out);
    const vibrato = new tone.Vibrato({ frequency: 5.3, depth: 0.05 }).connect(body);
    const voice = new tone.MonoSynth({
      oscillator: { type: 'sawtooth' },
      envelope: { attack: 0.05, decay: 0.15, sustain: 0.85, release: 0.09 },
      filterEnvelope: { attack: 0.04, decay: 0.25, sustain: 0.7, release: 0.2, baseFrequency: 500, octaves: 3 },
      volume: -14,
    });
    voice.connect(vibrato);
    tones.forEach((played, i) => {
      const { hertz, startS, endS, level, slurred, accented, slide } = played;
      if (slurred && i > 0) voice.frequency.setValueAtTime(hertz, at(startS));
      else voice.triggerAttack(hertz, at(startS), Math.min(1, level * (accented ? 1.25 : 1)));
      if (slide) {
        voice.frequency.setValueAtTime(hertz, at(slide.fromS));
        voice.frequency.exponentialRampToValueAtTime(slide.hertz, at(endS));
      }
      const next = tones[i + 1];
      const goesOn = next?.slurred && next.startS - endS < 0.02;
      if (!goesOn) voice.triggerRelease(at(endS));
    });
  }

  private clicks(tone: Package, beats: Performance['beats'], at: (s: number) => number, out: InstanceType<Package['Limiter']>): void {
    const voice = new tone.Synth({ oscillator: { type: 'square' }, envelope: { attack: 0.001, decay: 0.035, sustain: 0, release: 0.01 }, volume: -16 });
    voice.connect(out);
    for (const { s, strong } of beats) voice.triggerAttackRelease(strong ? 1760 : 1320, 0.03, at(s), strong ? 1 : 0.6);
  }
}
