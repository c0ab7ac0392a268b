/**
 * ABC in: a tune becomes a MusicXML document, so that a typed passage is a full score like any other. Source: the ABC
 * standard 2.1 (abcnotation.com), as the parser package understands it; an accidental holds in its own octave.
 */
import { naturalAt, type Pitch } from '../../score/pitch';
import { bad, good, type Result } from '../../util/result';
import { escapeXml } from '../raw/xml';
import { partsOf, type AbcBar, type AbcPart } from './bars';
import { decorationsOf, type Decorations } from './decorations';
import { parseTune, placeOf, type AbcClef, type AbcElement, type AbcKey, type AbcMeter, type AbcPitch, type AbcProblem, type AbcTempo } from './tune';
import { direction, FINGER, TYPES, ACCIDENTALS, fifthsOf, tempoXml } from './xml-signs';

/** Divisions of the quarter: powers of two to 1/128, and groups of 3, 5, 7 and 9. */
const DIVISIONS = 10_080;

const MIDDLE_C = 4 * 7;

export interface TypedScore {
  musicXml: string;
  /** What the parser did not understand; the rest is read all the same. */
  problems: AbcProblem[];
}

export function musicXmlFromAbc(text: string): Result<TypedScore> {
  const parsed = parseTune(text);
  if (!parsed.ok) return parsed;
  const { tune, problems } = parsed.value;
  const parts = partsOf(tune);
  if (!parts.some((part) => part.voices.some((bars) => bars.some((bar) => bar.items.some((item) => item.pitches))))) {
    const first = problems[0];
    const place = first ? `line ${first.line}, column ${first.column}` : null;
    return bad(place, first ? `${first.text}. There are no notes.` : 'There are no notes in the text.', 'Write notes after the K: line, such as "A2 Bc d4 |".');
  }
  const title = tune.metaText.title ?? 'Typed passage';
  const bodies = parts.map((part, i) => new PartWriter(part, text, problems, i === 0 ? (tune.metaText.tempo ?? null) : null).write());
  const list = parts.map((part, i) => `<score-part id="P${i + 1}"><part-name>${escapeXml(part.name || `Part ${i + 1}`)}</part-name></score-part>`).join('');
  const composer = tune.metaText.composer ? `<identification><creator type="composer">${escapeXml(tune.metaText.composer)}</creator></identification>\n` : '';
  const musicXml =
    `<?xml version="1.0" encoding="UTF-8"?>\n<score-partwise version="3.1">\n<work><work-title>${escapeXml(title)}</work-title></work>\n${composer}<part-list>${list}</part-list>\n` +
    bodies.map((body, i) => `<part id="P${i + 1}">\n${body}\n</part>`).join('\n') +
    '\n</score-partwise>\n';
  problems.sort((a, b) => a.line - b.line || a.column - b.column);
  return good({ musicXml, problems });
}

/** A tuplet that is under way: its notes are that many times as long as they are written. */
interface Tuplet {
  actual: number;
  normal: number;
}

class PartWriter {
  /** Null until the first key has been written. */
  private fifths: number | null = null;
  private meterSaid = false;
  private beats = 4;
  private beatType = 4;
  private key: AbcKey = {};
  private clef = '';
  /** An 8 at the clef moves the sound by an octave: the letters of ABC are the written ones. */
  private clefOctave = 0;
  private endingNumber = '1';
  private held = new Map<number, number>();
  /** Alterations that a tie carries over the bar line. */
  private readonly tied = new Map<number, number>();
  private tuplet: Tuplet | null = null;
  private beaming = false;
  private readonly slurNumbers = new Map<number, number>();

  constructor(
    private readonly part: AbcPart,
    private readonly text: string,
    private readonly problems: AbcProblem[],
    private readonly tempo: AbcTempo | null,
  ) {}

