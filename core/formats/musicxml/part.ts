/** One part of a MusicXML document: bars, notes and the signs that stand over them. */
import { bad, good, type Result } from '../../util/result';
import { midiOf, pitchName, transposed, type Pitch, type Step } from '../../score/pitch';
import type { Bar, Note, Part, Warning } from '../../score/score';
import { recognise } from '../../instruments/recognise';
import { child, childNumber, childText, placeInText, type XmlElement } from '../xml';
import { readDirection, readSoundTempo, type DirectionSink } from './direction';
import { readNotations, SlurBook } from './notations';

interface PartSource {
  id: string;
  scorePart: XmlElement;
  measures: XmlElement[];
}

interface Walk {
  divisions: number;
  beats: number;
  beatType: number;
  fifths: number;
  diatonic: number;
  chromatic: number;
  transposes: boolean;
  clef: string | null;
  noteIndex: number;
  unpitched: number;
}

/** Bars longer than this many quarters are taken for a mistake in the file. */
const LONGEST_BAR_QUARTERS = 256;

export function readPart(source: PartSource, ticksPerQuarter: number, text: string, warnings: Warning[]): Result<Part> {
  const name = partName(source);
  const bars: Bar[] = [];
  const notes: Note[] = [];
  const slurs = new SlurBook();
  const marks: DirectionSink = { dynamics: [], hairpins: [], words: [], tempi: [], openWedges: new Map() };
  const rests: Part['rests'] = [];
  const walk: Walk = {
    divisions: 1,
    beats: 4,
    beatType: 4,
    fifths: 0,
    diatonic: 0,
    chromatic: 0,
    transposes: false,
    clef: null,
    noteIndex: 0,
    unpitched: 0,
  };
  let barOnset = 0;
  for (const measure of source.measures) {
    const index = bars.length;
    const label = measure.attributes.number ?? String(index + 1);
    const place = `${name}, bar ${label}`;
    const scale = () => ticksPerQuarter / walk.divisions;
    let cursor = 0;
    let furthest = 0;
    let chordStart = 0;
    let rehearsal: string | null = null;
    let doubleBarAfter = false;
    let repeatStart = false;
    let repeatEnd = false;
    const counts = new Map<string, number>();
    for (const element of measure.children) {
      switch (element.name) {
        case 'attributes': {
          readAttributes(element, walk, place, warnings);
          break;
        }
        case 'backup':
        case 'forward': {
          const duration = childNumber(element, 'duration');
          if (duration === null || duration < 0) {
            return bad(place, `A <${element.name}> has no valid duration (${placeInText(text, element.start)}).`, 'Export the score again.');
          }
          cursor += (element.name === 'backup' ? -1 : 1) * duration * scale();
          if (cursor < -1e-6) return bad(place, `A <backup> goes back before the bar (${placeInText(text, element.start)}).`, 'Export the score again.');
          cursor = Math.max(0, cursor);
          furthest = Math.max(furthest, cursor);
          break;
        }
        case 'note': {
          const sourceIndex = walk.noteIndex++;
          const grace = child(element, 'grace');
          const isChord = child(element, 'chord') !== undefined;
          const rawDuration = childNumber(element, 'duration');
          if (!grace && (rawDuration === null || rawDuration < 0)) {
            return bad(
              place,
              `A note has the duration "${childText(element, 'duration') ?? 'none'}" (${placeInText(text, element.start)}).`,
              'Durations must be positive numbers; correct the bar and export it again.',
            );
          }
          const duration = grace ? 0 : Math.round(rawDuration! * scale());
          const tick = Math.round(isChord ? chordStart : cursor);
          if (!isChord) {
            chordStart = cursor;
            cursor += duration;
            furthest = Math.max(furthest, cursor);
          }
          const voice = childText(element, 'voice') ?? '1';
          const staff = childNumber(element, 'staff') ?? 1;
          const onset = barOnset + tick;
          if (child(element, 'rest')) {
            rests.push({ barIndex: index, voice, onset, duration });
            break;
          }
          const pitchElement = child(element, 'pitch');
          if (!pitchElement) {
            walk.unpitched++;
            break;
          }
          const written = readPitch(pitchElement);
          if (!written) {
            return bad(place, `A note has no readable pitch (${placeInText(text, element.start)}).`, 'Correct the note and export the score again.');
          }
          const pitch = walk.transposes ? transposed(written, walk.diatonic, walk.chromatic) : written;
          const marksOfNote = readNotations(element);
          const stem = `n-${safeId(source.id)}-${index}-${safeId(voice)}-${tick}-${safePitch(written)}`;
          const ordinal = counts.get(stem) ?? 0;
          counts.set(stem, ordinal + 1);
          const note: Note = {
            id: `${stem}-${ordinal}`,
            barIndex: index,
            voice,
            staff,
            tick,
            onset,
            duration,
            pitch,
            written,
            inChord: isChord,
            grace: grace ? (grace.attributes.slash === 'yes' ? 'slashed' : 'plain') : null,
            cue: child(element, 'cue') !== undefined,
            tiedFrom: hasTie(element, 'stop'),
            tiedTo: hasTie(element, 'start'),
            ...marksOfNote.note,
            source: sourceIndex,
          };
          notes.push(note);
          slurs.add(note, marksOfNote.slurs);
          for (const dynamic of marksOfNote.dynamics) marks.dynamics.push({ tick: onset, ...dynamic });
          break;
        }
        case 'direction': {
          const offset = Math.round((childNumber(element, 'offset') ?? 0) * scale());
          rehearsal = readDirection(element, Math.max(0, Math.round(barOnset + cursor) + offset), marks) ?? rehearsal;
          break;
        }
        case 'sound': {
          readSoundTempo(element, Math.round(barOnset + cursor), marks, null);
          break;
        }
        case 'barline': {
          const style = childText(element, 'bar-style');
          const direction = child(element, 'repeat')?.attributes.direction;
          if (direction === 'forward') repeatStart = true;
          if (direction === 'backward') repeatEnd = true;
          const atEnd = (element.attributes.location ?? 'right') === 'right';
          if (atEnd && (repeatEnd || style === 'light-light' || style === 'light-heavy' || style === 'heavy-heavy')) doubleBarAfter = true;
          break;
        }
      }
    }
    const nominal = (walk.beats * 4 * ticksPerQuarter) / walk.beatType;
    const filled = Math.round(furthest);
    if (filled > LONGEST_BAR_QUARTERS * ticksPerQuarter) {
      return bad(
        place,
        `The bar holds ${Math.round(filled / ticksPerQuarter)} quarter notes.`,
        'Correct the durations in this bar and export the score again.',
      );
    }
    if (filled > nominal + 0.5) {
      warnings.push({
        place,
        text: `The notes fill ${quarters(filled, ticksPerQuarter)} quarters, the time signature ${walk.beats}/${walk.beatType} has ${quarters(nominal, ticksPerQuarter)}. The bar is read as long as it is filled; correct the durations if that is a mistake.`,
      });
    }
    const implicit = measure.attributes.implicit === 'yes';
    const ticks = filled > 0 && (filled > nominal || implicit || index === 0) ? filled : Math.round(nominal);
    bars.push({
      index,
      label,
      onset: barOnset,
      ticks,
      beats: walk.beats,
      beatType: walk.beatType,
      fifths: walk.fifths,
      pickup: ticks < nominal - 0.5,
      rehearsal,
      doubleBarAfter: doubleBarAfter || repeatEnd,
      repeatStart,
      repeatEnd,
    });
    barOnset += ticks;
  }
  if (walk.unpitched > 0) {
    warnings.push({ place: name, text: `${walk.unpitched} notes without pitch (percussion) are left out: they cannot be fingered or bowed.` });
  }
  const recognised = recogniseInstrument(source, name, walk, notes);
  const soundsHalfSteps = walk.transposes ? walk.chromatic : inferTransposition(recognised.kind, name, notes, warnings);
  notes.sort(
    (a, b) =>
      a.onset - b.onset || graceOrder(a, b) || a.staff - b.staff || compareText(a.voice, b.voice) || midiOf(a.pitch) - midiOf(b.pitch) || a.source - b.source,
  );
  marks.tempi.sort((a, b) => a.tick - b.tick);
  if (marks.tempi[0] && marks.tempi[0].tick > 0) marks.tempi.unshift({ ...marks.tempi[0], tick: 0, printed: null });
  return good({
    id: source.id,
    name,
    instrument: recognised.kind,
    instrumentBecause: recognised.because,
    section: recognised.section,
    soundsHalfSteps,
    bars,
    notes,
    slurs: slurs.finish(name, warnings),
    dynamics: marks.dynamics.sort((a, b) => a.tick - b.tick),
    hairpins: marks.hairpins.sort((a, b) => a.from - b.from),
    words: marks.words.sort((a, b) => a.tick - b.tick),
    tempi: marks.tempi,
    rests,
  });
}

