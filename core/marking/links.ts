/** Which events of a line are slurred to the one before, as printed and as the coach changed it. */
import type { Line } from '../score/lines';
import type { Part } from '../score/score';
import { EMPTY_MARKING, markAt, type Marking } from './mark';

/** `links[i]` is true when event i is under one slur with event i − 1. */
export function slurLinks(part: Pick<Part, 'slurs'>, line: Line, marking: Marking = EMPTY_MARKING): boolean[] {
  const links = new Array<boolean>(line.events.length).fill(false);
  const eventOf = new Map<string, number>();
  line.events.forEach((event, i) => event.ids.forEach((id) => eventOf.set(id, i)));
  for (const slur of part.slurs) {
    const from = eventOf.get(slur.from);
    const to = eventOf.get(slur.to);
    if (from === undefined || to === undefined) continue;
    for (let i = from + 1; i <= to; i++) links[i] = true;
  }
  if (marking !== EMPTY_MARKING) {
    line.events.forEach((event, i) => {
      for (const id of event.ids) {
        const mark = markAt(marking, id, 'slur');
        if (mark && !mark.off && i > 0) links[i] = mark.value === 'join';
      }
    });
  }
  return links;
}
