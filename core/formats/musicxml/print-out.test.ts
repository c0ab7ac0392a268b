/** Edits against the print: what the edited file says when it is read again is what the edited part says. */
import fc from 'fast-check';
import { runs } from '../../testing/runs';
import { DEMO_NAMES, demoScore } from '../../../tests/support/demo';
import { accidentalStates } from '../../score/accidentals';
import { DYNAMIC_NAMES } from '../../score/dynamics';
import { pitchName } from '../../score/pitch';
import type { Note, Part } from '../../score/score';
import { markKey, type Mark, type Marking } from '../../marking/mark';
import { isCorrection, NOTE_EDIT_KINDS, PLACE_EDIT_KINDS, valueProblem, type EditKind } from '../../marking/kinds';
import { hairpinValue, STRUCK } from '../../marking/values';
import { editedPart, parseTempo, printEdits, tiedHeads, withoutPrintEdits } from '../../marking/print-edits';
import { placeTarget } from '../../marking/target';
import { readMusicXml } from './read';
import { writeMarked } from './write';
import { quartersOf, ticksOfQuarters } from '../../score/ticks';

const byText = (list: unknown[]) => list.map((each) => JSON.stringify(each)).sort();
/** What a musician reads, without ids and sources. */
const essence = (part: Part) => ({
  notes: byText(
    part.notes.map((n) => [
      n.onset,
      n.duration,
      pitchName(n.written),
      pitchName(n.pitch),
      n.accidental,
      [...n.articulations].sort(),
      n.voice,
      n.grace,
      n.tiedTo,
    ]),
  ),
  dynamics: byText(part.dynamics.map(({ tick, text, level }) => [tick, text, level])),
  words: byText(part.words.map(({ tick, text }) => [tick, text])),
  hairpins: byText(part.hairpins.map(({ kind, from, to }) => [kind, from, to])),
  tempi: part.tempi.map(({ tick, quartersPerMinute }) => [tick, quartersPerMinute]),
  slurs: part.slurs.map(({ onset, endOnset }) => [onset, endOnset]),
  bars: part.bars.map(({ onset, ticks }) => [onset, ticks]),
});
function reread(text: string, index: number): Part {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(`${read.problem.place} ${read.problem.what}`);
  return read.value.score.parts[index]!;
}

const PITCHES = ['F#4', 'Bb4', 'G4', 'C#5', 'Eb5', 'B#3', 'Fb5', 'G##4', 'D4'];
const edit = fc.record({
  note: fc.nat(),
  kind: fc.constantFrom<EditKind>(...[...NOTE_EDIT_KINDS, ...PLACE_EDIT_KINDS].filter((kind) => !isCorrection(kind))),
  value: fc.nat(),
  off: fc.boolean(),
});

/** A valid mark of any kind at some note or its place. */
function markFor(part: Part, note: Note, kind: EditKind, value: number): [string, Mark] {
  const pick = (values: readonly string[]) => values[value % values.length]!;
  const at = placeTarget(note.barIndex, note.tick);
  const later = part.notes[Math.min(part.notes.length - 1, part.notes.indexOf(note) + 1 + (value % 9))]!;
  const end = hairpinValue({
    kind: value % 2 ? 'crescendo' : 'diminuendo',
    toBar: later.barIndex,
    toTick: value % 3 ? later.tick : part.bars[later.barIndex]!.ticks,
  });
  const placed: Partial<Record<EditKind, string>> = {
    dynamic: pick([...DYNAMIC_NAMES, STRUCK]),
    hairpin: pick([end, end, STRUCK]),
    tempo: pick(['Andante, quarter = 72', 'dotted quarter = 60', 'Più mosso', STRUCK]),
    text: pick(['dolce', 'a < b & "c"', '„leise“']),
    'printed-text': STRUCK,
    divisi: pick(['divided', 'together']),
  };
  const text = placed[kind] ?? (kind === 'pitch' ? pick(PITCHES) : kind === 'accidental' ? pick(['show', 'bracket', STRUCK]) : pick(['yes', STRUCK]));
  expect(valueProblem(kind, text)).toBeNull();
  return [markKey(placed[kind] === undefined ? note.id : at, kind), { value: text, origin: 'coach' }];
}

