/** Corrections of notes: what is written anew as it was is the same score; what is corrected is read as it was asked for, and nothing else moves. */
import fc from 'fast-check';
import { randomScore } from '../../../tests/support/random-score';
import { realScores } from '../../../tests/support/real-scores';
import { runs } from '../../testing/runs';
import { barText, barVoices, fillProblem, type BarEvent } from '../../score/bar-text';
import { splitNote, withLength, withoutNote, withTie } from '../../score/bar-rhythm';
import { plain } from '../../score/note-length';
import { pitchName } from '../../score/pitch';
import type { Part } from '../../score/score';
import { corrects, correctionsOf } from '../../marking/corrections';
import { markKey, type Marking } from '../../marking/mark';
import { placeTarget } from '../../marking/target';
import { readScoreBytes } from '../read';
import { corrected } from './corrected';
import { partDocument, readPartDocument } from './part-document';
import { readMusicXml, type ReadScore } from './read';

const open = (text: string): ReadScore => {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(`${read.problem.place}: ${read.problem.what}`);
  return read.value;
};
const bar = (index: number, value: string): Marking => ({ [markKey(placeTarget(index, 0), 'bar')]: { value, origin: 'coach' } });
const clef = (index: number, tick: number, value: string): Marking => ({ [markKey(placeTarget(index, tick), 'clef')]: { value, origin: 'coach' } });

const textOf = (part: Part, index: number): string | null => {
  const voices = barVoices(part, index);
  return voices.ok ? barText(voices.value) : null;
};
/** Everything of a part but which element of the file says it. */
const music = ({ notes, slurs, dynamics, hairpins, words, tempi, clefs, keys, bars, rests }: Part) => ({
  notes: notes.map(({ source: _, length, ...note }) => ({ ...note, length: length.type === null ? null : length })),
  slurs,
  bars,
  clefs,
  keys,
  rests: rests.map((rest) => JSON.stringify(rest)).sort(),
  signs: [dynamics, words, tempi].map((marks) => marks.map(({ source: _, ...mark }) => mark)),
  hairpins: hairpins.map(({ kind, from, to }) => ({ kind, from, to })),
});

/** Every bar that can be said as text, said as it is printed. */
function asPrinted(part: Part): { marking: Marking; bars: number } {
  const marks = part.bars.map(({ index }) => ({ index, text: textOf(part, index) })).filter((each) => each.text !== null);
  return { marking: Object.assign({}, ...marks.map(({ index, text }) => bar(index, text!))) as Marking, bars: marks.length };
}

function expectSame(read: ReadScore): number {
  let bars = 0;
  for (const part of read.score.parts.filter(({ notes }) => notes.length > 0)) {
    const said = asPrinted(part);
    bars += said.bars;
    const now = corrected(read, { [part.id]: said.marking });
    const there = now.read.score.parts.find(({ id }) => id === part.id)!;
    const odd = new Set((now.unplaced[part.id] ?? []).map((key) => Number(/^at-(\d+)-/.exec(key)![1])));
    expect(odd.size).toBeLessThanOrEqual(Math.ceil(part.bars.length / 4));
    const named = part.notes.map(({ length }) => length.type !== null);
    const [before, after] = [music(part), music(there)];
    // Where the file names no note value, the correction does.
    after.notes.forEach((note, i) => named[i] || (note.length = null));
    expect(after).toEqual(before);
  }
  return bars;
}

/** Each part of a file in a document of its own, as the server stores it. */
function partsOf(bytes: Uint8Array, most: number): ReadScore[] {
  const read = readScoreBytes(bytes);
  if (!read.ok) return [];
  const { score, document } = read.value;
  const parts = score.parts.filter(({ notes }) => notes.length > 0).slice(0, most);
  return parts.map(({ id }) => {
    const alone = readPartDocument(partDocument(document, id, score.timeLine));
    if (!alone.ok) throw new Error(alone.problem.what);
    return alone.value;
  });
}

test('written anew as they are printed, parts of real scores are the same', () => {
  const bars = realScores().flatMap(([, bytes]) => partsOf(bytes, 4).map(expectSame));
  expect(bars.reduce((sum, count) => sum + count, 0)).toBeGreaterThan(700);
});

test('scores of chance, too', () => {
  let bars = 0;
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      bars += expectSame(open(randomScore(seed)));
    }),
    { numRuns: runs(40) },
  );
  expect(bars).toBeGreaterThan(100);
});

