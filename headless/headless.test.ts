import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { demoText } from '../tests/support/demo';
import { linesOf } from '../core/instruments/lines';
import { clockFor } from '../core/score/time';
import { synthTake, wavOf } from '../tests/support/synth-take';
import { problemText } from '../core/util/result';
import { readMusicXml } from '../core/formats/musicxml/read';
import { run } from './commands';
import { readOptions } from './options';
import { bowShape, checkShape, drillShape, fingerShape, listenShape, notesShape, partsShape, planShape, scoreShape } from './shapes';
import { forPeople, table } from './table';

const bytesOf = (name: string) => new TextEncoder().encode(demoText(name));
function ask(line: string, name = 'staircase', marks: unknown = null) {
  const options = readOptions(line.split(' ').concat('-'));
  if (!options.ok) throw new Error(problemText(options.problem));
  const outcome = run(options.value, bytesOf(name), marks === null ? null : JSON.stringify(marks));
  if (!outcome.ok) throw new Error(problemText(outcome.problem));
  return outcome.value;
}

describe('each command gives its promised shape', () => {
  test('parts', () => {
    const { parts } = partsShape.parse(ask('parts', 'mill-race-serenade').value);
    expect(parts.map((part) => [part.id, part.instrument, part.bars])).toEqual([
      ['P1', 'violin', 129],
      ['P2', 'violin', 129],
      ['P3', 'viola', 129],
      ['P4', 'cello', 129],
      ['P5', 'bass', 129],
    ]);
  });
  test('notes: onsets in quarters, sounding pitch, beats of the printed unit', () => {
    const { notes } = notesShape.parse(ask('notes --bars 1-1', 'low-tide').value);
    expect(notes.map(({ bar, barIndex, beat, onset, duration, pitch }) => ({ bar, barIndex, beat, onset, duration, pitch }))).toEqual([
      { bar: '1', barIndex: 0, beat: 1, onset: 0, duration: 1, pitch: 'A1' },
      { bar: '1', barIndex: 0, beat: 2, onset: 1, duration: 1, pitch: 'C2' },
      { bar: '1', barIndex: 0, beat: 3, onset: 2, duration: 1, pitch: 'E2' },
    ]);
    expect(notesShape.parse(ask('notes --bars 1-1', 'evening-barge').value).notes.map((note) => note.beat)).toEqual([1, 2, 3, 4]);
  });
  test('finger: alternatives that differ, the best first', () => {
    const { alternatives } = fingerShape.parse(ask('finger --bars 1-8 -k 4').value);
    expect(alternatives.length).toBeGreaterThanOrEqual(3);
    expect(new Set(alternatives.map((way) => way.notes.map((note) => note.string + note.finger).join())).size).toBe(alternatives.length);
  });
  test('score: who plays together, what differs, and the tempo for all', () => {
    const { value } = ask('score', 'mill-race-serenade');
    const { groups, tempo } = scoreShape.parse(value);
    expect(groups.length).toBeGreaterThan(20);
    expect(groups.some(({ agreement }) => agreement === 'opposite bows')).toBe(true);
    expect(groups.flatMap(({ differences }) => differences).every(({ says }) => says.length > 1)).toBe(true);
    expect(tempo.ceilingBy).not.toBeNull();
    const text = forPeople('score', value);
    expect(text).toContain(tempo.text);
    expect(text).toContain('17–23');
    expect(() => ask('score', 'staircase')).toThrow('The score has one string part.');
  });
  test('score: roles, chords, entries and the page for the rehearsal, as the screen has them', () => {
    const { value } = ask('score', 'mill-race-serenade');
    const { roles, chords, entries, tunes, rehearsal, tempo } = scoreShape.parse(value);
    expect(roles.find(({ part, fromBar }) => part === 'Viola' && fromBar === 33)!.role).toBe('tune');
    expect(tunes.map(({ who }) => who.join())).toContain('Cello');
    expect(chords.slice(0, 3)).toEqual([
      { at: '0/3', chord: 'D major' },
      { at: '2/1', chord: 'A major, first inversion' },
      { at: '3/1', chord: 'B minor' },
    ]);
    expect(entries[0]).toMatchObject({ at: '53/1', who: 'Violin I', silent: '4 bars of rest' });
    expect(tempo.sections).toHaveLength(8);
    expect(rehearsal.spots.length).toBeGreaterThan(5);
    const text = forPeople('score', value);
    for (const said of ['off-beats', 'A major, first inversion', '4 bars of rest', tempo.sections[3]!.text]) expect(text).toContain(said);
    expect(() => ask('score', 'mill-race-serenade', '{}')).toThrow('Marks are of one part, and none is named.');
    expect(ask('score --tempo 60', 'mill-race-serenade').value).toMatchObject({ tempo: { wanted: 60 } });
  });
  test('bow', () => {
    const { alternatives } = bowShape.parse(ask('bow --bars 1-8').value);
    expect(alternatives[0]!.strokes[0]!.direction).toBe('down');
  });
  test('check, whole and for some bars', () => {
    const whole = checkShape.parse(ask('check --level beginner --hand small --remedies none').value);
    const some = checkShape.parse(ask('check --level beginner --hand small --bars 25-32 --remedies none').value);
    expect(whole.findings.length).toBeGreaterThan(some.findings.length);
    expect(some.findings.every((finding) => finding.barIndex >= 24)).toBe(true);
  });
  test('check computes what helps: its marks, given back, make the finding milder or end it', () => {
    const command = 'check --level intermediate --hand small --bars 28-29';
    const { findings } = checkShape.parse(ask(command).value);
    const tried = findings.flatMap((finding) =>
      finding.remedies.filter(({ marks, kind }) => marks.length && kind !== 'marks').map((remedy) => ({ finding, remedy })),
    );
    expect(tried.length).toBeGreaterThan(2);
    for (const { finding, remedy } of tried.slice(0, 3)) {
      expect(remedy.after!).toBeLessThan(remedy.before!);
      const after = checkShape.parse(ask(`${command} --remedies none`, undefined, { marks: remedy.marks }).value).findings;
      const same = after.find(({ id }) => id === finding.id);
      if (remedy.solved) expect(same).toBeUndefined();
      else expect(same!.severity).toBeLessThanOrEqual(finding.severity);
    }
  });
  test('check knows the tolerance and the pitch that is aimed at, and the other parts of the score', () => {
    const tuned = (set: string) =>
      checkShape.parse(ask(`check --level intermediate --remedies none ${set}`).value).findings.filter(({ kind }) => kind === 'out-of-tune risk');
    expect(tuned('--set tolerance=10').length).toBeGreaterThan(tuned('--set tolerance=40').length);
    expect(tuned('--set pitch=just').some(({ numbers }) => numbers.aim === 'just')).toBe(true);
    expect(tuned('--set pitch=equal').every(({ numbers }) => numbers.aim === undefined)).toBe(true);
    const entry = checkShape.parse(ask('check --bars 53 --remedies none', 'mill-race-serenade').value).findings.find(({ kind }) => kind === 'counting trap')!;
    expect(entry.hearIt).toContain('Listen for Viola, 52');
  });
  test('drill: what fits these bars, one of them as a score of its own', () => {
    const { drills } = drillShape.parse(ask('drill --bars 25-28', 'mill-race-serenade').value);
    expect(drills.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['groups', 'rhythms', 'chain', 'bow variants']));
    const one = ask('drill --bars 25-28 --kind bow-variants -o x.musicxml', 'mill-race-serenade');
    const read = readMusicXml(new TextDecoder().decode(one.marked!));
    expect(read.ok && read.value.score.parts[0]!.notes.length).toBeGreaterThan(100);
    expect(drillShape.parse(one.value).drills.map(({ kind }) => kind)).toEqual(['bow variants']);
  });
  test('plan: every day has its minutes, what falls short is said, a goal above the ceiling too', () => {
    const plan = planShape.parse(ask('plan --until 2026-12-18 --today 2026-12-01 --minutes 25 --level beginner', 'mill-race-serenade').value);
    expect(plan.days.map(({ day }) => day)).toEqual(Array.from({ length: 17 }, (_, i) => `2026-12-${String(i + 1).padStart(2, '0')}`));
    for (const { warmUp, rests, playThrough, blocks } of plan.days)
      expect(blocks.reduce((sum, { minutes }) => sum + minutes, warmUp + rests + playThrough)).toBeLessThanOrEqual(25);
    expect(plan.days.slice(-2).map(({ blocks, wholeRuns }) => [blocks.length, wholeRuns.length > 0])).toEqual([
      [0, true],
      [0, true],
    ]);
    expect(plan.days[0]!.blocks[0]!.why).toMatch(/^\d+ of \d+.*not begun yet$/);
    expect(plan.caution).toBeNull();
    const long = ask('plan --until 2026-12-03 --today 2026-12-01 --minutes 121').value;
    expect(planShape.parse(long).caution).toMatch(/stop where anything hurts.*health professional/);
    expect(forPeople('plan', long)).toContain('build it up over weeks');
    expect(plan.capped.length).toBeGreaterThan(0);
    for (const { ceiling } of plan.capped) expect(ceiling).toBeLessThan(plan.wanted);
  });
  test('listen: a take that was made with known errors, note by note', () => {
    const read = readMusicXml(demoText('staircase'));
    if (!read.ok) throw new Error(read.problem.what);
    const part = read.value.score.parts[0]!;
    const events = linesOf(part)[0]!.events.filter(({ notes: [note] }) => note!.barIndex < 2);
    const { samples, rate, truth } = synthTake({ events, slurred: events.map(() => false), clock: clockFor(part, null), seed: 4, tuning: 6 });
    const options = readOptions(['listen', '-', 'take.wav', '--bars', '1-2']);
    if (!options.ok) throw new Error(problemText(options.problem));
    const asked = (bytes: Uint8Array | null) => run(options.value, bytesOf('staircase'), null, bytes);
    const outcome = asked(wavOf(samples, rate));
    if (!outcome.ok) throw new Error(problemText(outcome.problem));
    const { notes, tuning, matched } = listenShape.parse(outcome.value.value);
    expect([notes.length, matched > 0.9]).toEqual([events.length, true]);
    for (const { event, cents } of truth) {
      const note = notes[event]!;
      if (note.cents !== null && !note.isHint) expect(Math.abs(note.cents + tuning - 6 - cents)).toBeLessThan(3);
    }
    expect(forPeople('listen', outcome.value.value)).toMatch(/% found; tuned .* cents from 440 Hz/);
    const refused = (bytes: Uint8Array | null) => {
      const answer = asked(bytes);
      return answer.ok ? '' : problemText(answer.problem);
    };
    expect(refused(null)).toMatch(/no take.*take\.wav/);
    expect(refused(new TextEncoder().encode('no sound'))).toMatch(/take\.wav: This is no WAV file/);
    expect(refused(wavOf(new Float32Array(rate * 3), rate))).toMatch(/Nothing is heard/);
  });
  test('every command has a table for people', () => {
    for (const command of ['parts', 'notes', 'finger', 'bow', 'check', 'drill', 'plan'] as const) {
      const lines = forPeople(
        command,
        ask(
          { check: 'check --bars 25', finger: 'finger -k 2', bow: 'bow -k 2', drill: 'drill --bars 1-8', plan: 'plan --until 2026-12-05 --today 2026-12-01' }[
            command as string
          ] ?? command,
        ).value,
      ).split('\n');
      expect(lines.length).toBeGreaterThan(1);
    }
    expect(
      table([
        ['a', 'bb'],
        ['ccc', 1],
      ]),
    ).toBe('a    bb\nccc  1');
  });
});

