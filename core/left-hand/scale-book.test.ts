import { firstLine, makeScore } from '../testing/make';
import { CHROMATIC_BOOK, FINGER_CHARTS, FOUR_FINGER_CHART, SCALE_BOOK, type BookScale } from '../../tests/support/scale-book';
import { midiOf, spelled } from '../score/pitch';
import type { InstrumentKind } from '../score/score';
import { clockFor } from '../score/time';
import { INSTRUMENT_KINDS } from '../instruments/instrument';
import { fingerName, usualPlayer, withBassFingers, type Player } from '../instruments/player';
import { DEFAULT_COSTS } from './costs';
import { planFingering } from './fingering';
import { placesFor } from './places';
import { USUAL_PREFERENCES, type HandPreferences } from './preferences';

interface Asked {
  fifths?: number;
  preferences?: Partial<HandPreferences>;
  player?: Player;
}

function ways(kind: InstrumentKind, music: string, { fifths = 0, preferences = {}, player = usualPlayer(kind) }: Asked = {}) {
  const { score, part } = makeScore(kind, music, { fifths, tempo: 88 });
  const clock = clockFor(part, null);
  const asked = { score, part, line: firstLine(part), player, clock, marking: {}, alternatives: 5, preferences: { ...USUAL_PREFERENCES, ...preferences } };
  return planFingering(asked).alternatives;
}
const fingersOf = ({ notes }: ReturnType<typeof ways>[number]) => notes.map((note) => fingerName(note.place.finger)).join('');

/** Which choice has the book's fingers: 0 the first; -1 none of five. */
const choice = ({ kind, fifths, music, fingers }: BookScale): number => ways(kind, music, { fifths }).findIndex((way) => fingersOf(way) === fingers);

describe('scales and arpeggios', () => {
  const found = new Map(SCALE_BOOK.map((scale) => [scale.name, choice(scale)]));
  test('the book has a finger for every note, and at least sixty scales and arpeggios', () => {
    expect(SCALE_BOOK.length).toBeGreaterThanOrEqual(60);
    for (const { music, fingers } of SCALE_BOOK) expect(fingers).toHaveLength(music.split(' ').length);
  });
  test.each([...found])('within the first five: %s', (_, at) => expect(at).toBeGreaterThanOrEqual(0));
  test('the first choice agrees in at least nine of ten; docs/left-hand.md lists the others', () => {
    const misses = [...found].filter(([, at]) => at !== 0).map(([name]) => name);
    expect(misses.length / SCALE_BOOK.length).toBeLessThanOrEqual(0.1);
  });
});

describe('chromatic lines', () => {
  test.each(CHROMATIC_BOOK)('$kind, $school: within the first five', ({ kind, school, music, fingers }) => {
    expect(ways(kind, music, { preferences: { chromatic: school } }).map(fingersOf)).toContain(fingers.replace(/ /g, ''));
  });
  test.each(['violin', 'viola', 'cello'] as const)('%s: a finger for each half step slides nowhere, sliding fingers do', (kind) => {
    const { music } = CHROMATIC_BOOK.find((entry) => entry.kind === kind)!;
    const slides = (chromatic: 'sliding' | 'finger each') => {
      const { notes } = ways(kind, music, { preferences: { chromatic } })[0]!;
      return notes.filter(
        ({ place }, i) => i > 0 && place.finger > 0 && place.finger === notes[i - 1]!.place.finger && place.string === notes[i - 1]!.place.string,
      ).length;
    };
    expect(slides('finger each')).toBe(0);
    expect(slides('sliding')).toBeGreaterThan(0);
  });
});

describe('finger charts', () => {
  const low = (place: { position: string | null }) => ['half', 'first', 'I'].includes(place.position ?? '');
  test.each(INSTRUMENT_KINDS)('%s: first and half position on every string', (kind) => {
    const player = usualPlayer(kind);
    player.instrument.strings.forEach((open, index) => {
      for (const [stop, finger] of Object.entries(FINGER_CHARTS[kind])) {
        const pitch = spelled(midiOf(open) + Number(stop), 0);
        const found = placesFor({ pitch, harmonic: null }, player, DEFAULT_COSTS).filter((place) => place.string === index + 1 && low(place));
        expect(found.map((place) => fingerName(place.finger))).toContain(finger);
      }
    });
  });
  test('bass, four fingers: a finger for each half step, and the third is there', () => {
    const player = withBassFingers(usualPlayer('bass'), 'four');
    for (const [stop, finger] of Object.entries(FOUR_FINGER_CHART)) {
      const pitch = spelled(midiOf(player.instrument.strings[0]!) + Number(stop), 0);
      const found = placesFor({ pitch, harmonic: null }, player, DEFAULT_COSTS).filter((place) => place.string === 1 && place.position === 'I');
      expect(found.map((place) => fingerName(place.finger))).toEqual([finger]);
    }
  });
  test('bass, four fingers: F major and the chromatic scale without a shift where three fingers shift', () => {
    const four = withBassFingers(usualPlayer('bass'), 'four');
    const line = 'E1 F1 F#1 G1 G#1 A1 A#1 B1 C2 C#2 D2';
    const shifts = (player: Player) => ways('bass', line, { player })[0]!.notes.filter((note) => note.shift).length;
    expect(fingersOf(ways('bass', line, { player: four })[0]!)).toBe('01234012340');
    expect(shifts(four)).toBe(0);
    expect(shifts(usualPlayer('bass'))).toBeGreaterThan(0);
  });
});