  write(): string {
    const [main, ...others] = this.part.voices;
    const measures: string[] = [];
    let number = 0;
    for (const [i, bar] of (main ?? []).entries()) {
      const rest = bar.items.find((item) => item.rest?.type === 'multimeasure');
      const opening = i === 0 ? this.opening() : '';
      if (rest) {
        const bars = Math.max(1, Math.min(999, Math.round(rest.rest!.text ?? 1)));
        for (let k = 0; k < bars; k++) {
          const body = `<note><rest measure="yes"/><duration>${this.nominal()}</duration><voice>1</voice></note>`;
          measures.push(this.measure(String(++number), false, k === 0 ? bar : null, k === 0 ? opening : '', body, k === bars - 1 ? bar : null));
        }
        continue;
      }
      const first = this.voice(bar, 1, null);
      const pickup = i === 0 && first.length < this.nominal();
      if (!pickup) number++;
      this.checkLength(
        bar,
        first.length,
        i === 0 || i === main!.length - 1 || bar.repeatEnd || bar.repeatStart || bar.endingStart !== null || main![i + 1]?.repeatStart === true,
      );
      const more = others.map((bars, v) => (bars[i] ? this.voice(bars[i], v + 2, first.length).xml : '')).filter(Boolean);
      const body = first.xml + more.map((xml) => `<backup><duration>${first.length}</duration></backup>\n${xml}`).join('');
      measures.push(this.measure(String(number), first.length < this.nominal(), bar, opening, body, bar));
    }
    return measures.join('\n');
  }

  private measure(number: string, implicit: boolean, left: AbcBar | null, opening: string, body: string, right: AbcBar | null): string {
    const ending = left?.endingStart?.replace(/[^\d,]/g, '');
    if (ending) this.endingNumber = ending;
    const start =
      left && (left.repeatStart || ending)
        ? `<barline location="left">${ending ? `<ending number="${ending}" type="start"/>` : ''}${left.repeatStart ? '<repeat direction="forward"/>' : ''}</barline>\n`
        : '';
    let end = '';
    if (right && (right.repeatEnd || right.double || right.final || right.endingStop)) {
      const style = right.double ? 'light-light' : right.repeatEnd || right.final ? 'light-heavy' : null;
      const stop = right.endingStop ? `<ending number="${this.endingNumber}" type="stop"/>` : '';
      end = `<barline location="right">${style ? `<bar-style>${style}</bar-style>` : ''}${stop}${right.repeatEnd ? '<repeat direction="backward"/>' : ''}</barline>\n`;
    }
    return `<measure number="${number}"${implicit ? ' implicit="yes"' : ''}>\n${opening}${start}${body}${end}</measure>`;
  }

  private opening(): string {
    const { key, meter, clef } = this.part;
    return (
      `<attributes><divisions>${DIVISIONS}</divisions>${this.keyXml(key)}${this.meterXml(meter ?? {})}${this.clefXml(clef)}</attributes>\n` +
      (this.tempo ? tempoXml(this.tempo) : '')
    );
  }

  /** Ticks of a full bar. */
  private nominal(): number {
    return (this.beats * 4 * DIVISIONS) / this.beatType;
  }

  /** One voice of one bar. A second voice never goes on longer than the first one. */
  private voice(bar: AbcBar, voice: number, most: number | null): { xml: string; length: number } {
    this.held = new Map();
    let length = 0;
    let xml = '';
    for (const item of bar.items) {
      switch (item.el_type) {
        case 'note': {
          const note = this.note(item, voice, most === null ? Infinity : most - length);
          xml += note.xml;
          length += note.length;
          break;
        }
        case 'key':
          xml += this.changed(this.keyXml(item));
          break;
        case 'meter':
          xml += this.changed(this.meterXml(item));
          break;
        case 'clef':
          xml += this.changed(this.clefXml(item));
          break;
        case 'tempo':
          xml += tempoXml({ ...item, duration: Array.isArray(item.duration) ? item.duration : undefined });
          break;
        case 'part':
          xml += direction(`<rehearsal>${escapeXml(item.title ?? '')}</rehearsal>`);
          break;
      }
    }
    const { before, after } = decorationsOf(bar.after);
    return { xml: xml + before.join('') + after.join(''), length };
  }

  private changed(attribute: string): string {
    return attribute ? `<attributes>${attribute}</attributes>\n` : '';
  }

  private keyXml(key: AbcKey): string {
    const fifths = fifthsOf(key);
    const said = fifths !== this.fifths;
    this.key = key;
    this.fifths = fifths;
    return said ? `<key><fifths>${fifths}</fifths></key>` : '';
  }

  private meterXml(meter: AbcMeter): string {
    const value = meter.type === 'common_time' ? { num: '4', den: '4' } : meter.type === 'cut_time' ? { num: '2', den: '2' } : meter.value?.[0];
    const beats = value ? value.num.split('+').reduce((sum, x) => sum + Number(x), 0) : this.beats;
    const beatType = Number(value?.den ?? this.beatType);
    if (!(beats > 0 && beats <= 64 && [1, 2, 4, 8, 16, 32].includes(beatType))) return '';
    const same = this.meterSaid && beats === this.beats && beatType === this.beatType;
    this.beats = beats;
    this.beatType = beatType;
    this.meterSaid = true;
    const symbol = meter.type === 'common_time' ? ' symbol="common"' : meter.type === 'cut_time' ? ' symbol="cut"' : '';
    return same ? '' : `<time${symbol}><beats>${beats}</beats><beat-type>${beatType}</beat-type></time>`;
  }

