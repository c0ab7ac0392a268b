// Jest's transform for `npm run mutants`: as always, but the file named in OMAGGIO_MUTANT is made wrong first.
const { createHash } = require('node:crypto');
const path = require('node:path');
const { createTransformer } = require('@swc/jest');

const mutant = JSON.parse(process.env.OMAGGIO_MUTANT ?? 'null');
const wrong = (text, file) =>
  mutant !== null && path.relative(process.cwd(), file) === mutant.file ? text.slice(0, mutant.start) + mutant.to + text.slice(mutant.end) : text;

module.exports = {
  createTransformer(options) {
    const swc = createTransformer(options);
    return {
      ...swc,
      process: (text, file, rest) => swc.process(wrong(text, file), file, rest),
      getCacheKey: (text, file, rest) => createHash('sha1').update(swc.getCacheKey(wrong(text, file), file, rest)).digest('hex'),
    };
  },
};
