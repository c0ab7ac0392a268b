/** What went in comes out: marks made on a part by itself stand in the file that came, at their places, and are read there again. */
import fc from 'fast-check';
import { runs } from '../../testing/runs';
import { chance, randomScore } from '../../../tests/support/random-score';
import { everyMark } from '../../testing/marks';
import { splitChanges, storedAgain } from '../../testing/stored';
import { noteNamed } from '../../score/identity';
import { linesOf } from '../../instruments/lines';
import { onTimeLine } from '../../score/time-line';
import { pitchName } from '../../score/pitch';
import type { Part } from '../../score/score';
import { slurLinks } from '../../marking/links';
import { bowInForce, fingerInForce, markAt, splitKey, stringInForce, type Marking } from '../../marking/mark';
import { isBowWishKind, isWordKind } from '../../marking/kinds';
import { placeOfTarget } from '../../marking/notes';
import { editedPart, parseTempo } from '../../marking/print-edits';
import { wishInWords } from '../../marking/wishes';
import { newContainer } from '../raw/container';
import { likeTheFile, readScoreBytes } from '../read';
import { cutPart } from './cut';
import { readMusicXml, type ReadScore } from './read';
import { noteElements, withMarks, writeMarked } from './write';
import { withoutPlace } from './without-place';

const open = (text: string): ReadScore => {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(`${read.problem.place}: ${read.problem.what}`);
  return read.value;
};
const sorted = (list: unknown[]) => list.map((each) => JSON.stringify(each)).sort();

/** What a player reads at each note, in the order of the file: notes are the same ones whatever their pitch has become. */
const heads = (part: Part, marking: Marking) =>
  part.notes
    .map(
      (note) =>
        [
          note.source,
          note.onset,
          note.duration,
          pitchName(note.written),
          fingerInForce(note, marking),
          stringInForce(note, marking),
          bowInForce(note, marking),
          [...note.articulations].sort(),
        ] as const,
    )
    .sort((a, b) => a[0] - b[0]);
const signs = (part: Part) => ({
  dynamics: sorted(part.dynamics.map(({ tick, text }) => [tick, text])),
  hairpins: sorted(part.hairpins.map(({ kind, from, to }) => [kind, from, to])),
  bars: part.bars.map(({ onset, ticks }) => [onset, ticks]),
});
const linksOf = (part: Part, marking: Marking) => linesOf(part).map((line) => slurLinks(part, line, marking));

/** Everything that the marking says is in the part that was read from the marked file. */
function expectThere(before: Part, marking: Marking, { score, document }: ReadScore): void {
  const after = score.parts.find(({ id }) => id === before.id)!;
  const wanted = editedPart(before, marking);
  expect(heads(after, {})).toEqual(heads(wanted, marking));
  expect(signs(after)).toEqual(signs(wanted));
  expect(linksOf(after, {})).toEqual(linksOf(wanted, marking));
  const missing: string[] = [];
  const said = (tick: number, text: string) => after.words.some((word) => word.tick === tick && word.text.includes(text));
  for (const { tick, text } of wanted.words) if (!said(tick, text)) missing.push(`${text} at ${tick}`);
  const elements = noteElements(document, before.id);
  for (const note of before.notes) {
    const text = document.text.slice(elements[note.source]!.start, elements[note.source]!.end);
    for (const kind of ['retake', 'hook', 'covered'] as const) {
      const there = text.includes(`<other-technical>${kind === 'covered' ? 'covered interval' : kind}<`);
      if (there !== (markAt(marking, note.id, kind) !== undefined)) missing.push(`${kind} at ${note.id}`);
    }
  }
  for (const [key, { value }] of Object.entries(marking)) {
    const { target, kind } = splitKey(key);
    const tempo = kind === 'tempo' ? parseTempo(value).quartersPerMinute : null;
    const at = placeOfTarget(before, target)!.onset;
    if (tempo !== null && !after.tempi.some(({ tick, quartersPerMinute }) => tick === at && quartersPerMinute === tempo)) missing.push(key);
    const words = isWordKind(kind) ? value : isBowWishKind(kind) ? wishInWords(kind, value) : null;
    if (words !== null && !said(at, words)) missing.push(key);
  }
  expect(missing).toEqual([]);
}

const asked = fc.record({ seed: fc.nat(), every: fc.integer({ min: 1, max: 5 }), which: fc.nat() });

