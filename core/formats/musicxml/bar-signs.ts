/** What the rhythm of a bar asks for beside lengths: beams by the beat, brackets of tuplets. Both as players read them (common practice). */
import { ticksOfEvent, type BarEvent } from '../../score/bar-text';
import { isTuplet, plain, ticksOfLength } from '../../score/note-length';

export interface RhythmSigns {
  /** `<beam>` elements of a note. */
  beams: string[];
  tuplet: 'start' | 'stop' | null;
}

const FLAGS: ReadonlyMap<number, number> = new Map([
  [8, 1],
  [16, 2],
  [32, 3],
  [64, 4],
  [128, 5],
]);

/**
 * @param beat ticks of the beat that is felt
 * @param into ticks of its bar that lie before it
 * @param whole ticks of a rest of the whole bar
 */
export function rhythmSigns(events: readonly BarEvent[], beat: number, into: number, whole: number): RhythmSigns[] {
  const signs = events.map((): RhythmSigns => ({ beams: [], tuplet: null }));
  beam(events, signs, beat, into, whole);
  bracketTuplets(events, signs);
  return signs;
}

function beam(events: readonly BarEvent[], signs: RhythmSigns[], beat: number, into: number, whole: number): void {
  let tick = into;
  let group: number[] = [];
  let groupBeat = -1;
  const close = () => {
    if (group.length > 1) group.forEach((event, i) => signs[event]!.beams.push(...beamsAt(group, events, i)));
    group = [];
  };
  events.forEach((event, i) => {
    if (event.what === 'grace') return;
    const here = Math.floor(tick / beat + 1e-6);
    const flagged = event.what === 'note' && flags(event) > 0;
    if (!flagged || here !== groupBeat) close();
    if (flagged) group.push(i);
    groupBeat = here;
    tick += ticksOfEvent(event, whole);
  });
  close();
}

const flags = ({ length }: BarEvent): number => (length && FLAGS.get(length.of)) ?? 0;

/** One beam for each flag: from note to note where both have it, else a hook. */
function beamsAt(group: readonly number[], events: readonly BarEvent[], i: number): string[] {
  const has = (at: number, level: number) => group[at] !== undefined && flags(events[group[at]]!) >= level;
  return Array.from({ length: flags(events[group[i]!]!) }, (_, level) => {
    const [before, after] = [has(i - 1, level + 1), has(i + 1, level + 1)];
    const type = before && after ? 'continue' : before ? 'end' : after ? 'begin' : i === 0 ? 'forward hook' : 'backward hook';
    return `<beam number="${level + 1}">${type}</beam>`;
  });
}

/** A tuplet is full when its notes would last so many of its value; its bracket begins and ends there. */
function bracketTuplets(events: readonly BarEvent[], signs: RhythmSigns[]): void {
  let open: { from: number; actual: number; normal: number; left: number } | null = null;
  events.forEach((event, i) => {
    const { length } = event;
    if (event.what === 'grace' || !length) return;
    if (!isTuplet(length)) {
      open = null;
      return;
    }
    if (!open || open.actual !== length.actual || open.normal !== length.normal)
      open = { from: i, actual: length.actual, normal: length.normal, left: length.actual * ticksOfLength(plain(length.of)) };
    open.left -= ticksOfLength(plain(length.of, length.dots));
    if (open.left > 0.5) return;
    if (open.from !== i) {
      signs[open.from]!.tuplet = 'start';
      signs[i]!.tuplet = 'stop';
    }
    open = null;
  });
}
