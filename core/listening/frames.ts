/** A take frame by frame: how loud it is, what its spectrum is, and how strongly each pitch is there. */
import FFT from 'fft.js';
import { SALIENCE, SIGNAL } from './tables';

/** Frames lie around their middle, the first one at time 0. Spectra are worked out when they are asked for: all of them would not fit. */
export class Frames {
  readonly count: number;
  /** dB of each frame. */
  readonly level: Float64Array;
  /** Hertz from bin to bin. */
  readonly binHz: number;
  readonly bins = SIGNAL.transform / 2;
  private readonly hop: number;
  private readonly fft = new FFT(SIGNAL.transform);
  private readonly shape: Float64Array;
  private readonly input = new Array<number>(SIGNAL.transform).fill(0);
  private readonly output = this.fft.createComplexArray();
  private readonly magnitudes = new Float64Array(SIGNAL.transform / 2);

  constructor(
    private readonly samples: Float32Array,
    rate: number,
    private readonly window: number,
  ) {
    this.hop = Math.round(rate * SIGNAL.hopS);
    this.count = Math.floor(samples.length / this.hop) + 1;
    this.binHz = rate / SIGNAL.transform;
    this.shape = Float64Array.from({ length: window }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / window));
    this.level = Float64Array.from({ length: this.count }, (_, frame) => this.levelAt(frame));
  }

  private levelAt(frame: number): number {
    // A short stretch: an attack is seen where it is.
    const half = this.hop;
    let energy = 0;
    for (let i = -half; i < half; i++) energy += (this.samples[frame * this.hop + i] ?? 0) ** 2;
    return 10 * Math.log10(energy / (2 * half) + 1e-12);
  }

  /** Magnitudes by bin; the same array is used again for the next frame. */
  spectrum(frame: number): Float64Array {
    const from = frame * this.hop - this.window / 2;
    for (let i = 0; i < this.window; i++) this.input[i] = (this.samples[from + i] ?? 0) * this.shape[i]!;
    this.fft.realTransform(this.output, this.input);
    for (let bin = 0; bin < this.bins; bin++) this.magnitudes[bin] = Math.hypot(this.output[2 * bin]!, this.output[2 * bin + 1]!);
    return this.magnitudes;
  }

  /** For each pitch the salience in each frame: of a frame the strongest that is asked about is 1. @param hertz of the pitches */
  saliences(hertz: readonly number[]): Float64Array[] {
    const all = hertz.map(() => new Float64Array(this.count));
    const probes = hertz.map((f) => probesOf(f, this.bins, this.binHz));
    for (let frame = 0; frame < this.count; frame++) {
      const spectrum = this.spectrum(frame);
      let most = 0;
      probes.forEach((own, p) => {
        const salience = salienceOf(spectrum, own);
        all[p]![frame] = salience;
        if (salience > most) most = salience;
      });
      if (most > 0) for (const of of all) of[frame]! /= most;
    }
    return all;
  }

  /** The sum of the strongest saliences over some frames: how well the pitches fit as they are tuned. */
  fit(hertz: readonly number[], frames: readonly number[]): number {
    const probes = hertz.map((f) => probesOf(f, this.bins, this.binHz, NARROW));
    return frames.reduce((sum, frame) => {
      const spectrum = this.spectrum(frame);
      return sum + Math.max(...probes.map((own) => salienceOf(spectrum, own)));
    }, 0);
  }
}

interface Probe {
  /** Bins around the harmonic, and the one half a spacing below it. */
  from: number;
  to: number;
  below: number;
  weight: number;
}

/** Cents on either side when it is the tuning that is looked for. */
const NARROW = 12;

function salienceOf(spectrum: Float64Array, probes: readonly Probe[]): number {
  let sum = 0;
  for (const { from, to, below, weight } of probes) {
    let peak = 0;
    for (let bin = from; bin <= to; bin++) if (spectrum[bin]! > peak) peak = spectrum[bin]!;
    sum += weight * (Math.sqrt(peak) - SALIENCE.between * Math.sqrt(spectrum[below]!));
  }
  return Math.max(0, sum);
}

function probesOf(hertz: number, bins: number, binHz: number, cents: number = SALIENCE.width): Probe[] {
  const probes: Probe[] = [];
  const width = 2 ** (cents / 1_200);
  for (let h = 1; h <= SALIENCE.harmonics; h++) {
    const f = h * hertz;
    if (f / binHz >= bins - 2) break;
    probes.push({
      from: Math.max(0, Math.round(f / width / binHz)),
      to: Math.min(bins - 1, Math.round((f * width) / binHz)),
      below: Math.round((f - hertz / 2) / binHz),
      weight: SALIENCE.fading ** (h - 1),
    });
  }
  return probes;
}
