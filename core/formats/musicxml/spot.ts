/** Where in a measure a direction has to stand to be read at a certain tick. */
import type { Part } from '../../score/score';
import { child, childNumber, type XmlElement } from '../raw/xml';
import { TICKS_PER_QUARTER } from '../../score/ticks';

export interface Spot {
  element: XmlElement;
  where: 'before' | 'after';
  /** Divisions to add where no element begins at that tick; may be a fraction. */
  offset: number;
  /** Staff of the note, where the part has several. */
  staff: number | null;
}

/** Null where the bar holds nothing to stand at. */
export function spotAt(measures: readonly XmlElement[], part: Part, barIndex: number, tick: number): Spot | null {
  const measure = measures[barIndex];
  if (!measure) return null;
  let ticksPerDivision = TICKS_PER_QUARTER / divisionsBefore(measures, barIndex);
  let cursor = 0;
  let last: XmlElement | null = null;
  let first: { element: XmlElement; offset: number } | null = null;
  const here = () => Math.abs(cursor - tick) < 0.5;
  const spot = (element: XmlElement, where: Spot['where'], offset = 0): Spot => ({ element, where, offset, staff: childNumber(element, 'staff') });
  const ticks = (element: XmlElement) => (childNumber(element, 'duration') ?? 0) * ticksPerDivision;
  for (const element of measure.children) {
    switch (element.name) {
      case 'attributes':
        ticksPerDivision = TICKS_PER_QUARTER / (divisionsIn(element) ?? TICKS_PER_QUARTER / ticksPerDivision);
        break;
      case 'note': {
        const inChord = child(element, 'chord') !== undefined;
        if (!inChord && here()) return spot(element, 'before');
        first ??= { element, offset: (tick - cursor) / ticksPerDivision };
        if (!inChord && !child(element, 'grace')) cursor += ticks(element);
        last = element;
        break;
      }
      case 'backup':
      case 'forward':
        if (last && here()) return spot(last, 'after');
        cursor = Math.max(0, cursor + (element.name === 'backup' ? -1 : 1) * ticks(element));
        last = element;
        break;
    }
  }
  if (last && here()) return spot(last, 'after');
  return first && spot(first.element, 'before', first.offset);
}

function divisionsIn(attributes: XmlElement): number | null {
  const divisions = childNumber(attributes, 'divisions');
  return divisions !== null && divisions > 0 ? divisions : null;
}

/** Divisions of a quarter note that a measure says at its beginning; null where it says none. */
export function divisionsAtStart(measure: XmlElement): number | null {
  for (const element of measure.children) {
    if (element.name === 'note' || element.name === 'forward') return null;
    const divisions = element.name === 'attributes' ? divisionsIn(element) : null;
    if (divisions !== null) return divisions;
  }
  return null;
}

/** Those that it says last. */
export function lastDivisions(measure: XmlElement): number | null {
  for (const element of measure.children.filter((candidate) => candidate.name === 'attributes').reverse()) {
    const divisions = divisionsIn(element);
    if (divisions !== null) return divisions;
  }
  return null;
}

/** Those in force before a measure. */
export function divisionsBefore(measures: readonly XmlElement[], barIndex: number): number {
  for (let i = barIndex - 1; i >= 0; i--) {
    const divisions = lastDivisions(measures[i]!);
    if (divisions !== null) return divisions;
  }
  return 1;
}
