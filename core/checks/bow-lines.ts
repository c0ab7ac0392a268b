/** What is wrong with a line of strokes as a whole: the same music otherwise, repeats, phrases, plucking. */
import { sayBars } from '../score/address';
import { pizzicatoAt } from '../score/techniques';
import type { Bowing } from '../bow-arm/describe';
import { PIZZICATO_CHANGE_S, PLUCK_LOAD_FROM } from './tables';
import * as remedy from './remedy-words';
import * as words from './words';
import { type BowContext, type Trouble, type Limit, atTempo, round } from './bow-trouble';
import { TOLD } from './tables';

export function unlikeTroubles({ unlike }: Bowing, { part }: BowContext): Trouble[] {
  return unlike.flatMap(({ fromBar, toBar, likeBar, why }): Trouble[] => {
    const note = part.notes.find((each) => each.barIndex === fromBar);
    if (!note) return [];
    const here = sayBars(part.bars, { fromBar, toBar });
    const there = sayBars(part.bars, { fromBar: likeBar, toBar: likeBar + toBar - fromBar });
    return [
      {
        kind: 'bowed differently elsewhere',
        noteId: note.id,
        load: 1,
        from: TOLD,
        numbers: { bars: here, like: there },
        text: words.unlikeText(`${toBar > fromBar ? 'bars' : 'bar'} ${here}`, `${toBar > fromBar ? 'bars' : 'bar'} ${there}`, why),
        hearIt: words.hearUnlike(here, there),
        remedies: [{ text: remedy.MARK_ALIKE, before: null, after: null }],
      },
    ];
  });
}

export const repeatTroubles = ({ resets }: Bowing, hairCm: number): Trouble[] =>
  resets.map(({ noteId, direction, distance }) => ({
    kind: 'repeat does not come round',
    noteId,
    load: 1,
    from: TOLD,
    numbers: { direction, cm: round(distance * hairCm) },
    text: words.resetText(direction, distance * hairCm),
    remedies: [{ text: remedy.COME_ROUND, before: null, after: null }],
  }));

export const phraseTroubles = ({ phrases }: Bowing): Trouble[] =>
  phrases.map(({ from, bows }) => ({
    kind: 'phrase or bow?',
    noteId: from,
    load: 1,
    from: TOLD,
    numbers: { bows },
    text: words.phraseText(bows),
    remedies: [{ text: remedy.SAY_IN_CHOICES, before: null, after: null }],
  }));

/** From the bow to plucking and back: is there time, and up to which tempo. */
export function plucking({ part, line, clock }: BowContext): { troubles: Trouble[]; limits: Limit[] } {
  const plucked = pizzicatoAt(part);
  const troubles: Trouble[] = [];
  const limits: Limit[] = [];
  line.events.forEach((event, i) => {
    const before = line.events[i - 1];
    if (!before || plucked(event.onset) === plucked(before.onset)) return;
    // A plucked note may be left as soon as it sounds.
    const start = clock.secondsAt(before.onset);
    const silence = clock.secondsAt(event.onset) - clock.secondsAt(before.end);
    // Half of the last bowed note may be given for it.
    const gap = plucked(before.onset) ? clock.secondsAt(event.onset) - start : silence + (clock.secondsAt(before.end) - start) / 2;
    const way = plucked(event.onset) ? 'put the bow away and pluck' : 'bring the bow back to the string';
    const inTime = (clock.tempo * gap) / PIZZICATO_CHANGE_S;
    limits.push({ kind: 'pizzicato change late', tempo: inTime, noteIds: [event.ids[0]!] });
    troubles.push({
      kind: 'pizzicato change late',
      noteId: event.ids[0]!,
      load: PIZZICATO_CHANGE_S / Math.max(0.01, gap),
      from: PLUCK_LOAD_FROM,
      numbers: { seconds: round(gap), neededS: PIZZICATO_CHANGE_S },
      text: words.pizzicatoText(gap, PIZZICATO_CHANGE_S, way),
      remedies: [
        { text: remedy.inTime(inTime), ...atTempo(clock.tempo, Math.floor(inTime)) },
        { text: remedy.PLUCK_SOONER, before: null, after: null },
      ],
    });
  });
  return { troubles, limits };
}
