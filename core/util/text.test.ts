import fc from 'fast-check';
import { runs } from '../testing/runs';
import { SaxesParser } from 'saxes';
import { cleanLine, cleanText, isClean, shortened } from './text';

/** An independent reader of XML 1.0: `saxes` refuses what the standard forbids. */
function readsAs(text: string): string {
  let read = '';
  const parser = new SaxesParser();
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('text', (value) => (read += value));
  parser.write(`<a>${text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')}</a>`).close();
  return read;
}

test.each([
  ['dolce\u000B', 'dolce'],
  ['\u0001\u0000p\uFFFE\uFFFF', 'p'],
  ['half \uD83C of a pair \uDFBB', 'half  of a pair '],
  ['a pair \u{1F3BB}', 'a pair \u{1F3BB}'],
  ['line\r\nline\rline\u2028line\tend', 'line\nline\nline\nline\tend'],
  ['\u007F\u0085\u009Fdim. ♭♯ ǎ', 'dim. ♭♯ ǎ'],
  ['\u{1FFFE}\u{10FFFF}x\uFDD0', 'x'],
])('%j becomes %j', (text, clean) => {
  expect(cleanText(text)).toBe(clean);
  expect(isClean(text)).toBe(text === clean);
});

test('any text, once clean, is read by an XML parser as it is; clean text stays', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 0xffff }), { maxLength: 60 }), fc.string({ unit: 'binary' }), (units, text) => {
      for (const raw of [String.fromCharCode(...units), text]) {
        const clean = cleanText(raw);
        expect(readsAs(clean)).toBe(clean);
        expect(cleanText(clean)).toBe(clean);
        expect(Buffer.from(clean, 'utf8').toString('utf8')).toBe(clean);
      }
    }),
    { numRuns: runs(500) },
  );
});

test('ordinary text of any script is not touched', () => {
  for (const text of ['Più mosso — „ruhig“ 速く ♩ = 96', 'عربي', '\u{1D11E} and \u{E0100}']) expect(cleanText(text)).toBe(text);
});

test('one line', () => expect(cleanLine('  The\theron,\n no. 2\u000B ')).toBe('The heron, no. 2'));

test('shortened at a whole character, with a sign that something is left out', () => {
  expect([shortened('Allegro', 7), shortened('Allegro', 6), shortened('ab\u{1F3BB}c', 4), shortened('', 0)]).toEqual(['Allegro', 'Alleg…', 'ab…', '']);
});
