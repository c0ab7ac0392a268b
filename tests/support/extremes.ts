/** Scores that are valid XML and absurd: every number that reaches the engraver far out of its bounds, every list far too long. */

const NUMBERS = ['0', '-1', '0.5', '1000', '1000000', '1000000000', '1e18', '-999999999'];
const LENGTHS = [500, 5_000, 20_000];

const note = (inside = '', more: { pitch?: string; duration?: string; before?: string } = {}): string =>
  `<note>${more.before ?? ''}${more.pitch ?? '<pitch><step>A</step><octave>4</octave></pitch>'}<duration>${more.duration ?? '1'}</duration><voice>1</voice><type>quarter</type>${inside}</note>`;
const FOUR = [note(), note(), note(), note()];
const direction = (inside: string): string => `<direction placement="above"><direction-type>${inside}</direction-type></direction>`;

interface Measure {
  attributes?: string;
  notes?: string;
  barline?: string;
}

function score({ attributes = '', notes = FOUR.join(''), barline = '' }: Measure, more = ''): string {
  const head = `<divisions>1</divisions>`;
  return `<?xml version="1.0" encoding="UTF-8"?>\n<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list><part id="P1"><measure number="1"><attributes>${attributes.includes('<divisions>') ? '' : head}${attributes}</attributes>${notes}${barline}</measure>${more}<measure number="9">${FOUR.join('')}</measure></part></score-partwise>`;
}

