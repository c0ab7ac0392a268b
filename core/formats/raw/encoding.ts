/** Text back to bytes in the encoding that a file came in, so that a patched file stays what it was. */
import { guessEncoding } from './xml';

/** @param original bytes of the file whose encoding is to be kept (UTF-8, UTF-16 or Windows-1252) */
export function encodeLike(text: string, original: Uint8Array): Uint8Array {
  const encoding = guessEncoding(original);
  if (encoding === 'utf-16le' || encoding === 'utf-16be') return utf16(text, encoding === 'utf-16le');
  if (encoding === 'windows-1252') return windows1252(text);
  return new TextEncoder().encode(text);
}

function utf16(text: string, littleEndian: boolean): Uint8Array {
  const bytes = new Uint8Array(text.length * 2);
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < text.length; i++) view.setUint16(i * 2, text.charCodeAt(i), littleEndian);
  return bytes;
}

function windows1252(text: string): Uint8Array {
  const decoded = new TextDecoder('windows-1252').decode(Uint8Array.from({ length: 256 }, (_, byte) => byte));
  const byteOf = new Map(Array.from(decoded, (char, byte) => [char, byte] as const));
  return Uint8Array.from(text, (char) => byteOf.get(char) ?? 0x3f);
}
