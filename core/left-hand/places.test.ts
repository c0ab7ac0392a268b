import fc from 'fast-check';
import { runs } from '../testing/runs';
import { midiOf, parsePitch, pitchName, spelled } from '../score/pitch';
import type { InstrumentKind } from '../score/score';
import { INSTRUMENT_KINDS, instrumentOf } from '../instruments/instrument';
import { handOf, spreadMm, THUMB, usualPlayer, type Player } from '../instruments/player';
import { stopMm } from '../instruments/geometry';
import { firstLine, makeScore } from '../testing/make';
import { DEFAULT_COSTS } from './costs';
import { gripsFor } from './grip';
import { placesFor, type Place } from './places';

const places = (kind: InstrumentKind, name: string, harmonic: 'natural' | null = null, player: Partial<Player> = {}): Place[] =>
  placesFor({ pitch: parsePitch(name)!, harmonic }, { ...usualPlayer(kind), ...player }, DEFAULT_COSTS);
const plain = (list: readonly Place[]) => list.filter((place) => place.harmonic === null);

describe('every place sounds the note', () => {
  test('the open string plus the stop is the pitch, on every instrument', () => {
    fc.assert(
      fc.property(fc.constantFrom(...INSTRUMENT_KINDS), fc.integer({ min: 28, max: 100 }), fc.integer({ min: -6, max: 6 }), (kind, midi, fifths) => {
        const player = usualPlayer(kind);
        const found = placesFor({ pitch: spelled(midi, fifths), harmonic: null }, player, DEFAULT_COSTS);
        for (const place of plain(found)) expect(midiOf(player.instrument.strings[place.string - 1]!) + place.stop).toBe(midi);
        for (const place of found) {
          expect(place.finger === 0).toBe(place.stop === 0);
          expect(place.stop).toBeLessThanOrEqual(player.instrument.highestStop);
          if (place.finger !== 0) expect(place.handMm).toBeGreaterThan(0);
        }
      }),
    );
  });
  test('no place is given twice', () => {
    fc.assert(
      fc.property(fc.constantFrom(...INSTRUMENT_KINDS), fc.integer({ min: 30, max: 96 }), (kind, midi) => {
        const keys = placesFor({ pitch: spelled(midi), harmonic: null }, usualPlayer(kind), DEFAULT_COSTS).map(
          (place) => `${place.string} ${place.finger} ${place.handMm.toFixed(2)} ${place.shape} ${place.harmonic}`,
        );
        expect(new Set(keys).size).toBe(keys.length);
      }),
    );
  });
  test('a note below the lowest string or far above the fingerboard has none', () => {
    expect(places('violin', 'F#3')).toEqual([]);
    expect(places('cello', 'B1')).toEqual([]);
    expect(places('bass', 'C6')).toEqual([]);
  });
});

describe('frames of the hand (common practice)', () => {
  const inPosition = (kind: InstrumentKind, name: string, position: string) =>
    plain(places(kind, name))
      .filter((place) => place.position === position && !place.extension)
      .map((place) => [place.string, place.finger]);
  test('violin, first position: one finger for each letter', () => {
    expect(['B4', 'C5', 'D5', 'E5'].map((name) => inPosition('violin', name, 'first').find(([string]) => string === 2)?.[1])).toEqual([1, 2, 3, 4]);
    expect(['Bb4', 'C#5', 'D#5', 'Eb5'].map((name) => inPosition('violin', name, 'first').find(([string]) => string === 2)?.[1])).toEqual([1, 2, 3, 4]);
  });
  test('violin, third position on the A string begins on D', () => {
    expect(['D5', 'E5', 'F5', 'G5'].map((name) => inPosition('violin', name, 'third').find(([string]) => string === 2)?.[1])).toEqual([1, 2, 3, 4]);
  });
  test('cello, fourth position on the A string: E, F, F sharp, G', () => {
    expect(['E4', 'F4', 'F#4', 'G4'].map((name) => inPosition('cello', name, 'fourth').find(([string]) => string === 1)?.[1])).toEqual([1, 2, 3, 4]);
  });
  test('cello, extended forward: 1 on B, 2 on C sharp, 4 on D sharp; extended back: 1 on B flat in first position', () => {
    const extended = plain(places('cello', 'D#4')).find((place) => place.string === 1 && place.finger === 4 && place.hand === 2)!;
    expect(extended).toMatchObject({ extension: true, position: 'first' });
    expect(plain(places('cello', 'Bb3')).some((place) => place.string === 1 && place.finger === 1 && place.hand === 2 && place.shape === 'extended back')).toBe(
      true,
    );
  });
  test('bass: 1, 2 and 4 in the neck, never the third finger; the third from VI on', () => {
    for (const name of ['F1', 'G1', 'B1', 'E2', 'A2'])
      expect(plain(places('bass', name)).filter((place) => (place.hand ?? 0) < 10 && place.finger === 3)).toEqual([]);
    expect(plain(places('bass', 'G3')).some((place) => place.finger === 3)).toBe(true);
  });
  test('the thumb: on cello and bass only, not below the tenth stop, and only for who uses it', () => {
    for (const kind of INSTRUMENT_KINDS) {
      const thumbs = [55, 60, 65, 70, 75]
        .flatMap((midi) => placesFor({ pitch: spelled(midi), harmonic: null }, usualPlayer(kind), DEFAULT_COSTS))
        .filter((place) => place.finger === THUMB);
      if (kind === 'violin' || kind === 'viola') expect(thumbs).toEqual([]);
      for (const place of thumbs) expect(place.stop).toBeGreaterThanOrEqual(10);
    }
    expect(places('cello', 'D5').some((place) => place.finger === THUMB)).toBe(true);
    expect(places('cello', 'D5', null, { thumbPosition: false }).some((place) => place.finger === THUMB)).toBe(false);
  });
  test('a beginner is not sent up the fingerboard', () => {
    expect(places('violin', 'A6').length).toBeGreaterThan(0);
    expect(places('violin', 'A6', null, { level: 'beginner' })).toEqual([]);
  });
});

