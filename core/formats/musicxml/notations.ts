/** The `<notations>` of a note: slurs, articulations, technical signs, ornaments. */
import type { Articulation, Note, OrnamentKind, Slur, Warning } from '../../score/score';
import { child, childNumber, type XmlElement } from '../raw/xml';
import type { NoteParts } from './note-parts';

type NoteSigns = Pick<
  Note,
  | 'articulations'
  | 'fermata'
  | 'trill'
  | 'ornaments'
  | 'tremolo'
  | 'tremoloWith'
  | 'slide'
  | 'chordSign'
  | 'harmonic'
  | 'harmonicShows'
  | 'leftPlucked'
  | 'printed'
>;

export interface SlurEnd {
  number: string;
  type: 'start' | 'stop';
}

/** Element names of the articulations; the writer uses it the other way round. */
export const ARTICULATION_OF: Readonly<Record<string, Articulation>> = {
  accent: 'accent',
  'strong-accent': 'strong-accent',
  staccato: 'staccato',
  staccatissimo: 'staccatissimo',
  tenuto: 'tenuto',
  'detached-legato': 'portato',
  spiccato: 'spiccato',
  'breath-mark': 'breath',
  caesura: 'caesura',
  stress: 'stress',
  unstress: 'unstress',
  'soft-accent': 'soft-accent',
};

export function readNotations(parts: NoteParts): { note: NoteSigns; slurs: SlurEnd[]; dynamics: XmlElement[] } {
  const note: NoteSigns = {
    articulations: [],
    fermata: false,
    trill: false,
    ornaments: [],
    tremolo: 0,
    tremoloWith: null,
    slide: null,
    chordSign: null,
    harmonic: null,
    harmonicShows: null,
    leftPlucked: false,
    printed: { finger: null, string: null, bow: null },
  };
  const slurs: SlurEnd[] = [];
  const dynamics: XmlElement[] = [];
  for (const notations of parts.notations) {
    for (const sign of notations.children) {
      const { type } = sign.attributes;
      switch (sign.name) {
        case 'slur':
          if (type === 'start' || type === 'stop') slurs.push({ number: sign.attributes.number ?? '1', type });
          break;
        case 'articulations':
          for (const articulation of sign.children) {
            const known = ARTICULATION_OF[articulation.name];
            if (known && !note.articulations.includes(known)) note.articulations.push(known);
          }
          break;
        case 'technical':
          readTechnical(sign, note);
          break;
        case 'ornaments':
          readOrnaments(sign, note);
          break;
        case 'accidental-mark':
          readAccidentalMark(sign, note);
          break;
        case 'arpeggiate':
          note.chordSign = sign.attributes.direction === 'down' ? 'arpeggio down' : sign.attributes.direction === 'up' ? 'arpeggio up' : 'arpeggio';
          break;
        case 'non-arpeggiate':
          note.chordSign = 'together';
          break;
        case 'glissando':
        case 'slide':
          if (type === 'start' || type === 'stop') note.slide = note.slide && note.slide !== type ? 'both' : type;
          break;
        case 'fermata':
          note.fermata = true;
          break;
        case 'dynamics':
          dynamics.push(sign);
          break;
      }
    }
  }
  readNotehead(parts, note);
  return { note, slurs, dynamics };
}

/** A diamond head without another sign is the touch of a harmonic (common practice). */
function readNotehead(parts: NoteParts, note: NoteSigns): void {
  if (parts.notehead !== 'diamond' || note.harmonic !== null) return;
  note.harmonic = parts.chord ? 'artificial' : 'natural';
  note.harmonicShows = 'touching';
}

function readTechnical(technical: XmlElement, note: NoteSigns): void {
  for (const sign of technical.children) {
    const text = sign.text.trim();
    switch (sign.name) {
      case 'fingering':
        if (/^[0-4]$/.test(text) && sign.attributes.substitution !== 'yes' && sign.attributes.alternate !== 'yes') note.printed.finger = text;
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
      case 'stopped':
        note.leftPlucked = true;
        break;
      case 'harmonic':
        note.harmonic = child(sign, 'artificial') ? 'artificial' : 'natural';
        for (const shows of ['base', 'touching', 'sounding'] as const) if (child(sign, `${shows}-pitch`)) note.harmonicShows = shows;
        break;
    }
  }
}

const ORNAMENT_OF: Readonly<Record<string, OrnamentKind>> = {
  'trill-mark': 'trill',
  mordent: 'mordent',
  'inverted-mordent': 'inverted mordent',
  turn: 'turn',
  'vertical-turn': 'turn',
  haydn: 'turn',
  'inverted-turn': 'inverted turn',
  'inverted-vertical-turn': 'inverted turn',
  'delayed-turn': 'delayed turn',
  'delayed-inverted-turn': 'delayed turn',
  shake: 'shake',
  schleifer: 'slide in',
};