/** Grace notes come before the note they lean on, in the order of the file. */
function graceOrder(a: Note, b: Note): number {
  if (a.grace && b.grace) return a.source - b.source;
  return (a.grace ? 0 : 1) - (b.grace ? 0 : 1);
}

const compareText = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

const quarters = (ticks: number, ticksPerQuarter: number) => Math.round((ticks / ticksPerQuarter) * 100) / 100;

/** Takes the attributes over; what no score can mean is left out, and said. */
function readAttributes(element: XmlElement, walk: Walk, place: string, warnings: Warning[]): void {
  walk.divisions = childNumber(element, 'divisions') ?? walk.divisions;
  const time = child(element, 'time');
  if (time && !time.children.some((sign) => sign.name === 'senza-misura')) readTime(time, walk, place, warnings);
  const fifths = childNumber(child(element, 'key'), 'fifths');
  if (fifths !== null && Math.abs(fifths) <= MOST_ACCIDENTALS) walk.fifths = Math.round(fifths);
  const clef = child(element, 'clef');
  if (clef && walk.clef === null) walk.clef = `${childText(clef, 'sign') ?? ''}${childText(clef, 'line') ?? ''}`;
  const transpose = child(element, 'transpose');
  if (!transpose) return;
  const octaves = childNumber(transpose, 'octave-change') ?? 0;
  const chromatic = childNumber(transpose, 'chromatic') ?? 0;
  const diatonic = childNumber(transpose, 'diatonic') ?? Math.round((chromatic * 7) / 12);
  if (![octaves, chromatic, diatonic].every(Number.isInteger) || Math.abs(octaves) > 4 || Math.abs(chromatic) > 24 || Math.abs(diatonic) > 14) {
    warnings.push({ place, text: 'The transposition in the file is not one that an instrument has; it is left out.' });
    return;
  }
  walk.transposes = true;
  walk.chromatic = chromatic + 12 * octaves;
  walk.diatonic = diatonic + 7 * octaves;
}

