/** What the bow has to play: one atom per bowed event, with everything the costs ask about it. */
import { GRACE_S } from '../score/time';
import { beatTicks, feltBeat, wholeBarTicks } from '../score/beat';
import { barIndexAt, type Bar, type DynamicLevel, type Note, type Part } from '../score/score';
import { levelNear, loudnessOf } from '../score/loudness';
import { midiOf } from '../score/pitch';
import type { Line, LineEvent } from '../instruments/lines';
import type { Clock } from '../score/time';
import { noteById } from '../score/find';
import { pizzicatoAt, spiccatoAt } from '../score/techniques';
import { slurLinks } from '../marking/links';
import { bowInForce, marksOf, type Marking } from '../marking/mark';
import { bowPlace, type BowZone } from '../marking/values';
import { wishesFor, type Wished } from '../marking/wishes';
import { AMOUNTS, BREATH_S, FERMATA_TIMES, LONG_SILENCE_S, SPRINGING_S, type StrokeKind } from './tables';
import { stretched } from './unequal';
import { TICKS_PER_QUARTER } from '../score/ticks';

/** No sound is shorter, whatever the file says (s). */
const SHORTEST_S = 0.01;

/** What the coach wishes of the stroke that begins or lies here. */
export interface AtomWish {
  zone: BowZone | null;
  /** Share of the hair, or cm. */
  amount: { share: number } | { cm: number } | null;
  /** Where the stroke that begins here starts and ends. */
  from: { from: number; to: number } | null;
  to: { from: number; to: number } | null;
  school: 'flowing' | 'held' | null;
}

export interface Atom {
  /** Index in the line's events. */
  event: number;
  ids: string[];
  onset: number;
  /** Written length. */
  ticks: number;
  barIndex: number;
  onsetS: number;
  seconds: number;
  /** Seconds without the bow on the string before it: a rest, a breath, or pizzicato. */
  silenceS: number;
  linked: boolean;
  /** It goes on with the same note: a tied one that the bow does not last for is cut in pieces. */
  tied: boolean;
  /** The slur it lies under is a phrase and may be bowed in pieces. */
  phrase: boolean;
  /** What a fermata makes of its length: 1 without one. */
  heldTimes: number;
  /** Share of the bow that its slur would like, 0 for a note by itself. */
  slurShare: number;
  kind: StrokeKind;
  dots: boolean;
  level: DynamicLevel;
  /** Loudness in steps above ppp, between levels inside hairpins. */
  steps: number;
  hairpin: 'crescendo' | 'diminuendo' | null;
  onBar: boolean;
  onHalfBar: boolean;
  onBeat: boolean;
  /** Begins, ends on a beat as the time signature's lower figure counts it: an eighth in 6/8. */
  onUnit: boolean;
  endsOnUnit: boolean;
  barSeconds: number;
  /** Last before a long silence or the end. */
  last: boolean;
  /** Begins a line or follows a silence, and is the one bow before the bar line. */
  upbeat: boolean;
  accent: boolean;
  notes: number;
  /** Lowest and highest note, MIDI numbers. */
  pitches: [low: number, high: number];
  /** Strokes of a measured tremolo; 1 for a plain note, 0 for an unmeasured tremolo. */
  strokes: number;
  wish: AtomWish | null;
  lock: 'down' | 'up' | null;
  /** Only this direction is looked at, and priced as if nobody had asked for it. */
  only?: 'down' | 'up';
  mustRetake: boolean;
  /** A hook needs a note before it, and the bow on the string: beside a retake it does not count (the checks say so). */
  mustHook: boolean;
  /** A hook is marked, whether it can count or not. */
  hookAsked: boolean;
  /** Outside the passage that is planned: stays as it is. */
  held: boolean;
  /** How the same music is bowed elsewhere: a stroke begins here in this direction, or none begins (null). */
  alike: { direction: 'down' | 'up' | null; weight: number } | null;
  /** How the same bars beside it begin a stroke here, `none` where they go on; null where there are none, or nobody asked. */
  beside: 'change' | 'hook' | 'retake' | 'none' | null;
  /** From here the repeat goes back to a stroke in this direction, without time to set the bow anew. */
  jumpsTo: 'down' | 'up' | null;
  /** Direction that outside motion asks for at this quick crossing. */
  outside: 'down' | 'up' | null;
}