describe('natural harmonics (physics of the string)', () => {
  test('the octave of the A string rings at the middle', () => {
    expect(
      places('violin', 'A5', 'natural')
        .filter((place) => place.string === 2)
        .map((place) => [place.stop, place.harmonic]),
    ).toContainEqual([12, 2]);
  });
  test('A6 is the fourth partial of the A string, touched a fourth above it or two octaves', () => {
    const touches = places('violin', 'A6', 'natural').filter((place) => place.string === 2);
    expect(new Set(touches.map((place) => place.stop))).toEqual(new Set([5, 24]));
    expect(touches.every((place) => place.harmonic === 4)).toBe(true);
  });
  test('a harmonic that no string has is stopped instead', () => {
    const found = places('violin', 'F5', 'natural');
    expect(found.length).toBeGreaterThan(0);
    expect(found.every((place) => place.harmonic === null)).toBe(true);
  });
});

describe('two notes and more in one hand', () => {
  const grips = (kind: InstrumentKind, chord: string, player: Partial<Player> = {}) => {
    const { part } = makeScore(kind, `${chord}/2`);
    return gripsFor(firstLine(part).events[0]!.notes, { ...usualPlayer(kind), ...player }, DEFAULT_COSTS, () => undefined);
  };
  test('no string twice, no finger in two places, the hand within its limit', () => {
    const third = fc.record({ kind: fc.constantFrom(...INSTRUMENT_KINDS), low: fc.integer({ min: 0, max: 12 }), interval: fc.integer({ min: 3, max: 16 }) });
    fc.assert(
      fc.property(third, ({ kind, low, interval }) => {
        const player = usualPlayer(kind);
        const base = midiOf(player.instrument.strings.at(-1)!) + low;
        for (const grip of grips(kind, `${pitchName(spelled(base))}+${pitchName(spelled(base + interval))}`)) {
          const [a, b] = grip.places as [Place, Place];
          expect(a.string).not.toBe(b.string);
          if (a.finger && b.finger && a.finger === b.finger) expect(a.stop).toBe(b.stop);
          const spread = a.finger && b.finger && a.finger !== b.finger ? spreadMm(player.hand, a.finger, b.finger) : null;
          const length = player.instrument.lengthMm;
          if (spread) expect(Math.abs(stopMm(length, a.stop) - stopMm(length, b.stop))).toBeLessThanOrEqual(spread.limit);
        }
      }),
      { numRuns: runs(60) },
    );
  });
  test('a fifth under one finger, two open strings, a chord of four', () => {
    expect(grips('violin', 'B4+F#5').some((grip) => grip.places.every((place) => place.finger === 1))).toBe(true);
    expect(grips('violin', 'A4+E5').some((grip) => grip.open)).toBe(true);
    expect(grips('violin', 'G3+D4+B4+G5').length).toBeGreaterThan(0);
  });
  test('more notes than strings, or below them, cannot be held', () => {
    expect(grips('violin', 'G3+A3')).toEqual([]);
    expect(grips('violin', 'F3+D4')).toEqual([]);
  });
  test('a tenth that a large hand holds is not asked of a small one', () => {
    const tenth = (size: 'small' | 'large') => grips('viola', 'D3+F#4', { hand: handOf(size, 'viola') }).length;
    expect(tenth('large')).toBeGreaterThanOrEqual(tenth('small'));
  });
});

test('intervals between strings come from the tuning: a low C string and a scordatura are simply other strings', () => {
  const five = instrumentOf('bass', null, 'C1,E1,A1,D2,G2');
  const scordatura = instrumentOf('violin', null, 'A3,D4,A4,E5');
  if (!five.ok || !scordatura.ok) throw new Error('tunings');
  expect(places('bass', 'C1', null, { instrument: five.value }).map((place) => [place.string, place.finger])).toEqual([[5, 0]]);
  expect(places('violin', 'G3', null, { instrument: scordatura.value })).toEqual([]);
  expect(places('violin', 'A3', null, { instrument: scordatura.value }).map((place) => place.finger)).toEqual([0]);
});