/** A number somewhere in a score. */
const WITH_NUMBER: Readonly<Record<string, (n: string) => string>> = {
  'repeat times': (n) => score({ barline: `<barline location="right"><repeat direction="backward" times="${n}"/></barline>` }),
  'staff-lines': (n) => score({ attributes: `<staff-details><staff-lines>${n}</staff-lines></staff-details>` }),
  'staff-size': (n) => score({ attributes: `<staff-details><staff-size>${n}</staff-size></staff-details>` }),
  staves: (n) => score({ attributes: `<staves>${n}</staves>` }),
  instruments: (n) => score({ attributes: `<instruments>${n}</instruments>` }),
  fifths: (n) => score({ attributes: `<key><fifths>${n}</fifths></key>` }),
  'key-alter': (n) => score({ attributes: `<key><key-step>F</key-step><key-alter>${n}</key-alter></key>` }),
  beats: (n) => score({ attributes: `<time><beats>${n}</beats><beat-type>4</beat-type></time>` }),
  'beat-type': (n) => score({ attributes: `<time><beats>4</beats><beat-type>${n}</beat-type></time>` }),
  divisions: (n) => score({ attributes: `<divisions>${n}</divisions>` }),
  duration: (n) => score({ notes: note('', { duration: n }) }),
  octave: (n) => score({ notes: note('', { pitch: `<pitch><step>A</step><octave>${n}</octave></pitch>` }) }),
  alter: (n) => score({ notes: note('', { pitch: `<pitch><step>A</step><alter>${n}</alter><octave>4</octave></pitch>` }) }),
  'clef line': (n) => score({ attributes: `<clef><sign>G</sign><line>${n}</line></clef>` }),
  'clef octave': (n) => score({ attributes: `<clef><sign>G</sign><line>2</line><clef-octave-change>${n}</clef-octave-change></clef>` }),
  chromatic: (n) => score({ attributes: `<transpose><diatonic>${n}</diatonic><chromatic>${n}</chromatic></transpose>` }),
  'octave-change': (n) => score({ attributes: `<transpose><chromatic>0</chromatic><octave-change>${n}</octave-change></transpose>` }),
  'actual-notes': (n) =>
    score({
      notes: FOUR.join('').replaceAll(
        '</note>',
        `<time-modification><actual-notes>${n}</actual-notes><normal-notes>2</normal-notes></time-modification></note>`,
      ),
    }),
  'normal-notes': (n) =>
    score({
      notes: FOUR.join('').replaceAll(
        '</note>',
        `<time-modification><actual-notes>3</actual-notes><normal-notes>${n}</normal-notes></time-modification></note>`,
      ),
    }),
  tremolo: (n) => score({ notes: note(`<notations><ornaments><tremolo type="single">${n}</tremolo></ornaments></notations>`) }),
  'multiple-rest': (n) => score({ attributes: `<measure-style><multiple-rest>${n}</multiple-rest></measure-style>` }),
  'measure-repeat': (n) => score({ attributes: `<measure-style><measure-repeat type="start" slashes="${n}">${n}</measure-repeat></measure-style>` }),
  'beat-repeat': (n) => score({ attributes: `<measure-style><beat-repeat type="start" slashes="${n}"/></measure-style>` }),
  'per-minute': (n) => score({ notes: direction(`<metronome><beat-unit>quarter</beat-unit><per-minute>${n}</per-minute></metronome>`) + FOUR.join('') }),
  offset: (n) => score({ notes: `<direction><direction-type><words>a</words></direction-type><offset>${n}</offset></direction>${FOUR.join('')}` }),
  'default-x': (n) => score({ notes: FOUR.join('').replace('<note>', `<note default-x="${n}" default-y="${n}">`) }),
  'relative-y': (n) => score({ notes: direction(`<words relative-x="${n}" relative-y="${n}">a</words>`) + FOUR.join('') }),
  'font-size': (n) => score({ notes: direction(`<words font-size="${n}">a</words>`) + FOUR.join('') }),
  'octave-shift': (n) =>
    score({ notes: direction(`<octave-shift type="down" size="${n}"/>`) + FOUR.join('') + direction(`<octave-shift type="stop" size="${n}"/>`) }),
  'wedge spread': (n) =>
    score({ notes: direction(`<wedge type="crescendo" spread="${n}"/>`) + FOUR.join('') + direction(`<wedge type="stop" spread="${n}"/>`) }),
  'slur number': (n) =>
    score({
      notes:
        note(`<notations><slur type="start" number="${n}"/></notations>`) + note() + note() + note(`<notations><slur type="stop" number="${n}"/></notations>`),
    }),
  'ending number': (n) => score({ barline: `<barline location="right"><ending number="${n}" type="start"/></barline>` }),
  staff: (n) => score({ notes: note(`<staff>${n}</staff>`) }),
  voice: (n) => score({ notes: note().replace('<voice>1', `<voice>${n}`) }),
  string: (n) => score({ notes: note(`<notations><technical><string>${n}</string><fret>${n}</fret></technical></notations>`) }),
  'beam number': (n) => score({ notes: note(`<beam number="${n}">begin</beam>`) + note(`<beam number="${n}">end</beam>`) }),
  backup: (n) => score({ notes: FOUR.join('') + `<backup><duration>${n}</duration></backup>` + note() }),
  forward: (n) => score({ notes: `<forward><duration>${n}</duration></forward>${note()}` }),
  'sound tempo': (n) => score({ notes: `<sound tempo="${n}"/>${FOUR.join('')}` }),
  'measure width': (n) => score({}).replace('<measure number="1">', `<measure number="1" width="${n}">`),
};

