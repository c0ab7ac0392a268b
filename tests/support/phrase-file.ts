/** Phrases as they stand in tests/data/phrases, made into MusicXML: what the program reads is what a teacher would drop in. */

import type { InstrumentKind } from '../../core/score/score';

export interface Phrase {
  name: string;
  instrument: InstrumentKind;
  kind: string;
  /** Any good teacher would accept only these; otherwise it is taste. */
  sure: boolean;
  /**
   * Notes separated by blanks: `C#4q`, `Bb3e.` (pitch as it sounds; w h q e s t, dot), `A4e3` triplet, `(D4q … E4q)` slur, `D4h~` tied to
   * the next, `Rq` rest, `[G3 D4]h` chord; after `:` a accent, A strong accent, s staccato, t tenuto, u and d printed bows, f fermata,
   * b breath, T trill, 1 2 3 tremolo strokes, H natural harmonic; `@ff` dynamic. Alone: `<` `>` `!` hairpins, `|:` `:|` repeats,
   * `'pizz.'` words; `|` is only for the eye.
   */
  music: string;
  fifths?: number;
  beats?: number;
  beatType?: number;
  /** Quarters per minute. */
  tempo: number;
  /** Quarters before the first bar. */
  pickup?: number;
  /** As for bin/omaggio. */
  options?: string[];
  /** What is right, one row for each way; where it is missing only `also` is asked. */
  accept?: string[];
  also?: string[];
}

const DIVISIONS = 48;
const QUARTERS: Readonly<Record<string, number>> = { w: 4, h: 2, q: 1, e: 1 / 2, s: 1 / 4, t: 1 / 8 };
const TYPES: Readonly<Record<string, string>> = { w: 'whole', h: 'half', q: 'quarter', e: 'eighth', s: '16th', t: '32nd' };
const ACCIDENTALS: Readonly<Record<string, number>> = { '': 0, '#': 1, '##': 2, b: -1, bb: -2 };
const NAMES = { violin: 'Violin', viola: 'Viola', cello: 'Cello', bass: 'Double Bass' } as const;
const CLEFS = { violin: ['G', 2], viola: ['C', 3], cello: ['F', 4], bass: ['F', 4] } as const;

const NOTATIONS: Readonly<Record<string, string>> = {
  a: '<articulations><accent/></articulations>',
  A: '<articulations><strong-accent/></articulations>',
  s: '<articulations><staccato/></articulations>',
  t: '<articulations><tenuto/></articulations>',
  b: '<articulations><breath-mark/></articulations>',
  u: '<technical><up-bow/></technical>',
  d: '<technical><down-bow/></technical>',
  H: '<technical><harmonic><natural/></harmonic></technical>',
  f: '<fermata/>',
  T: '<ornaments><trill-mark/></ornaments>',
  1: '<ornaments><tremolo type="single">1</tremolo></ornaments>',
  2: '<ornaments><tremolo type="single">2</tremolo></ornaments>',
  3: '<ornaments><tremolo type="single">3</tremolo></ornaments>',
};

