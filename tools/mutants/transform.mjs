// Jest's transform for `npm run mutants`: as always, but the file named in OMAGGIO_MUTANT is made wrong first.
import { createHash } from 'node:crypto';
import path from 'node:path';
import swc from '@swc/jest';
import { withMutant } from './mutants.mjs';

const mutant = JSON.parse(process.env.OMAGGIO_MUTANT ?? 'null');
const wrong = (text, file) => (mutant !== null && path.relative(process.cwd(), file) === mutant.file ? withMutant(text, mutant) : text);

export default {
  createTransformer(options) {
    const plain = swc.createTransformer(options);
    return {
      ...plain,
      process: (text, file, rest) => plain.process(wrong(text, file), file, rest),
      getCacheKey: (text, file, rest) =>
        createHash('sha1')
          .update(plain.getCacheKey(wrong(text, file), file, rest))
          .digest('hex'),
    };
  },
};
