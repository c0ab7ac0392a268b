/** Which events of a line are slurred to the one before, as printed and as the coach changed it. */
import { eventIndexOf, type Line } from '../instruments/lines';
import type { Part, Slur } from '../score/score';
import { EMPTY_MARKING, markAt, type Marking } from './mark';

/** `links[i]` is true when event i is under one slur with event i − 1. */
export function slurLinks(part: Pick<Part, 'slurs'>, line: Line, marking: Marking = EMPTY_MARKING): boolean[] {
  const links = new Array<boolean>(line.events.length).fill(false);
  const eventOf = eventIndexOf(line);
  for (const slur of part.slurs) {
    if (isPhrase(slur, part, marking)) continue;
    const from = eventOf.get(slur.from);
    const to = eventOf.get(slur.to);
    if (from === undefined || to === undefined) continue;
    for (let i = from + 1; i <= to; i++) links[i] = true;
  }
  line.events.forEach((event, i) => {
    // What is marked at a tied head is about the bow that goes on there.
    for (const { id } of event.notes) {
      const mark = markAt(marking, id, 'slur');
      if (mark && !mark.off && i > 0) links[i] = mark.value === 'join';
    }
  });
  return links;
}

/**
 * A slur that is a phrase and not a bow: because the coach says so, or because it holds two or more other slurs of its
 * voice (common practice: the inner ones are the bows).
 */
export function isPhrase(slur: Slur, part: Pick<Part, 'slurs'>, marking: Marking): boolean {
  const said = markAt(marking, slur.from, 'slur-is');
  if (said && !said.off) return said.value === 'phrase';
  let inside = 0;
  for (const other of part.slurs) {
    if (other === slur || other.voice !== slur.voice || other.onset < slur.onset || other.endOnset > slur.endOnset) continue;
    if (other.endOnset - other.onset < slur.endOnset - slur.onset) inside++;
  }
  return inside >= 2;
}
