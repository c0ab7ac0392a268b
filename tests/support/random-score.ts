/** Scores of several parts made by chance: divisions that differ, tuplets, upbeats, split bars, changing metres, grace notes, voices. */

/** A row of numbers that a seed decides (mulberry32; public domain). */
export function chance(seed: number) {
  let state = seed >>> 0;
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  const below = (n: number): number => Math.floor(next() * n);
  return { below, one: <T>(list: readonly T[]): T => list[below(list.length)]!, happens: (share: number): boolean => next() < share };
}
type Chance = ReturnType<typeof chance>;

/** Lengths are counted in 72nds of a quarter, so that all of them are whole. */
const UNIT = 72;
const METRES = [
  [4, 4],
  [3, 4],
  [6, 8],
  [3, 8],
  [2, 2],
  [5, 8],
  [6, 16],
] as const;
/** Each takes some of the lengths; 6 and 10 together have no small common multiple with 480. */
const DIVISIONS = [2, 3, 4, 6, 10, 12, 24, 480, 840];
const STEPS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const;

/** One measure of the file; a bar may be two of them. */
interface Measure {
  number: string;
  implicit: boolean;
  units: number;
  metre: readonly [number, number] | null;
  repeatEnd: boolean;
  repeatStart: boolean;
  letter: string | null;
}

function measuresOf(random: Chance): Measure[] {
  const measures: Measure[] = [];
  let metre = random.one(METRES);
  const unitsOf = ([beats, type]: readonly [number, number]) => (beats * 4 * UNIT) / type;
  const plain = { implicit: false, repeatEnd: false, repeatStart: false, letter: null };
  if (random.happens(0.5)) measures.push({ ...plain, number: '0', implicit: true, units: UNIT / random.one([1, 2]), metre });
  const bars = 3 + random.below(5);
  for (let bar = 1; bar <= bars; bar++) {
    const changes = bar > 1 && random.happens(0.25);
    if (changes) metre = random.one(METRES);
    const said = changes || measures.length === 0 ? metre : null;
    const whole = unitsOf(metre);
    const letter = random.happens(0.2) ? String.fromCharCode(64 + bar) : null;
    const first = random.one([UNIT / 2, UNIT, whole / 2].filter((units) => units < whole && units % 6 === 0));
    if (bar < bars && random.happens(0.25)) {
      measures.push({ ...plain, number: String(bar), units: first, metre: said, repeatEnd: true, letter });
      measures.push({ ...plain, number: `X${bar}`, implicit: true, units: whole - first, metre: null, repeatStart: random.happens(0.5) });
    } else measures.push({ ...plain, number: String(bar), units: whole, metre: said, letter });
  }
  return measures;
}

interface Filling {
  random: Chance;
  divisions: number;
  /** Lowest octave of the part. */
  octave: number;
}

const whole = (units: number, divisions: number): boolean => (units * divisions) % UNIT === 0;

/** Lengths that fill some units; the last takes what is left. */
function lengthsFor(units: number, { random, divisions }: Filling): number[] {
  const lengths: number[] = [];
  for (let left = units; left > 0;) {
    const fits = [72, 36, 18, 108, 24, 12, 144, 48].filter((length) => length <= left && whole(length, divisions) && whole(left - length, divisions));
    const length = fits.length && lengths.length < 24 ? random.one(fits) : left;
    lengths.push(length);
    left -= length;
  }
  return lengths;
}

