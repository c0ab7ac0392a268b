import { LONGEST_S, readWav } from './wav';
import { resampled } from './resample';

interface Made {
  code?: number;
  bits?: number;
  channels?: number;
  rate?: number;
  extensible?: boolean;
  size?: number;
}

/** A WAV file of these samples in every channel, written byte by byte after the format's description. */
function wav(samples: readonly number[], { code = 1, bits = 16, channels = 1, rate = 44_100, extensible = false, size }: Made = {}): Uint8Array {
  const bytes = bits / 8;
  const data = samples.length * channels * bytes;
  const head = extensible ? 40 : 16;
  const view = new DataView(new ArrayBuffer(28 + head + data));
  const text = (at: number, said: string) => [...said].forEach((letter, i) => view.setUint8(at + i, letter.charCodeAt(0)));
  text(0, 'RIFF');
  view.setUint32(4, 20 + head + data, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, head, true);
  view.setUint16(20, extensible ? 0xfffe : code, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * channels * bytes, true);
  view.setUint16(32, channels * bytes, true);
  view.setUint16(34, bits, true);
  if (extensible) view.setUint16(44, code, true);
  text(20 + head, 'data');
  view.setUint32(24 + head, size ?? data, true);
  samples.forEach((sample, i) => {
    for (let channel = 0; channel < channels; channel++) {
      const at = 28 + head + (i * channels + channel) * bytes;
      if (code === 3) view.setFloat32(at, sample, true);
      else if (bits === 8) view.setUint8(at, Math.round(sample * 128 + 128));
      else if (bits === 16) view.setInt16(at, Math.round(sample * 32_768), true);
      else if (bits === 24) {
        const value = Math.round(sample * 8_388_608);
        view.setUint16(at, value & 0xffff, true);
        view.setInt8(at + 2, value >> 16);
      } else view.setInt32(at, Math.round(sample * 2_147_483_648), true);
    }
  });
  return new Uint8Array(view.buffer);
}

const SAMPLES = [0, 0.25, -0.5, 0.75, -0.99];

test.each([
  ['8 bit', { bits: 8 }, 0.01],
  ['16 bit', {}, 1e-4],
  ['24 bit', { bits: 24 }, 1e-6],
  ['32 bit', { bits: 32 }, 1e-7],
  ['32 bit float', { code: 3, bits: 32 }, 1e-7],
  ['extensible, 24 bit', { bits: 24, extensible: true }, 1e-6],
  ['two channels, 48 kHz', { channels: 2, rate: 48_000 }, 1e-4],
  ['six channels, 8 kHz', { channels: 6, rate: 8_000 }, 1e-4],
  ['a size that was never written', { size: 0 }, 1e-4],
  ['a size beyond the file', { size: 4_000_000_000 }, 1e-4],
] as const)('%s', (_, made, near) => {
  const read = readWav(wav(SAMPLES, made));
  if (!read.ok) throw new Error(read.problem.what);
  expect([read.value.rate, read.value.channels]).toEqual(['rate' in made ? made.rate : 44_100, 'channels' in made ? made.channels : 1]);
  SAMPLES.forEach((sample, i) => expect(Math.abs(read.value.samples[i]! - sample)).toBeLessThan(near));
});

test.each([
  ['text', new TextEncoder().encode('this is no sound, whatever its name says'), /no WAV file/],
  ['nothing', new Uint8Array(), /no WAV file/],
  ['a head alone', wav(SAMPLES).slice(0, 36), /no sound in the WAV/],
  ['no samples', wav([]), /no sound in the WAV/],
  ['a coding that is compressed', wav(SAMPLES, { code: 85 }), /format 85/],
  ['no channels', wav(SAMPLES).fill(0, 22, 24), /0 channels/],
  ['a rate that is none', wav(SAMPLES, { rate: 100 }), /100 samples/],
])('%s is refused in words', (_, bytes, message) => {
  const read = readWav(bytes);
  expect(read.ok ? '' : `${read.problem.what} ${read.problem.remedy}`).toMatch(message);
});

test('a file of an hour is refused with what may be', () => {
  const read = readWav(
    wav(
      Array.from({ length: 8_000 * (LONGEST_S + 1) }, () => 0),
      { rate: 8_000, bits: 8 },
    ),
  );
  expect(read.ok ? '' : read.problem.what + read.problem.remedy).toMatch(/5 minutes.*up to 5 minutes/);
});

describe('another rate', () => {
  const tone = (hertz: number, rate: number, seconds = 0.5) =>
    Float32Array.from({ length: Math.round(rate * seconds) }, (_, i) => Math.sin((2 * Math.PI * hertz * i) / rate));
  const level = (samples: Float32Array) => {
    const inner = samples.slice(500, -500);
    return 10 * Math.log10((2 * inner.reduce((sum, sample) => sum + sample * sample, 0)) / inner.length + 1e-20);
  };
  test.each([
    [440, 44_100, 24_000],
    [440, 48_000, 12_000],
    [4_500, 44_100, 12_000],
    [9_500, 44_100, 24_000],
    [300, 8_000, 24_000],
  ])('%i Hz keeps its pitch, its level and its time from %i to %i', (hertz, from, to) => {
    const out = resampled(tone(hertz, from), from, to);
    expect(Math.abs(level(out))).toBeLessThan(0.15);
    const wanted = tone(hertz, to);
    for (let i = 500; i < 3_000; i += 7) expect(Math.abs(out[i]! - wanted[i]!)).toBeLessThan(0.02);
  });
  test.each([
    [14_000, 44_100, 24_000],
    [8_000, 48_000, 12_000],
    [20_000, 44_100, 12_000],
  ])('%i Hz, which %i has and %i has not, is gone', (hertz, from, to) => {
    expect(level(resampled(tone(hertz, from), from, to))).toBeLessThan(-45);
  });
  test('the same rate is the same sound', () => {
    const samples = tone(440, 24_000);
    expect(resampled(samples, 24_000, 24_000)).toBe(samples);
  });
});
