/** The pitch of a tone by a package that has nothing to do with ours (pitchy: McLeod and Wyvill 2005), which only modules can load. */
import { execFileSync } from 'node:child_process';

const FIND = `
import { PitchDetector } from 'pitchy';
const bytes = []; for await (const chunk of process.stdin) bytes.push(chunk);
const all = Buffer.concat(bytes);
const samples = new Float32Array(all.buffer.slice(all.byteOffset, all.byteOffset + all.length));
process.stdout.write(String(PitchDetector.forFloat32Array(samples.length).findPitch(samples, Number(process.argv[1]))[0]));
`;

/** Hertz. */
export const pitchyOf = (samples: Float32Array, rate: number): number =>
  Number(
    execFileSync(process.execPath, ['--input-type=module', '-e', FIND, String(rate)], {
      input: Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength),
      encoding: 'utf8',
    }),
  );
