/** Sound files: RIFF WAVE (Microsoft and IBM 1991; extensible format 1994) into one channel of numbers. */
import { bad, good, type Result } from '../util/result';

export interface Sound {
  /** Samples per second. */
  rate: number;
  /** One channel, -1 to 1. */
  samples: Float32Array;
  channels: number;
}

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;

/** Longest take, in seconds. */
export const LONGEST_S = 300;
const RATES = { least: 8_000, most: 192_000 };

const SAVE = 'Save it as an uncompressed WAV file (16 bit PCM).';

export function readWav(bytes: Uint8Array): Result<Sound> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const text = (at: number) => (at + 4 <= bytes.length ? String.fromCharCode(...bytes.subarray(at, at + 4)) : '');
  if (text(0) !== 'RIFF' || text(8) !== 'WAVE') return bad(null, 'This is no WAV file.', SAVE);
  let format: { code: number; channels: number; rate: number; bits: number } | null = null;
  for (let at = 12; at + 8 <= bytes.length;) {
    const [name, size] = [text(at), view.getUint32(at + 4, true)];
    const from = at + 8;
    if (name === 'fmt ' && from + 16 <= bytes.length) {
      const said = view.getUint16(from, true);
      const code = said === EXTENSIBLE && size >= 40 && from + 26 <= bytes.length ? view.getUint16(from + 24, true) : said;
      format = { code, channels: view.getUint16(from + 2, true), rate: view.getUint32(from + 4, true), bits: view.getUint16(from + 14, true) };
    }
    if (name === 'data') {
      if (!format) return bad(null, 'The WAV file does not say what its sound is.', SAVE);
      // Programs that were ended while they recorded leave a size of nothing, or more than there is.
      const end = size === 0 || size === 0xffffffff ? bytes.length : Math.min(bytes.length, from + size);
      return decoded(view, from, end, format);
    }
    at = from + size + (size % 2);
  }
  return bad(null, 'There is no sound in the WAV file.', 'Record it again.');
}

function decoded(
  view: DataView,
  from: number,
  end: number,
  { code, channels, rate, bits }: { code: number; channels: number; rate: number; bits: number },
): Result<Sound> {
  const read = readerOf(view, code, bits);
  if (!read) return bad(null, `The sound is coded in a way that is not read here (format ${code}, ${bits} bit).`, SAVE);
  if (channels < 1 || channels > 32) return bad(null, `The file says it has ${channels} channels.`, SAVE);
  if (rate < RATES.least || rate > RATES.most) return bad(null, `The file says it has ${rate} samples a second.`, 'Record with 44,100 or 48,000.');
  const bytes = bits / 8;
  const frames = Math.floor((end - from) / (bytes * channels));
  if (frames === 0) return bad(null, 'There is no sound in the WAV file.', 'Record it again.');
  if (frames / rate > LONGEST_S)
    return bad(null, `The take lasts ${Math.round(frames / rate / 60)} minutes.`, `Takes of up to ${LONGEST_S / 60} minutes are heard: cut out the passage.`);
  const samples = new Float32Array(frames);
  for (let i = 0; i < frames; i++) {
    let sum = 0;
    for (let channel = 0; channel < channels; channel++) sum += read(from + (i * channels + channel) * bytes);
    const value = sum / channels;
    samples[i] = Number.isFinite(value) ? value : 0;
  }
  return good({ rate, samples, channels });
}

function readerOf(view: DataView, code: number, bits: number): ((at: number) => number) | null {
  if (code === FLOAT && bits === 32) return (at) => view.getFloat32(at, true);
  if (code === FLOAT && bits === 64) return (at) => view.getFloat64(at, true);
  if (code !== PCM) return null;
  switch (bits) {
    case 8:
      return (at) => (view.getUint8(at) - 128) / 128;
    case 16:
      return (at) => view.getInt16(at, true) / 32_768;
    case 24:
      return (at) => (view.getUint8(at) | (view.getUint8(at + 1) << 8) | (view.getInt8(at + 2) << 16)) / 8_388_608;
    case 32:
      return (at) => view.getInt32(at, true) / 2_147_483_648;
    default:
      return null;
  }
}