describe('options do what they say', () => {
  const firstNote = (line: string, marks: unknown = null) =>
    fingerShape.parse(ask(`finger --bars 1-1 ${line}`.trim(), 'staircase', marks).value).alternatives[0]!.notes[0]!;
  test('marks are locks', () => {
    const id = notesShape.parse(ask('notes --bars 1-1').value).notes[0]!.id;
    expect(firstNote('', { marks: [{ id, kind: 'finger', value: '4' }] })).toMatchObject({ finger: '4', string: 3 });
  });
  test('a preference changes the choice', () => {
    expect(firstNote('').finger).toBe('0');
    expect(firstNote('--set openAny=5').finger).not.toBe('0');
  });
  test('schools and presets by name, weights by term', () => {
    const fingers = (line: string, name = 'staircase') => fingerShape.parse(ask(`finger -k 1 ${line}`.trim(), name).value).alternatives[0]!.notes;
    const opens = (line: string) => fingers(line).filter((note) => note.finger === '0').length;
    // The lowest string's own note can only be open.
    expect(opens('--set open-strings=stopped')).toBeLessThanOrEqual(1);
    expect(opens('--set open-strings=open')).toBeGreaterThan(1);
    const third = (line: string) => fingers(line, 'low-tide').filter((note) => note.finger === '3' && (note.hand ?? 0) < 10).length;
    expect([third(''), third('--set bass-fingers=four') > 0]).toEqual([0, true]);
    const shifts = (line: string) => fingers(line).filter((note) => note.shift).length;
    expect(shifts('--set weight.shift=10 --set weight.long-shift=10')).toBeLessThanOrEqual(shifts(''));
  });
  test('two players: which notes made the difference, with the caution', () => {
    const { against } = fingerShape.parse(ask('finger -k 1 --instrument cello:1/2 --hand 75/90 --against cello:4/4,large', 'the-heron').value);
    expect(against!.differing.length).toBeGreaterThan(0);
    expect(against!.decisive[0]!.text).toMatch(/mm for (this|the other) player|does not go to/);
    expect(against!.caution).toContain('no pain, ever');
    expect(fingerShape.parse(ask('finger -k 1 --bars 1-4').value).against).toBeNull();
  });
  test('a measured hand', () => expect(ask('finger --hand 80/95 --bars 1-4').value).toBeTruthy());
  test('what else there is to say, in bars and words', () => {
    const { advice } = fingerShape.parse(ask('finger -k 1').value);
    for (const { bar, text, noteIds } of advice) expect([bar.length > 0, text.length > 10, noteIds.length > 0]).toEqual([true, true, true]);
    expect(advice.length).toBeGreaterThan(0);
  });
  test('sparse, usual, every note', () => {
    const written = (density: string) => {
      const read = readMusicXml(new TextDecoder().decode(ask(`finger -k 1 -o x --write ${density}`).marked!));
      return read.ok ? read.value.score.parts[0]!.notes.filter((note) => note.printed.finger !== null).length : -1;
    };
    const [sparse, usual, every] = [written('sparse'), written('usual'), written('every-note')];
    expect(sparse).toBeGreaterThan(0);
    expect(sparse).toBeLessThanOrEqual(usual);
    expect(usual).toBeLessThan(every);
  });
  test('another instrument, size, tuning and tempo', () => {
    const openE = (line: string) => fingerShape.parse(ask(line).value).alternatives[0]!.notes.some((note) => note.pitch === 'E5' && note.finger === '0');
    expect([openE('finger --bars 1-8'), openE('finger --instrument viola:15" --bars 1-8')]).toEqual([true, false]);
    expect(checkShape.parse(ask('check --tempo 60 --remedies none').value).tempo.wanted).toBe(60);
    expect(fingerShape.parse(ask('finger --tuning solo --bars 1-1', 'low-tide').value).alternatives[0]!.notes[0]!.pitch).toBe('A1');
  });
  test('-o writes the marked score: the best fingering for finger', () => {
    const { marked } = ask('finger -o marked.musicxml --bars 1-4');
    const read = readMusicXml(new TextDecoder().decode(marked!));
    expect(read.ok && read.value.score.parts[0]!.notes[0]!.printed.finger).toBe('0');
  });
});

