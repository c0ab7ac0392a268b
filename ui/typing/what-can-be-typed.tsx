const EXAMPLES: ReadonlyArray<[abc: string, what: string]> = [
  ['A B c d', 'notes; c is an octave above C, c\u2019 and C, go on up and down'],
  ['^F _B =C', 'sharp, flat, natural; they hold to the bar line'],
  ['A2 A/ A3', 'twice, half, three times the length that L: says'],
  ['z2', 'rest'],
  ['vA uB', 'down-bow, up-bow'],
  ['!3!A', 'finger 3; !open! and !thumb!'],
  ['(ABc)', 'slur'],
  ['A-|A', 'tie'],
  ['[DA]', 'double stop'],
  ['(3ABc', 'triplet'],
  ['.A !>!A !tenuto!A', 'dot, accent, line'],
  ['!p!A !<(!B c!<)!d', 'dynamics and hairpins'],
  ['"dolce"A', 'words'],
  ['{/g}A !trill!A', 'grace note, trill'],
  ['|: :| |1 |2', 'repeats, first and second time'],
];

/** The letters and signs that are understood. */
export function WhatCanBeTyped() {
  return (
    <details className="text-[13px]">
      <summary className="cursor-pointer">What can be typed</summary>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
        {EXAMPLES.map(([abc, what]) => (
          <div key={abc} className="contents">
            <dt className="font-mono">{abc}</dt>
            <dd className="text-soft">{what}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}
