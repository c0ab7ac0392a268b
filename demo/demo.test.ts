import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DEMO_NAMES, demoScore, demoText } from '../tests/support/demo';
import { readMusicXml } from '../core/formats/musicxml/read';
import { testScores } from '../tests/support/everything';
import { linesOf } from '../core/instruments/lines';
import { midiOf } from '../core/score/pitch';
import { isZip, newContainer } from '../core/formats/raw/container';
import { applyEdits } from '../core/formats/musicxml/edits';
import { likeTheFile, readScoreBytes } from '../core/formats/read';
import { withMarks, writeMarked } from '../core/formats/musicxml/write';

import { everyMark } from '../core/testing/marks';
import { usualPlayer } from '../core/instruments/player';
import { fingerPart } from '../core/left-hand/part';
import { clockFor } from '../core/score/time';
import { paperType } from '../core/formats/paper';
import { toMusicXml } from './compose/musicxml';
import { SERENADE } from './compose/serenade';
import { EVENING_BARGE, HERON, LOW_TIDE, STAIRCASE } from './compose/studies';

const run = (command: string, ...args: string[]) => execFileSync(command, args, { encoding: 'utf8', maxBuffer: 1 << 26, stdio: ['ignore', 'pipe', 'ignore'] });

test('the score files are what the compositions make', () => {
  const made = [SERENADE, STAIRCASE, EVENING_BARGE, HERON, LOW_TIDE].map(toMusicXml);
  expect(DEMO_NAMES.map(demoText)).toEqual(made);
  expect(readdirSync(path.join(process.cwd(), 'demo', 'scores'))).toHaveLength(DEMO_NAMES.length);
});

test('the loose leaf is a song for a voice, typed from a photograph', () => {
  const leaf = (name: string) => readFileSync(path.join('demo', 'loose-leaves', name));
  const read = readScoreBytes(leaf('lock-keepers-song.abc'));
  if (!read.ok) throw new Error(read.problem.what);
  expect(read.value.score.warnings).toEqual([]);
  expect(read.value.score.parts.map(({ name, instrument, bars }) => [name, instrument, bars.length])).toEqual([['Voice', null, 17]]);
  expect(paperType(leaf('lock-keepers-song.jpg'))).toBe('image/jpeg');
});

test('the movement has 100 to 150 bars in five parts and the troubles of real life', () => {
  const { parts } = demoScore('mill-race-serenade').score;
  expect(parts.map((part) => part.instrument)).toEqual(['violin', 'violin', 'viola', 'cello', 'bass']);
  for (const part of parts) expect(part.bars.length).toBe(129);
  expect(linesOf(parts[0]!).length).toBeGreaterThan(1);
  expect(parts[0]!.tempi.map((tempo) => tempo.quartersPerMinute)).toEqual([112, 76, 112]);
  expect(parts[3]!.notes.some((note) => midiOf(note.pitch) >= 67)).toBe(true);
});

test('every note of the demo can be played by a usual adult', () => {
  for (const name of DEMO_NAMES) {
    const { score } = demoScore(name);
    for (const part of score.parts) {
      const request = { score, part, player: usualPlayer(part.instrument!), clock: clockFor(part, null), marking: {}, alternatives: 1 };
      expect(fingerPart(request).unplayable.map((trouble) => [name, part.name, trouble.event.ids[0], trouble.reason])).toEqual([]);
    }
  }
});

test('a round trip without marks gives back every test score as it came, in every encoding and compressed', () => {
  const utf16 = (text: string) => {
    const bytes = new Uint8Array(2 + text.length * 2);
    bytes.set([0xff, 0xfe]);
    for (let i = 0; i < text.length; i++) new DataView(bytes.buffer).setUint16(2 + i * 2, text.charCodeAt(i), true);
    return bytes;
  };
  for (const text of Object.values(testScores())) {
    const plain = new TextEncoder().encode(text);
    for (const bytes of [plain, utf16(text), newContainer(plain)]) {
      const read = readScoreBytes(bytes);
      if (!read.ok) throw new Error(read.problem.what);
      const { document, score } = read.value;
      const out = likeTheFile(
        applyEdits(
          document.text,
          score.parts.flatMap((part) => withMarks(document, part, {}).edits),
        ),
        bytes,
      );
      const again = readScoreBytes(out);
      expect(again.ok && again.value.document.text).toBe(document.text);
      if (!isZip(bytes)) expect(Buffer.compare(out, bytes)).toBe(0);
    }
  }
});

describe('the published MusicXML 3.0 schema', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'omaggio-'));
  afterAll(() => rmSync(folder, { recursive: true }));
  const complaints = (files: Record<string, string>): Record<string, string[]> => {
    for (const [name, text] of Object.entries(files)) writeFileSync(path.join(folder, name), text);
    const found = JSON.parse(run('node', 'tests/support/validate-xsd.mjs', ...Object.keys(files).map((name) => path.join(folder, name)))) as Record<
      string,
      string[]
    >;
    return Object.fromEntries(Object.entries(found).map(([file, messages]) => [path.basename(file), messages]));
  };
  test('an export has nothing that the schema did not find in the source, with every kind of mark on every fifth note', () => {
    const files: Record<string, string> = {};
    for (const [name, text] of Object.entries(testScores())) {
      const read = readMusicXml(text);
      if (!read.ok) throw new Error(read.problem.what);
      const { document, score } = read.value;
      files[`${name}.musicxml`] = text;
      for (const part of score.parts) files[`${name}-${part.id}.musicxml`] = writeMarked(document, part, everyMark(part, 5), { words: true });
    }
    const found = complaints(files);
    expect(Object.keys(found)).toHaveLength(Object.keys(files).length);
    for (const [file, messages] of Object.entries(found)) {
      const source = Object.keys(testScores()).find((name) => file === `${name}.musicxml` || new RegExp(`^${name}-P\\d+\\.musicxml$`).test(file))!;
      expect([file, messages]).toEqual([file, found[`${source}.musicxml`]]);
    }
    for (const name of [...DEMO_NAMES, 'everything', 'typed']) expect([name, found[`${name}.musicxml`]]).toEqual([name, []]);
  });
  test('the check does find what is wrong', () => {
    const broken = demoText('staircase').replace('<voice>1</voice>', '<voice>1</voice><fingering>3</fingering>');
    expect(complaints({ 'broken.musicxml': broken })['broken.musicxml']!.length).toBeGreaterThan(0);
  });
});

test('demo people and files name nothing that does not exist', () => {
  const people = JSON.parse(readFileSync(path.join(process.cwd(), 'demo', 'people.json'), 'utf8')) as { marked: Array<{ file: string; part: string }> };
  for (const { file, part } of people.marked) expect(demoScore(file).score.parts.map((each) => each.name)).toContain(part);
});
