/**
 * Which bowed string instrument a part is for: from its name (English, German, French, Italian,
 * Spanish), from the sound id or program number in the file, or else from clef and range.
 */
import type { InstrumentKind } from '../score/score';

export interface PartHints {
  name: string;
  /** MusicXML instrument-sound, e.g. "strings.violin". */
  sound: string | null;
  /** General MIDI program, 1 to 128. */
  program: number | null;
  /** First clef: sign and line, e.g. "G2". */
  clef: string | null;
  /** Lowest and highest written note (MIDI half steps); null without notes. */
  lowest: number | null;
  highest: number | null;
}

export interface Recognised {
  kind: InstrumentKind | null;
  because: string;
  section: boolean;
}

const NAMES: ReadonlyArray<[InstrumentKind, RegExp]> = [
  ['cello', /violon?cell|violonchel|\bcell(o|i|os)\b|\bvcl?\b|\bvlc\b/],
  [
    'bass',
    /double\s*bass|contra-?\s*bass|kontraba(ss|ß)|contrabbass|contrebass|contrabajo|string bass|\bb(a|ä)ss(es|e|i|o)?\b(?!\s*(clarinet|drum|guitar|trombone|flute|voice|tuba))|\bcb\b|\bd\.?\s?b\.?(?=\s|$)|\bkb\b/,
  ],
  ['viola', /\bviol(a|as|e|en)\b|bratsche|\balt(o|os|i)\b(?!\s*(sax|flute|clar|voice|horn|recorder))|\bvla\b|\bva\b|\bbr\b/],
  ['violin', /violin|\bviolon(s)?\b|\bgeigen?\b|\bviol[ií]n(es)?\b|\bvln?\b|\bvl\b|\bvno\b/],
];
const OTHERS = /bassoon|fagott|basson|bass clarinet|bass drum|bass guitar|bass trombone|bass voice|viola da gamba|bass flute|bass tuba|alto sax/;
const SOUNDS: ReadonlyArray<[InstrumentKind, RegExp]> = [
  ['violin', /strings\.violin/],
  ['viola', /strings\.viola(?!\.)/],
  ['cello', /strings\.cello/],
  ['bass', /strings\.contrabass/],
];
const PROGRAMS: Readonly<Record<number, InstrumentKind>> = { 41: 'violin', 42: 'viola', 43: 'cello', 44: 'bass' };

/** @example `recognise({ name: 'Violini II', … }).kind === 'violin'` */
export function recognise(hints: PartHints): Recognised {
  const name = hints.name.toLowerCase().normalize('NFC');
  const section = isSection(name);
  if (!OTHERS.test(name)) {
    for (const [kind, pattern] of NAMES) {
      if (pattern.test(name)) return { kind, because: `the part is named "${hints.name}"`, section };
    }
    for (const [kind, pattern] of SOUNDS) {
      if (hints.sound && pattern.test(hints.sound)) return { kind, because: `its sound is "${hints.sound}"`, section };
    }
    const fromProgram = hints.program === null ? undefined : PROGRAMS[hints.program];
    if (fromProgram) return { kind: fromProgram, because: `its program number is ${hints.program}`, section };
    const nameless = /^(|part\s*\d*|music(xml)?( part)?|staff\s*\d*|strings?|solo|untitled|p\d+)$/.test(name.trim());
    const fromClef = nameless ? byClefAndRange(hints) : null;
    if (fromClef) return { kind: fromClef, because: `of its clef (${hints.clef}) and range`, section };
  }
  return { kind: null, because: `"${hints.name}" is no bowed string instrument that is known here`, section };
}

function byClefAndRange({ clef, lowest, highest }: PartHints): InstrumentKind | null {
  if (lowest === null || highest === null) return null;
  if (clef === 'C3') return lowest >= 48 ? 'viola' : null;
  if (clef === 'G2') return lowest >= 55 ? 'violin' : lowest >= 48 ? 'viola' : null;
  if (clef === 'F4' || clef === 'C4') return lowest >= 36 ? 'cello' : 'bass';
  return null;
}

function isSection(name: string): boolean {
  return /violins|violini|violons\b|violas|viole\b|cellos|celli|violoncelli|basses|bassi|\b(i{1,3}|[12])\b|geigen|bratschen|section|tutti|sección/.test(name);
}