/** A list somewhere in a score. */
const WITH_LIST: Readonly<Record<string, (n: number) => string>> = {
  fingerings: (n) => score({ notes: note(`<notations><technical>${'<fingering>1</fingering>'.repeat(n)}</technical></notations>`) }),
  articulations: (n) => score({ notes: note(`<notations><articulations>${'<accent/>'.repeat(n)}</articulations></notations>`) }),
  'different articulations': (n) =>
    score({ notes: note(`<notations><articulations>${'<accent/><staccato/><tenuto/>'.repeat(n / 3)}</articulations></notations>`) }),
  ornaments: (n) => score({ notes: note(`<notations><ornaments>${'<trill-mark/>'.repeat(n)}</ornaments></notations>`) }),
  lyrics: (n) => score({ notes: note(Array.from({ length: n }, (_, i) => `<lyric number="${i}"><text>la</text></lyric>`).join('')) }),
  dots: (n) => score({ notes: note('<dot/>'.repeat(n)) }),
  slurs: (n) => score({ notes: note(`<notations>${'<slur type="start" number="1"/>'.repeat(n)}</notations>`) + note() }),
  ties: (n) => score({ notes: note(`<notations>${'<tied type="start"/>'.repeat(n)}</notations>`) + note() }),
  beams: (n) => score({ notes: note('<beam number="1">begin</beam>'.repeat(n)) + note() }),
  notations: (n) => score({ notes: note('<notations><fermata/></notations>'.repeat(n)) }),
  'dynamics in one': (n) => score({ notes: direction(`<dynamics>${'<f/>'.repeat(n)}</dynamics>`) + FOUR.join('') }),
  directions: (n) => score({ notes: direction('<dynamics><f/></dynamics>').repeat(n) + FOUR.join('') }),
  'direction types': (n) => score({ notes: `<direction>${'<direction-type><words>dolce</words></direction-type>'.repeat(n)}</direction>${FOUR.join('')}` }),
  'letters of words': (n) => score({ notes: direction(`<words>${'x'.repeat(n * 20)}</words>`) + FOUR.join('') }),
  'rehearsal letters': (n) => score({ notes: direction(`<rehearsal>${'A'.repeat(n)}</rehearsal>`) + FOUR.join('') }),
  'notes of a chord': (n) => score({ notes: note() + note('', { before: '<chord/>' }).repeat(n) }),
  'grace notes': (n) =>
    score({ notes: '<note><grace/><pitch><step>B</step><octave>4</octave></pitch><voice>1</voice><type>eighth</type></note>'.repeat(n) + FOUR.join('') }),
  'notes of a bar': (n) => score({ notes: note().repeat(n) }),
  voices: (n) =>
    score({ notes: Array.from({ length: n / 10 }, (_, i) => note().replace('<voice>1', `<voice>${i}`) + '<backup><duration>1</duration></backup>').join('') }),
  clefs: (n) => score({ attributes: Array.from({ length: n }, (_, i) => `<clef number="${i}"><sign>G</sign><line>2</line></clef>`).join('') }),
  'clef changes': (n) => score({ notes: '<attributes><clef><sign>C</sign><line>3</line></clef></attributes>'.repeat(n) + FOUR.join('') }),
  'key steps': (n) => score({ attributes: `<key>${'<key-step>F</key-step><key-alter>1</key-alter>'.repeat(n)}</key>` }),
  'beats of a time': (n) => score({ attributes: `<time>${'<beats>3</beats><beat-type>8</beat-type>'.repeat(n)}</time>` }),
  barlines: (n) => score({ barline: '<barline location="right"><bar-style>light-heavy</bar-style></barline>'.repeat(n) }),
  harmonies: (n) => score({ notes: '<harmony><root><root-step>C</root-step></root><kind>major</kind></harmony>'.repeat(n) + FOUR.join('') }),
  'figured bass': (n) => score({ notes: `<figured-bass>${'<figure><figure-number>6</figure-number></figure>'.repeat(n)}</figured-bass>${FOUR.join('')}` }),
  'wedges that never end': (n) =>
    score({ notes: Array.from({ length: n }, (_, i) => direction(`<wedge type="crescendo" number="${(i % 6) + 1}"/>`)).join('') + FOUR.join('') }),
  'tuplets in one': (n) => score({ notes: note(`<notations>${'<tuplet type="start" number="1"/>'.repeat(n)}</notations>`) + note() }),
  'staff details': (n) =>
    score({ attributes: Array.from({ length: n }, (_, i) => `<staff-details number="${i + 1}"><staff-lines>5</staff-lines></staff-details>`).join('') }),
  bars: (n) => score({}, `<measure number="2">${FOUR.join('')}</measure>`.repeat(n / 10)),
  'other technical': (n) => score({ notes: note(`<notations><technical>${'<other-technical>press</other-technical>'.repeat(n)}</technical></notations>`) }),
  'repeats in each bar': (n) =>
    score(
      {},
      `<measure number="2"><barline location="left"><repeat direction="forward"/></barline>${note()}<barline location="right"><repeat direction="backward" times="64"/></barline></measure>`.repeat(
        n / 20,
      ),
    ),
};

export interface ExtremeScore {
  name: string;
  text: string;
}

export function extremeScores(): ExtremeScore[] {
  return [
    ...Object.entries(WITH_NUMBER).flatMap(([what, make]) => NUMBERS.map((n) => ({ name: `${what} ${n}`, text: make(n) }))),
    ...Object.entries(WITH_LIST).flatMap(([what, make]) => LENGTHS.map((n) => ({ name: `${n} ${what}`, text: make(n) }))),
  ];
}
