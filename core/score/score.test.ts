import { beatOf } from './beat';
import { makeScore, TICKS } from '../testing/make';
import { noteById } from './find';
import { linesOf } from '../instruments/lines';
import { automaticPassages } from './passages';
import { barIndexAt, partEnd, type Bar } from './score';
import { tempoByWords } from './tempo-words';
import { clockFor, firstTempo, printedTempo } from './time';

const bar = (index: number, more: Partial<Bar> = {}): Bar => ({
  index,
  label: String(index + 1),
  onset: index * 4 * TICKS,
  ticks: 4 * TICKS,
  beats: 4,
  beatType: 4,
  fifths: 0,
  into: 0,
  pickup: false,
  counted: index,
  implicit: false,
  rehearsal: null,
  doubleBarAfter: false,
  repeatStart: false,
  repeatEnd: false,
  signs: null,
  ...more,
});
const bars = (count: number, marks: Record<number, Partial<Bar>> = {}) => ({ bars: Array.from({ length: count }, (_, i) => bar(i, marks[i])) });

describe('passages', () => {
  const spans = (part: { bars: Bar[] }) => automaticPassages(part).map((p) => [p.name, p.fromBar, p.toBar]);
  test('begin at rehearsal marks and after double bars', () => {
    expect(spans(bars(30, { 8: { rehearsal: 'A' }, 19: { doubleBarAfter: true } }))).toEqual([
      ['Opening', 0, 7],
      ['A', 8, 19],
      ['Bars 21–30', 20, 29],
    ]);
  });
  test('are eight bars long where nothing is marked', () => {
    expect(spans(bars(24))).toEqual([
      ['Opening', 0, 7],
      ['Bars 9–16', 8, 15],
      ['Bars 17–24', 16, 23],
    ]);
  });
  test.each([1, 7, 16, 17, 40, 129])('hold every bar once (%i bars)', (count) => {
    const covered = automaticPassages(bars(count, { 5: { rehearsal: 'A' } })).flatMap((p) =>
      Array.from({ length: p.toBar - p.fromBar + 1 }, (_, i) => p.fromBar + i),
    );
    expect(covered).toEqual(Array.from({ length: count }, (_, i) => i));
  });
});

describe('time', () => {
  test('a quarter at 60 lasts a second; a wanted tempo scales later marks with it', () => {
    const part = {
      words: [],
      bars: [],
      tempi: [
        { tick: 0, quartersPerMinute: 60, printed: null },
        { tick: 4 * TICKS, quartersPerMinute: 120, printed: null },
      ],
    };
    expect(clockFor(part, null).secondsAt(6 * TICKS)).toBe(5);
    expect(clockFor(part, 30).secondsAt(6 * TICKS)).toBe(10);
    expect(clockFor({ tempi: [], words: [], bars: [] }, null).tempo).toBe(90);
  });
  test.each([
    ['Allegro ma non troppo', 4, 4, 132],
    ['ALLEGRETTO', 4, 4, 112],
    ['Adagio', 6, 8, 93],
    ['Presto', 2, 2, 352],
    ['Sehr langsam', 3, 4, 58],
    ['gravely spoken', 4, 4, null],
    ['pizz.', 4, 4, null],
  ])('the word %s in %i/%i: guessed by the beat that is felt, and said to be guessed', (text, beats, beatType, expected) => {
    const { part } = makeScore('violin', 'A4/1 B4/1 C5/1', { beats, beatType });
    const said = { ...part, tempi: [], words: [{ tick: 0, text }] };
    expect(tempoByWords(said)?.quartersPerMinute ?? null).toBe(expected);
    expect(firstTempo(said)).toEqual(
      expected === null
        ? { quartersPerMinute: 90, guessed: 'the part says nothing of it' }
        : { quartersPerMinute: expected, guessed: `“${text}” without a figure` },
    );
    expect(clockFor(said, null).tempo).toBe(expected ?? 90);
    expect(firstTempo({ ...said, tempi: [{ tick: 0, quartersPerMinute: 71, printed: null }] })).toEqual({ quartersPerMinute: 71, guessed: null });
    expect(tempoByWords({ ...said, words: [{ tick: part.bars[0]!.ticks, text }] })).toBeNull();
  });
  test('beats count from 1; in an upbeat they run towards the bar line', () => {
    expect(beatOf(bar(1), 1.5 * TICKS)).toBe(2.5);
    expect(beatOf(bar(0, { into: 3 * TICKS, ticks: TICKS }), 0)).toBe(4);
    expect(beatOf(bar(0, { beats: 6, beatType: 8, ticks: 3 * TICKS }), 1.5 * TICKS)).toBe(4);
  });
  test('the bar of a tick, and the end', () => {
    const { part } = makeScore('violin', 'A4 A4 A4 A4 | A4 A4 A4 A4', { tempo: 72 });
    expect(barIndexAt(part.bars, 4 * TICKS - 1)).toBe(0);
    expect(barIndexAt(part.bars, 4 * TICKS)).toBe(1);
    expect(partEnd(part)).toBe(8 * TICKS);
    expect(printedTempo(part)).toBe(72);
  });
});

describe('lines', () => {
  test('ties are one event, slurred notes are not', () => {
    const { part } = makeScore('violin', 'A4~/2 A4/2 (B4 C5) D5/2');
    const events = linesOf(part)[0]!.events;
    expect(events.map((event) => event.ids.length)).toEqual([2, 1, 1, 1]);
    expect(events[0]!.end).toBe(4 * TICKS);
  });
  test('"div." gives each player a line, "unis." brings them together', () => {
    const { part } = makeScore('violin', 'B4+D5 A4+C5 A4 B4+D5', {
      words: [
        { quarter: 0, text: 'div.' },
        { quarter: 3, text: 'unis.' },
      ],
    });
    const pitches = linesOf(part).map((line) => line.events.map((event) => event.notes.map((note) => note.pitch.step).join('')).join(' '));
    expect(pitches).toEqual(['D C A BD', 'B A A BD']);
  });
  test('"non div." keeps a chord for one player', () => {
    const { part } = makeScore('violin', 'B4+D5', { words: [{ quarter: 0, text: 'non div.' }] });
    expect(linesOf(part)).toHaveLength(1);
    expect(linesOf(part)[0]!.events[0]!.notes).toHaveLength(2);
  });
  test('a note is found by its id', () => {
    const { part } = makeScore('violin', 'A4 B4');
    expect(noteById(part, part.notes[1]!.id)).toBe(part.notes[1]);
    expect(noteById(part, 'nothing')).toBeUndefined();
  });
});
