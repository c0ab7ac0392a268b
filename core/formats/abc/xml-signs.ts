/** Signs, lengths and tempi of ABC in the words of MusicXML. */
import { keyAlter, STEPS } from '../../score/pitch';
import { escapeXml } from '../raw/xml';
import type { AbcKey, AbcTempo } from './tune';

export function direction(sign: string, placement: 'above' | 'below' = 'above', more = ''): string {
  return `<direction placement="${placement}"><direction-type>${sign}</direction-type>${more}</direction>\n`;
}

export const FINGER = /^[0-4]$/;

export const TYPES: ReadonlyArray<[type: string, whole: number]> = [
  ['breve', 2],
  ['whole', 1],
  ['half', 0.5],
  ['quarter', 0.25],
  ['eighth', 0.125],
  ['16th', 0.0625],
  ['32nd', 0.03125],
  ['64th', 0.015625],
  ['128th', 0.0078125],
];

export const ACCIDENTALS: Readonly<Record<string, { alter: number; name: string }>> = {
  sharp: { alter: 1, name: 'sharp' },
  flat: { alter: -1, name: 'flat' },
  natural: { alter: 0, name: 'natural' },
  dblsharp: { alter: 2, name: 'double-sharp' },
  dblflat: { alter: -2, name: 'flat-flat' },
  quartersharp: { alter: 0.5, name: 'quarter-sharp' },
  quarterflat: { alter: -0.5, name: 'quarter-flat' },
};

/** Sharps or flats of a usual signature; 0 where the key is none (its notes carry their alterations). */
export function fifthsOf({ accidentals }: AbcKey): number {
  const altered = (accidentals ?? []).filter(({ acc }) => acc !== 'natural');
  const fifths = altered.length * (altered[0]?.acc === 'flat' ? -1 : 1);
  const said = new Map(altered.map(({ note, acc }) => [note.toUpperCase(), ACCIDENTALS[acc]?.alter ?? 0]));
  return Math.abs(fifths) <= 7 && STEPS.every((step) => keyAlter(fifths, step) === (said.get(step) ?? 0)) ? fifths : 0;
}

export function tempoXml({ duration, bpm, preString, postString }: AbcTempo): string {
  const words = [preString, postString].filter(Boolean).map((text) => `<direction-type><words font-weight="bold">${escapeXml(text!)}</words></direction-type>`);
  const unit = duration?.length === 1 ? TYPES.find(([, whole]) => whole === duration[0]) : undefined;
  const dotted = duration?.length === 1 && !unit ? TYPES.find(([, whole]) => Math.abs(whole * 1.5 - duration[0]!) < 1e-6) : undefined;
  const beat = unit ?? dotted;
  const valid = bpm !== undefined && bpm > 0 && bpm <= 1000;
  const metronome =
    beat && valid
      ? `<direction-type><metronome><beat-unit>${beat[0]}</beat-unit>${dotted ? '<beat-unit-dot/>' : ''}<per-minute>${bpm}</per-minute></metronome></direction-type>`
      : '';
  const quarters = valid ? bpm * (duration ?? [0.25]).reduce((sum, part) => sum + part, 0) * 4 : null;
  if (words.length === 0 && !metronome) return '';
  return `<direction placement="above">${words.join('')}${metronome}${quarters === null ? '' : `<sound tempo="${quarters}"/>`}</direction>\n`;
}