const direction = (kind: string): string => `<direction><direction-type>${kind}</direction-type></direction>`;
const TOKEN = /^(\(?)(\[[^\]]+\]|R|[A-G](?:##|#|bb|b)?\d)([whqest])(\.?)(3?)(~?)((?:@[a-z]+|:[a-zA-Z\d]+|~)*)(\)?)$/;

/** @throws where the music is not written as `Phrase` says, naming the place */
export function musicXmlOf(phrase: Phrase): string {
  const { instrument, music, fifths = 0, beats = 4, beatType = 4, tempo, pickup = 0 } = phrase;
  const barLength = (beats * 4 * DIVISIONS) / beatType;
  const measures: string[][] = [[]];
  let left = pickup ? pickup * DIVISIONS : barLength;
  let tied: ReadonlySet<string> = new Set();
  let repeats: string[] = [];
  const say = (element: string) => measures.at(-1)!.push(element);
  /** Where a hairpin was opened; one that is closed before the next note belongs to the note before it. */
  let opened: { bar: string[]; at: number; kind: string; lastNote: { bar: string[]; at: number } | null } | null = null;
  let lastNote: { bar: string[]; at: number } | null = null;
  for (const token of music.match(/'[^']*'|\(?\[[^\]]*\]\S*|\S+/g)!) {
    if (token === '|') continue;
    if (left === 0) {
      measures.push([]);
      left = barLength;
    }
    if (token.startsWith("'")) say(direction(`<words>${token.slice(1, -1)}</words>`));
    else if (token === '<' || token === '>') {
      const kind = direction(`<wedge type="${token === '<' ? 'crescendo' : 'diminuendo'}"/>`);
      say(kind);
      opened = { bar: measures.at(-1)!, at: measures.at(-1)!.length - 1, kind, lastNote };
    } else if (token === '!') {
      if (opened?.lastNote && opened.lastNote === lastNote) {
        opened.bar.splice(opened.at, 1);
        opened.lastNote.bar.splice(opened.lastNote.at, 0, opened.kind);
      }
      say(direction('<wedge type="stop"/>'));
    } else if (token === '|:' || token === ':|') repeats = [...repeats, `${measures.length - (token === ':|' && left === barLength ? 2 : 1)}${token}`];
    else {
      const parts = TOKEN.exec(token);
      if (!parts) throw new Error(`${phrase.name}: "${token}" is no note`);
      const [, open, what, letter, dot, triplet, tie, signs, close] = parts as unknown as string[];
      const length = (QUARTERS[letter!]! * DIVISIONS * (dot ? 1.5 : 1) * (triplet ? 2 : 3)) / 3;
      if (length > left) throw new Error(`${phrase.name}: "${token}" is longer than its bar`);
      left -= length;
      const level = /@([a-z]+)/.exec(signs!)?.[1];
      if (level) say(direction(`<dynamics><${level}/></dynamics>`));
      const lasts = `<duration>${length}</duration>`;
      const shape = `<voice>1</voice>%<type>${TYPES[letter!]}</type>${dot ? '<dot/>' : ''}${triplet ? '<time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>' : ''}`;
      if (what === 'R') {
        say(`<note><rest/>${lasts}${shape.replace('%', '')}</note>`);
        tied = new Set();
        continue;
      }
      lastNote = { bar: measures.at(-1)!, at: measures.at(-1)!.length };
      const ties = Boolean(tie) || signs!.includes('~');
      const heads = what!.replace(/[[\]]/g, '').split(' ');
      heads.forEach((head, i) => {
        const [, step, sign, octave] = /^([A-G])(##|#|bb|b)?(\d)$/.exec(head)!;
        const pitch = `<pitch><step>${step}</step><alter>${ACCIDENTALS[sign ?? '']}</alter><octave>${Number(octave) + (instrument === 'bass' ? 1 : 0)}</octave></pitch>`;
        const tieElements = `${tied.has(head) ? '<tie type="stop"/>' : ''}${ties ? '<tie type="start"/>' : ''}`;
        const marks = i > 0 ? [] : [...signs!.matchAll(/:([a-zA-Z\d]+)/g)].flatMap(([, letters]) => [...letters!].map((each) => NOTATIONS[each]!));
        if (tied.has(head)) marks.push('<tied type="stop"/>');
        if (ties) marks.push('<tied type="start"/>');
        if (i === 0 && open) marks.push('<slur type="start" number="1"/>');
        if (i === 0 && close) marks.push('<slur type="stop" number="1"/>');
        say(
          `<note>${i > 0 ? '<chord/>' : ''}${pitch}${lasts}${tieElements}${shape.replace('%', '')}${marks.length ? `<notations>${marks.join('')}</notations>` : ''}</note>`,
        );
      });
      tied = ties ? new Set(heads) : new Set();
    }
  }
  const [clefSign, clefLine] = CLEFS[instrument];
  const attributes = `<attributes><divisions>${DIVISIONS}</divisions><key><fifths>${fifths}</fifths></key><time><beats>${beats}</beats><beat-type>${beatType}</beat-type></time><clef><sign>${clefSign}</sign><line>${clefLine}</line></clef>${instrument === 'bass' ? '<transpose><diatonic>0</diatonic><chromatic>0</chromatic><octave-change>-1</octave-change></transpose>' : ''}</attributes>`;
  const start = `${attributes}<direction><sound tempo="${tempo}"/></direction>`;
  const barline = (index: number) => ({
    before: repeats.includes(`${index}|:`) ? '<barline location="left"><repeat direction="forward"/></barline>' : '',
    after: repeats.includes(`${index}:|`) ? '<barline location="right"><repeat direction="backward"/></barline>' : '',
  });
  const bars = measures.map((elements, index) => {
    const { before, after } = barline(index);
    const number = pickup ? index : index + 1;
    return `<measure number="${number}"${pickup && index === 0 ? ' implicit="yes"' : ''}>${before}${index === 0 ? start : ''}${elements.join('')}${after}</measure>`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>
<score-partwise version="4.0"><work><work-title>${phrase.name.replace(/&/g, '&amp;')}</work-title></work><part-list><score-part id="P1"><part-name>${NAMES[instrument]}</part-name></score-part></part-list><part id="P1">${bars.join('\n')}</part></score-partwise>
`;
}