function voiceXml(units: number, voice: string, filling: Filling): string {
  const { random, divisions, octave } = filling;
  const pitch = () =>
    `<pitch><step>${random.one(STEPS)}</step>${random.happens(0.25) ? `<alter>${random.one([-1, 1])}</alter>` : ''}<octave>${octave + random.below(2)}</octave></pitch>`;
  return lengthsFor(units, filling)
    .map((length) => {
      const duration = `<duration>${(length * divisions) / UNIT}</duration>`;
      if (random.happens(0.15)) return `<note><rest/>${duration}<voice>${voice}</voice></note>`;
      const grace = random.happens(0.1) ? `<note><grace/>${pitch()}<voice>${voice}</voice></note>` : '';
      const printed = random.happens(0.15)
        ? `<notations><technical>${random.one(['<fingering>2</fingering>', '<up-bow/>', '<string>2</string>'])}</technical></notations>`
        : '';
      const chord = random.happens(0.1) ? `<note><chord/>${pitch()}${duration}<voice>${voice}</voice></note>` : '';
      const dynamic = random.happens(0.1)
        ? `<direction placement="below"><direction-type><dynamics><${random.one(['p', 'f', 'mf'])}/></dynamics></direction-type></direction>`
        : '';
      return `${dynamic}${grace}<note>${pitch()}${duration}<voice>${voice}</voice>${printed}</note>${chord}`;
    })
    .join('');
}

function partXml(random: Chance, id: string, name: string, measures: readonly Measure[], top: boolean): { list: string; part: string } {
  const transposing = random.happens(0.25);
  const filling: Filling = { random, divisions: random.one(DIVISIONS), octave: 3 + random.below(3) };
  const twoVoices = random.happens(0.3);
  const rows = measures.map((measure, i) => {
    const usable = DIVISIONS.filter((each) => whole(measure.units, each));
    const changed = i === 0 || !usable.includes(filling.divisions) || random.happens(0.1);
    if (changed) filling.divisions = usable.includes(filling.divisions) && i === 0 ? filling.divisions : random.one(usable);
    const { metre, units } = measure;
    const attributes = [
      changed ? `<divisions>${filling.divisions}</divisions>` : '',
      i === 0 ? '<key><fifths>0</fifths></key>' : '',
      metre ? `<time><beats>${metre[0]}</beats><beat-type>${metre[1]}</beat-type></time>` : '',
      i === 0 ? '<clef><sign>G</sign><line>2</line></clef>' : '',
      i === 0 && transposing ? '<transpose><diatonic>-1</diatonic><chromatic>-2</chromatic></transpose>' : '',
    ].join('');
    const letter = top && measure.letter ? `<direction><direction-type><rehearsal>${measure.letter}</rehearsal></direction-type></direction>` : '';
    const tempo = top && i === 0 ? '<direction><sound tempo="84"/></direction>' : '';
    const second =
      twoVoices && random.happens(0.5) ? `<backup><duration>${(units * filling.divisions) / UNIT}</duration></backup>${voiceXml(units, '2', filling)}` : '';
    const bar = (location: string, direction: string) => `<barline location="${location}"><repeat direction="${direction}"/></barline>`;
    return `<measure number="${measure.number}"${measure.implicit ? ' implicit="yes"' : ''}>${attributes && `<attributes>${attributes}</attributes>`}${
      measure.repeatStart ? bar('left', 'forward') : ''
    }${letter}${tempo}${voiceXml(units, '1', filling)}${second}${measure.repeatEnd ? bar('right', 'backward') : ''}</measure>`;
  });
  return { list: `<score-part id="${id}"><part-name>${name}</part-name></score-part>`, part: `<part id="${id}">${rows.join('\n')}</part>` };
}

/** @returns a MusicXML document of one to four parts; the top one alone carries letters and the tempo */
export function randomScore(seed: number): string {
  const random = chance(seed);
  const measures = measuresOf(random);
  const names = ['Violin I', 'Violin II', 'Viola', 'Violoncello'].slice(0, 1 + random.below(4));
  const parts = names.map((name, i) => partXml(random, `P${i + 1}`, name, measures, i === 0));
  return `<?xml version="1.0" encoding="UTF-8"?>
<score-partwise version="3.1"><work><work-title>Chance ${seed}</work-title></work><part-list>${parts.map(({ list }) => list).join('')}</part-list>
${parts.map(({ part }) => part).join('\n')}
</score-partwise>
`;
}
