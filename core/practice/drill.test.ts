import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { realScores } from '../../tests/support/real-scores';
import { readScoreBytes } from '../formats/read';
import { readMusicXml } from '../formats/musicxml/read';
import { linesOf } from '../instruments/lines';
import { usualPlayer, type Player } from '../instruments/player';
import { planFingering } from '../left-hand/fingering';
import { guideNoteName } from '../left-hand/fingered-note';
import { markKey, type Marking } from '../marking/mark';
import { midiOf, pitchName } from '../score/pitch';
import type { InstrumentKind, Part } from '../score/score';
import { quartersOf } from '../score/ticks';
import { clockFor } from '../score/time';
import { makeScore, type MakeOptions } from '../testing/make';
import { DRILL_NAMES, drillOf, drillsFor, type Drill, type DrillName } from './drill';
import { passageOf, type Passage } from './passage';

function passageIn(
  part: Part,
  range = { fromBar: 0, toBar: part.bars.length - 1 },
  player: Player = usualPlayer(part.instrument!),
  marking: Marking = {},
): Passage | null {
  const line = linesOf(part)[0]!;
  const fingering = planFingering({ part, line, marking, player, clock: clockFor(part, 90), alternatives: 1 }).alternatives[0] ?? null;
  return passageOf({ part, line, range, marking, player, fingering });
}
const typed = (kind: InstrumentKind, music: string, options: MakeOptions = {}): Passage => passageIn(makeScore(kind, music, options).part)!;
const AT = { quartersPerMinute: 60 };

const read = (drill: Drill): Part => {
  const again = readMusicXml(drill.musicXml);
  if (!again.ok) throw new Error(again.problem.what);
  expect(again.value.score.warnings).toEqual([]);
  return again.value.score.parts[0]!;
};
/** "A4/0.5 r/1 D4+F4/2": as it is read again, ties joined. */
function told(part: Part, fromBar = 0, toBar = part.bars.length - 1): string {
  const events = linesOf(part)[0]!.events.filter(({ notes: [note] }) => note!.barIndex >= fromBar && note!.barIndex <= toBar);
  const rests = part.rests.filter(({ barIndex }) => barIndex >= fromBar && barIndex <= toBar);
  return [
    ...events.map(({ onset, end, notes }) => ({
      onset,
      text: `${notes.map(({ written }) => pitchName(written)).join('+')}/${Math.round(quartersOf(end - onset) * 1000) / 1000}`,
    })),
    ...rests.map(({ onset, duration }) => ({ onset, text: `r/${quartersOf(duration)}` })),
  ]
    .sort((a, b) => a.onset - b.onset)
    .map(({ text }) => text)
    .join(' ');
}
const drill = (kind: DrillName, passage: Passage, options = AT): Drill => {
  const made = drillOf(kind, passage, options);
  if (!made) throw new Error(`${kind} does not fit`);
  return made;
};
/** Bars where the steps begin. */
const begins = (part: Part): number[] => [0, ...part.bars.flatMap(({ doubleBarAfter }, i) => (doubleBarAfter && i + 1 < part.bars.length ? [i + 1] : []))];
function stepsOf(made: Drill): string[] {
  const part = read(made);
  const from = begins(part);
  expect(from).toHaveLength(made.steps.length);
  return from.map((bar, i) => told(part, bar, (from[i + 1] ?? part.bars.length) - 1));
}

const eighths = 'D4 E4 F4 G4 A4 B4 C5 D5';

