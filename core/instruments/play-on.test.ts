import { readMusicXml } from '../formats/musicxml/read';
import { makeScore } from '../testing/make';
import { pitchName } from '../score/pitch';
import type { Part } from '../score/score';
import { asTold, NOTHING_TOLD, readsAsItSounds } from './as-told';
import { octavesInWords, toldOrGuessed, waysToPlay } from './play-on';

const foreign = (music: string, clef: string): Part => ({
  ...makeScore('violin', music, { clefs: [{ quarter: 0, clef }] }).part,
  instrument: null,
  name: 'Voice',
});

describe('the best guess, by range and clef', () => {
  test.each([
    ['a soprano', 'C4 E4 G4 C5 F5', 'G2', 'violin', 0],
    ['a flute, high', 'D5 A5 D6 A6 C7', 'G2', 'violin', -1],
    ['a tenor, low in the treble clef', 'C3 G3 C4 E4', 'G2', 'viola', 0],
    ['a singer below every violin and viola', 'A2 D3 A3 D4', 'G2', 'violin', 1],
    ['a bassoon', 'C2 G2 C3 G3', 'F4', 'cello', 0],
    ['an alto clef', 'C3 G3 C4 G4', 'C3', 'viola', 0],
    ['a tuba', 'F1 C2 F2', 'F4', 'bass', 0],
  ])('%s', (_, music, clef, kind, octaves) => expect(waysToPlay(foreign(music, clef))[0]).toMatchObject({ kind, octaves }));
  test('says why, and offers every instrument on which nothing lies below the lowest string', () => {
    const ways = waysToPlay(foreign('A3 C4 E4', 'G2'));
    expect(ways.map(({ kind }) => kind).sort()).toEqual(['bass', 'cello', 'viola', 'violin']);
    expect(ways[0]!.because).toBe('its range fits as it sounds');
    expect(waysToPlay(foreign('D5 A5 D6 A6 C7', 'G2'))[0]!.because).toBe('its range fits an octave lower');
    expect(waysToPlay({ ...foreign('A3', 'G2'), notes: [] })).toEqual([]);
    expect([-2, -1, 0, 1, 2].map(octavesInWords)).toEqual(['2 octaves lower', 'an octave lower', 'as it sounds', 'an octave higher', '2 octaves higher']);
  });
  test('what the coach or the file says stands', () => {
    const voice = foreign('C4 E4', 'G2');
    expect(toldOrGuessed(voice, NOTHING_TOLD)).toMatchObject({ instrument: 'violin', octaves: 0 });
    expect(toldOrGuessed(voice, { ...NOTHING_TOLD, instrument: 'cello' })).toMatchObject({ instrument: 'cello', octaves: 0 });
    expect(toldOrGuessed({ ...voice, instrument: 'viola' }, NOTHING_TOLD)).toBe(NOTHING_TOLD);
    expect(toldOrGuessed({ ...voice, notes: [] }, NOTHING_TOLD).instrument).toBe('violin');
  });
});

describe('a transposing part is read as it sounds', () => {
  const note = (step: string, alter = '') =>
    `<note><pitch><step>${step}</step>${alter && `<alter>${alter}</alter>`}<octave>4</octave></pitch><duration>1</duration><voice>1</voice>${alter === '0' ? '<accidental>natural</accidental>' : ''}</note>`;
  const read = readMusicXml(
    `<score-partwise><part-list><score-part id="P1"><part-name>Clarinet in A</part-name></score-part></part-list><part id="P1"><measure number="1"><attributes><divisions>1</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time><transpose><diatonic>-2</diatonic><chromatic>-3</chromatic></transpose></attributes>${note('C')}${note('D')}${note('E', '-1')}${note('E')}</measure></part></score-partwise>`,
  );
  const clarinet = read.ok ? read.value.score.parts[0]! : ({} as Part);
  test('pitches, key and signs; the notes keep their names', () => {
    const violin = asTold(clarinet, toldOrGuessed(clarinet, { ...NOTHING_TOLD, octaves: 1 }));
    expect([violin.instrument, violin.soundsHalfSteps, violin.bars[0]!.fifths, violin.keys[0]!.fifths]).toEqual(['violin', 0, 3, 3]);
    expect(violin.notes.map(({ written, pitch, accidental }) => `${pitchName(written)} ${pitchName(pitch)} ${accidental?.alter ?? '-'}`)).toEqual([
      'A4 A4 -',
      'B4 B4 -',
      'C5 C5 0',
      'C#5 C#5 1',
    ]);
    expect(violin.notes.map(({ id }) => id)).toEqual(clarinet.notes.map(({ id }) => id));
  });
  test('not where it is left for its own instrument, nor a bass part that says how it sounds', () => {
    expect(readsAsItSounds(clarinet, NOTHING_TOLD)).toBe(false);
    expect(asTold(clarinet, { ...NOTHING_TOLD, section: true }).notes[0]!.written).toEqual(clarinet.notes[0]!.written);
    expect(readsAsItSounds({ ...clarinet, instrument: 'bass' }, { ...NOTHING_TOLD, instrument: 'bass' })).toBe(false);
  });
});

test('one staff of two', () => {
  const { part } = makeScore('violin', 'C4 D4 E4 F4');
  const piano = { ...part, notes: part.notes.map((each, i) => ({ ...each, staff: i < 3 ? 1 : 2 })) };
  const notesOf = (staff: number | null) => asTold(piano, { ...NOTHING_TOLD, staff }).notes.map(({ pitch }) => pitchName(pitch));
  expect([notesOf(1), notesOf(2), notesOf(null), notesOf(3)]).toEqual([['C4', 'D4', 'E4'], ['F4'], ['C4', 'D4', 'E4', 'F4'], ['C4', 'D4', 'E4', 'F4']]);
});
