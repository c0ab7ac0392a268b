/** One measure taken apart: what each voice plays and when, and what else stands there. Times in divisions of the file. */
import { pitchName, type Pitch, type Step } from '../../score/pitch';
import { child, childNumber, childText, type XmlElement } from '../raw/xml';

/** A note, a chord, a grace note or a rest. */
export interface BarItem {
  voice: string;
  /** From the start of the measure. */
  at: number;
  lasts: number;
  /** `<note>` elements, one for each head. */
  elements: XmlElement[];
  what: 'note' | 'grace' | 'rest';
  /** Written pitches; none for a rest. */
  pitches: string[];
}

/** Directions, attributes, barlines and the like. */
export interface Beside {
  /** The voice that it was written in. */
  voice: string | null;
  at: number;
  element: XmlElement;
}

export interface TakenApart {
  /** In the order of the file. */
  items: BarItem[];
  beside: Beside[];
  /** In order of appearance. */
  voices: string[];
  /** In the middle: lengths cannot be compared. */
  changesDivisions: boolean;
}

/** @param divisions of a quarter note, at its beginning */
export function takenApart(measure: XmlElement, divisions: number): TakenApart {
  const items: BarItem[] = [];
  const beside: Beside[] = [];
  let waiting: Beside[] = [];
  let at = 0;
  let voice: string | null = null;
  let changesDivisions = false;
  const settle = (of: string | null) => {
    beside.push(...waiting.map((each) => ({ ...each, voice: of })));
    waiting = [];
  };
  for (const element of measure.children) {
    switch (element.name) {
      case 'note': {
        const item = itemOf(element, at);
        const last = items.at(-1);
        if (child(element, 'chord') && last) {
          last.elements.push(element);
          last.pitches.push(...item.pitches);
          break;
        }
        voice = item.voice;
        settle(voice);
        items.push(item);
        at += item.lasts;
        break;
      }
      case 'backup':
      case 'forward':
        settle(voice);
        at = Math.max(0, at + (element.name === 'backup' ? -1 : 1) * (childNumber(element, 'duration') ?? 0));
        break;
      default:
        if (element.name === 'attributes' && (childNumber(element, 'divisions') ?? divisions) !== divisions) changesDivisions = true;
        waiting.push({ voice: null, at, element });
    }
  }
  settle(voice);
  return { items, beside, voices: [...new Set(items.map((item) => item.voice))], changesDivisions };
}

function itemOf(element: XmlElement, at: number): BarItem {
  const isGrace = child(element, 'grace') !== undefined;
  const pitch = child(element, 'pitch');
  return {
    voice: childText(element, 'voice') || '1',
    at,
    lasts: isGrace ? 0 : (childNumber(element, 'duration') ?? 0),
    elements: [element],
    what: child(element, 'rest') ? 'rest' : isGrace ? 'grace' : 'note',
    pitches: pitch ? [pitchName(pitchOf(pitch))] : [],
  };
}

const pitchOf = (pitch: XmlElement): Pitch => ({
  step: (childText(pitch, 'step') ?? 'C') as Step,
  alter: childNumber(pitch, 'alter') ?? 0,
  octave: childNumber(pitch, 'octave') ?? 4,
});