  private clefXml({ type = 'treble', clefPos }: AbcClef): string {
    const octave = type.endsWith('-8') ? -1 : type.endsWith('+8') ? 1 : 0;
    const sign = /^(bass|baritone)/.test(type) ? 'F' : /^(alto|tenor|soprano|mezzo)/.test(type) ? 'C' : 'G';
    const line = clefPos ? Math.round(clefPos / 2) : { F: 4, C: 3, G: 2 }[sign];
    this.clefOctave = octave;
    const xml = `<clef><sign>${sign}</sign><line>${line}</line>${octave ? `<clef-octave-change>${octave}</clef-octave-change>` : ''}</clef>`;
    const same = xml === this.clef;
    this.clef = xml;
    return same ? '' : xml;
  }

  private note(item: AbcElement, voice: number, room: number): { xml: string; length: number } {
    if (item.startTriplet && item.tripletMultiplier)
      this.tuplet = { actual: item.startTriplet, normal: Math.round(item.startTriplet * item.tripletMultiplier) };
    const tuplet = this.tuplet;
    const whole = typeof item.duration === 'number' ? item.duration : 0;
    const spacer = item.rest?.type === 'spacer';
    let length = spacer ? 0 : Math.round((whole * 4 * DIVISIONS * (tuplet?.normal ?? 1)) / (tuplet?.actual ?? 1));
    if (item.rest && length > room) length = Math.max(0, room);
    const fingers = (item.chord ?? []).map(({ name }) => name.trim()).filter((name) => FINGER.test(name));
    const decorations = decorationsOf([...(item.decoration ?? []), ...fingers]);
    const graces = (item.gracenotes ?? []).map((grace) => this.grace(grace, voice)).join('');
    let xml = this.words(item) + decorations.before.join('') + graces;
    const ends = { first: item.startTriplet !== undefined, last: item.endTriplet === true };
    if (item.rest && length > 0) {
      xml +=
        item.rest.type === 'invisible'
          ? `<forward><duration>${length}</duration></forward>\n`
          : `<note><rest/><duration>${length}</duration><voice>${voice}</voice>${this.written(whole)}${this.ratio()}</note>\n`;
    }
    if (item.pitches) {
      if (item.startBeam) this.beaming = true;
      const beam = this.beaming && whole < 0.25 ? `<beam number="1">${item.startBeam ? 'begin' : item.endBeam ? 'end' : 'continue'}</beam>` : '';
      if (item.endBeam) this.beaming = false;
      item.pitches.forEach((pitch, i) => {
        const marks = i === 0 ? decorations : null;
        xml += this.head(item, pitch, { i, length, voice, whole, beam, marks, ends });
      });
    }
    if (item.endTriplet) this.tuplet = null;
    return { xml: xml + decorations.after.join(''), length };
  }

  private head(
    item: AbcElement,
    pitch: AbcPitch,
    {
      i,
      length,
      voice,
      whole,
      beam,
      marks,
      ends,
    }: { i: number; length: number; voice: number; whole: number; beam: string; marks: Decorations | null; ends: { first: boolean; last: boolean } },
  ): string {
    const { xml: pitchXml, accidental } = this.pitch(pitch);
    const ties = `${pitch.endTie ? '<tie type="stop"/>' : ''}${pitch.startTie ? '<tie type="start"/>' : ''}`;
    const tied = `${pitch.endTie ? '<tied type="stop"/>' : ''}${pitch.startTie ? '<tied type="start"/>' : ''}`;
    const slurEnds = [...(pitch.endSlur ?? []), ...(i === 0 ? (item.endSlur ?? []) : [])].map(
      (label) => `<slur number="${this.slurNumber(label, 'stop')}" type="stop"/>`,
    );
    const slurStarts = [...(pitch.startSlur ?? []), ...(i === 0 ? (item.startSlur ?? []) : [])].map(
      ({ label }) => `<slur number="${this.slurNumber(label, 'start')}" type="start"/>`,
    );
    const bracket = i === 0 && this.tuplet ? `${ends.first ? '<tuplet type="start"/>' : ''}${ends.last ? '<tuplet type="stop"/>' : ''}` : '';
    const notations =
      tied +
      slurEnds.join('') +
      slurStarts.join('') +
      bracket +
      (marks?.notations ?? '') +
      (i > 0 && item.decoration?.includes('arpeggio') ? '<arpeggiate/>' : '');
    const lyric = i === 0 && item.lyric?.[0]?.syllable ? `<lyric><text>${escapeXml(item.lyric[0].syllable)}</text></lyric>` : '';
    return `<note>${i > 0 ? '<chord/>' : ''}${pitchXml}<duration>${length}</duration>${ties}<voice>${voice}</voice>${this.written(whole)}${accidental}${this.ratio()}${beam}${notations ? `<notations>${notations}</notations>` : ''}${lyric}</note>\n`;
  }