const keys = new WeakMap<Atom, string>();

/** Everything that an atom says, as a text: two atoms with the same key are planned alike. */
export function atomKey(atom: Atom): string {
  let key = keys.get(atom);
  if (key === undefined) keys.set(atom, (key = JSON.stringify(atom)));
  return key;
}

/** The same atoms, those that are as they were being the very same objects. */
export function asBefore(atoms: readonly Atom[], before: readonly Atom[]): readonly Atom[] {
  if (atoms.length !== before.length) return atoms;
  let all = true;
  const result = atoms.map((atom, i) => {
    const old = before[i]!;
    if (sameAtom(atom, old)) return old;
    all = false;
    return atom;
  });
  return all ? before : result;
}

function sameAtom(a: Atom, b: Atom): boolean {
  if (a === b) return true;
  for (const name in a) {
    const [x, y] = [a[name as keyof Atom], b[name as keyof Atom]];
    if (x !== y && !(typeof x === 'object' && JSON.stringify(x) === JSON.stringify(y))) return false;
  }
  return true;
}

/** What an event is to the bow whatever is marked; null where it is plucked. */
interface Fixed {
  barIndex: number;
  onsetS: number;
  endS: number;
  stressed: boolean;
  spiccato: boolean;
  level: DynamicLevel;
  steps: number;
  hairpin: Atom['hairpin'];
  place: ReturnType<typeof placeInBar>;
  barSeconds: number;
  notes: number;
  pitches: Atom['pitches'];
  strokes: number;
  breath: boolean;
}

const fixedOf = new WeakMap<Line, { part: Part; clock: Clock; fixed: Array<Fixed | null> }>();

/** Worked out once for a line at a tempo. */
function fixedEvents(part: Part, line: Line, clock: Clock): Array<Fixed | null> {
  const known = fixedOf.get(line);
  if (known?.part === part && known.clock.tempo === clock.tempo) return known.fixed;
  const pizzicato = pizzicatoAt(part);
  const spiccato = spiccatoAt(part);
  const loudness = loudnessOf(part);
  const stressed = new Set(part.dynamics.filter((mark) => mark.level === null || mark.text === 'fp' || mark.text.startsWith('sf')).map((mark) => mark.tick));
  const fixed = line.events.map((event): Fixed | null => {
    if (pizzicato(event.onset) || event.notes.every((note) => note.leftPlucked)) return null;
    const barIndex = barIndexAt(part.bars, event.onset);
    const bar = part.bars[barIndex]!;
    const first = event.notes[0]!;
    const steps = loudness.stepsAt(event.onset);
    return {
      barIndex,
      onsetS: clock.secondsAt(event.onset),
      endS: clock.secondsAt(event.end),
      stressed: stressed.has(event.onset),
      spiccato: spiccato(event.onset),
      level: levelNear(steps),
      steps,
      hairpin: loudness.hairpinAt(event.onset),
      place: placeInBar(event, bar),
      barSeconds: clock.secondsAt(bar.onset + bar.ticks) - clock.secondsAt(bar.onset),
      notes: soundingNotes(event),
      pitches: [midiOf(first.pitch), midiOf(event.notes.at(-1)!.pitch)],
      strokes: tremoloStrokes(first, event),
      breath: event.notes.some((note) => note.articulations.includes('breath') || note.articulations.includes('caesura')),
    };
  });
  fixedOf.set(line, { part, clock, fixed });
  return fixed;
}