test('a note has the same name alone in its part and in the score', () => {
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      const { score, document } = open(randomScore(seed));
      for (const part of score.parts) {
        const alone = open(cutPart(document, part.id)).score.parts[0]!;
        expect(alone.notes.map(({ id }) => id)).toEqual(part.notes.map(({ id }) => id));
        expect(new Set(part.notes.map(({ id }) => id)).size).toBe(part.notes.length);
      }
    }),
    { numRuns: runs(150) },
  );
});

test('marks of every kind, made on each part alone and stored, are in the whole score, in the part alone and in the compressed file, and find their places there again', () => {
  fc.assert(
    fc.property(asked, ({ seed, every, which }) => {
      const text = randomScore(seed);
      const random = chance(which);
      const whole = open(text);
      let marked = whole;
      for (const { id } of whole.score.parts) {
        const alone = open(cutPart(whole.document, id));
        const part = alone.score.parts[0]!;
        if (part.notes.length === 0) continue;
        // The format tells six hairpins at one time apart.
        const hairpins = new Map<string, number>();
        const few = ([key]: [string, unknown]) => {
          const { target, kind } = splitKey(key);
          const bar = target.split('-')[1]!;
          return kind !== 'hairpin' || hairpins.set(bar, (hairpins.get(bar) ?? 0) + 1).get(bar)! <= 6;
        };
        const some = Object.fromEntries(
          Object.entries(everyMark(part, every))
            .filter(() => random.happens(0.5))
            .filter(few)
            // Bows of two voices that share notes cannot be told apart in a file: only one of them is slurred.
            .filter(([key]) => splitKey(key).kind !== 'slur' || linesOf(part).length === 1),
        );
        const marking = storedAgain(splitChanges(some));
        expect(marking).toEqual(some);
        const inWhole = withMarks(
          marked.document,
          marked.score.parts.find((each) => each.id === id)!,
          marking,
          { words: true },
        );
        expect(inWhole.unplaced).toEqual([]);
        marked = open(
          writeMarked(
            marked.document,
            marked.score.parts.find((each) => each.id === id)!,
            marking,
            { words: true },
          ),
        );
        expectThere(onTimeLine(part, whole.score.timeLine), marking, marked);
        expectThere(part, marking, open(writeMarked(alone.document, part, marking, { words: true })));
        const staying = Object.fromEntries(
          Object.entries(marking).filter(([key]) => {
            const { target } = splitKey(key);
            // A note that is another pitch now has another name, and is no longer counted among those of its pitch.
            return !(`${target}|pitch` in marking) && !noteNamed(target)?.ordinal;
          }),
        );
        expect(
          withoutPlace(
            marked.score.parts.find((each) => each.id === id)!,
            staying,
            { words: true },
          ),
        ).toEqual([]);
      }
      const compressed = newContainer(new TextEncoder().encode(text));
      const again = readScoreBytes(likeTheFile(marked.document.text, compressed));
      expect(again.ok && again.value.document.text).toBe(marked.document.text);
    }),
    { numRuns: runs(30) },
  );
});

test('a mark that has no place is named, and nothing of it is in the file', () => {
  const { document, score } = open(randomScore(3));
  const part = score.parts[0]!;
  const mark = (value: string) => ({ value, origin: 'coach' as const });
  const lost: Marking = {
    'n-999-1-0-A4-0|finger': mark('1'),
    'lost [12/1 A4] n-11-1-1_3-A4-0|bow': mark('up'),
    'at-999-0|dynamic': mark('p'),
    'at-0-99|text': mark('dolce'),
    'at-0-0|hairpin': mark('crescendo 999 0'),
    'bar-999|bow-zone': mark('tip'),
    'bar-998|words': mark('lightly'),
    [`${part.notes[0]!.id}|dynamic`]: mark('f'),
  };
  const aside: Marking = { 'n-998-1-0-A4-0|finger': { ...mark('1'), off: true }, 'bar-997|slur-is': mark('phrase') };
  const { edits, unplaced } = withMarks(document, part, { ...lost, ...aside }, { words: true });
  expect([unplaced.sort(), edits]).toEqual([Object.keys(lost).sort(), []]);
  expect(withMarks(document, part, lost).unplaced).not.toContain('bar-998|words');
});
