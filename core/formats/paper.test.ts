import { isHeif, paperType } from './paper';

const bytes = (text: string) => Uint8Array.from(text, (letter) => letter.charCodeAt(0));

test.each([
  ['%PDF-1.7\n', 'application/pdf'],
  ['\x89PNG\r\n\x1a\n....', 'image/png'],
  ['\xff\xd8\xff\xe0', 'image/jpeg'],
  ['RIFF\x10\0\0\0WEBPVP8 ', 'image/webp'],
  ['RIFF\x10\0\0\0WAVEfmt ', null],
  ['%PDF', null],
  ['<?xml', null],
  ['', null],
])('%j', (text, type) => {
  expect(paperType(bytes(text))).toBe(type);
});

test('photographs that most browsers do not show', () => {
  expect([isHeif(bytes('\0\0\0\x18ftypheic\0\0\0\0')), isHeif(bytes('\0\0\0\x18ftypisom')), isHeif(bytes(''))]).toEqual([true, false, false]);
});