  private grace(grace: AbcPitch & { duration: number; acciaccatura?: boolean }, voice: number): string {
    const { xml, accidental } = this.pitch(grace);
    return `<note><grace${grace.acciaccatura ? ' slash="yes"' : ''}/>${xml}<voice>${voice}</voice>${this.written(grace.duration) || '<type>eighth</type>'}${accidental}</note>\n`;
  }

  private pitch({ pitch, accidental, startTie, endTie }: AbcPitch): { xml: string; accidental: string } {
    const natural = naturalAt(MIDDLE_C + pitch);
    const said = accidental === undefined ? undefined : ACCIDENTALS[accidental];
    if (said) this.held.set(pitch, said.alter);
    const alter = said?.alter ?? (endTie ? this.tied.get(pitch) : undefined) ?? this.held.get(pitch) ?? this.keyed(natural);
    if (startTie) this.tied.set(pitch, alter);
    const sounding: Pitch = { ...natural, alter, octave: natural.octave + this.clefOctave };
    return {
      xml: `<pitch><step>${sounding.step}</step>${alter ? `<alter>${alter}</alter>` : ''}<octave>${sounding.octave}</octave></pitch>`,
      accidental: said ? `<accidental>${said.name}</accidental>` : '',
    };
  }

  /** What the key says, also one that is no usual signature. */
  private keyed(natural: Pitch): number {
    const own = this.key.accidentals?.find(({ note }) => note.toUpperCase() === natural.step);
    return own ? (ACCIDENTALS[own.acc]?.alter ?? 0) : 0;
  }

  private slurNumber(label: number, type: 'start' | 'stop'): number {
    const open = this.slurNumbers.get(label);
    if (type === 'stop') {
      this.slurNumbers.delete(label);
      return open ?? 1;
    }
    const taken = new Set(this.slurNumbers.values());
    const number = [1, 2, 3, 4, 5, 6].find((candidate) => !taken.has(candidate)) ?? 6;
    this.slurNumbers.set(label, number);
    return number;
  }

  /** Type and dots of a written length; nothing where no single note has it. */
  private written(whole: number): string {
    for (const [type, base] of TYPES) {
      for (let dots = 0; dots <= 3; dots++) {
        if (Math.abs(base * (2 - 0.5 ** dots) - whole) < 1e-6) return `<type>${type}</type>${'<dot/>'.repeat(dots)}`;
      }
    }
    return '';
  }

  private ratio(): string {
    return this.tuplet
      ? `<time-modification><actual-notes>${this.tuplet.actual}</actual-notes><normal-notes>${this.tuplet.normal}</normal-notes></time-modification>`
      : '';
  }

  /** Quoted text as words over the staff; a number is a finger and goes to the note. */
  private words(item: AbcElement): string {
    return (item.chord ?? [])
      .filter(({ name }) => name.trim() !== '' && !FINGER.test(name.trim()))
      .map(({ name, position }) => direction(`<words>${escapeXml(name.trim())}</words>`, position === 'below' ? 'below' : 'above'))
      .join('');
  }

  private checkLength(bar: AbcBar, length: number, partial: boolean): void {
    const nominal = this.nominal();
    if (length === nominal || (partial && length < nominal)) return;
    const quarters = (ticks: number) => Math.round((ticks / DIVISIONS) * 100) / 100;
    const first = bar.items.find((item) => item.el_type === 'note');
    this.problems.push({
      ...placeOf(this.text, first?.startChar ?? bar.startChar),
      text: `This bar holds ${quarters(length)} quarters, the meter ${this.beats}/${this.beatType} has ${quarters(nominal)}`,
    });
  }
}
