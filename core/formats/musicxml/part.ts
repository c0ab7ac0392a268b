/** One part of a MusicXML document: bars, notes and the signs that stand over them. */
import { LIMITS } from '../../util/limits';
import { bad, good, type Problem, type Result } from '../../util/result';
import { titleText } from '../../util/text';
import { noteId, pitchInId } from '../../score/identity';
import { midiOf, transposed, type Pitch, type Step } from '../../score/pitch';
import type { Bar, Note, Part, Warning } from '../../score/score';
import type { PartAlone } from '../../score/time-line';
import { childNumber, childText, placeInText, type XmlElement } from '../raw/xml';
import { atTheStart, readAttributes, type InForce } from './attributes';
import { emptySink, readDirection, readDynamics, readSound, settledHairpins, settledTempi } from './direction';
import { notePartsOf } from './note-parts';
import { readNotations, readWriting, SlurBook } from './notations';
import { noSigns, playSigns, readBarline, settleCodas, type BarSigns } from './play-signs';
import { signsOf } from './signs';
import { inferTransposition, recogniseInstrument } from './sounding';
import { TICKS_PER_QUARTER } from '../../score/ticks';

interface PartSource {
  id: string;
  scorePart: XmlElement;
  measures: XmlElement[];
  /** The name of the group that it stands in. */
  group: string | null;
}

/** Bars longer than this many quarters are taken for a mistake in the file. */
const LONGEST_BAR_QUARTERS = 256;

/** A part on its own time; `timeLineOf` lays all parts of a score on one. */
export function readPart(source: PartSource, text: string, warnings: Warning[]): Result<PartAlone> {
  const reader = new PartReader(source, text, warnings);
  for (const measure of source.measures) {
    const problem = reader.readBar(measure);
    if (problem) return { ok: false, problem };
  }
  return good({ part: reader.finish(), bars: reader.alone });
}

/** Where the reader stands inside a bar; ticks from its start. */
interface BarWalk {
  index: number;
  label: string;
  place: string;
  onset: number;
  cursor: number;
  furthest: number;
  chordStart: number;
  fifths: number;
  rehearsal: string | null;
  signs: BarSigns;
  /** Notes so far with the same voice, tick and pitch. */
  counts: Map<string, number>;
}

class PartReader {
  private readonly name: string;
  private readonly bars: Bar[] = [];
  private readonly barSigns: BarSigns[] = [];
  readonly alone: Array<PartAlone['bars'][number]> = [];
  private readonly notes: Note[] = [];
  private readonly rests: Part['rests'] = [];
  private readonly slurs = new SlurBook();
  private readonly now: InForce = atTheStart();
  private readonly sink;
  private noteIndex = 0;
  private unpitched = 0;
  private withoutLength = 0;
  private barOnset = 0;

  constructor(
    private readonly source: PartSource,
    private readonly text: string,
    private readonly warnings: Warning[],
  ) {
    this.name = partName(source);
    this.sink = emptySink(new Map(signsOf(source.measures).map(({ element }, i) => [element, i])));
  }

  readBar(measure: XmlElement): Problem | null {
    const index = this.bars.length;
    const label = titleText(measure.attributes.number ?? String(index + 1), LIMITS.barLabel);
    const walk: BarWalk = {
      index,
      label,
      place: `${this.name}, bar ${label}`,
      onset: this.barOnset,
      cursor: 0,
      furthest: 0,
      chordStart: 0,
      fifths: this.now.fifths,
      rehearsal: null,
      signs: noSigns(),
      counts: new Map(),
    };
    for (const element of measure.children) {
      const problem = this.readElement(element, walk);
      if (problem) return problem;
    }
    return this.closeBar(walk, measure.attributes.implicit === 'yes');
  }

  private readElement(element: XmlElement, walk: BarWalk): Problem | null {
    const tick = () => Math.round(walk.onset + walk.cursor);
    switch (element.name) {
      case 'attributes':
        readAttributes(element, tick(), this.now, walk.place, this.warnings);
        if (walk.cursor === 0) walk.fifths = this.now.fifths;
        return null;
      case 'backup':
      case 'forward':
        return this.move(element, walk);
      case 'note':
        return this.readNote(element, walk);
      case 'direction': {
        const offset = Math.round((childNumber(element, 'offset') ?? 0) * this.scale);
        walk.rehearsal = readDirection(element, Math.max(0, tick() + offset), this.sink, walk.signs) ?? walk.rehearsal;
        return null;
      }
      case 'sound':
        readSound(element, tick(), this.sink, walk.signs);
        return null;
      case 'barline':
        readBarline(element, walk.signs);
        return null;
      default:
        return null;
    }
  }

