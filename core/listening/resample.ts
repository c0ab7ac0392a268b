/** Another rate of samples: band-limited interpolation by a windowed sinc (Smith and Gossett 1984). */

/** Samples of the slower rate on either side that a sample is made of. */
const REACH = 16;
/** Share of the new half rate that is kept. */
const KEEP = 0.92;
/** Places between two samples at which the filter is tabulated. */
const PHASES = 256;

export function resampled(samples: Float32Array, from: number, to: number): Float32Array {
  if (from === to) return samples;
  // In samples of the source: the filter is as wide as the slower of the two rates asks for.
  const cutoff = (Math.min(1, to / from) * KEEP) / 1;
  const reach = Math.ceil(REACH / Math.min(1, to / from));
  const table = filterTable(cutoff, reach);
  const out = new Float32Array(Math.floor((samples.length * to) / from));
  const step = from / to;
  for (let i = 0; i < out.length; i++) {
    const at = i * step;
    const base = Math.floor(at);
    const phase = Math.round((at - base) * PHASES);
    let sum = 0;
    const row = phase * (2 * reach);
    for (let k = 0; k < 2 * reach; k++) {
      const index = base - reach + 1 + k;
      if (index >= 0 && index < samples.length) sum += samples[index]! * table[row + k]!;
    }
    out[i] = sum;
  }
  return out;
}

/** For each phase the weights of the samples around, which come to one. */
function filterTable(cutoff: number, reach: number): Float64Array {
  const table = new Float64Array((PHASES + 1) * 2 * reach);
  for (let phase = 0; phase <= PHASES; phase++) {
    let sum = 0;
    const row = phase * 2 * reach;
    for (let k = 0; k < 2 * reach; k++) {
      const x = k - reach + 1 - phase / PHASES;
      const weight = cutoff * sinc(cutoff * x) * hann(x / reach);
      table[row + k] = weight;
      sum += weight;
    }
    for (let k = 0; k < 2 * reach; k++) table[row + k]! /= sum;
  }
  return table;
}

const sinc = (x: number): number => (Math.abs(x) < 1e-9 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));
const hann = (x: number): number => (Math.abs(x) >= 1 ? 0 : 0.5 + 0.5 * Math.cos(Math.PI * x));
