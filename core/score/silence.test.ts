import { readMusicXml } from '../formats/musicxml/read';
import { silenceBetween, silenceInWords } from './silence';

/** Four bars of 4/4, two of 3/4 of which the second is split by a repeat, one of 4/4; an upbeat before them. */
const note = '<note><pitch><step>A</step><octave>4</octave></pitch><duration>1</duration><voice>1</voice></note>';
const rest = (quarters: number) => `<note><rest/><duration>${quarters}</duration><voice>1</voice></note>`;
const time = (beats: number) => `<attributes><divisions>1</divisions><time><beats>${beats}</beats><beat-type>4</beat-type></time></attributes>`;
const bar = (inside: string, implicit = '') => `<measure number="1${implicit ? 'X' : ''}"${implicit}>${inside}</measure>`;
const IMPLICIT = ' implicit="yes"';
const read = readMusicXml(
  `<score-partwise><part-list><score-part id="P1"><part-name>Viola</part-name></score-part></part-list><part id="P1">${[
    bar(time(4) + note, IMPLICIT),
    bar(note + rest(3)).replace('"1"', '"1a"'),
    bar(rest(4)).replace('"1"', '"2"'),
    bar(rest(4)).replace('"1"', '"3"'),
    bar(time(3) + rest(3)).replace('"1"', '"4"'),
    bar(rest(2)).replace('"1"', '"5"'),
    bar(rest(1), IMPLICIT),
    bar(time(4) + rest(1) + note + note + note).replace('"1"', '"6"'),
  ].join('')}</part></score-partwise>`,
);
const { bars } = read.ok ? read.value.score.parts[0]! : { bars: [] };

test('silence is counted in the real bars as printed, with their metres; a split bar is one', () => {
  const [, first, , third] = bars;
  const entry = bars.at(-1)!.onset + 1;
  expect(silenceInWords(silenceBetween(bars, first!.onset + 1, entry))).toBe('4 bars of rest (2 of 4/4, 2 of 3/4)');
  expect(silenceBetween(bars, third!.onset, entry)).toEqual({
    bars: 3,
    metres: [
      { count: 1, beats: 4, beatType: 4 },
      { count: 2, beats: 3, beatType: 4 },
    ],
  });
  expect(silenceInWords(silenceBetween(bars, third!.onset, third!.onset + third!.ticks))).toBe('1 bar of rest');
  expect(silenceBetween(bars, third!.onset, third!.onset + third!.ticks - 1).bars).toBe(0);
  expect(silenceBetween(bars, 0, first!.onset + first!.ticks).bars).toBe(1);
});