const MOST_ACCIDENTALS = 11;
const MOST_BEATS = 64;

function readTime(time: XmlElement, walk: Walk, place: string, warnings: Warning[]): void {
  const beats = time.children.filter((c) => c.name === 'beats').map((c) => c.text.split('+').reduce((sum, x) => sum + Number(x), 0));
  const types = time.children.filter((c) => c.name === 'beat-type').map((c) => Number(c.text));
  const type = Math.max(...types);
  const total = beats.reduce((sum, count, i) => sum + (count * type) / (types[i] ?? type), 0);
  if (total > 0 && total <= MOST_BEATS && [1, 2, 4, 8, 16, 32, 64].includes(type)) {
    walk.beats = total;
    walk.beatType = type;
  } else warnings.push({ place, text: `The time signature in the file cannot be read; ${walk.beats}/${walk.beatType} goes on.` });
}

function readPitch(element: XmlElement): Pitch | null {
  const step = childText(element, 'step');
  const octave = childNumber(element, 'octave');
  const alter = childNumber(element, 'alter') ?? 0;
  if (!step || !/^[A-G]$/.test(step) || octave === null || !Number.isInteger(octave) || octave < 0 || octave > 10 || Math.abs(alter) > 3) return null;
  return { step: step as Step, alter, octave };
}

/** A tie is said by `<tie>`; some files only draw it (`<tied>`). */
function hasTie(element: XmlElement, type: 'start' | 'stop'): boolean {
  const isTie = (sign: XmlElement) => (sign.name === 'tie' || sign.name === 'tied') && sign.attributes.type === type;
  return element.children.some((candidate) => isTie(candidate) || (candidate.name === 'notations' && candidate.children.some(isTie)));
}

function partName(source: PartSource): string {
  const name = childText(source.scorePart, 'part-name') || childText(source.scorePart, 'part-abbreviation');
  return name || source.id;
}

/** XML ids may hold letters, digits, "_", "." only here, so that "-" separates the fields. */
const safeId = (text: string) => text.replace(/[^A-Za-z0-9_.]/g, '_');
const safePitch = (pitch: Pitch) => pitchName(pitch).replace(/#/g, 's').replace(/\+/g, 'p').replace(/-/g, 'm');

function recogniseInstrument(source: PartSource, name: string, walk: Walk, notes: readonly Note[]) {
  const instrument = child(source.scorePart, 'score-instrument');
  const written = notes.map((note) => midiOf(note.written));
  return recognise({
    name,
    sound: childText(instrument, 'instrument-sound'),
    program: childNumber(child(source.scorePart, 'midi-instrument'), 'midi-program'),
    clef: walk.clef,
    lowest: written.length ? written.reduce((a, b) => Math.min(a, b)) : null,
    highest: written.length ? written.reduce((a, b) => Math.max(a, b)) : null,
  });
}

/** Written E2: the open E string of the bass as players read it. */
const LOWEST_WRITTEN_BASS = 40;

/**
 * A bass part is written an octave above its sound; many files leave `transpose` out (common practice).
 * A part whose notes would then lie far below the instrument is taken as written at pitch.
 */
function inferTransposition(kind: Part['instrument'], name: string, notes: Note[], warnings: Warning[]): number {
  if (kind !== 'bass' || notes.length === 0) return 0;
  const lowest = notes.reduce((least, note) => Math.min(least, midiOf(note.written)), Infinity);
  if (lowest < LOWEST_WRITTEN_BASS - 5) {
    warnings.push({
      place: name,
      text: `The file does not transpose this bass part and its lowest note is ${pitchName(notes.find((note) => midiOf(note.written) === lowest)!.written)}: it is read as written at sounding pitch.`,
    });
    return 0;
  }
  warnings.push({ place: name, text: 'The file does not transpose this bass part: it is read as sounding an octave below the written notes.' });
  for (const note of notes) note.pitch = transposed(note.written, -7, -12);
  return -12;
}