test('the edited file, read again, is the edited part; without edits it is the file as it came', () => {
  fc.assert(
    fc.property(fc.constantFrom(...DEMO_NAMES), fc.nat(), fc.array(edit, { maxLength: 14 }), (name, partSeed, edits) => {
      const { document, score } = demoScore(name);
      const index = partSeed % score.parts.length;
      const part = score.parts[index]!;
      const marking: Record<string, Mark> = {};
      for (const { note, kind, value, off } of edits) {
        const [key, mark] = markFor(part, part.notes[note % part.notes.length]!, kind, value);
        marking[key] = off ? { ...mark, off } : mark;
      }
      const edited = editedPart(part, marking);
      const text = writeMarked(document, part, marking);
      expect(essence(reread(text, index))).toEqual(essence(edited));
      expect(withoutPrintEdits(marking)).toEqual({});
      if (edits.every(({ off }) => off)) expect(text).toBe(document.text);
    }),
    { numRuns: runs(120) },
  );
});

const note = (pitch: string, duration = 1, inner = '') => {
  const alter = pitch.includes('#') ? '<alter>1</alter>' : pitch.includes('b') ? '<alter>-1</alter>' : '';
  return `<note><pitch><step>${pitch[0]}</step>${alter}<octave>${pitch.at(-1)}</octave></pitch><duration>${duration}</duration><voice>1</voice><type>quarter</type>${inner}</note>`;
};
const SHARP = '<accidental>sharp</accidental>';
function open(measures: string) {
  const read = readMusicXml(
    `<score-partwise version="3.1"><part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list><part id="P1">${measures}</part></score-partwise>`,
  );
  if (!read.ok) throw new Error(read.problem.what);
  return { document: read.value.document, part: read.value.score.parts[0]! };
}
const ATTRIBUTES = '<attributes><divisions>1</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time></attributes>';
const mark = (target: string, kind: EditKind, value: string): Marking => ({ [markKey(target, kind)]: { value, origin: 'coach' } });

describe('accidentals follow the edit', () => {
  const { document, part } = open(
    `<measure number="1">${ATTRIBUTES}${note('F#4', 1, SHARP)}${note('F#4')}${note('F4', 1, '<accidental>natural</accidental>')}${note('G4')}</measure>`,
  );
  const signs = (marking: Marking) =>
    editedPart(part, marking)
      .notes.map((each) => `${pitchName(each.written)}:${each.accidental?.alter ?? '-'}`)
      .join(' ');
  test('as printed', () => expect(signs({})).toBe('F#4:1 F#4:- F4:0 G4:-'));
  test('the next note gets the sign that it lived on', () => expect(signs(mark(part.notes[0]!.id, 'pitch', 'F4'))).toBe('F4:- F#4:1 F4:0 G4:-'));
  test('a sign that nobody needs any more goes', () => {
    const both = { ...mark(part.notes[0]!.id, 'pitch', 'F4'), ...mark(part.notes[1]!.id, 'pitch', 'F4') };
    expect(signs(both)).toBe('F4:- F4:- F4:- G4:-');
  });
  test('respelled as its neighbour', () => expect(signs(mark(part.notes[1]!.id, 'pitch', 'Gb4'))).toBe('F#4:1 Gb4:-1 F4:0 G4:0'));
  test('what the coach says of a sign stands; a reminder goes out as one', () => {
    const marking = mark(part.notes[3]!.id, 'accidental', 'bracket');
    expect(signs(marking)).toBe('F#4:1 F#4:- F4:0 G4:0');
    expect(writeMarked(document, part, marking)).toContain('<accidental cautionary="yes" parentheses="yes">natural</accidental></note>');
  });
  test('states: what the reader assumes, and from which note', () => {
    const states = accidentalStates(part);
    expect(part.notes.map((each) => [states.get(each.id)!.assumed, states.get(each.id)!.from?.tick ?? null, states.get(each.id)!.needed])).toEqual([
      [0, null, true],
      [1, 0, false],
      [1, 0, true],
      [0, null, false],
    ]);
  });
});

