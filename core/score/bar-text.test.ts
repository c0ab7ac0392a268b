import fc from 'fast-check';
import { makeScore, TICKS } from '../testing/make';
import { splitNote, withLength, withoutNote, withTie } from './bar-rhythm';
import { barMayLast, barText, barTextProblem, barVoices, eventOf, filled, fillProblem, parseBarText, tiedOn, type BarEvent } from './bar-text';
import { lengthOf, lengthsOf, lengthText, parseLength, plain, ticksOfLength } from './note-length';

const bar = { ticks: 4 * TICKS, beats: 4, beatType: 4 };
const voices = (text: string) => {
  const read = parseBarText(text);
  if (!read.ok) throw new Error(read.problem.what);
  return read.value;
};
const events = (text: string) => voices(text)[0]!.events;
const said = (list: readonly BarEvent[] | null) => list && barText([{ voice: '1', events: list }]);

test('lengths: note values, dots and tuplets, there and back', () => {
  const quarters = (text: string) => ticksOfLength(parseLength(text)!) / TICKS;
  expect(['1/2', '1', '2.', '4', '8.', '8..', '8t', '16(5:4)', '4t'].map(quarters)).toEqual([8, 4, 3, 1, 0.75, 0.875, 1 / 3, 0.2, 2 / 3]);
  for (const text of ['1/2', '1', '2.', '8..', '8t', '16(5:4)', '128']) expect(lengthText(parseLength(text)!)).toBe(text);
  for (const text of ['3', '', '8.t.', '8....', '8(0:4)', '8(17:4)', '256', 'x']) expect(parseLength(text)).toBeNull();
  expect(lengthOf(1.5 * TICKS)).toEqual(plain(4, 1));
  expect(lengthOf(TICKS / 3)).toEqual({ of: 8, dots: 0, actual: 3, normal: 2 });
  expect(lengthOf(1.25 * TICKS)).toBeNull();
  expect(lengthsOf(1.25 * TICKS)!.map(lengthText)).toEqual(['4', '16']);
  expect(lengthsOf(TICKS / 7)).toBeNull();
});

test('the text of a bar says what is printed', () => {
  const { part } = makeScore('violin', 'A4~/1 A4/.5 r/.5 C#5+E5/2 | G4/3 r/1 | r/4', {});
  const text = (index: number) => {
    const read = barVoices(part, index);
    return read.ok && barText(read.value);
  };
  expect([0, 1, 2].map(text)).toEqual(['A4/4~ A4/8 r/8 C#5+E5/2', 'G4/2. r/4', 'r']);
  expect(barVoices(part, 9).ok).toBe(false);
  part.notes[0]!.cue = true;
  expect(barVoices(part, 0)).toMatchObject({ ok: false, problem: { what: 'Small notes of another part stand in it.' } });
});

test('what is typed is understood, or the place of the mistake is named', () => {
  for (const text of ['A4/4 B4/8. r/16 C5/2~', '{B4/8} A4/1', 'x/2 D4+A4~/2', 'r', '1: A4/1; 2: D4/2 E4/2', 'D4+D4/1']) {
    if (text !== 'x/2 D4+A4~/2') expect(barText(voices(text))).toBe(text);
    expect(barTextProblem(text)).toBeNull();
  }
  expect(tiedOn(events('D4+A4~/2')[0]!)).toEqual(['A4']);
  expect(tiedOn(events('D4+A4/2~')[0]!)).toEqual(['D4', 'A4']);
  expect(barText(voices('D4+A4~/2'))).toBe('D4+A4~/2');
  const wrong: ReadonlyArray<readonly [string, RegExp]> = [
    ['A4/5', /“A4\/5”/],
    ['H4/4', /“H4\/4”/],
    ['A4', /“A4”/],
    ['', /no note and no rest/],
    ['A4/4;', /voice 1/],
    ['r A4/4', /whole bar/],
    ['1: A4/1; 1: A4/1', /twice/],
    ['{r/8}', /“\{r\/8\}”/],
    ['r/4~', /“r\/4~”/],
    ['A99/4', /“A99\/4”/],
  ];
  for (const [text, says] of wrong) expect(barTextProblem(text)).toMatch(says);
});

