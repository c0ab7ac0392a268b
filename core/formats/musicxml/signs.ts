/**
 * The signs of a part that are not notes: dynamics, wedges, words, metronome marks, sounds. They are counted in the
 * order of the file, so that a mark of the score can say which one it came from and the writer finds it again.
 */
import type { XmlElement } from '../raw/xml';

export interface Sign {
  element: XmlElement;
  /** The child of the measure that it stands in: a direction, a note, or the sign itself. */
  owner: XmlElement;
}

const IN_DIRECTION = new Set(['wedge', 'words', 'metronome', 'rehearsal']);

/** Every sign of the given measures; `DynamicMark.source` and its like are indices into this list. */
export function signsOf(measures: readonly XmlElement[]): Sign[] {
  const found: Sign[] = [];
  for (const measure of measures) {
    for (const owner of measure.children) {
      if (owner.name === 'sound') found.push({ element: owner, owner });
      else if (owner.name === 'direction') inDirection(owner, found);
      else if (owner.name === 'note') {
        for (const notations of owner.children) {
          if (notations.name !== 'notations') continue;
          for (const sign of notations.children) if (sign.name === 'dynamics') for (const element of sign.children) found.push({ element, owner });
        }
      }
    }
  }
  return found;
}

function inDirection(owner: XmlElement, found: Sign[]): void {
  for (const type of owner.children) {
    if (type.name === 'sound') found.push({ element: type, owner });
    if (type.name !== 'direction-type') continue;
    for (const sign of type.children) {
      if (sign.name === 'dynamics') for (const element of sign.children) found.push({ element, owner });
      else if (IN_DIRECTION.has(sign.name)) found.push({ element: sign, owner });
    }
  }
}
