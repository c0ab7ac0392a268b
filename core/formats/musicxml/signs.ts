/**
 * The signs of a part that are not notes: dynamics, wedges, words, metronome marks, sounds. They are counted in the
 * order of the file, so that a mark of the score can say which one it came from and the writer finds it again.
 */
import type { XmlElement } from '../xml';

const IN_DIRECTION = new Set(['wedge', 'words', 'metronome', 'rehearsal']);

/** Every sign of the given measures; `DynamicMark.source` and its like are indices into this list. */
export function signElements(measures: readonly XmlElement[]): XmlElement[] {
  const found: XmlElement[] = [];
  for (const measure of measures) {
    for (const element of measure.children) {
      if (element.name === 'sound') found.push(element);
      else if (element.name === 'direction') inDirection(element, found);
      else if (element.name === 'note') {
        for (const notations of element.children) {
          if (notations.name !== 'notations') continue;
          for (const sign of notations.children) if (sign.name === 'dynamics') found.push(...sign.children);
        }
      }
    }
  }
  return found;
}

function inDirection(direction: XmlElement, found: XmlElement[]): void {
  for (const type of direction.children) {
    if (type.name === 'sound') found.push(type);
    if (type.name !== 'direction-type') continue;
    for (const sign of type.children) {
      if (sign.name === 'dynamics') found.push(...sign.children);
      else if (IN_DIRECTION.has(sign.name)) found.push(sign);
    }
  }
}