/** One correction, made by chance, of a bar that can be corrected; null where there is none. */
function byChance(part: Part, pick: number, what: number): { index: number; value: string } | null {
  const index = pick % part.bars.length;
  const voices = barVoices(part, index);
  if (!voices.ok) return null;
  const at = what % voices.value.length;
  const { voice, events } = voices.value[at]!;
  const i = (what >> 3) % events.length;
  const lengths = [plain(4), plain(8), plain(4, 1), plain(16), plain(2), { of: 8, dots: 0, actual: 3, normal: 2 }];
  const ways: Array<readonly BarEvent[] | null> = [
    withLength(events, i, lengths[(what >> 6) % lengths.length]!),
    withoutNote(events, i),
    splitNote(events, i),
    withTie(events, i),
  ];
  const made = ways[(what >> 5) % ways.length];
  if (!made?.length) return null;
  const now = voices.value.map((each, v) => (v === at ? { voice, events: made } : each));
  return fillProblem(now, part.bars[index]!) === null ? { index, value: barText(now) } : null;
}

test('a correction is read as it was asked for, and no other bar moves', () => {
  let made = 0;
  fc.assert(
    fc.property(fc.nat(), fc.nat(), fc.nat({ max: 1 << 16 }), (seed, pick, what) => {
      const read = open(randomScore(seed));
      const part = read.score.parts.find(({ notes }) => notes.length > 0)!;
      const asked = byChance(part, pick, what);
      if (!asked) return;
      const now = corrected(read, { [part.id]: bar(asked.index, asked.value) });
      const there = now.read.score.parts.find(({ id }) => id === part.id)!;
      if (now.unplaced[part.id]) return;
      made++;
      expect(textOf(there, asked.index)).toBe(asked.value);
      const others = (of: Part) =>
        of.notes
          .filter(({ barIndex }) => barIndex !== asked.index)
          // Ties to and from the bar follow it.
          .map(({ source: _, length: __, tiedFrom: ___, tiedTo: ____, accidental: _____, ...note }) => note);
      expect(others(there)).toEqual(others(part));
      expect(there.bars.map(({ ticks }) => ticks)).toEqual(part.bars.map(({ ticks }) => ticks));
      for (const note of there.notes.filter(({ tiedFrom }) => tiedFrom)) {
        const before = there.notes.some(
          (other) => other.tiedTo && other.onset + other.duration === note.onset && pitchName(other.written) === pitchName(note.written),
        );
        if (note.barIndex === asked.index) expect({ note: note.id, before }).toEqual({ note: note.id, before: true });
      }
      // Taken back, nothing of it is left.
      expect(corrected(read, { [part.id]: {} }).read).toBe(read);
    }),
    { numRuns: runs(300) },
  );
  expect(made).toBeGreaterThan(60);
});

const phrase = (bars: string[], divisions = 2): ReadScore =>
  open(
    `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list><part id="P1">${bars
      .map(
        (content, i) =>
          `<measure number="${i + 1}">${i === 0 ? `<attributes><divisions>${divisions}</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes>` : ''}${content}</measure>`,
      )
      .join('')}</part></score-partwise>`,
  );
