/** The elements of a tune by part, voice and bar. */
import type { AbcClef, AbcElement, AbcKey, AbcMeter, AbcTune } from './tune';

/** What stands in a bar: notes and rests, and changes of key, meter, clef and tempo between them. */
export interface AbcBar {
  items: AbcElement[];
  repeatStart: boolean;
  repeatEnd: boolean;
  double: boolean;
  final: boolean;
  endingStart: string | null;
  endingStop: boolean;
  /** Signs at the bar line after it. */
  after: string[];
  startChar: number;
}

export interface AbcPart {
  name: string;
  /** In force at the beginning. */
  clef: AbcClef;
  key: AbcKey;
  meter: AbcMeter | null;
  voices: AbcBar[][];
}

/** Each staff is a part; its voices go through all lines of the text. */
export function partsOf(tune: AbcTune): AbcPart[] {
  const parts: Array<Omit<AbcPart, 'voices'> & { elements: AbcElement[][] }> = [];
  for (const line of tune.lines) {
    line.staff?.forEach((staff, s) => {
      const known = parts[s];
      const part = known ?? { name: staff.title?.[0] ?? '', clef: staff.clef ?? {}, key: staff.key ?? {}, meter: staff.meter ?? null, elements: [] };
      if (!known) parts[s] = part;
      staff.voices.forEach((voice, v) => {
        const elements = (part.elements[v] ??= []);
        // What changed between two lines is said at the head of the second one.
        if (known && v === 0) elements.push(...headOf(staff.key, staff.meter, staff.clef, voice[0]?.startChar ?? 0));
        elements.push(...voice);
      });
    });
  }
  return parts.map(({ elements, ...part }) => ({ ...part, voices: elements.map(barsOf) }));
}

function headOf(key: AbcKey | undefined, meter: AbcMeter | undefined, clef: AbcClef | undefined, startChar: number): AbcElement[] {
  const place = { startChar, endChar: startChar };
  const head: AbcElement[] = [];
  if (clef) head.push({ ...place, ...clef, el_type: 'clef' });
  if (key) head.push({ ...place, ...key, el_type: 'key' });
  if (meter) head.push({ ...place, ...meter, el_type: 'meter' });
  return head;
}

const emptyBar = (startChar: number): AbcBar => ({
  items: [],
  repeatStart: false,
  repeatEnd: false,
  double: false,
  final: false,
  endingStart: null,
  endingStop: false,
  after: [],
  startChar,
});

const sounds = (bar: AbcBar): boolean => bar.items.some((item) => item.el_type === 'note');

function barsOf(elements: readonly AbcElement[]): AbcBar[] {
  const bars: AbcBar[] = [];
  let bar = emptyBar(0);
  for (const element of elements) {
    if (element.el_type !== 'bar') {
      bar.items.push(element);
      continue;
    }
    const type = element.type ?? '';
    if (sounds(bar)) {
      bar.repeatEnd = type === 'bar_right_repeat' || type === 'bar_dbl_repeat';
      bar.double = type === 'bar_thin_thin';
      bar.final = type === 'bar_thin_thick';
      bar.endingStop = element.endEnding === true;
      bar.after.push(...(element.decoration ?? []));
      bars.push(bar);
      bar = emptyBar(element.endChar);
    }
    if (type === 'bar_left_repeat' || type === 'bar_dbl_repeat') bar.repeatStart = true;
    if (element.startEnding) bar.endingStart = element.startEnding;
  }
  if (sounds(bar)) bars.push(bar);
  else if (bars.length) bars.at(-1)!.items.push(...bar.items.filter((item) => item.el_type !== 'stem'));
  return bars;
}
