/** A second, independent reader of MusicXML (partwise), as plain as can be: onset, pitch and length of every note in quarters. */
import { SaxesParser } from 'saxes';

interface Element {
  name: string;
  attributes: Record<string, string>;
  children: Element[];
  text: string;
}

function treeOf(xml: string): Element {
  const top: Element = { name: '', attributes: {}, children: [], text: '' };
  const open = [top];
  const parser = new SaxesParser();
  parser.on('opentag', ({ name, attributes }) => {
    const element = { name, attributes: attributes as Record<string, string>, children: [], text: '' };
    open.at(-1)!.children.push(element);
    open.push(element);
  });
  parser.on('text', (text) => void (open.at(-1)!.text += text));
  parser.on('closetag', () => void open.pop());
  parser.write(xml).close();
  return top.children[0]!;
}

export interface ReadNote {
  part: string;
  measure: number;
  /** Quarters from the start of the measure, and in length; grace notes have none. */
  at: number;
  length: number;
  /** Written pitch, MIDI number. */
  midi: number;
}

const STEPS: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** Notes in the order of the file, and the length that the fullest part gives each measure; null where nothing stands in it. */
export function secondReading(xml: string): { notes: ReadNote[]; measures: Array<number | null> } {
  const notes: ReadNote[] = [];
  const measures: Array<number | null> = [];
  for (const part of treeOf(xml).children.filter(({ name }) => name === 'part')) {
    let divisions = 1;
    part.children
      .filter(({ name }) => name === 'measure')
      .forEach((measure, index) => {
        let now = 0;
        let before = 0;
        let furthest = 0;
        for (const element of measure.children) {
          const get = (name: string) => element.children.find((child) => child.name === name);
          const length = Number(get('duration')?.text ?? 0) / divisions;
          if (element.name === 'attributes') divisions = Number(get('divisions')?.text ?? divisions);
          if (element.name === 'forward') now += length;
          if (element.name === 'backup') now -= length;
          if (element.name === 'note') {
            const at = get('chord') ? before : now;
            const pitch = get('pitch');
            const said = (name: string) => pitch!.children.find((child) => child.name === name)?.text.trim() ?? '0';
            if (pitch) {
              const midi = 12 * (Number(said('octave')) + 1) + STEPS[said('step')]! + Number(said('alter'));
              notes.push({ part: part.attributes.id!, measure: index, at, length: get('grace') ? 0 : length, midi });
            }
            if (!get('chord') && !get('grace')) [before, now] = [now, now + length];
            else if (!get('chord')) before = now;
          }
          furthest = Math.max(furthest, now);
        }
        measures[index] = furthest > 0 ? Math.max(furthest, measures[index] ?? 0) : (measures[index] ?? null);
      });
  }
  return { notes, measures };
}
