/** Crossings that are too quick or leap. */
import { crossingRate, crossingsOf, easiestPlace, RATE_CROSSINGS } from '../bow-arm/crossings';
import type { Bowing } from '../bow-arm/describe';
import { bowOf } from '../bow-arm/bow';
import { crossingsPerS, LEAP_S } from './tables';
import * as remedy from './remedy-words';
import * as words from './words';
import { type BowContext, type Trouble, type Limit, atTempo, round } from './bow-trouble';
import { RATE_FROM } from './tables';

/** Crossings that are too quick or leap, and the tempo at which each quick row begins to be. */
export function crossingTroubles(bowing: Bowing, context: BowContext): { troubles: Trouble[]; limits: Limit[] } {
  const { player, line, clock, stringOf } = context;
  const crossings = crossingsOf(bowing.strokes, line, stringOf, (tick) => clock.secondsAt(tick), bowOf(player.instrument));
  const most = crossingsPerS(player);
  const found: Trouble[] = [];
  const limits: Limit[] = [];
  let quickUntil = -1;
  crossings.forEach((crossing, i) => {
    const perS = crossingRate(crossings, i);
    if (perS > 0) limits.push({ kind: 'string change too quick', tempo: (clock.tempo * most) / perS, noteIds: [crossing.noteId] });
    if (perS > most && i > quickUntil) {
      quickUntil = i + RATE_CROSSINGS * 2;
      found.push({
        kind: 'string change too quick',
        noteId: crossing.noteId,
        load: perS / most,
        from: RATE_FROM,
        numbers: { crossingsPerS: round(perS), playerCrossingsPerS: most, handTravelCm: round(crossing.handCm) },
        text: words.crossingText(perS, most, easiestPlace(perS).words),
        remedies: [
          {
            text: remedy.comesOffOpen((clock.tempo * most) / perS),
            ...atTempo(clock.tempo, Math.floor((clock.tempo * most) / perS)),
          },
        ],
      });
    }
    const strings = Math.abs(crossing.to - crossing.from);
    if (crossing.inSlur && crossing.leap)
      limits.push({ kind: 'string leap in a slur', tempo: (clock.tempo * crossing.seconds) / (LEAP_S * strings), noteIds: [crossing.noteId] });
    if (crossing.inSlur && crossing.leap && crossing.seconds < LEAP_S * strings)
      found.push({
        kind: 'string leap in a slur',
        noteId: crossing.noteId,
        load: (LEAP_S * strings) / crossing.seconds,
        from: RATE_FROM,
        numbers: { strings: round(strings), seconds: round(crossing.seconds) },
        text: words.leapText(strings, crossing.seconds),
        remedies: [{ text: remedy.SPLIT_LEAP, before: round(strings), after: 1 }],
      });
  });
  return { troubles: found, limits };
}
