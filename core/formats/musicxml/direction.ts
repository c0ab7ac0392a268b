/** Directions of a MusicXML part: dynamics, hairpins, words, tempo, rehearsal marks. */
import type { DynamicLevel, DynamicMark, Hairpin, TempoMark, WordMark } from '../../score/score';
import { child, childText, type XmlElement } from '../xml';

export interface DirectionSink {
  dynamics: DynamicMark[];
  hairpins: Hairpin[];
  words: WordMark[];
  tempi: TempoMark[];
  openWedges: Map<string, { kind: Hairpin['kind']; from: number }>;
}

/** Puts what the direction says into the sink; returns its rehearsal mark, if it has one. */
export function readDirection(element: XmlElement, tick: number, sink: DirectionSink): string | null {
  let rehearsal: string | null = null;
  let metronome: XmlElement | null = null;
  for (const type of element.children) {
    if (type.name !== 'direction-type') continue;
    for (const sign of type.children) {
      switch (sign.name) {
        case 'dynamics':
          for (const dynamic of readDynamics(sign)) sink.dynamics.push({ tick, ...dynamic });
          break;
        case 'wedge':
          readWedge(sign, tick, sink);
          break;
        case 'words':
          if (sign.text.trim()) sink.words.push({ tick, text: sign.text.trim() });
          break;
        case 'rehearsal':
          rehearsal = sign.text.trim() || rehearsal;
          break;
        case 'metronome':
          metronome = sign;
          break;
      }
    }
  }
  const printed = metronome ? readMetronome(metronome) : null;
  const sound = child(element, 'sound');
  const fromSound = sound ? readSoundTempo(sound, tick, sink, printed?.text ?? null) : false;
  if (!fromSound && printed) sink.tempi.push({ tick, quartersPerMinute: printed.quartersPerMinute, printed: printed.text });
  return rehearsal;
}

/** A `<sound tempo>` is in quarters per minute already. */
export function readSoundTempo(sound: XmlElement, tick: number, sink: DirectionSink, printed: string | null): boolean {
  const tempo = Number(sound.attributes.tempo);
  if (!Number.isFinite(tempo) || tempo <= 0) return false;
  sink.tempi.push({ tick, quartersPerMinute: tempo, printed });
  return true;
}

const LEVELS: Readonly<Record<string, DynamicLevel>> = {
  ppppp: 'ppp',
  pppp: 'ppp',
  ppp: 'ppp',
  pp: 'pp',
  p: 'p',
  mp: 'mp',
  mf: 'mf',
  f: 'f',
  ff: 'ff',
  fff: 'fff',
  ffff: 'fff',
  fffff: 'fff',
  fp: 'p',
  sfp: 'p',
  sfpp: 'pp',
  pf: 'f',
};

/** Signs such as sfz are accents: they leave the level as it is and are not listed. */
export function readDynamics(sign: XmlElement): Array<{ text: string; level: DynamicLevel }> {
  const found: Array<{ text: string; level: DynamicLevel }> = [];
  for (const dynamic of sign.children) {
    const text = dynamic.name === 'other-dynamics' ? dynamic.text.trim() : dynamic.name;
    const level = LEVELS[text];
    if (level) found.push({ text, level });
  }
  return found;
}

function readWedge(sign: XmlElement, tick: number, sink: DirectionSink): void {
  const number = sign.attributes.number ?? '1';
  const type = sign.attributes.type;
  if (type === 'crescendo' || type === 'diminuendo') sink.openWedges.set(number, { kind: type, from: tick });
  if (type !== 'stop') return;
  const open = sink.openWedges.get(number);
  if (open && tick > open.from) sink.hairpins.push({ kind: open.kind, from: open.from, to: tick });
  sink.openWedges.delete(number);
}

const QUARTERS_OF_UNIT: Readonly<Record<string, number>> = { whole: 4, half: 2, quarter: 1, eighth: 0.5, '16th': 0.25, '32nd': 0.125 };

function readMetronome(element: XmlElement): { quartersPerMinute: number; text: string } | null {
  const unit = childText(element, 'beat-unit');
  const base = unit ? QUARTERS_OF_UNIT[unit] : undefined;
  const text = childText(element, 'per-minute');
  const perMinute = Number(/\d+(\.\d+)?/.exec(text ?? '')?.[0]);
  if (!base || !Number.isFinite(perMinute) || perMinute <= 0) return null;
  const dots = element.children.filter((part) => part.name === 'beat-unit-dot').length;
  const dotted = base * (2 - 0.5 ** dots);
  return { quartersPerMinute: dotted * perMinute, text: `${dots ? 'dotted ' : ''}${unit} = ${text}` };
}