  /** Ticks of one division of the file. */
  private get scale(): number {
    return TICKS_PER_QUARTER / this.now.divisions;
  }

  private move(element: XmlElement, walk: BarWalk): Problem | null {
    const duration = childNumber(element, 'duration');
    if (duration === null || duration < 0) {
      return problem(walk.place, `A <${element.name}> has no valid duration (${placeInText(this.text, element.start)}).`, 'Export the score again.');
    }
    walk.cursor += (element.name === 'backup' ? -1 : 1) * duration * this.scale;
    if (walk.cursor < -1e-6) {
      return problem(walk.place, `A <backup> goes back before the bar (${placeInText(this.text, element.start)}).`, 'Export the score again.');
    }
    walk.cursor = Math.max(0, walk.cursor);
    walk.furthest = Math.max(walk.furthest, walk.cursor);
    return null;
  }

  private readNote(element: XmlElement, walk: BarWalk): Problem | null {
    const sourceIndex = this.noteIndex++;
    const parts = notePartsOf(element);
    const { grace } = parts;
    const rawDuration = grace ? 0 : numberIn(parts.duration);
    if (rawDuration === null || rawDuration < 0) {
      return problem(
        walk.place,
        `A note has the duration "${parts.duration ?? 'none'}" (${placeInText(this.text, element.start)}).`,
        'Durations must be positive numbers; correct the bar and export it again.',
      );
    }
    const tick = Math.round(parts.chord ? walk.chordStart : walk.cursor);
    const exact = parts.chord ? walk.chordStart : walk.cursor;
    const duration = Math.round(exact + rawDuration * this.scale) - tick;
    if (!parts.chord) {
      walk.chordStart = walk.cursor;
      walk.cursor += rawDuration * this.scale;
      walk.furthest = Math.max(walk.furthest, walk.cursor);
    }
    const { voice } = parts;
    const onset = walk.onset + tick;
    if (parts.rest) {
      this.rests.push({ barIndex: walk.index, voice, onset, duration });
      return null;
    }
    if (!parts.pitch) {
      this.unpitched++;
      return null;
    }
    const written = readPitch(parts.pitch);
    if (!written) {
      return problem(walk.place, `A note has no readable pitch (${placeInText(this.text, element.start)}).`, 'Correct the note and export the score again.');
    }
    if (!grace && duration === 0) this.withoutLength++;
    const signs = readNotations(parts);
    const note: Note = {
      id: this.idFor(written, voice, tick, walk),
      barIndex: walk.index,
      voice,
      staff: parts.staff,
      tick,
      onset,
      duration,
      pitch: this.now.transposes ? transposed(written, this.now.diatonic, this.now.chromatic) : written,
      written,
      inChord: parts.chord,
      grace: grace?.attributes.slash === 'yes' ? 'slashed' : grace || duration === 0 ? 'plain' : null,
      cue: parts.cue,
      tiedFrom: parts.tieStop,
      tiedTo: parts.tieStart,
      ...readWriting(parts),
      ...signs.note,
      source: sourceIndex,
    };
    this.notes.push(note);
    this.slurs.add(note, signs.slurs);
    for (const dynamics of signs.dynamics) readDynamics(dynamics, onset, this.sink);
    return null;
  }

  private idFor(written: Pitch, voice: string, tick: number, { index, counts }: BarWalk): string {
    const name = { barIndex: index, voice, tick, pitch: pitchInId(written), ordinal: 0 };
    const first = noteId(name);
    const ordinal = counts.get(first) ?? 0;
    counts.set(first, ordinal + 1);
    return ordinal === 0 ? first : noteId({ ...name, ordinal });
  }

  private closeBar(walk: BarWalk, implicit: boolean): Problem | null {
    const { beats, beatType, metred } = this.now;
    const nominal = (beats * 4 * TICKS_PER_QUARTER) / beatType;
    const filled = Math.round(walk.furthest);
    if (filled > LONGEST_BAR_QUARTERS * TICKS_PER_QUARTER) {
      return problem(
        walk.place,
        `The bar holds ${Math.round(filled / TICKS_PER_QUARTER)} quarter notes.`,
        'Correct the durations in this bar and export the score again.',
      );
    }
    if (metred && filled > nominal + 0.5) {
      this.warnings.push({
        place: walk.place,
        text: `The notes fill ${this.quarters(filled)} quarters, the time signature ${beats}/${beatType} has ${this.quarters(nominal)}. The bar is read as long as it is filled; correct the durations if that is a mistake.`,
      });
    }
    // Without a time signature a bar is as long as it is.
    const [count, unit] = metred || filled === 0 ? [beats, beatType] : [filled / TICKS_PER_QUARTER, 4];
    const ticks = filled > 0 ? filled : Math.round(nominal);
    this.alone.push({ empty: filled === 0, metred });
    const { signs } = walk;
    this.barSigns.push(signs);
    this.bars.push({
      index: walk.index,
      label: walk.label,
      onset: walk.onset,
      ticks,
      beats: count,
      beatType: unit,
      fifths: walk.fifths,
      into: 0,
      pickup: false,
      counted: null,
      implicit,
      rehearsal: walk.rehearsal,
      doubleBarAfter: signs.double || signs.repeatEnd,
      repeatStart: signs.repeatStart,
      repeatEnd: signs.repeatEnd,
      signs: null,
    });
    this.barOnset += ticks;
    return null;
  }