test('how much is missing or too much is said in note values', () => {
  expect(fillProblem(voices('A4/4 B4/4 C5/2'), bar)).toBeNull();
  expect(fillProblem(voices('r'), bar)).toBeNull();
  expect(fillProblem(voices('A4/4 B4/4 C5/4.'), bar)).toBe('The bar has 3.5 quarters of 4 quarters: 8 (0.5 quarters) too little.');
  expect(fillProblem(voices('1: A4/1; 2: D4/1 E4/16 E4/4'), bar)).toBe('Voice 2 has 5.25 quarters of 4 quarters: 1.25 quarters too much.');
  expect(barMayLast({ ...bar, ticks: 5 * TICKS }).map((ticks) => ticks / TICKS)).toEqual([5, 4]);
  expect(fillProblem(voices('A4/1 B4/4'), { ...bar, ticks: 5 * TICKS })).toBeNull();
});

test('a note is found among the events by its place and pitch', () => {
  const { part } = makeScore('violin', 'A4/1 B4+D5/2 C5/1');
  const at = (index: number) => eventOf(voices('{A4/8} A4/4 B4+D5/2 C5/4'), part.notes[index]!, bar.ticks);
  expect([0, 1, 2, 3].map((i) => at(i)?.event)).toEqual([1, 2, 2, 3]);
  expect(eventOf(voices('A4/4 r/2.'), part.notes[3]!, bar.ticks)).toBeNull();
  expect(eventOf(voices('2: A4/1'), part.notes[0]!, bar.ticks)).toBeNull();
});

test('what a note takes the next ones give, what it leaves becomes a rest', () => {
  const made = (text: string, index: number, length: string) => said(withLength(events(text), index, parseLength(length)!));
  expect(made('A4/4 B4/4 C5/2', 0, '4.')).toBe('A4/4. B4/8 C5/2');
  expect(made('A4/4 B4/4 C5/2', 0, '2.')).toBe('A4/2. C5/4');
  expect(made('A4/4 B4/4 C5/2~', 0, '8')).toBe('A4/8 r/8 B4/4 C5/2~');
  expect(made('A4/4 r/4 C5/2', 0, '8')).toBe('A4/8 r/4. C5/2');
  expect(made('A4/4 B4/2 C5/4', 0, '4..')).toBe('A4/4.. B4/4~ B4/16 C5/4');
  expect(made('A4/4 B4/4 C5/2', 2, '1')).toBe('A4/4 B4/4 C5/1');
  expect(made('{A4/8} B4/1', 0, '16')).toBe('{A4/16} B4/1');
  expect(said(withLength(events('r'), 0, plain(4)))).toBe('r');
});

test('rests instead of notes, two halves, ties', () => {
  expect(said(withoutNote(events('A4/4~ A4/4 B4/2'), 1))).toBe('A4/4 r/4 B4/2');
  expect(said(withoutNote(events('{B4/8} A4/1'), 0))).toBe('A4/1');
  expect(said(withoutNote(events('A4/1'), 0))).toBe('r');
  expect(said(withoutNote(events('r/2 A4/2'), 0))).toBe('r/2 A4/2');
  expect(said(splitNote(events('A4/4.~ B4/8'), 0))).toBe('A4/8. A4/8.~ B4/8');
  expect([splitNote(events('r'), 0), splitNote(events('{A4/8} B4/1'), 0), splitNote(events('A4/1'), 3)]).toEqual([null, null, null]);
  expect(said(withTie(events('A4/2 A4/2'), 0))).toBe('A4/2~ A4/2');
  expect(said(withTie(events('D4+A4~/2 r/2'), 0))).toBe('D4+A4/2 r/2');
  expect(said(withTie(events('A4/2 r/2'), 1))).toBe('A4/2 r/2');
});

test('as long as what follows can give it, the bar stays full', () => {
  const length = fc.constantFrom('16', '8', '8.', '4', '4.', '2', '8t', '4t');
  const note = fc.tuple(fc.constantFrom('A4', 'r', 'D4+A4'), length).map((each) => each.join('/'));
  fc.assert(
    fc.property(fc.array(note, { minLength: 1, maxLength: 8 }), fc.nat(7), length, (list, at, to) => {
      const before = events(list.join(' '));
      const index = at % before.length;
      const after = withLength(before, index, parseLength(to)!);
      const ticks = (all: readonly BarEvent[]) => filled({ events: all }, 0);
      const left = ticks(before.slice(index + 1));
      const more = ticksOfLength(parseLength(to)!) - ticksOfLength(before[index]!.length!);
      const isExact = Math.abs(ticks(after) - ticks(before)) < 1;
      // Lengths that no note values say are left for whoever writes.
      const odd = list.some((each) => each.endsWith('t')) || to.endsWith('t');
      if (more > left) expect(ticks(after)).toBeCloseTo(ticks(before) + more - left);
      else if (!odd) expect(isExact).toBe(true);
      expect(after[index]!.length).toEqual(parseLength(to));
    }),
  );
});
