import fc from 'fast-check';
import { runs } from '../../testing/runs';
import { zipSync, type Zippable } from 'fflate';
import { demoText } from '../../../tests/support/demo';
import { newContainer, openContainer, packContainer } from './container';
import { readMusicXmlBytes } from '../musicxml/read';

const text = (content: string) => new TextEncoder().encode(content);
const named = (path: string, type = '') =>
  text(`<container><rootfiles><rootfile full-path="${path}"${type && ` media-type="${type}"`}/></rootfiles></container>`);
const zip = (files: Zippable) => zipSync(files);
const problem = (bytes: Uint8Array) => {
  const read = readMusicXmlBytes(bytes);
  return read.ok ? 'read' : `${read.problem.place ?? ''}: ${read.problem.what} ${read.problem.remedy}`;
};
const SCORE = text(demoText('low-tide'));

describe('a compressed score', () => {
  test('is read as what is inside', () => {
    const read = readMusicXmlBytes(newContainer(SCORE));
    const plain = readMusicXmlBytes(SCORE);
    expect(read.ok && plain.ok && read.value.score).toEqual(plain.ok && plain.value.score);
  });
  test('may hold other files: the container says which is the score', () => {
    const bytes = zip({
      'META-INF/container.xml': text(
        '<container><rootfiles><rootfile full-path="a.pdf" media-type="application/pdf"/><rootfile full-path="music/b.xml"/><rootfile full-path="c.xml"/></rootfiles></container>',
      ),
      'a.pdf': text('%PDF'),
      'music/b.xml': SCORE,
      'c.xml': text('<score-partwise/>'),
    });
    expect(problem(bytes)).toBe('read');
    const opened = openContainer(bytes);
    if (!opened.ok) throw new Error();
    const again = openContainer(packContainer(opened.value, text('<other/>')));
    if (!again.ok) throw new Error();
    expect([...again.value.files.keys()]).toEqual([...opened.value.files.keys()]);
    expect(new TextDecoder().decode(again.value.files.get('music/b.xml'))).toBe('<other/>');
    expect(again.value.files.get('a.pdf')).toEqual(text('%PDF'));
  });
  test('without a container is read when only one score is inside', () =>
    expect(problem(zip({ 'x.musicxml': SCORE, '__MACOSX/x.xml': text('') }))).toBe('read'));
});

describe('a zip that cannot be read says why', () => {
  test.each<[string, Uint8Array, RegExp]>([
    ['two scores', zip({ 'a.xml': SCORE, 'b.xml': SCORE }), /a\.xml, b\.xml: .*several scores.*one by one/],
    ['no score', zip({ 'a.txt': text('hello') }), /no score in the zip/],
    ['a missing file', zip({ 'META-INF/container.xml': named('gone.xml') }), /container\.xml: .*"gone\.xml", which is not in the zip/],
    ['a path out of the zip', zip({ 'META-INF/container.xml': named('../../etc/passwd') }), /which is not in the zip/],
    ['only a picture', zip({ 'META-INF/container.xml': named('a.png', 'image/png'), 'a.png': text('x') }), /names no score/],
    ['a broken container', zip({ 'META-INF/container.xml': text('<container>') }), /container\.xml, line 1.*not well-formed/],
    ['cut off', zip({ 'a.xml': SCORE }).subarray(0, 900), /damaged or cut off/],
    ['only the first letters', text('PK'), /no file in it/],
    ['nothing like a score inside', zip({ 'a.xml': text('<html/>') }), /not a MusicXML score/],
  ])('%s', (_, bytes, expected) => expect(problem(bytes)).toMatch(expected));
  test('a zip bomb is stopped while it unpacks', () => {
    const bomb = zip({ 'a.xml': [new Uint8Array(80 * 1024 * 1024), { level: 6 }] });
    expect(bomb.length).toBeLessThan(300_000);
    expect(problem(bomb)).toMatch(/more than 64 MB/);
  });
  test('so are too many files', () => {
    const files: Zippable = {};
    for (let i = 0; i < 2100; i++) files[`f${i}.txt`] = new Uint8Array(0);
    expect(problem(zip(files))).toMatch(/2000 files/);
  });
  test('names that try to leave the zip are names only', () => {
    expect(problem(zip({ '../../evil.sh': text('x'), 'a.xml': SCORE }))).toBe('read');
  });
  test('damaged anywhere: read or refused in words', () => {
    const whole = newContainer(SCORE);
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(whole.length - 1), fc.integer({ min: 0, max: 255 })), { minLength: 1, maxLength: 6 }), (changes) => {
        const bytes = whole.slice();
        for (const [at, value] of changes) bytes[at] = value;
        expect(problem(bytes)).toMatch(/^read$|: \S.*\S/);
      }),
      { numRuns: runs(100) },
    );
  });
});