describe('each kind by an example', () => {
  test('groups of four with their stops, into the next, half a stop, none', () => {
    const made = drill('groups', typed('violin', eighths, { length: 0.5 }));
    expect(made.steps.slice(0, 1)).toEqual(['groups of 4, a beat between']);
    const steps = stepsOf(made);
    expect(steps[0]).toBe('D4/0.5 E4/0.5 F4/0.5 G4/0.5 r/1 A4/0.5 B4/0.5 C5/0.5 D5/0.5 r/1 r/2');
    expect(steps[1]).toMatch(/^D4\/0\.5 E4\/0\.5 F4\/0\.5 r\/1 G4/);
    expect(steps[3]).toBe('D4/0.5 E4/0.5 F4/0.5 G4/0.5 A4/1 A4/0.5 B4/0.5 C5/0.5 D5/0.5 r/1 r/2'.replace('A4/1 A4/0.5 B4/0.5', 'A4/1 A4/0.5 B4/0.5'));
    expect(steps[4]).toContain('G4/0.5 r/0.5 A4/0.5');
    expect(steps[5]).toBe('D4/0.5 E4/0.5 F4/0.5 G4/0.5 A4/0.5 B4/0.5 C5/0.5 D5/0.5');
  });
  test('rhythms keep the notes, their order and their sum', () => {
    const made = drill('rhythms', typed('violin', eighths, { length: 0.5 }));
    const [longShort, shortLong, three] = stepsOf(made);
    expect(longShort).toMatch(/^D4\/0\.75 E4\/0\.25 F4\/0\.75 G4\/0\.25/);
    expect(shortLong).toMatch(/^D4\/0\.25 E4\/0\.75/);
    expect(three).toMatch(/^D4\/1 E4\/0\.333 F4\/0\.333 G4\/0\.333 A4\/1/);
  });
  test('filled: each long note in the smallest value', () => {
    const steps = stepsOf(drill('filled', typed('violin', 'A4/1.5 B4/0.5 C5/2')));
    expect(steps[0]).toBe('A4/0.5 A4/0.5 A4/0.5 B4/0.5 C5/0.5 C5/0.5 C5/0.5 C5/0.5');
  });
  test('a chain begins with the last bar and ends with all', () => {
    const made = drill('chain', typed('cello', 'C3 D3 E3 F3 G3 A3 B3 C4 D4 C4 B3 A3'));
    expect(made.steps).toEqual(['the last bar', 'the last 2 bars', 'all of it']);
    expect(stepsOf(made)[0]).toBe('D4/1 C4/1 B3/1 A3/1');
    expect(read(made).bars).toHaveLength(6);
  });
  test('the skeleton is the first and the lowest note of each beat', () => {
    const [first, lowest] = stepsOf(drill('skeleton', typed('violin', 'B4 G4 D5 G4 C5 A4 E5 A4', { length: 0.5 })));
    expect([first, lowest]).toEqual(['B4/1 D5/1 C5/1 E5/1', 'G4/1 G4/1 A4/1 A4/1']);
  });
  test('two and two, twice as many on a bow, separate', () => {
    const made = drill('slurs swapped', typed('violin', '(D4 E4) (F4 G4) (A4 B4) (C5 D5)', { length: 0.5 }));
    expect(made.steps).toEqual(['all separate', 'two and two', 'twice as many on a bow', 'as it is slurred']);
    const part = read(made);
    const slurs = (bar: number) =>
      part.slurs.filter(({ onset }) => onset >= part.bars[bar]!.onset && onset < part.bars[bar]!.onset + part.bars[bar]!.ticks).length;
    expect([0, 1, 2, 3].map(slurs)).toEqual([0, 4, 2, 4]);
  });
  test('crossings on the open strings, the bow alone', () => {
    const passage = typed('violin', '(B3 E4) (C4 F4) (B3 E4) (C4 F4)', { length: 0.5 });
    expect(stepsOf(drill('open strings', passage))[0]).toBe('G3/0.5 D4/0.5 G3/0.5 D4/0.5 G3/0.5 D4/0.5 G3/0.5 D4/0.5');
    expect(stepsOf(drill('bow alone', passage))[0]).toBe('G3/1 G3/1 G3/1 G3/1');
    expect(drillOf('open strings', typed('violin', 'A4 B4 C5 B4'), AT)).toBeNull();
  });
  test('the trill from its end: two notes and the next, three, four … to nine; the upper finger thrice with the ending', () => {
    // A quarter at 60 for an advanced player: nine notes.
    const { part } = makeScore('violin', 'A4/1 B4/1 C5/2', { fifths: 0 });
    part.notes[0] = { ...part.notes[0]!, trill: true };
    const player = { ...usualPlayer('violin'), level: 'advanced' as const };
    const made = drill('trill from its end', passageIn(part, undefined, player)!);
    expect(made.steps).toEqual([2, 3, 4, 5, 6, 7, 8, 9].map((n) => `the last ${n}`));
    const steps = stepsOf(made);
    expect(steps[0]).toMatch(/^G4\/0\.25 A4\/0\.25 B4\/1/);
    expect(steps[1]).toMatch(/^A4\/0\.25 G4\/0\.25 A4\/0\.25 B4\/1/);
    const nine = steps[7]!
      .split(' ')
      .slice(0, 9)
      .map((each) => each.split('/')[0]);
    expect(nine).toEqual(['A4', 'B4', 'A4', 'B4', 'A4', 'B4', 'A4', 'G4', 'A4']);
    expect(nine.filter((pitch) => pitch === 'B4')).toHaveLength(3);
    // The note of the trill has its finger, the others are left to the player.
    const main = passageIn(part, undefined, player)!.notes[0]!.heads[0]!.finger;
    const small = read(made).notes.filter(({ duration }) => quartersOf(duration) === 0.25);
    for (const { written, printed } of small)
      expect([pitchName(written), printed.finger]).toEqual([pitchName(written), pitchName(written) === 'A4' ? main : null]);
    expect(read(made).slurs).toHaveLength(made.steps.length);
  });
  test('a shift with its guide note: the pitch that finger and position give, four times there and back, then silent, then the bar', () => {
    // The second finger leads into third position, where it would play B; the fourth plays D.
    const { part } = makeScore('violin', 'F#5/1 G#5/1 D6/2', { fifths: 3 });
    const marking = Object.fromEntries(part.notes.map(({ id }, i) => [markKey(id, 'finger'), { value: '124'[i]!, origin: 'coach' as const }]));
    const passage = passageIn(part, undefined, undefined, marking)!;
    const moved = passage.notes.filter(({ heads }) => heads[0]!.planned?.shift?.guide);
    expect(moved).toHaveLength(1);
    const made = drill('shift', passage);
    const guide = guideNoteName(moved[0]!.heads[0]!.planned!.shift!, passage.player.instrument, 3)!;
    expect(guide).toBe('B5');
    const heard = stepsOf(made)[made.steps.findIndex((words) => words.includes('guide note heard'))]!.split(' ');
    expect(heard.filter((each) => each === `${guide}/1`)).toHaveLength(8);
    // There and back: a beat for the old note, one for the guide note, two for the new one.
    expect(heard.slice(0, 6)).toEqual(['G#5/1', 'B5/1', 'D6/2', 'D6/1', 'B5/1', 'G#5/2']);
    const silent = stepsOf(made)[made.steps.indexOf('the guide note silent')]!;
    expect(silent).toBe(Array.from({ length: 4 }, () => 'G#5/2 D6/2').join(' '));
    const [old, guided, arrived] = read(made).notes;
    expect([old, guided, arrived].map((note) => [note!.printed.finger, note!.printed.string])).toEqual([
      ['2', 1],
      ['2', 1],
      ['4', 1],
    ]);
    expect(drillOf('shift', typed('violin', 'A4 B4 C5 D5'), AT)).toBeNull();
  });
  test('in one hand: neighbours on two strings as double stops', () => {
    const steps = stepsOf(drill('blocked', typed('violin', 'B4 G5 B4 G5 C5 A5 C5 A5', { length: 0.5 })));
    expect(steps[0]).toMatch(/^B4\+G5\/1 B4\+G5\/1 C5\+A5\/1 C5\+A5\/1/);
    // What a rest stands between, or what lies on one string, is not sounded together.
    expect(drillOf('blocked', typed('violin', 'B4/0.5 r/0.5 G5/0.5 r/0.5 B4/0.5 r/0.5 G5/0.5 r/0.5'), AT)).toBeNull();
    expect(drillOf('blocked', typed('violin', 'B4 C5 D5 C5 B4 C5 D5 C5', { length: 0.5 }), AT)).toBeNull();
  });
  test('the scale in the key, separate, two and four on a bow, and the arpeggio in threes', () => {
    const made = drill('scale', typed('violin', 'G4 B4 D5 G5 F#5 D5 A4 G4', { fifths: 1, length: 0.5 }));
    expect(made.steps).toEqual(['G major, separate', 'G major, 2 on a bow', 'G major, 4 on a bow', 'G major, the arpeggio']);
    const steps = stepsOf(made);
    expect(steps[0]).toMatch(/^G3\/1 A3\/1 B3\/1 C4\/1 D4\/1 E4\/1 F#4\/1 G4\/1/);
    expect(steps[3]).toMatch(/^G3\/1 B3\/1 D4\/1 G4\/1/);
    const part = read(made);
    const at = begins(part).map((bar) => part.bars[bar]!.onset);
    const slurs = (i: number) => part.slurs.filter(({ onset }) => onset >= at[i]! && onset < (at[i + 1] ?? Infinity));
    const events = linesOf(part)[0]!.events;
    const under = (i: number) => slurs(i).map(({ onset, endOnset }) => events.filter((event) => event.onset >= onset && event.onset <= endOnset).length);
    expect(slurs(0)).toEqual([]);
    expect([Math.max(...under(1)), Math.max(...under(2)), Math.max(...under(3))]).toEqual([2, 4, 3]);
    expect(under(1).every((count) => count === 2)).toBe(true);
  });
  test('a voice at a time; an octave below; find the note; bare; variants; the stroke alone', () => {
    expect(stepsOf(drill('one voice', typed('violin', 'D4+B4 E4+C5 F4+D5 D4+B4'))).slice(0, 2)).toEqual(['D4/1 E4/1 F4/1 D4/1', 'B4/1 C5/1 D5/1 B4/1']);
    const high = typed('violin', 'E6 F6 G6 A6');
    expect(stepsOf(drill('octave below', high))[0]).toBe('E5/1 F5/1 G5/1 A5/1');
    expect(stepsOf(drill('find the note', high))).toEqual(['A5/2 A6/2 A5/2 A6/2', Array.from({ length: 4 }, () => 'G6/1 A6/1').join(' ')]);
    expect(drillOf('find the note', typed('violin', 'A4 B4 C5 D5'), AT)).toBeNull();
    expect(drillOf('octave below', typed('violin', 'A4 B4 C5 D5'), AT)).toBeNull();
    const { part } = makeScore('violin', 'A4/1 B4/1 C5/2');
    part.notes[0] = { ...part.notes[0]!, trill: true };
    expect(stepsOf(drill('bare', passageIn(part)!))[0]).toBe('A4/1 B4/1 C5/2');
    const variants = drill('bow variants', typed('violin', eighths, { length: 0.5 }));
    const read3 = read(variants);
    const at = begins(read3);
    const inStep = (i: number) =>
      read3.slurs.filter(({ onset }) => onset >= read3.bars[at[i]!]!.onset && onset < (read3.bars[at[i + 1]!]?.onset ?? Infinity)).length;
    expect(variants.steps.slice(0, 4)).toEqual(['separate, in the middle', 'two and two', 'three and one', 'one and three']);
    expect([0, 1, 2, 3].map(inStep)).toEqual([0, 4, 2, 2]);
    expect(stepsOf(drill('stroke alone', typed('violin', 'A4 B4 C5 D5')))[0]).toBe('A4/1 A4/1 A4/1 A4/1');
  });
});

/** Passages of real scores and the demo: four bars at a time. */
const passages: Array<readonly [string, Passage]> = [
  ...['mill-race-serenade', 'low-tide', 'the-heron', 'staircase', 'evening-barge'].map((name) => [name, readFileSync(`demo/scores/${name}.musicxml`)] as const),
  ...realScores(),
].flatMap(([name, bytes]) => {
  const score = readScoreBytes(bytes);
  if (!score.ok) return [];
  return score.value.score.parts
    .filter(({ instrument, notes }) => instrument !== null && notes.length > 0)
    .slice(0, 3)
    .flatMap((part) => {
      // In the middle, and where there is a trill, a grace note, a chord.
      const places = [
        part.notes[Math.floor(part.notes.length / 3)],
        part.notes.find(({ trill }) => trill),
        part.notes.find(({ grace }) => grace),
        part.notes.find(({ inChord }) => inChord),
      ];
      return places.flatMap((note) => {
        if (!note) return [];
        const from = Math.max(0, Math.min(note.barIndex, part.bars.length - 4));
        const passage = passageIn(part, { fromBar: from, toBar: from + 3 });
        return passage ? [[`${name} ${part.name} ${from}`, passage] as const] : [];
      });
    });
});

test('of real music: every drill is a score again, as long as it says, playable by this hand, of notes that come from the passage', () => {
  const seen = new Set<DrillName>();
  const folder = mkdtempSync(path.join(tmpdir(), 'omaggio-drills-'));
  const files: string[] = [];
  for (const [name, passage] of passages) {
    const own = new Set(passage.notes.flatMap(({ heads }) => heads.map(({ pitch }) => midiOf(pitch) % 12)));
    for (const made of drillsFor(passage, AT)) {
      if (!seen.has(made.kind) || files.length < 60) {
        files.push(path.join(folder, `${files.length}.musicxml`));
        writeFileSync(files.at(-1)!, made.musicXml);
      }
      seen.add(made.kind);
      const part = read(made);
      const sounding = linesOf(part)[0]!.events;
      expect([name, made.kind, sounding.length > 0]).toEqual([name, made.kind, true]);
      // As long as it says, filled up with rests to whole bars.
      const whole = quartersOf(part.bars.reduce((sum, { ticks }) => sum + ticks, 0));
      expect(whole).toBeGreaterThanOrEqual(made.quarters - 0.01);
      expect(whole - made.quarters).toBeLessThan(made.steps.length * quartersOf(part.bars[0]!.ticks));
      if (!['stroke alone', 'trill from its end', 'open strings', 'bow alone', 'shift', 'scale'].includes(made.kind))
        expect([name, made.kind, part.notes.filter(({ written }) => !own.has(midiOf(written) % 12)).map(({ written }) => pitchName(written))]).toEqual([
          name,
          made.kind,
          [],
        ]);
      const player = passage.player;
      const plan = planFingering({
        part: { ...part, instrument: player.instrument.kind },
        line: linesOf(part)[0]!,
        marking: {},
        player,
        clock: clockFor(part, 60),
        alternatives: 1,
      });
      if (
        planFingering({ part: passage.part, line: linesOf(passage.part)[0]!, marking: {}, player, clock: clockFor(passage.part, 60), alternatives: 1 })
          .unplayable.length === 0
      )
        expect([
          name,
          made.kind,
          plan.unplayable.map(({ event }) => [
            event.notes[0]!.barIndex,
            event.notes.map(({ pitch, printed }) => `${pitchName(pitch)} ${printed.finger} ${printed.string}`),
          ]),
        ]).toEqual([name, made.kind, []]);
    }
  }
  // The published schema says the same.
  const complaints = JSON.parse(execFileSync('node', ['tests/support/validate-xsd.mjs', ...files], { encoding: 'utf8', maxBuffer: 64e6 })) as Record<
    string,
    string[]
  >;
  rmSync(folder, { recursive: true });
  expect(Object.entries(complaints).filter(([, found]) => found.length > 0)).toEqual([]);
  expect(passages.length).toBeGreaterThan(10);
  expect(DRILL_NAMES.filter((kind) => !seen.has(kind))).toEqual([]);
});
