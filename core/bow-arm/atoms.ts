/** What the bow has to play: one atom per bowed event, with everything the costs ask about it. */
import { barIndexAt, beatTicks, type DynamicLevel, type Part } from '../score/score';
import type { Line } from '../score/lines';
import type { Clock } from '../score/time';
import { pizzicatoAt, spiccatoAt } from '../score/techniques';
import { slurLinks } from '../marking/links';
import { bowInForce, markAt, type Marking } from '../marking/mark';
import type { StrokeKind } from './tables';

export interface Atom {
  /** Index in the line's events. */
  event: number;
  ids: string[];
  onset: number;
  barIndex: number;
  onsetS: number;
  seconds: number;
  /** Seconds of silence (rest or pizzicato) before it. */
  silenceS: number;
  linked: boolean;
  kind: StrokeKind;
  dots: boolean;
  level: DynamicLevel;
  hairpin: 'crescendo' | 'diminuendo' | null;
  onBar: boolean;
  onHalfBar: boolean;
  onBeat: boolean;
  /** The next beat begins where it ends. */
  endsOnBeat: boolean;
  barSeconds: number;
  /** Last before a long silence or the end. */
  last: boolean;
  /** Begins a line or follows a silence, and stands before the bar line. */
  upbeat: boolean;
  accent: boolean;
  notes: number;
  lock: 'down' | 'up' | null;
  mustRetake: boolean;
  /** A hook needs a note before it, and the bow on the string: beside a retake it does not count (the checks say so). */
  mustHook: boolean;
  /** Outside the passage that is planned: stays as it is. */
  held: boolean;
}

export function levelAt(part: Pick<Part, 'dynamics'>, tick: number): DynamicLevel {
  let level: DynamicLevel = 'mf';
  for (const mark of part.dynamics) {
    if (mark.tick > tick) break;
    if (mark.level !== null) level = mark.level;
  }
  return level;
}

const LONG_SILENCE_S = 1.2;

export function atomsOf(part: Part, line: Line, clock: Clock, ticksPerQuarter: number, marking: Marking): Atom[] {
  const links = slurLinks(part, line, marking);
  const pizzicato = pizzicatoAt(part);
  const spiccato = spiccatoAt(part);
  const atoms: Atom[] = [];
  let lastEndS: number | null = null;
  line.events.forEach((event, i) => {
    if (pizzicato(event.onset)) return;
    const barIndex = barIndexAt(part.bars, event.onset);
    const bar = part.bars[barIndex]!;
    const inBar = event.onset - bar.onset;
    const unit = beatTicks(bar, ticksPerQuarter);
    const compound = bar.beatType >= 8 && bar.beats % 3 === 0;
    const beat = compound ? unit * 3 : unit;
    const nominal = bar.beats * unit;
    const halves = bar.beats === 4 || bar.beats === 6 || bar.beats === 12 || bar.beats === 2;
    const onsetS = clock.secondsAt(event.onset);
    const endS = Math.max(clock.secondsAt(event.end), onsetS + (event.grace ? 0.08 : 0.01));
    const first = event.notes[0]!;
    const dots = event.notes.some(
      (note) => note.articulations.includes('staccato') || note.articulations.includes('staccatissimo') || note.articulations.includes('spiccato'),
    );
    const accent = event.notes.some((note) => note.articulations.includes('accent') || note.articulations.includes('strong-accent'));
    const silenceS = lastEndS === null ? Infinity : Math.max(0, onsetS - lastEndS);
    const onBar = inBar === 0 && !bar.pickup;
    atoms.push({
      event: i,
      ids: event.ids,
      onset: event.onset,
      barIndex,
      onsetS,
      seconds: endS - onsetS,
      silenceS,
      linked: (links[i] ?? false) && atoms[atoms.length - 1]?.event === i - 1,
      kind: strokeKind(
        event.notes.length,
        accent,
        dots,
        first.articulations.includes('tenuto'),
        first.articulations.includes('portato'),
        spiccato(event.onset) || first.articulations.includes('spiccato'),
      ),
      dots,
      level: levelAt(part, event.onset),
      hairpin: part.hairpins.find((hairpin) => hairpin.from <= event.onset && event.onset < hairpin.to)?.kind ?? null,
      onBar,
      onHalfBar: halves && inBar * 2 === nominal,
      onBeat: inBar % beat === 0,
      endsOnBeat: (event.end - bar.onset) % beat === 0,
      barSeconds: clock.secondsAt(bar.onset + bar.ticks) - clock.secondsAt(bar.onset),
      last: false,
      upbeat: silenceS >= LONG_SILENCE_S / 4 && !onBar && (bar.pickup || inBar * 2 >= nominal),
      accent,
      notes: event.notes.length,
      lock: event.notes.map((note) => bowInForce(note, marking)).find((bow) => bow !== null) ?? null,
      mustRetake: event.ids.some((id) => markAt(marking, id, 'retake')?.value === 'yes'),
      mustHook:
        atoms.length > 0 &&
        event.ids.some((id) => markAt(marking, id, 'hook')?.value === 'yes') &&
        !event.ids.some((id) => markAt(marking, id, 'retake')?.value === 'yes'),
      held: false,
    });
    lastEndS = endS;
  });
  atoms.forEach((atom, i) => {
    const next = atoms[i + 1];
    atom.last = !next || next.silenceS >= LONG_SILENCE_S;
    if (next && next.onsetS - atom.onsetS < atom.seconds) atom.seconds = Math.max(0.01, next.onsetS - atom.onsetS);
  });
  return atoms;
}

function strokeKind(notes: number, accent: boolean, dots: boolean, tenuto: boolean, portato: boolean, spiccato: boolean): StrokeKind {
  if (notes > 2) return 'chord';
  if (portato || (tenuto && dots)) return 'portato';
  if (spiccato) return 'spiccato';
  if (accent) return 'accent';
  if (dots) return 'staccato';
  if (tenuto) return 'tenuto';
  return 'détaché';
}
