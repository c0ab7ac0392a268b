/** Demo music to MusicXML 4.0 (partwise), with beams and accidentals as an engraver would set them. */
import { keyAlter, pitchName, type Pitch } from '../../core/score/pitch';
import { DIVISIONS, isSound, readBars, type Sign, type Sound, type WrittenBar } from './notation';

export interface Section {
  bars: number;
  rehearsal?: string;
  /** Sharps or flats. */
  key?: number;
  time?: [number, number];
  tempo?: { quarters: number; words: string };
  /** Music by part id. */
  music: Readonly<Record<string, string>>;
}

export interface DemoPart {
  id: string;
  name: string;
  abbreviation: string;
  sound: string;
  clef: 'treble' | 'alto' | 'bass';
  /** Sounds an octave below the written notes. */
  octaveDown?: boolean;
}

export interface DemoPiece {
  title: string;
  composer: string;
  parts: readonly DemoPart[];
  /** Length of an upbeat bar in quarters, as the first bar of the first section. */
  pickupQuarters?: number;
  sections: readonly Section[];
}

const CLEFS: Readonly<Record<string, [string, number]>> = { treble: ['G', 2], alto: ['C', 3], tenor: ['C', 4], bass: ['F', 4] };

export function toMusicXml(piece: DemoPiece): string {
  const head = `<?xml version="1.0" encoding="UTF-8"?>
<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 3.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">
<score-partwise version="3.0">
  <work>
    <work-title>${piece.title}</work-title>
  </work>
  <identification>
    <creator type="composer">${piece.composer}</creator>
    <rights>Composed for the Omaggio demo; MIT licence</rights>
  </identification>
  <part-list>
${piece.parts
  .map(
    (part) => `    <score-part id="${part.id}">
      <part-name>${part.name}</part-name>
      <part-abbreviation>${part.abbreviation}</part-abbreviation>
      <score-instrument id="${part.id}-I1">
        <instrument-name>${part.name}</instrument-name>
        <instrument-sound>${part.sound}</instrument-sound>
      </score-instrument>
    </score-part>`,
  )
  .join('\n')}
  </part-list>
`;
  return `${head}${piece.parts.map((part) => partXml(piece, part)).join('')}</score-partwise>\n`;
}

interface Pen {
  fifths: number;
  beats: number;
  beatType: number;
  ties: Set<string>;
  slurs: number[];
  barNumber: number;
}

function partXml(piece: DemoPiece, part: DemoPart): string {
  const pen: Pen = { fifths: 0, beats: 4, beatType: 4, ties: new Set(), slurs: [], barNumber: piece.pickupQuarters ? 0 : 1 };
  const out = [`  <part id="${part.id}">`];
  piece.sections.forEach((section, s) => {
    const text = section.music[part.id];
    if (text === undefined) throw new Error(`${part.name}: section ${s + 1} has no music`);
    const bars = readBars(text);
    const where = `${part.name}, section ${section.rehearsal ?? s + 1}`;
    if (bars.length !== section.bars) throw new Error(`${where}: ${bars.length} bars instead of ${section.bars}`);
    bars.forEach((bar, b) => {
      const first = s === 0 && b === 0;
      const lastOfSection = b === bars.length - 1;
      out.push(
        ...barXml(bar, part, piece, section, pen, {
          first,
          opening: b === 0,
          doubleAfter: lastOfSection && s < piece.sections.length - 1,
          final: lastOfSection && s === piece.sections.length - 1,
          where: `${where}, bar ${b + 1}`,
        }),
      );
    });
  });
  if (pen.ties.size) throw new Error(`${part.name}: a tie is left open`);
  out.push('  </part>', '');
  return out.join('\n');
}

interface BarPlace {
  first: boolean;
  opening: boolean;
  doubleAfter: boolean;
  final: boolean;
  where: string;
}

