/** The head of a typed passage: whom it is for, and what stands there at first. */

export const START = `X:1
T:Passage
M:4/4
L:1/8
K:D
V:1 name="Violin"
`;

/** What is typed is kept here until it lies on the shelf. */
export const TYPED_DRAFT = 'omaggio.typed-passage';

export const VOICES: ReadonlyArray<[name: string, clef: string]> = [
  ['Violin', 'treble'],
  ['Viola', 'alto'],
  ['Cello', 'bass'],
  ['Double Bass', 'bass'],
];

/** Whom the text is for; empty where it says something of its own. */
export const voiceOf = (text: string): string => VOICES.find(([name]) => new RegExp(`name="${name}"`).test(text))?.[0] ?? '';

/** The same text for somebody else, with the clef that is usual. */
export function forVoice(text: string, name: string): string {
  const clef = VOICES.find(([each]) => each === name)?.[1] ?? 'treble';
  const line = `V:1 name="${name}" clef=${clef}`;
  return /^V:\s*1\b.*$/m.test(text) ? text.replace(/^V:\s*1\b.*$/m, line) : text.replace(/^(K:.*)$/m, `$1\n${line}`);
}
