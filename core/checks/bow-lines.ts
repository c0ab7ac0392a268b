/** What is wrong with a line of strokes as a whole: the same music otherwise, repeats, phrases, plucking. */
import { sayBars } from '../score/address';
import { pizzicatoAt } from '../score/techniques';
import type { Bowing } from '../bow-arm/describe';
import { PIZZICATO_CHANGE_S, PLUCK_LOAD_FROM } from './tables';
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
        hearIt: `Play ${here} and ${there} one after the other: do the accents fall alike?`,
        remedies: [{ text: 'Mark the first bow of both alike, or leave it and listen that the accents fall alike.', before: null, after: null }],
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
    remedies: [{ text: 'Split or join a slur before the repeat, or take the first bow of the second time the other way.', before: null, after: null }],
  }));

export const phraseTroubles = ({ phrases }: Bowing): Trouble[] =>
  phrases.map(({ from, bows }) => ({
    kind: 'phrase or bow?',
    noteId: from,
    load: 1,
    from: TOLD,
    numbers: { bows },
    text: words.phraseText(bows),
    remedies: [{ text: 'Say it in Choices, at the first note of the slur.', before: null, after: null }],
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
        { text: `In time at quarter = ${Math.floor(inTime)} or slower.`, ...atTempo(clock.tempo, Math.floor(inTime)) },
        { text: 'Shorten the last note before it, end up-bow at the frog, or pluck with the left hand.', before: null, after: null },
      ],
    });
  });
  return { troubles, limits };
}