function barXml(bar: WrittenBar, part: DemoPart, piece: DemoPiece, section: Section, pen: Pen, place: BarPlace): string[] {
  const out: string[] = [];
  const pickup = place.first && piece.pickupQuarters !== undefined;
  if (place.opening && section.key !== undefined) pen.fifths = section.key;
  if (place.opening && section.time) [pen.beats, pen.beatType] = section.time;
  const wanted = pickup ? piece.pickupQuarters! * DIVISIONS : (pen.beats * 4 * DIVISIONS) / pen.beatType;
  if (bar.ticks !== wanted) throw new Error(`${place.where}: ${bar.ticks / DIVISIONS} quarters instead of ${wanted / DIVISIONS}`);
  out.push(`    <measure number="${pen.barNumber++}"${pickup ? ' implicit="yes"' : ''}>`);
  if (place.first || (place.opening && (section.key !== undefined || section.time))) out.push(...attributesXml(part, section, place.first, pen));
  if (place.opening && section.rehearsal) out.push(...direction(`<rehearsal>${section.rehearsal}</rehearsal>`, 'above'));
  if (place.opening && section.tempo) {
    const { quarters, words } = section.tempo;
    out.push(
      '      <direction placement="above">',
      `        <direction-type>\n          <words font-weight="bold">${words}</words>\n        </direction-type>`,
      `        <direction-type>\n          <metronome>\n            <beat-unit>quarter</beat-unit>\n            <per-minute>${quarters}</per-minute>\n          </metronome>\n        </direction-type>`,
      `        <sound tempo="${quarters}"/>`,
      '      </direction>',
    );
  }
  const altered = new Map<string, number>();
  const beams = beamsOf(bar, pen);
  let index = 0;
  for (const item of bar.items) {
    if (isSound(item)) {
      out.push(...soundXml(item, beams[index] ?? [], pen, altered));
      index++;
    } else out.push(...signXml(item));
  }
  if (place.doubleAfter) out.push('      <barline location="right">', '        <bar-style>light-light</bar-style>', '      </barline>');
  if (place.final) out.push('      <barline location="right">', '        <bar-style>light-heavy</bar-style>', '      </barline>');
  out.push('    </measure>');
  return out;
}

function attributesXml(part: DemoPart, section: Section, first: boolean, pen: Pen): string[] {
  const [sign, line] = CLEFS[part.clef]!;
  return [
    '      <attributes>',
    ...(first ? [`        <divisions>${DIVISIONS}</divisions>`] : []),
    ...(first || section.key !== undefined ? [`        <key>\n          <fifths>${pen.fifths}</fifths>\n        </key>`] : []),
    ...(first || section.time
      ? [`        <time>\n          <beats>${pen.beats}</beats>\n          <beat-type>${pen.beatType}</beat-type>\n        </time>`]
      : []),
    ...(first ? [`        <clef>\n          <sign>${sign}</sign>\n          <line>${line}</line>\n        </clef>`] : []),
    ...(first && part.octaveDown
      ? [
          '        <transpose>\n          <diatonic>0</diatonic>\n          <chromatic>0</chromatic>\n          <octave-change>-1</octave-change>\n        </transpose>',
        ]
      : []),
    '      </attributes>',
  ];
}

const direction = (inner: string, placement: string): string[] => [
  `      <direction placement="${placement}">`,
  '        <direction-type>',
  `          ${inner}`,
  '        </direction-type>',
  '      </direction>',
];

function signXml(sign: Sign): string[] {
  switch (sign.before) {
    case 'dynamic':
      return direction(`<dynamics><${sign.value}/></dynamics>`, 'below');
    case 'hairpin':
      return direction(`<wedge type="${sign.value === '<' ? 'crescendo' : sign.value === '>' ? 'diminuendo' : 'stop'}"/>`, 'below');
    case 'words':
      return direction(`<words font-style="italic">${sign.value}</words>`, 'above');
    case 'clef': {
      const [name, line] = CLEFS[sign.value]!;
      return ['      <attributes>', `        <clef>\n          <sign>${name}</sign>\n          <line>${line}</line>\n        </clef>`, '      </attributes>'];
    }
  }
}

const ACCIDENTALS: Readonly<Record<string, string>> = { '-2': 'flat-flat', '-1': 'flat', '0': 'natural', '1': 'sharp', '2': 'double-sharp' };