describe('places', () => {
  test('a dynamic replaces the printed one and leaves the words in the same direction', () => {
    const { document, part } = open(
      `<measure number="1">${ATTRIBUTES}<direction><direction-type><words>dolce</words></direction-type><direction-type><dynamics><f/></dynamics></direction-type></direction>${note('A4', 4)}</measure>`,
    );
    const out = writeMarked(document, part, mark(placeTarget(0, 0), 'dynamic', 'pp'));
    expect(out).toContain('<words>dolce</words>');
    expect(out).not.toContain('<f/>');
    expect(out).toContain('<dynamics><pp/></dynamics>');
  });
  test('a struck dynamic takes its empty direction with it', () => {
    const { document, part } = open(
      `<measure number="1">${ATTRIBUTES}<direction><direction-type><dynamics><f/></dynamics></direction-type></direction>${note('A4', 4)}</measure>`,
    );
    expect(writeMarked(document, part, mark(placeTarget(0, 0), 'dynamic', STRUCK))).not.toContain('direction');
  });
  test('where no note begins, a direction is moved by an offset', () => {
    const { document, part } = open(`<measure number="1">${ATTRIBUTES}${note('A4', 4)}</measure>`);
    const out = writeMarked(document, part, mark(placeTarget(0, ticksOfQuarters(3)), 'text', 'here'));
    expect(out).toContain('<offset>3</offset>');
    expect(reread(out, 0).words).toMatchObject([{ tick: ticksOfQuarters(3), text: 'here' }]);
  });
  test.each([
    ['Andante, quarter = 72', 'Andante', 72],
    ['dotted quarter = 60', '', 90],
    ['Allegro (half=100)', 'Allegro', 200],
    ['= 96', '', 96],
    ['Più mosso', 'Più mosso', null],
    ['quarter = 9999', '', null],
  ])('tempo %s', (text, words, quartersPerMinute) => expect(parseTempo(text)).toMatchObject({ words, quartersPerMinute }));
});

test('a tie is found whole from any of its heads; edits are listed with those set aside', () => {
  const tie = (...types: string[]) => types.map((type) => `<tie type="${type}"/>`).join('');
  const { part } = open(
    `<measure number="1">${ATTRIBUTES}${note('A4', 4, tie('start'))}</measure><measure number="2">${note('A4', 4, tie('stop', 'start'))}</measure><measure number="3">${note('A4', 2, tie('stop'))}${note('A4', 2)}</measure>`,
  );
  for (const i of [0, 1, 2]) expect(tiedHeads(part, part.notes[i]!)).toEqual(part.notes.slice(0, 3));
  expect(tiedHeads(part, part.notes[3]!)).toEqual([part.notes[3]]);
  const marking: Marking = { ...mark(part.notes[0]!.id, 'pitch', 'B4'), 'x|finger': { value: '1', origin: 'coach' } };
  expect(printEdits(marking).map(({ kind }) => kind)).toEqual(['pitch']);
});

test('notes for the player go out as words where that is wanted, at the note or the bar they are about', () => {
  const { document, part } = open(`<measure number="1">${ATTRIBUTES}${note('A4', 2)}${note('B4', 2)}</measure>`);
  const marking: Marking = {
    [markKey(part.notes[1]!.id, 'listen')]: { value: 'cellos\n& basses', origin: 'coach' },
    [markKey('bar-0', 'words')]: { value: 'warm', origin: 'coach' },
  };
  expect(writeMarked(document, part, marking)).toBe(document.text);
  expect(reread(writeMarked(document, part, marking, { words: true }), 0).words.map(({ tick, text }) => [quartersOf(tick), text])).toEqual([
    [0, 'warm'],
    [2, 'listen: cellos / & basses'],
  ]);
});
