// The file's own test first, then what was quickest the last time, or is new: a fault is to be noticed soon.
import path from 'node:path';
import sequencer from '@jest/test-sequencer';

const mutant = JSON.parse(process.env.OMAGGIO_MUTANT ?? '{"file":""}');
const own = mutant.file.replace(/\.ts$/, '.test.ts');

export default class extends (sequencer.default ?? sequencer) {
  sort(tests) {
    const rank = (test) => (path.relative(process.cwd(), test.path) === own ? -1 : (test.duration ?? 0));
    return [...tests].sort((a, b) => rank(a) - rank(b));
  }
}