function soundXml(sound: Sound, beams: readonly string[], pen: Pen, altered: Map<string, number>): string[] {
  const type = [`        <type>${sound.length}</type>`, ...(sound.dotted ? ['        <dot/>'] : [])];
  const triplet = sound.triplet
    ? ['        <time-modification>\n          <actual-notes>3</actual-notes>\n          <normal-notes>2</normal-notes>\n        </time-modification>']
    : [];
  if (sound.pitches.length === 0) {
    return ['      <note>', '        <rest/>', `        <duration>${sound.ticks}</duration>`, '        <voice>1</voice>', ...type, ...triplet, '      </note>'];
  }
  const out: string[] = [];
  const tied = sound.signs.includes('~');
  const next = new Set<string>();
  sound.pitches.forEach((pitch, i) => {
    const name = pitchName(pitch);
    const from = pen.ties.has(name);
    if (tied) next.add(name);
    const ties = [...(from ? ['stop'] : []), ...(tied ? ['start'] : [])];
    const accidental = from ? null : accidentalFor(pitch, pen.fifths, altered);
    const notations = notationsXml(sound, ties, i === 0, pen);
    out.push(
      '      <note>',
      ...(i > 0 ? ['        <chord/>'] : []),
      '        <pitch>',
      `          <step>${pitch.step}</step>`,
      ...(pitch.alter ? [`          <alter>${pitch.alter}</alter>`] : []),
      `          <octave>${pitch.octave}</octave>`,
      '        </pitch>',
      `        <duration>${sound.ticks}</duration>`,
      ...ties.map((tie) => `        <tie type="${tie}"/>`),
      '        <voice>1</voice>',
      ...type,
      ...(accidental ? [`        <accidental>${accidental}</accidental>`] : []),
      ...triplet,
      ...(i === 0 ? beams.map((beam, level) => `        <beam number="${level + 1}">${beam}</beam>`) : []),
      ...(notations.length ? ['        <notations>', ...notations, '        </notations>'] : []),
      '      </note>',
    );
  });
  pen.ties = next;
  return out;
}

function accidentalFor(pitch: Pitch, fifths: number, altered: Map<string, number>): string | null {
  const place = `${pitch.step}${pitch.octave}`;
  const inForce = altered.get(place) ?? keyAlter(fifths, pitch.step);
  if (inForce === pitch.alter) return null;
  altered.set(place, pitch.alter);
  return ACCIDENTALS[String(pitch.alter)] ?? null;
}

function notationsXml(sound: Sound, ties: readonly string[], first: boolean, pen: Pen): string[] {
  const out = ties.map((tie) => `          <tied type="${tie}"/>`);
  if (!first) return out;
  for (let i = 0; i < sound.slurStops; i++) out.push(`          <slur number="${pen.slurs.pop() ?? fail('a slur ends that never began')}" type="stop"/>`);
  for (let i = 0; i < sound.slurStarts; i++) {
    pen.slurs.push(pen.slurs.length + 1);
    out.push(`          <slur number="${pen.slurs.length}" type="start"/>`);
  }
  const has = (sign: string) => sound.signs.includes(sign);
  if (has('!')) out.push('          <ornaments>\n            <trill-mark/>\n          </ornaments>');
  if (has('*')) out.push('          <technical>\n            <harmonic>\n              <natural/>\n            </harmonic>\n          </technical>');
  const articulations = [...(has('>') ? ['accent'] : []), ...(has("'") ? ['staccato'] : []), ...(has('-') ? ['tenuto'] : [])];
  if (articulations.length)
    out.push(`          <articulations>\n${articulations.map((name) => `            <${name}/>`).join('\n')}\n          </articulations>`);
  if (has('@')) out.push('          <fermata/>');
  return out;
}

function fail(message: string): never {
  throw new Error(message);
}

/** Beams by the beat (by the dotted beat in compound time), joined over the half bar for plain eighths. */
function beamsOf(bar: WrittenBar, pen: Pen): string[][] {
  const sounds = bar.items.filter(isSound);
  const compound = pen.beatType === 8 && pen.beats % 3 === 0;
  const unit = compound
    ? DIVISIONS * 1.5
    : pen.beats === 3 && sounds.every((sound) => sound.length === 'eighth' && sound.pitches.length)
      ? DIVISIONS * 3
      : DIVISIONS;
  const beams: string[][] = sounds.map(() => []);
  const starts: number[] = [];
  let at = 0;
  for (const sound of sounds) {
    starts.push(at);
    at += sound.ticks;
  }
  const beamable = (i: number, level: number) => {
    const sound = sounds[i];
    return sound !== undefined && sound.pitches.length > 0 && (sound.length === '16th' ? level <= 2 : sound.length === 'eighth' && level === 1);
  };
  for (const level of [1, 2]) {
    for (let i = 0; i < sounds.length; i++) {
      if (!beamable(i, level)) continue;
      const group = Math.floor(starts[i]! / unit);
      let end = i;
      while (beamable(end + 1, level) && Math.floor(starts[end + 1]! / unit) === group) end++;
      if (end === i) {
        const hook = level === 2 && beams[i]!.length > 0;
        if (hook) beams[i]!.push(starts[i]! % unit === 0 ? 'forward hook' : 'backward hook');
        continue;
      }
      for (let k = i; k <= end; k++) beams[k]!.push(k === i ? 'begin' : k === end ? 'end' : 'continue');
      i = end;
    }
  }
  return beams;
}