function readOrnaments(ornaments: XmlElement, note: NoteSigns): void {
  for (const sign of ornaments.children) {
    const kind = ORNAMENT_OF[sign.name];
    if (kind) note.ornaments.push({ kind, above: null, below: null });
    if (sign.name === 'trill-mark') note.trill = true;
    if (sign.name === 'accidental-mark') readAccidentalMark(sign, note);
    if (sign.name !== 'tremolo') continue;
    const { type } = sign.attributes;
    note.tremolo = type === 'unmeasured' ? 3 : Math.min(8, Math.max(0, Math.round(Number(sign.text)))) || 3;
    if (type === 'start' || type === 'stop') note.tremoloWith = type;
  }
}

/** An accidental over or under an ornament belongs to its upper or lower note. */
function readAccidentalMark(sign: XmlElement, note: NoteSigns): void {
  const last = note.ornaments.at(-1);
  const alter = ALTER_OF[sign.text.trim()];
  if (!last || alter === undefined) return;
  if (sign.attributes.placement === 'below') last.below = alter;
  else last.above = alter;
}

/** Accidentals by their names in the format. */
export const ALTER_OF: Readonly<Record<string, number>> = {
  natural: 0,
  sharp: 1,
  flat: -1,
  'double-sharp': 2,
  'sharp-sharp': 2,
  'flat-flat': -2,
  'natural-sharp': 1,
  'natural-flat': -1,
  'quarter-flat': -0.5,
  'quarter-sharp': 0.5,
  'three-quarters-flat': -1.5,
  'three-quarters-sharp': 1.5,
  'triple-sharp': 3,
  'triple-flat': -3,
};

/** The sign before the note head and how its length is written. */
export function readWriting({ accidental: sign, type, dots, ratio }: NoteParts): Pick<Note, 'accidental' | 'length'> {
  const alter = sign ? ALTER_OF[sign.text.trim()] : undefined;
  const courtesy = sign !== null && COURTESIES.some((name) => sign.attributes[name] === 'yes');
  const within = (name: string) => {
    const value = ratio ? childNumber(ratio, name) : null;
    return value !== null && Number.isInteger(value) && value > 0 && value <= 64 ? value : 1;
  };
  return {
    accidental: alter === undefined ? null : { alter, courtesy },
    length: { type: type?.text.trim() ?? null, dots, actual: within('actual-notes'), normal: within('normal-notes') },
  };
}

const COURTESIES = ['cautionary', 'editorial', 'parentheses', 'bracket'] as const;

/**
 * Pairs slur starts and stops by number, in file order. A number may be open more than once (in two voices, or by
 * mistake): a stop closes the latest one of its own voice, else the latest.
 */
export class SlurBook {
  private readonly open = new Map<string, Note[]>();
  private readonly early = new Map<string, Note>();
  private readonly slurs: Slur[] = [];

  add(note: Note, ends: readonly SlurEnd[]): void {
    for (const end of ends.filter((e) => e.type === 'stop')) {
      const starts = this.open.get(end.number) ?? [];
      const own = starts.findLastIndex((start) => start.voice === note.voice && start.staff === note.staff);
      const at = own >= 0 ? own : starts.length - 1;
      if (at >= 0) this.close(starts.splice(at, 1)[0]!, note);
      else this.early.set(end.number, note);
    }
    for (const end of ends.filter((e) => e.type === 'start')) {
      const early = this.early.get(end.number);
      if (early && early.onset > note.onset) {
        this.close(note, early);
        this.early.delete(end.number);
        continue;
      }
      const starts = this.open.get(end.number);
      if (starts) starts.push(note);
      else this.open.set(end.number, [note]);
    }
  }

  private close(start: Note, stop: Note): void {
    if (stop.onset < start.onset || stop.id === start.id) return;
    this.slurs.push({ from: start.id, to: stop.id, voice: start.voice, onset: start.onset, endOnset: stop.onset });
  }

  finish(partName: string, labels: readonly string[], warnings: Warning[]): Slur[] {
    const never = new Set([...this.open.values()].flat().map((note) => labels[note.barIndex] ?? ''));
    for (const label of never) warnings.push({ place: `${partName}, bar ${label}`, text: 'A slur begins here and never ends; it is ignored.' });
    return this.slurs.sort((a, b) => a.onset - b.onset || a.endOnset - b.endOnset);
  }
}
