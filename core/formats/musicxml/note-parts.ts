/** The children of a `<note>` that reading asks for, found in one walk: notes are most of every file. */
import type { XmlElement } from '../raw/xml';

export interface NoteParts {
  grace: XmlElement | null;
  chord: boolean;
  rest: boolean;
  cue: boolean;
  pitch: XmlElement | null;
  /** As text, for messages; null where there is none. */
  duration: string | null;
  voice: string;
  staff: number;
  type: XmlElement | null;
  dots: number;
  accidental: XmlElement | null;
  ratio: XmlElement | null;
  notehead: string | null;
  tieStart: boolean;
  tieStop: boolean;
  notations: XmlElement[];
}

export function notePartsOf(element: XmlElement): NoteParts {
  const parts: NoteParts = {
    grace: null,
    chord: false,
    rest: false,
    cue: false,
    pitch: null,
    duration: null,
    voice: '1',
    staff: 1,
    type: null,
    dots: 0,
    accidental: null,
    ratio: null,
    notehead: null,
    tieStart: false,
    tieStop: false,
    notations: [],
  };
  for (const sign of element.children) {
    switch (sign.name) {
      case 'grace':
        parts.grace ??= sign;
        break;
      case 'chord':
        parts.chord = true;
        break;
      case 'rest':
        parts.rest = true;
        break;
      case 'cue':
        parts.cue = true;
        break;
      case 'pitch':
        parts.pitch ??= sign;
        break;
      case 'duration':
        parts.duration ??= sign.text.trim();
        break;
      case 'voice':
        parts.voice = sign.text.trim() || '1';
        break;
      case 'staff':
        parts.staff = Number(sign.text) || 1;
        break;
      case 'type':
        parts.type ??= sign;
        break;
      case 'dot':
        parts.dots++;
        break;
      case 'accidental':
        parts.accidental ??= sign;
        break;
      case 'time-modification':
        parts.ratio ??= sign;
        break;
      case 'notehead':
        parts.notehead ??= sign.text.trim();
        break;
      case 'tie':
        tie(sign, parts);
        break;
      case 'notations':
        parts.notations.push(sign);
        // Some files only draw a tie.
        for (const drawn of sign.children) if (drawn.name === 'tied') tie(drawn, parts);
        break;
    }
  }
  return parts;
}

function tie({ attributes }: XmlElement, parts: NoteParts): void {
  if (attributes.type === 'start') parts.tieStart = true;
  if (attributes.type === 'stop') parts.tieStop = true;
}