export function atomsOf(part: Part, line: Line, clock: Clock, marking: Marking): Atom[] {
  const links = slurLinks(part, line, marking);
  const fixed = fixedEvents(part, line, clock);
  const wished = wishesFor(marking);
  const atoms: Atom[] = [];
  let lastEndS: number | null = null;
  let breath = 0;
  line.events.forEach((event, i) => {
    const known = fixed[i];
    if (!known) return;
    const { barIndex, level, steps, hairpin, barSeconds, notes, pitches, strokes } = known;
    const bar = part.bars[barIndex]!;
    const wishes = wished(event.ids, barIndex);
    const uneven = (tick: number) => clock.secondsAt(stretched(tick, bar, wishes.unequal));
    const onsetS = wishes.unequal ? uneven(event.onset) : known.onsetS;
    const endS = Math.max(wishes.unequal ? uneven(event.end) : known.endS, onsetS + (event.grace ? GRACE_S : SHORTEST_S));
    const signs = signsOf(event, known.spiccato, known.stressed, wishes);
    const marks = event.ids.map((id) => marksOf(marking, id));
    const asks = (kind: 'retake' | 'hook') => marks.some((mark) => mark?.[kind]?.value === 'yes');
    const silenceS = lastEndS === null ? Infinity : Math.max(0, onsetS - lastEndS + breath);
    const before = line.events[i - 1];
    const followsGrace = before?.grace === true && before.onset === event.onset;
    const previous = atoms.at(-1);
    const linked = ((links[i] ?? false) || followsGrace) && previous?.event === i - 1 && silenceS < 0.2;
    const { late, ...place } = known.place;
    const atom: Atom = {
      event: i,
      ids: event.ids,
      onset: event.onset,
      ticks: event.end - event.onset,
      barIndex,
      onsetS,
      seconds: endS - onsetS,
      silenceS,
      linked,
      tied: false,
      phrase: false,
      slurShare: 0,
      heldTimes: 1,
      ...signs,
      kind: signs.kind === 'staccato' && wishes.stroke === undefined && endS - onsetS < SPRINGING_S ? 'spiccato' : signs.kind,
      level,
      steps,
      hairpin,
      ...place,
      barSeconds,
      last: false,
      upbeat: silenceS >= LONG_SILENCE_S / 4 && !place.onBar && (bar.pickup || late),
      notes,
      pitches,
      strokes,
      wish: wishOf(wishes),
      lock: event.notes.map((note) => bowInForce(note, marking)).find((bow) => bow !== null) ?? null,
      mustRetake: asks('retake'),
      mustHook: atoms.length > 0 && asks('hook') && !asks('retake'),
      hookAsked: asks('hook'),
      held: false,
      alike: null,
      beside: null,
      jumpsTo: null,
      outside: null,
    };
    // A grace note lies under the bow of its main note, so what is marked there is about the grace note's beginning.
    if (followsGrace && linked && previous && before.grace) takeOver(previous, atom);
    atoms.push(atom);
    lastEndS = endS;
    breath = known.breath ? BREATH_S : 0;
    if (breath) atom.seconds = Math.max(atom.seconds / 2, atom.seconds - BREATH_S);
  });
  settle(atoms, part, line);
  return atoms;
}

/** What an atom is by what follows it: whether it is the last, an upbeat, cut short, or held. */
function settle(atoms: readonly Atom[], part: Part, line: Line): void {
  atoms.forEach((atom, i) => {
    const next = atoms[i + 1];
    atom.last = !next || next.silenceS >= LONG_SILENCE_S;
    if (next && next.onsetS - atom.onsetS < atom.seconds) atom.seconds = Math.max(0.01, next.onsetS - atom.onsetS);
    if (atom.upbeat) {
      let after = i + 1;
      while (atoms[after]?.linked) after++;
      atom.upbeat = atoms[after]?.onBar ?? false;
    }
    if (isHeld(part, line.events[atom.event]!)) {
      atom.seconds *= FERMATA_TIMES;
      atom.heldTimes = FERMATA_TIMES;
    }
  });
}

/** A fermata may stand on the last of tied heads. */
const isHeld = (part: Part, { notes, ids }: LineEvent): boolean =>
  notes.some((note) => note.fermata) || (ids.length > notes.length && ids.some((id) => noteById(part, id)?.fermata));

