/** What holds for every fingering, whatever the music and the marks. */
import fc from 'fast-check';
import { runs } from '../testing/runs';
import { firstLine, makeScore } from '../testing/make';
import { clockFor } from '../score/time';
import { midiOf, pitchName, spelled } from '../score/pitch';
import type { InstrumentKind } from '../score/score';
import { spanMm } from '../instruments/geometry';
import { fingerName, handOf, LEVELS, spreadMm, usualPlayer } from '../instruments/player';
import { markKey, type Mark } from '../marking/mark';
import { COST_TABLE, DEFAULT_COSTS, STRATEGIES } from './costs';
import { planFingering, type FingeredNote, type FingeringRequest } from './fingering';
import { placesFor } from './places';

const RANGE: Readonly<Record<InstrumentKind, [number, number]>> = { violin: [55, 88], viola: [48, 81], cello: [36, 72], bass: [28, 55] };

const asked = fc.constantFrom<InstrumentKind>('violin', 'viola', 'cello', 'bass').chain((kind) =>
  fc.record({
    kind: fc.constant(kind),
    level: fc.constantFrom(...LEVELS),
    notes: fc.array(fc.record({ midi: fc.integer({ min: RANGE[kind][0], max: RANGE[kind][1] }), length: fc.constantFrom('/0.25', '/0.5', '/1', '/3') }), {
      minLength: 2,
      maxLength: 10,
    }),
    locks: fc.array(fc.record({ note: fc.nat({ max: 9 }), choice: fc.nat() }), { maxLength: 3 }),
  }),
);

/** Locks are real ways to play their notes, so they can always be met. */
function requestFor({ kind, level, notes, locks }: typeof asked extends fc.Arbitrary<infer T> ? T : never): FingeringRequest {
  const { part } = makeScore(kind, notes.map(({ midi, length }) => pitchName(spelled(midi)) + length).join(' '));
  const player = { ...usualPlayer(kind), level };
  const marking: Record<string, Mark> = {};
  for (const { note, choice } of locks) {
    const target = part.notes[note];
    const places = target ? placesFor(target, player, DEFAULT_COSTS).filter((place) => place.harmonic === null) : [];
    const place = places[choice % Math.max(1, places.length)];
    if (!target || !place) continue;
    marking[markKey(target.id, 'finger')] = { value: fingerName(place.finger), origin: 'coach' };
    marking[markKey(target.id, 'string')] = { value: String(place.string), origin: 'coach' };
  }
  return { part, line: firstLine(part), player, clock: clockFor(part, null), marking };
}

test('every note that can be played has a finger that sounds it; every mark is kept, in every alternative', () => {
  fc.assert(
    fc.property(asked, (music) => {
      const request = requestFor(music);
      const { alternatives, unplayable } = planFingering(request);
      expect(alternatives.length > 0 || unplayable.length === request.part.notes.length).toBe(true);
      for (const way of alternatives) {
        expect(way.notes.length + unplayable.length).toBe(request.part.notes.length);
        for (const { id, place } of way.notes) {
          const note = request.part.notes.find((each) => each.id === id)!;
          if (place.harmonic === null) expect(midiOf(request.player.instrument.strings[place.string - 1]!) + place.stop).toBe(midiOf(note.pitch));
          const finger = request.marking[markKey(id, 'finger')];
          const string = request.marking[markKey(id, 'string')];
          if (finger) expect(place.harmonic !== null && finger.value === '0' ? '0' : fingerName(place.finger)).toBe(finger.value);
          if (string) expect(String(place.string)).toBe(string.value);
        }
      }
    }),
    { numRuns: runs(60) },
  );
});

