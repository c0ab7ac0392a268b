import fc from 'fast-check';
import { OPEN_VALUES } from '../../testing/marks';
import { runs } from '../../testing/runs';
import { DEMO_NAMES, demoScore, demoText } from '../../../tests/support/demo';
import { linesOf } from '../../instruments/lines';
import { slurLinks } from '../../marking/links';
import { bowInForce, fingerInForce, markKey, stringInForce, type Mark, type Marking } from '../../marking/mark';
import { PLAYER_KINDS, valuesOf, type MarkKind } from '../../marking/kinds';
import { encodeLike } from '../raw/encoding';
import { cutPart, cutPassage } from './cut';
import { readMusicXml } from './read';
import { writeMarked } from './write';

const reread = (text: string) => {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(read.problem.what);
  return read.value;
};

/** The text without what marks add or change. */
const withoutMarks = (text: string) =>
  text
    .replace(/\s*<(fingering|string|other-technical)\b[^>]*>[^<]*<\/\1>/g, '')
    .replace(/\s*<(down-bow|up-bow|thumb-position|open-string)\/>/g, '')
    .replace(/\s*<(slur|slide) [^>]*\/>/g, '')
    .replace(/\s*<technical>\s*<\/technical>/g, '')
    .replace(/\s*<notations>\s*<\/notations>/g, '');

/** Random marks on a random demo part. */
const markedDemo = fc.constantFrom(...DEMO_NAMES).chain((name) => {
  const parts = demoScore(name).score.parts;
  return fc.record({ name: fc.constant(name), partIndex: fc.integer({ min: 0, max: parts.length - 1 }) }).chain(({ partIndex }) => {
    const { notes } = parts[partIndex]!;
    const mark = fc.record({ note: fc.integer({ min: 0, max: notes.length - 1 }), kind: fc.constantFrom(...PLAYER_KINDS), value: fc.nat() });
    return fc.array(mark, { maxLength: 25 }).map((marks) => {
      const marking: Record<string, Mark> = {};
      for (const { note, kind, value } of marks) {
        const values = valuesOf(kind) ?? OPEN_VALUES[kind]!;
        marking[markKey(notes[note]!.id, kind)] = { value: values[value % values.length]!, origin: 'coach' };
      }
      return { name, partIndex, marking: marking as Marking };
    });
  });
});

test('an empty marking gives the file back, byte for byte', () => {
  for (const name of DEMO_NAMES) {
    const { document, score } = demoScore(name);
    for (const part of score.parts) expect(writeMarked(document, part, {})).toBe(demoText(name));
  }
});

test('only marks differ, and every mark that was written is read again', () => {
  fc.assert(
    fc.property(markedDemo, ({ name, partIndex, marking }) => {
      const { document, score } = demoScore(name);
      const part = score.parts[partIndex]!;
      const text = writeMarked(document, part, marking);
      expect(withoutMarks(text)).toBe(withoutMarks(demoText(name)));
      const after = reread(text).score.parts[partIndex]!;
      expect(after.notes.map((note) => note.id)).toEqual(part.notes.map((note) => note.id));
      after.notes.forEach((note, i) => {
        const before = part.notes[i]!;
        expect([note.printed.finger, note.printed.string, note.printed.bow]).toEqual([
          fingerInForce(before, marking),
          stringInForce(before, marking),
          bowInForce(before, marking),
        ]);
      });
      linesOf(part).forEach((line, i) => expect(slurLinks(after, linesOf(after)[i]!)).toEqual(slurLinks(part, line, marking)));
    }),
    { numRuns: runs(60) },
  );
});