function takeOver(grace: Atom, main: Atom): void {
  grace.lock ??= main.lock;
  grace.mustRetake ||= main.mustRetake;
  grace.mustHook ||= main.mustHook;
  grace.accent ||= main.accent;
  grace.wish ??= main.wish;
  main.lock = null;
  main.mustRetake = false;
  main.mustHook = false;
}

export function placeInBar(event: Pick<LineEvent, 'onset' | 'end'>, bar: Bar) {
  const inBar = event.onset - bar.onset + bar.into;
  const unit = beatTicks(bar);
  const beat = feltBeat(bar);
  const nominal = wholeBarTicks(bar);
  const halves = bar.beats === 4 || bar.beats === 6 || bar.beats === 12 || bar.beats === 2;
  return {
    onBar: inBar === 0,
    onHalfBar: halves && inBar * 2 === nominal,
    onBeat: inBar % beat === 0,
    onUnit: inBar % unit === 0,
    endsOnUnit: (event.end - bar.onset + bar.into) % unit === 0,
    late: inBar * 2 >= nominal,
  };
}

function signsOf(event: LineEvent, spiccato: boolean, stressed: boolean, wishes: Wished): Pick<Atom, 'kind' | 'dots' | 'accent'> {
  const has = (...names: readonly Note['articulations'][number][]) => event.notes.some((note) => note.articulations.some((name) => names.includes(name)));
  const first = event.notes[0]!;
  const { stroke } = wishes;
  const dots = stroke === undefined ? has('staccato', 'staccatissimo', 'spiccato') : stroke === 'staccato' || stroke === 'spiccato';
  const accent = stressed || has('accent', 'strong-accent', 'soft-accent') || stroke === 'accent' || stroke === 'martelé';
  const kind = (): StrokeKind => {
    if (soundingNotes(event) > 2) return 'chord';
    if (first.tremolo > 0) return 'tremolo';
    if (stroke !== undefined) return stroke as StrokeKind;
    if (has('portato') || (has('tenuto') && dots)) return 'portato';
    if (spiccato || has('spiccato')) return 'spiccato';
    if (has('strong-accent') && dots) return 'martelé';
    if (accent) return 'accent';
    if (dots) return 'staccato';
    return has('tenuto') ? 'tenuto' : 'détaché';
  };
  return { kind: kind(), dots, accent };
}

/** The heads of an artificial harmonic are one note on one string. */
const soundingNotes = ({ notes }: LineEvent): number => (notes.some((note) => note.harmonic === 'artificial') ? 1 : notes.length);

/** Strokes that a tremolo sign asks for: one or two beams repeat eighths or sixteenths, three are as quick as can be (common practice). */
function tremoloStrokes(note: Note, event: LineEvent): number {
  if (note.tremolo === 0 || note.tremoloWith !== null) return 1;
  if (note.tremolo >= 3) return 0;
  const flags: Readonly<Record<string, number>> = { eighth: 1, '16th': 2, '32nd': 3 };
  const unit = ((TICKS_PER_QUARTER / 2 ** (note.tremolo + (flags[note.length.type ?? ''] ?? 0))) * note.length.normal) / note.length.actual;
  return Math.max(1, Math.round((event.end - event.onset) / unit));
}

function wishOf(wished: Wished): AtomWish | null {
  if (Object.keys(wished).length === 0) return null;
  const amount = wished['bow-amount'];
  const wish: AtomWish = {
    zone: (wished['bow-zone'] as BowZone | undefined) ?? null,
    amount: amount === undefined ? null : amount.endsWith('cm') ? { cm: Number.parseFloat(amount) } : { share: AMOUNTS[amount as keyof typeof AMOUNTS] },
    from: wished['bow-from'] === undefined ? null : bowPlace(wished['bow-from']),
    to: wished['bow-to'] === undefined ? null : bowPlace(wished['bow-to']),
    school: (wished['sound-school'] as AtomWish['school'] | undefined) ?? null,
  };
  return Object.values(wish).some((each) => each !== null) ? wish : null;
}
