/** Sheets of music that can be looked at and not read: photographs, scans, PDF. */
import type { Problem } from '../util/problem-shape';

export const PAPER_TYPES = ['application/pdf', 'image/png', 'image/jpeg', 'image/webp'] as const;
export type PaperType = (typeof PAPER_TYPES)[number];

/** The beginnings of files, as their specifications give them; ? is any byte. */
const BEGINNINGS: ReadonlyArray<[type: PaperType, begins: string]> = [
  ['application/pdf', '%PDF-'],
  ['image/png', '\x89PNG\r\n\x1a\n'],
  ['image/jpeg', '\xff\xd8\xff'],
  ['image/webp', 'RIFF????WEBP'],
];

/** What a sheet is by its first bytes, whatever its name; null where it is none that browsers show. */
export function paperType(bytes: Uint8Array): PaperType | null {
  const is = (begins: string) => [...begins].every((letter, i) => letter === '?' || letter.charCodeAt(0) === bytes[i]);
  return BEGINNINGS.find(([, begins]) => is(begins))?.[0] ?? null;
}

/** A photograph in the format of some telephones, which most browsers do not show (ISO/IEC 23008-12: `ftyp` and a brand). */
export function isHeif(bytes: Uint8Array): boolean {
  const text = String.fromCharCode(...bytes.subarray(4, 12));
  return /^ftyp(heic|heix|hevc|mif1|msf1|avif)/.test(text);
}

/** Why a file cannot be laid beside a passage; null where it can. @param bytes at least its first twelve */
export function paperProblem(fileName: string, bytes: Uint8Array): Problem | null {
  if (paperType(bytes)) return null;
  const [what, remedy] = isHeif(bytes)
    ? ['This photograph is in a format (HEIC) that most browsers do not show.', 'Save it as JPEG on the telephone, or photograph it as JPEG.']
    : ['This is neither a PDF nor a photograph (JPEG, PNG, WebP).', 'Choose a photograph or scan of the page.'];
  return { place: fileName, what, remedy };
}