  finish(): Part {
    const { name, notes, bars, sink, now, warnings } = this;
    if (this.unpitched > 0) {
      warnings.push({ place: name, text: `${this.unpitched} notes without pitch (percussion) are left out: they cannot be fingered or bowed.` });
    }
    if (sink.oddTempi.length > 0)
      warnings.push({
        place: name,
        text: `A tempo of ${[...new Set(sink.oddTempi)].join(', ')} cannot be played and is passed over; say the tempo on the Desk.`,
      });
    if (this.withoutLength > 0) warnings.push({ place: name, text: `${this.withoutLength} notes last no time in the file; they are read as grace notes.` });
    settleCodas(this.barSigns);
    const recognised = recogniseInstrument(this.source.scorePart, name, now, notes);
    const soundsHalfSteps = now.transposes ? now.chromatic : inferTransposition(recognised.kind, name, now, notes, warnings);
    notes.sort(inScoreOrder);
    const labels = bars.map((bar) => bar.label);
    return {
      id: this.source.id,
      name,
      instrument: recognised.kind,
      instrumentBecause: recognised.because,
      section: recognised.section,
      soundsHalfSteps,
      transposesItself: now.transposes,
      bars: bars.map((bar, i) => ({ ...bar, signs: playSigns(this.barSigns[i]!) })),
      clefs: now.clefs,
      keys: now.keys,
      notes,
      slurs: this.slurs.finish(name, labels, warnings),
      dynamics: sink.dynamics.sort((a, b) => a.tick - b.tick),
      hairpins: settledHairpins(sink.wedges),
      words: sink.words.sort((a, b) => a.tick - b.tick),
      tempi: settledTempi(sink.tempi),
      plucked: sink.plucked.sort((a, b) => a.tick - b.tick),
      rests: this.rests,
    };
  }

  private quarters(ticks: number): number {
    return Math.round((ticks / TICKS_PER_QUARTER) * 100) / 100;
  }
}

const problem = (place: string, what: string, remedy: string): Problem => bad(place, what, remedy).problem;

/** By onset; grace notes before the note they lean on; then staff, voice and pitch upwards. */
function inScoreOrder(a: Note, b: Note): number {
  return (
    a.onset - b.onset || graceOrder(a, b) || a.staff - b.staff || compareText(a.voice, b.voice) || midiOf(a.pitch) - midiOf(b.pitch) || a.source - b.source
  );
}

function graceOrder(a: Note, b: Note): number {
  if (a.grace && b.grace) return a.source - b.source;
  return (a.grace ? 0 : 1) - (b.grace ? 0 : 1);
}

const compareText = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

function readPitch(element: XmlElement): Pitch | null {
  const step = childText(element, 'step');
  const octave = childNumber(element, 'octave');
  const alter = childNumber(element, 'alter') ?? 0;
  if (!step || !/^[A-G]$/.test(step) || octave === null || !Number.isInteger(octave) || octave < 0 || octave > 10 || Math.abs(alter) > 3) return null;
  return { step: step as Step, alter, octave };
}

function numberIn(text: string | null): number | null {
  const value = text === null || text === '' ? NaN : Number(text);
  return Number.isFinite(value) ? value : null;
}

/** Numbers of players: "1", "1 2", "III & IV". */
const NUMBERS = /^[\s\d.,&+/-]*$|^(?:[\s.,&+/-]*\b[IVX]+\b)+[\s.,]*$/;

function partName(source: PartSource): string {
  const name = childText(source.scorePart, 'part-name') || childText(source.scorePart, 'part-abbreviation');
  const own = titleText(name || source.id, LIMITS.title) || source.id;
  // A number alone is the number of a player in its group.
  return source.group !== null && NUMBERS.test(own) ? titleText(`${source.group} ${own}`, LIMITS.title) : own;
}