const note = (pitch: string, duration: number, more = '', type = 'quarter', ties = '') => {
  const [, step, alter, octave] = /^([A-G])([#b]?)(\d)$/.exec(pitch)!;
  const sign = alter ? `<alter>${alter === '#' ? 1 : -1}</alter>` : '';
  return `<note><pitch><step>${step}</step>${sign}<octave>${octave}</octave></pitch><duration>${duration}</duration>${ties}<voice>1</voice><type>${type}</type>${more}</note>`;
};
const signs = (xml: string) => `<notations>${xml}</notations>`;
const only = (read: ReadScore, marking: Marking) => corrected(read, { P1: marking });

test('notes that are as they were keep their signs and their ids; slurs of a note that is gone end at its neighbour', () => {
  const read = phrase([
    note('A4', 2, signs('<slur number="1" type="start"/><technical><fingering>3</fingering></technical>')) +
      '<direction><direction-type><dynamics><p/></dynamics></direction-type></direction>' +
      note('B4', 2) +
      note('C5', 2, signs('<slur number="1" type="stop"/>')) +
      note('D5', 2, signs('<articulations><staccato/></articulations>')),
    note('E5', 8, '', 'whole'),
  ]);
  const [before] = read.score.parts;
  const now = only(read, bar(0, 'A4/4. B4/8 r/4 D5/8. E5/16')).read.score.parts[0]!;
  expect(now.notes.map(({ id }) => before!.notes.some((each) => each.id === id))).toEqual([true, false, true, false, true]);
  expect(now.notes.map(({ printed, articulations }) => [printed.finger, ...articulations])).toEqual([['3'], [null], [null, 'staccato'], [null], [null]]);
  expect(now.slurs.map(({ from, to }) => [from, to])).toEqual([[now.notes[0]!.id, now.notes[1]!.id]]);
  // The dynamic stays at its second beat, in the middle of the longer note.
  expect(now.dynamics.map(({ tick, text }) => [tick, text])).toEqual(before!.dynamics.map(({ tick, text }) => [tick, text]));
  expect(only(read, bar(0, 'A4/1')).read.score.parts[0]!.slurs).toEqual([]);
});

test('ties over the barline follow what is corrected on either side', () => {
  const start = '<tie type="start"/>';
  const read = phrase([
    note('A4', 6, '', 'half') + note('B4', 2, '', 'quarter', start),
    note('B4', 2, '', 'quarter', '<tie type="stop"/>') + note('C5', 6, '', 'half'),
    note('D5', 8, '', 'whole'),
  ]);
  const ties = (marking: Marking) =>
    only(read, marking).read.score.parts[0]!.notes.map(({ written, tiedFrom, tiedTo }) => `${tiedFrom ? '~' : ''}${pitchName(written)}${tiedTo ? '~' : ''}`);
  expect(ties({})).toEqual(['A4', 'B4~', '~B4', 'C5', 'D5']);
  expect(ties(bar(0, 'A4/2. B4/4'))).toEqual(['A4', 'B4', 'B4', 'C5', 'D5']);
  expect(ties(bar(1, 'r/4 C5/2.'))).toEqual(['A4', 'B4', 'C5', 'D5']);
  expect(ties(bar(1, 'B4/4 D5/2.~'))).toEqual(['A4', 'B4~', '~B4', 'D5~', '~D5']);
  expect(ties({ ...bar(0, 'A4/4 B4/2.~'), ...bar(1, 'B4/2 C5/2') })).toEqual(['A4', 'B4~', '~B4', 'C5', 'D5']);
});

test('a bar that was too full becomes as long as its time signature, and what follows comes earlier; signs that become necessary are put', () => {
  const read = phrase([
    note('F4', 2) + note('F#4', 2, '<accidental>sharp</accidental>') + note('G4', 4, '', 'half') + note('F#4', 2),
    note('A4', 8, '', 'whole'),
  ]);
  expect(read.score.parts[0]!.bars.map(({ onset, ticks }) => [onset, ticks].map((each) => each / 2_882_880))).toEqual([
    [0, 5],
    [5, 4],
  ]);
  const whole = corrected(read, { P1: bar(0, 'F4/4 G4/2 F#4/4') });
  const stored = readPartDocument(partDocument(read.document, 'P1', read.score.timeLine));
  if (!stored.ok) throw new Error(stored.problem.what);
  for (const { read: now, unplaced } of [whole, corrected(stored.value, { P1: bar(0, 'F4/4 G4/2 F#4/4') })]) {
    expect(unplaced).toEqual({});
    const [part] = now.score.parts;
    expect(part!.bars.map(({ onset, ticks }) => [onset, ticks].map((each) => each / 2_882_880))).toEqual([
      [0, 4],
      [4, 4],
    ]);
    expect(part!.notes.map(({ written, accidental }) => [pitchName(written), accidental?.alter ?? null])).toEqual([
      ['F4', null],
      ['G4', null],
      ['F#4', 1],
      ['A4', null],
    ]);
  }
});

test('an empty bar is filled, also where it is one tag alone; notes without pitch are not thrown away', () => {
  const read = open(
    phrase([note('A4', 8, '', 'whole'), '', note('C5', 8, '', 'whole')]).document.text.replace('<measure number="2"></measure>', '<measure number="2"/>'),
  );
  expect(read.document.text).toContain('<measure number="2"/>');
  const { read: now, unplaced } = only(read, bar(1, 'A4/2 B4/2'));
  expect(unplaced).toEqual({});
  expect(now.score.parts[0]!.notes.map(({ written, barIndex }) => `${barIndex} ${pitchName(written)}`)).toEqual(['0 A4', '1 A4', '1 B4', '2 C5']);
  const drum = phrase([
    note('A4', 4, '', 'half') + '<note><unpitched/><duration>4</duration><voice>1</voice><type>half</type></note>',
    note('C5', 8, '', 'whole'),
  ]);
  expect(only(drum, bar(0, 'A4/4 B4/4 r/2'))).toMatchObject({ read: drum, unplaced: { P1: ['at-0-0|bar'] } });
});

test('finer divisions hold for one bar', () => {
  const read = phrase([note('A4', 8, '', 'whole'), note('B4', 8, '', 'whole'), '', note('C5', 8, '', 'whole')]);
  const { document, score } = only(read, { ...bar(1, 'B4/8t C5/8t D5/8t B4/2.'), ...bar(0, 'A4/16 r/16 r/8 r/2.') }).read;
  expect(document.text.match(/<divisions>\d+<\/divisions>/g)).toEqual(['<divisions>4</divisions>', '<divisions>6</divisions>', '<divisions>2</divisions>']);
  expect(document.text).toContain('<tuplet type="start" number="1"/>');
  expect(document.text.match(/<beam number="1">\w+<\/beam>/g)).toEqual(['begin', 'continue', 'end'].map((type) => `<beam number="1">${type}</beam>`));
  expect(score.parts[0]!.bars.map(({ ticks }) => ticks / 2_882_880)).toEqual([4, 4, 4, 4]);
});

test('a clef takes the place of the printed one, or stands where none was; the pitches stay', () => {
  const read = phrase([note('A3', 4, '', 'half') + note('B3', 4, '', 'half'), note('C4', 8, '', 'whole')]);
  const half = 2 * 2_882_880;
  const clefs = (marking: Marking) => {
    const { read: now, unplaced } = only(read, marking);
    const [part] = now.score.parts;
    return {
      clefs: part!.clefs.map(({ tick, clef: { sign, line } }) => [tick / half, `${sign}${line}`]),
      pitches: part!.notes.map(({ written }) => pitchName(written)),
      lost: unplaced.P1?.length ?? 0,
    };
  };
  const pitches = ['A3', 'B3', 'C4'];
  expect(clefs({})).toEqual({ clefs: [[0, 'G2']], pitches, lost: 0 });
  expect(clefs(clef(0, 0, 'alto'))).toEqual({ clefs: [[0, 'C3']], pitches, lost: 0 });
  expect(clefs({ ...clef(0, half, 'bass'), ...clef(1, 0, 'tenor') })).toEqual({
    clefs: [
      [0, 'G2'],
      [1, 'F4'],
      [2, 'C4'],
    ],
    pitches,
    lost: 0,
  });
  expect(clefs(clef(0, half / 3, 'bass'))).toEqual({ clefs: [[0, 'G2']], pitches, lost: 1 });
  expect(clefs(clef(9, 0, 'bass'))).toMatchObject({ lost: 1 });
});

test('what does not fill the bar, or stands nowhere, is said and left out', () => {
  const read = phrase([note('A4', 8, '', 'whole')]);
  const lost = (marking: Marking) => {
    const { read: now, unplaced } = only(read, marking);
    expect(now).toBe(read);
    return unplaced.P1;
  };
  expect(lost(bar(0, 'A4/2'))).toEqual(['at-0-0|bar']);
  expect(lost(bar(7, 'A4/1'))).toEqual(['at-7-0|bar']);
  expect(lost({ 'at-0-1|bar': { value: 'A4/1', origin: 'coach' } })).toEqual(['at-0-1|bar']);
  const off: Marking = { 'at-0-0|bar': { value: 'A4/2', origin: 'coach', off: true } };
  expect([corrects(off), lost(off)]).toEqual([false, undefined]);
});

test('corrections are told from other marks', () => {
  const marking: Marking = { ...bar(0, 'A4/1'), ...clef(0, 0, 'alto'), 'n-0-1-0-A4-0|finger': { value: '1', origin: 'coach' } };
  expect(corrects(marking)).toBe(true);
  expect(correctionsOf({ ...clef(0, 0, 'alto'), ...bar(0, 'A4/1') })).toBe(correctionsOf(marking));
  expect([correctionsOf({}), correctionsOf({ ...bar(0, 'A4/1'), ...bar(1, 'r') }) === correctionsOf(marking)]).toEqual(['', false]);
});
