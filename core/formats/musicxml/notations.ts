/** The `<notations>` of a note: slurs, articulations, technical signs, ornaments. */
import type { Articulation, Note, Slur, Warning } from '../../score/score';
import { child, type XmlElement } from '../xml';
import { readDynamics } from './direction';

type NoteSigns = Pick<Note, 'articulations' | 'fermata' | 'trill' | 'tremolo' | 'arpeggiate' | 'harmonic' | 'printed'>;

export interface SlurEnd {
  number: string;
  type: 'start' | 'stop';
}

const ARTICULATIONS: Readonly<Record<string, Articulation>> = {
  accent: 'accent',
  'strong-accent': 'strong-accent',
  staccato: 'staccato',
  staccatissimo: 'staccatissimo',
  tenuto: 'tenuto',
  'detached-legato': 'portato',
  spiccato: 'spiccato',
  'breath-mark': 'breath',
};

export function readNotations(element: XmlElement): { note: NoteSigns; slurs: SlurEnd[]; dynamics: ReturnType<typeof readDynamics> } {
  const note: NoteSigns = {
    articulations: [],
    fermata: false,
    trill: false,
    tremolo: 0,
    arpeggiate: false,
    harmonic: null,
    printed: { finger: null, string: null, bow: null },
  };
  const slurs: SlurEnd[] = [];
  const dynamics: ReturnType<typeof readDynamics> = [];
  for (const notations of element.children) {
    if (notations.name !== 'notations') continue;
    for (const sign of notations.children) {
      switch (sign.name) {
        case 'slur':
          if (sign.attributes.type === 'start' || sign.attributes.type === 'stop') {
            slurs.push({ number: sign.attributes.number ?? '1', type: sign.attributes.type });
          }
          break;
        case 'articulations':
          for (const articulation of sign.children) {
            const known = ARTICULATIONS[articulation.name];
            if (known) note.articulations.push(known);
          }
          break;
        case 'technical':
          readTechnical(sign, note);
          break;
        case 'ornaments':
          readOrnaments(sign, note);
          break;
        case 'arpeggiate':
          note.arpeggiate = true;
          break;
        case 'fermata':
          note.fermata = true;
          break;
        case 'dynamics':
          dynamics.push(...readDynamics(sign));
          break;
      }
    }
  }
  return { note, slurs, dynamics };
}

function readTechnical(technical: XmlElement, note: NoteSigns): void {
  for (const sign of technical.children) {
    const text = sign.text.trim();
    switch (sign.name) {
      case 'fingering':
        if (/^[0-4]$/.test(text) && sign.attributes.substitution !== 'yes') note.printed.finger = text;
        break;
      case 'thumb-position':
        note.printed.finger = 'T';
        break;
      case 'open-string':
        note.printed.finger = '0';
        break;
      case 'string':
        if (/^[1-5]$/.test(text)) note.printed.string = Number(text);
        break;
      case 'down-bow':
        note.printed.bow = 'down';
        break;
      case 'up-bow':
        note.printed.bow = 'up';
        break;
      case 'harmonic':
        note.harmonic = child(sign, 'artificial') ? 'artificial' : 'natural';
        break;
    }
  }
}

function readOrnaments(ornaments: XmlElement, note: NoteSigns): void {
  for (const sign of ornaments.children) {
    if (sign.name === 'trill-mark') note.trill = true;
    if (sign.name === 'tremolo') note.tremolo = sign.attributes.type === 'unmeasured' ? 3 : Number(sign.text) || 3;
  }
}

/** Pairs slur starts and stops by number and voice, in file order. */
export class SlurBook {
  private readonly open = new Map<string, Note>();
  private readonly early = new Map<string, Note>();
  private readonly slurs: Slur[] = [];

  add(note: Note, ends: readonly SlurEnd[]): void {
    for (const end of ends.filter((e) => e.type === 'stop')) {
      const start = this.open.get(end.number);
      if (start) {
        this.close(start, note);
        this.open.delete(end.number);
      } else this.early.set(end.number, note);
    }
    for (const end of ends.filter((e) => e.type === 'start')) {
      const early = this.early.get(end.number);
      if (early && early.onset > note.onset) {
        this.close(note, early);
        this.early.delete(end.number);
      } else this.open.set(end.number, note);
    }
  }

  private close(start: Note, stop: Note): void {
    if (stop.onset < start.onset || stop.id === start.id) return;
    this.slurs.push({ from: start.id, to: stop.id, voice: start.voice, onset: start.onset, endOnset: stop.onset });
  }

  finish(partName: string, warnings: Warning[]): Slur[] {
    for (const note of this.open.values()) {
      warnings.push({ place: `${partName}, bar index ${note.barIndex + 1}`, text: 'A slur begins here and never ends; it is ignored.' });
    }
    return this.slurs.sort((a, b) => a.onset - b.onset || a.endOnset - b.endOnset);
  }
}