test('double stops and chords: no finger in two places, strings side by side, the hand within its limit, in every alternative', () => {
  const chords = fc.constantFrom<InstrumentKind>('violin', 'viola', 'cello', 'bass').chain((kind) =>
    fc.record({
      kind: fc.constant(kind),
      hand: fc.constantFrom('small', 'medium', 'large'),
      chords: fc.array(fc.array(fc.integer({ min: RANGE[kind][0], max: RANGE[kind][1] }), { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 5 }),
    }),
  );
  fc.assert(
    fc.property(chords, ({ kind, hand, chords: row }) => {
      const music = row
        .map((midis) =>
          [...new Set(midis)]
            .sort((a, b) => a - b)
            .map((midi) => pitchName(spelled(midi)))
            .join('+'),
        )
        .join(' ');
      const { part } = makeScore(kind, music);
      const player = { ...usualPlayer(kind), hand: handOf(hand as 'small', kind) };
      const clock = clockFor(part, null);
      for (const way of planFingering({ part, line: firstLine(part), player, clock, marking: {} }).alternatives) {
        const events = new Map<number, FingeredNote[]>();
        for (const note of way.notes) events.set(note.event, [...(events.get(note.event) ?? []), note]);
        for (const notes of events.values()) {
          const strings = notes.map(({ place }) => place.string);
          expect(new Set(strings).size).toBe(strings.length);
          expect(Math.max(...strings) - Math.min(...strings)).toBe(strings.length - 1);
          for (const { place: a } of notes) {
            for (const { place: b } of notes) {
              if (a === b || a.finger === 0 || b.finger === 0) continue;
              if (a.finger === b.finger) expect(a.stop).toBe(b.stop);
              const spread = spreadMm(player.hand, a.finger, b.finger);
              if (spread) expect(spanMm(player.instrument.lengthMm, a.stop, b.stop)).toBeLessThanOrEqual(spread.limit + 1e-9);
            }
          }
        }
      }
    }),
    { numRuns: runs(60) },
  );
});

test('the first alternative costs the least by the plain weights, and no two are the same', () => {
  fc.assert(
    fc.property(asked, (music) => {
      const { alternatives } = planFingering({ ...requestFor(music), alternatives: 5 });
      for (const way of alternatives.slice(1)) expect(way.total).toBeGreaterThanOrEqual(alternatives[0]!.total - 1e-6);
      const rows = alternatives.map((way) =>
        way.notes.map(({ place }) => `${place.string}${place.finger}${place.handMm.toFixed(1)}${place.harmonic ?? ''}`).join(' '),
      );
      expect(new Set(rows).size).toBe(rows.length);
    }),
    { numRuns: runs(40) },
  );
});

test('a shift is where the hand moves, and says how far; the first note has none', () => {
  fc.assert(
    fc.property(asked, (music) => {
      for (const way of planFingering({ ...requestFor(music), alternatives: 1 }).alternatives) {
        let hand: number | null = null;
        for (const { place, shift } of way.notes) {
          if (place.finger === 0) {
            expect(shift).toBeNull();
            continue;
          }
          if (hand !== null && Math.abs(hand - place.handMm) > 0.5) expect(shift!.mm).toBeCloseTo(Math.abs(hand - place.handMm), 6);
          else expect(shift).toBeNull();
          hand = place.handMm;
        }
      }
    }),
    { numRuns: runs(40) },
  );
});

describe('strategies do what they are named for', () => {
  const plan = (music: string, strategy: string) => {
    const { score, part } = makeScore('violin', music, { length: 0.5 });
    const request = {
      score,
      part,
      line: firstLine(part),
      player: usualPlayer('violin'),
      clock: clockFor(part, null),
      marking: {},
      alternatives: 8,
    };
    const { alternatives } = planFingering(request);
    return { best: alternatives[0]!, alternatives, named: alternatives.find((way) => way.strategy === strategy) ?? alternatives[0]! };
  };
  const scale = 'A4 B4 C5 D5 E5 F5 G5 A5 B5 C6 D6 C6 B5 A5 G5 F5 E5 D5 C5 B4 A4';
  test('no open strings: one way stops every note, whichever strategy found it first', () =>
    expect(plan(scale, 'no open strings').alternatives.some((way) => way.notes.every(({ place }) => place.finger !== 0))).toBe(true));
  test('one colour: no more string changes than the best', () => {
    const changes = (way: ReturnType<typeof plan>['best']) =>
      way.notes.filter(({ place }, i) => i > 0 && way.notes[i - 1]!.place.string !== place.string).length;
    const { best, named } = plan(scale, 'one colour');
    expect(changes(named)).toBeLessThanOrEqual(changes(best));
  });
  test('no fourth finger: none more than the best', () => {
    const fourths = (way: ReturnType<typeof plan>['best']) => way.notes.filter(({ place }) => place.finger === 4).length;
    const { best, named } = plan(scale, 'no fourth finger');
    expect(fourths(named)).toBeLessThanOrEqual(fourths(best));
  });
  test('every strategy has an aim in words, every cost a unit and a source', () => {
    for (const strategy of STRATEGIES) expect(strategy.aim.length).toBeGreaterThan(10);
    for (const entry of Object.values(COST_TABLE)) expect([entry.unit, entry.source].every(Boolean)).toBe(true);
  });
});
