/** Damage to files, for tests and for the long run: bytes, texts and structures that no program wrote. */
import fc from 'fast-check';

/** Steps that damage an XML text. */
export const damage = (length: number) =>
  fc.array(
    fc.oneof(
      fc.record({ kind: fc.constant('delete' as const), at: fc.nat({ max: length }), length: fc.integer({ min: 1, max: 400 }) }),
      fc.record({ kind: fc.constant('number' as const), nth: fc.nat({ max: 400 }), value: fc.constantFrom('0', '-1', '1e9', '3.7', '', 'NaN', '99999') }),
      fc.record({ kind: fc.constant('drop element' as const), nth: fc.nat({ max: 1500 }) }),
      fc.record({ kind: fc.constant('double element' as const), nth: fc.nat({ max: 1500 }) }),
      fc.record({
        kind: fc.constant('text' as const),
        at: fc.nat({ max: length }),
        text: fc.constantFrom('<', '&', '</note>', '<chord/>', '<grace/>', '\u0000', ']]>', '<tie type="start"/>'),
      }),
    ),
    { minLength: 1, maxLength: 4 },
  );

export type Damage = ReturnType<typeof damage> extends fc.Arbitrary<infer T> ? T : never;

export function damaged(source: string, steps: Damage): string {
  let text = source;
  const elements = () => [...text.matchAll(/<(\w[\w-]*)\b[^>]*>[^<]*<\/\1>|<\w[\w-]*\/>/g)];
  for (const step of steps) {
    switch (step.kind) {
      case 'delete':
        text = text.slice(0, step.at) + text.slice(step.at + step.length);
        break;
      case 'text':
        text = text.slice(0, step.at) + step.text + text.slice(step.at);
        break;
      case 'number': {
        const numbers = [...text.matchAll(/>(\d+)</g)];
        const found = numbers[step.nth % Math.max(1, numbers.length)];
        if (found) text = `${text.slice(0, found.index)}>${step.value}<${text.slice(found.index + found[0].length)}`;
        break;
      }
      default: {
        const all = elements();
        const found = all[step.nth % Math.max(1, all.length)];
        if (!found) break;
        const end = found.index + found[0].length;
        text = step.kind === 'drop element' ? text.slice(0, found.index) + text.slice(end) : text.slice(0, end) + found[0] + text.slice(end);
      }
    }
  }
  return text;
}

/** ABC that nobody meant: pieces of the notation and of nothing, after a proper head. */
export const typedNonsense = fc
  .array(
    fc.oneof(
      fc.constantFrom(
        'A',
        'B2',
        '(',
        ')',
        '[',
        ']',
        '|',
        ':|',
        '|:',
        '{',
        '}',
        '"x"',
        '"x',
        '!p!',
        '!',
        '(3',
        '-',
        '>',
        '<',
        '&',
        '\n',
        'K:G\n',
        'V:2\n',
        '[M:3/4]',
        '[K:',
        'w:la\n',
        '^',
        '/',
        'Z4',
        'y',
        '~',
        '%%',
      ),
      fc.string({ maxLength: 8 }),
    ),
    { maxLength: 40 },
  )
  .map((pieces) => `X:1\nM:4/4\nL:1/8\nK:D\n${pieces.join('')}`);