describe('bad input ends with one line that names place and remedy', () => {
  const problem = (line: string, marks: string | null = null, name = 'staircase') => {
    const options = readOptions(line.split(' ').filter(Boolean));
    if (!options.ok) return problemText(options.problem);
    const outcome = run(options.value, bytesOf(name), marks);
    return outcome.ok ? 'no problem' : problemText(outcome.problem);
  };
  test.each([
    ['dance x', /command: "dance".*parts, notes/],
    ['notes', /one file/],
    ['notes a b', /one file/],
    ['notes x --colour red', /--colour/],
    ['notes x --part Oboe', /part "Oboe".*1 Violin/],
    ['notes x --bars 99', /no bar 99.*bars 1 to 32/],
    ['finger x --instrument oboe', /--instrument: "oboe"/],
    ['finger x --instrument violin:9/9', /size "9\/9"/],
    ['finger x --tuning G3,xx', /tuning/],
    ['check x --tempo fast', /--tempo: "fast".*20 to 320/],
    ['finger x --level genius', /--level/],
    ['finger x --set beauty=1', /--set beauty.*shiftHeard/],
    ['finger x -k 0', /-k: "0"/],
    ['finger x --set preset=magic', /--set preset: "magic".*singing/],
    ['finger x --set weight.shift=-1', /--set weight\.shift.*0 to 10/],
    ['finger x --set weight.mood=1', /--set weight\.mood.*crossing/],
    ['check x --remedies some', /--remedies: "some".*all, none/],
    ['check x --set pitch=high', /--set pitch: "high".*pythagorean/],
    ['check x --set tolerance=1', /--set tolerance: 1 is no tolerance.*2 to 60/],
    ['finger x --set bass-fingers=5', /--set bass-fingers.*three, four/],
    ['finger x --hand 80-95', /--hand: "80-95"/],
    ['finger x --against oboe', /--against: "oboe"/],
    ['finger x --against viola:99', /size "99"/],
    ['drill x --kind dancing', /--kind: "dancing".*groups, rhythms/],
    ['drill x --kind one-voice --bars 1-2', /bars? 1.*"one voice" does not fit/],
    ['drill x --bars 1-8 -o y', /-o: One drill.*--kind/],
    ['plan x', /--until: It is missing.*2026/],
    ['plan x --until soon', /--until: "soon" is no day/],
    ['plan x --until 2026-02-30 --today 2026-01-01', /"2026-02-30" is no day/],
    ['plan x --until 2026-12-01 --today 2026-12-01', /no day left/],
    ['plan x --until 2029-12-01 --today 2026-12-01', /more than 400 days/],
    ['plan x --minutes many', /--minutes: "many"/],
    ['finger x --write lots', /--write: "lots".*every note/],
  ])('%s', (line, message) => expect(problem(line)).toMatch(message));
  test.each([
    ['{', /marks file/],
    ['{"marks":[{"id":"x"}]}', /marks file, marks\.0/],
    ['{"marks":[{"id":"nobody","kind":"finger","value":"1"}]}', /mark 1.*no note "nobody"/],
  ])('marks %s', (marks, message) => expect(problem('finger x', marks)).toMatch(message));
});

describe('the program itself', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'omaggio-'));
  afterAll(() => rmSync(folder, { recursive: true }));
  test('reads a file or standard input and writes JSON', () => {
    const file = path.join('demo', 'scores', 'low-tide.musicxml');
    const fromFile = execFileSync('bin/omaggio', ['parts', file, '--json'], { encoding: 'utf8' });
    expect(execFileSync('bin/omaggio', ['parts', '-', '--json'], { encoding: 'utf8', input: readFileSync(file) })).toBe(fromFile);
    expect(partsShape.parse(JSON.parse(fromFile)).parts[0]!.instrument).toBe('bass');
  });
  test('exit 2 and one line on standard error', () => {
    const file = path.join(folder, 'broken.musicxml');
    writeFileSync(file, '<score-partwise>');
    const { status, stderr, stdout } = spawnSync('bin/omaggio', ['check', file], { encoding: 'utf8' });
    expect([status, stdout]).toEqual([2, '']);
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).toContain('broken.musicxml: line 1, column');
  });
});