describe('single marks', () => {
  const { document, score } = demoScore('staircase');
  const part = score.parts[0]!;
  const added = (marking: Marking) => {
    const before = new Set(demoText('staircase').split('\n'));
    return writeMarked(document, part, marking)
      .split('\n')
      .filter((line) => !before.has(line))
      .map((line) => line.trim());
  };
  const set = (i: number, kind: MarkKind, value: string): Marking => ({ [markKey(part.notes[i]!.id, kind)]: { value, origin: 'coach' } });
  test.each([
    ['finger', '3', '<fingering>3</fingering>'],
    ['finger', 'T', '<thumb-position/>'],
    ['string', '2', '<string>2</string>'],
    ['bow', 'down', '<down-bow/>'],
    ['bow', 'up', '<up-bow/>'],
    ['retake', 'yes', '<other-technical>retake</other-technical>'],
    ['hook', 'yes', '<other-technical>hook</other-technical>'],
    ['covered', 'yes', '<other-technical>covered interval</other-technical>'],
    ['position', 'third', '<other-technical>third position</other-technical>'],
    ['other-finger', '3', '<fingering alternate="yes">3</fingering>'],
    ['stay', 'yes', '<other-technical>stay</other-technical>'],
    ['slide', 'yes', '<slide type="start" number="1" line-type="solid"/>'],
  ] as const)('%s %s becomes %s', (kind, value, element) => expect(added(set(4, kind, value))).toContain(element));
  test('a split slur becomes two, with the numbers of the format', () => {
    const after = reread(writeMarked(document, part, set(2, 'slur', 'split'))).score.parts[0]!;
    const ids = part.notes.slice(0, 4).map((note) => note.id);
    expect(after.slurs.slice(0, 2).map((slur) => [slur.from, slur.to])).toEqual([
      [ids[0], ids[1]],
      [ids[2], ids[3]],
    ]);
  });
  test("an edition's mark is replaced or struck out", () => {
    const marked = reread(writeMarked(document, part, set(4, 'finger', '3')));
    const again = marked.score.parts[0]!;
    const replaced = writeMarked(marked.document, again, set(4, 'finger', '2'));
    expect(replaced).toContain('<fingering>2</fingering>');
    expect(replaced).not.toContain('<fingering>3</fingering>');
    expect(writeMarked(marked.document, again, set(4, 'finger', 'none'))).not.toContain('<fingering>');
  });
});

test('a file without line breaks stays without, and its encoding is kept', () => {
  const flat = demoText('low-tide').replace(/\n\s*/g, '').replace('UTF-8', 'ISO-8859-1').replace('Low Tide', 'Ebbe à deux');
  const { document, score } = reread(flat);
  const text = writeMarked(document, score.parts[0]!, { [markKey(score.parts[0]!.notes[0]!.id, 'finger')]: { value: '1', origin: 'coach' } });
  expect(text).not.toMatch(/\n/);
  const latin = encodeLike(flat, new TextEncoder().encode(flat));
  expect(new TextDecoder('windows-1252').decode(latin)).toBe(flat);
});

describe('cutting', () => {
  test('a part cut out of a score reads like the part', () => {
    const { document, score } = demoScore('mill-race-serenade');
    const viola = score.parts[2]!;
    const alone = reread(cutPart(document, 'P3')).score;
    expect(alone.parts).toHaveLength(1);
    expect(alone.parts[0]!.notes).toEqual(viola.notes);
    expect(alone.parts[0]!.slurs).toEqual(viola.slurs);
  });
  test('a passage carries clef, key and time, ids, and string numerals to the engraver', () => {
    const { document, score } = demoScore('mill-race-serenade');
    const cello = score.parts[3]!;
    const note = cello.notes.find((candidate) => candidate.barIndex === 70)!;
    const text = cutPassage(document, cello, { [markKey(note.id, 'string')]: { value: '2', origin: 'coach' } }, { fromBar: 70, toBar: 75 });
    expect(text).toMatch(/<measure number="70"><attributes><divisions>12<\/divisions><key>[\s\S]*?<beats>4<\/beats>[\s\S]*?<sign>C<\/sign>\s*<line>4<\/line>/);
    expect(text).toContain(`id="${note.id}"`);
    expect(text).toContain('<fingering>II</fingering>');
    expect(reread(text).score.parts[0]!.notes.length).toBe(cello.notes.filter((candidate) => candidate.barIndex >= 70 && candidate.barIndex <= 75).length);
  });
});
