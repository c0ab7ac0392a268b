/** The content of one measure with its notes corrected: everything else stays where and how it was. */
import { tiedOn, ticksOfEvent, type BarEvent, type BarHead, type BarVoice } from '../../score/bar-text';
import { pitchName } from '../../score/pitch';
import { TICKS_PER_QUARTER } from '../../score/ticks';
import { child, childNumber, type XmlElement } from '../raw/xml';
import { rhythmSigns } from './bar-signs';
import { takenApart, type BarItem, type Beside, type TakenApart } from './bar-walk';
import { finerBy } from './finer';
import { noteMade } from './note-made';
import { sameNotes } from './same-notes';

export interface BarToCorrect {
  text: string;
  measure: XmlElement;
  /** Divisions of a quarter note that are said last before it, and those that a corrected bar before it has left in force. */
  divisions: number;
  inForce: number;
  /** Those that are corrected; others stay. */
  voices: readonly BarVoice[];
  /** Ticks of the beat that is felt, of the bar that lies before it, and of a rest of the whole bar. */
  beat: number;
  into: number;
  whole: number;
  /** Pitches that are tied into the bar by voice, where the bar before was corrected; what is printed stands otherwise. */
  tiedIn: ReadonlyMap<string, ReadonlySet<string>> | null;
}

export interface CorrectedBar {
  content: string;
  /** In force after it. */
  divisions: number;
  /** Pitches that are tied out of it, by voice. */
  tiedOut: Map<string, Set<string>>;
}

/** Null where the measure is written in a way that cannot be corrected (its divisions change in the middle, lengths beyond note values). */
export function correctedBar(bar: BarToCorrect): CorrectedBar | null {
  const apart = takenApart(bar.measure, bar.divisions);
  const finer = finerBy(
    bar.voices.flatMap(({ events }) => events),
    bar.divisions,
    bar.whole,
  );
  // Notes without pitch, of percussion, cannot be said as text.
  const hasOthers = apart.items.some(({ voice, what, pitches }) => what !== 'rest' && pitches.length === 0 && bar.voices.some((each) => each.voice === voice));
  if (apart.changesDivisions || finer === null || hasOthers) return null;
  const writer = new MeasureWriter(bar, apart, finer);
  const added = bar.voices.map(({ voice }) => voice).filter((voice) => !apart.voices.includes(voice));
  const order = apart.voices.length ? [...apart.voices, ...added] : added;
  writer.unclaimed(order);
  for (const voice of order) {
    const wanted = bar.voices.find((each) => each.voice === voice);
    if (wanted) writer.write(wanted);
    else writer.leave(voice);
  }
  return writer.finish();
}

class MeasureWriter {
  private readonly out: string[] = [];
  /** In finer divisions. */
  private at = 0;
  private readonly hasStaves: boolean;
  private readonly tiedOut = new Map<string, Set<string>>();
  private divisionsSaid = false;

  constructor(
    private readonly bar: BarToCorrect,
    private readonly apart: TakenApart,
    private readonly finer: number,
  ) {
    this.hasStaves = apart.items.some(({ elements }) => child(elements[0], 'staff'));
  }

  /** What stands beside no note at all goes with the first voice. */
  unclaimed([first = '1']: readonly string[]): void {
    for (const each of this.apart.beside) each.voice ??= first;
  }

  /** A voice as it is printed. */
  leave(voice: string): void {
    const items = this.itemsOf(voice);
    const beside = this.besideOf(voice);
    for (const item of items) {
      this.put(beside, item.at * this.finer);
      this.go(item.at * this.finer);
      for (const element of item.elements) this.out.push(this.rescaled(this.raw(element)));
      this.at += item.lasts * this.finer;
    }
    this.put(beside, Infinity);
  }

  write({ voice, events }: BarVoice): void {
    const { bar, finer } = this;
    const items = this.itemsOf(voice);
    const lasts = events.map((event) => Math.round((ticksOfEvent(event, bar.whole) * bar.divisions * finer) / TICKS_PER_QUARTER));
    const notes = events.map((event, i) => ({ event, i })).filter(({ event }) => event.what !== 'gap');
    const same = sameNotes(
      items,
      notes.map(({ event }) => event),
      notes.map(({ i }) => lasts[i]! / finer),
    );
    const itemAt = new Map(notes.map(({ i }, n) => [i, same[n] === null ? null : items[same[n]!]!]));
    const slurs = slursOfGone(
      items,
      notes.map(({ event, i }, n) => ({ i, item: same[n] ?? null, event })),
      (element) => this.raw(element),
    );
    const signs = rhythmSigns(events, bar.beat, bar.into, bar.whole);
    const staff = this.staffOf(items);
    const beside = this.besideOf(voice);
    let tied = new Set(this.tiedInto(voice, items));
    let at = 0;
    events.forEach((event, i) => {
      this.put(beside, at);
      if (event.what !== 'gap') {
        this.go(at);
        const item = itemAt.get(i) ?? null;
        this.out.push(...this.eventMade(event, item, { voice, staff, tied, duration: lasts[i]!, signs: signs[i]!, slurs: slurs.get(i) ?? [] }));
        this.at += lasts[i]!;
      }
      if (event.what !== 'grace') tied = new Set(tiedOn(event));
      at += lasts[i]!;
    });
    this.tiedOut.set(voice, tied);
    this.put(beside, Infinity);
    if (this.isLast(voice)) this.go(at);
  }

  finish(): CorrectedBar {
    const divisions = this.bar.divisions * this.finer;
    const said = !this.divisionsSaid && divisions !== this.bar.inForce ? `<attributes><divisions>${divisions}</divisions></attributes>` : '';
    return { content: said + this.out.join('\n'), divisions, tiedOut: this.tiedOut };
  }

  private eventMade(
    event: BarEvent,
    item: BarItem | null,
    around: {
      voice: string;
      staff: number | null;
      tied: ReadonlySet<string>;
      duration: number;
      signs: ReturnType<typeof rhythmSigns>[number];
      slurs: readonly string[];
    },
  ): string[] {
    const what = event.what as 'note' | 'grace' | 'rest';
    const heads = printedHeads(event, item);
    const made = (head: BarHead | null, i: number) => {
      const pitch = head && head.pitch;
      const name = pitch && pitchName(pitch);
      const at = pitch === null ? 0 : heads[i]!;
      const element = item?.elements[at] ?? null;
      const tiedFrom = name !== null && what === 'note' && around.tied.has(name);
      const wanted = {
        ...around,
        what,
        pitch,
        length: event.length,
        inChord: i > 0,
        tiedFrom,
        tiedTo: head?.tied ?? false,
        slurs: i === 0 ? around.slurs : [],
      };
      return noteMade(this.bar.text, wanted, element, item?.pitches[at] ?? null);
    };
    return what === 'rest' ? [made(null, 0)] : event.heads.map(made);
  }

  /** Pitches that are tied into the voice's first note. */
  private tiedInto(voice: string, items: readonly BarItem[]): ReadonlySet<string> {
    const said = this.bar.tiedIn?.get(voice);
    if (said) return said;
    const first = items.find(({ what }) => what === 'note');
    const stops = (element: XmlElement) => element.children.some(({ name, attributes }) => name === 'tie' && attributes.type === 'stop');
    return new Set(first?.at === 0 ? first.pitches.filter((_, i) => stops(first.elements[i]!)) : []);
  }

  /** Whatever stands beside notes and is due. */
  private put(beside: Beside[], until: number): void {
    while (beside[0] && beside[0].at * this.finer <= until + 1e-6) {
      const { at, element } = beside.shift()!;
      const isEnd = element.name === 'barline' && element.attributes.location !== 'left';
      if (!isEnd) this.go(at * this.finer);
      this.out.push(this.rescaled(this.withDivisions(element)));
    }
  }

  private withDivisions(element: XmlElement): string {
    const said = element.name === 'attributes' ? child(element, 'divisions') : undefined;
    if (!said) return this.raw(element);
    this.divisionsSaid = true;
    const { text } = this.bar;
    return `${text.slice(element.start, said.start)}<divisions>${this.bar.divisions * this.finer}</divisions>${text.slice(said.end, element.end)}`;
  }

  private go(to: number): void {
    const by = to - this.at;
    if (Math.abs(by) < 1e-6) return;
    const name = by > 0 ? 'forward' : 'backup';
    this.out.push(`<${name}><duration>${Number(Math.abs(by).toFixed(9))}</duration></${name}>`);
    this.at = to;
  }

  private rescaled(xml: string): string {
    if (this.finer === 1) return xml;
    return xml.replace(
      /<(duration|offset)(\b[^>]*)>\s*([-+\d.]+)\s*<\//g,
      (_, name: string, more: string, value: string) => `<${name}${more}>${Number(value) * this.finer}</`,
    );
  }

  private itemsOf = (voice: string): BarItem[] => this.apart.items.filter((item) => item.voice === voice);
  private besideOf = (voice: string): Beside[] => this.apart.beside.filter((each) => each.voice === voice);
  private raw = ({ start, end }: XmlElement): string => this.bar.text.slice(start, end);

  private staffOf(items: readonly BarItem[]): number | null {
    if (!this.hasStaves) return null;
    return childNumber(items[0]?.elements[0], 'staff') ?? 1;
  }

  /** The measure ends where its last voice ends. */
  private isLast(voice: string): boolean {
    const { voices } = this.apart;
    const added = this.bar.voices.filter((each) => !voices.includes(each.voice));
    return voice === (added.at(-1)?.voice ?? voices.at(-1));
  }
}

/** Which printed head each one is: of its pitch, else one that no other head is. */
function printedHeads({ heads }: BarEvent, item: BarItem | null): number[] {
  const free = new Set(item?.pitches.keys());
  const take = (at: number | undefined) => (at !== undefined && free.delete(at) ? at : -1);
  const own = heads.map(({ pitch }) => take([...free].find((at) => item!.pitches[at] === pitchName(pitch))));
  return own.map((at) => (at >= 0 ? at : take([...free][0])));
}

/** Slurs of notes that are gone go on to the next note, or end at the one before. */
function slursOfGone(
  items: readonly BarItem[],
  notes: ReadonlyArray<{ i: number; item: number | null; event: BarEvent }>,
  raw: (element: XmlElement) => string,
): Map<number, string[]> {
  const moved = new Map<number, string[]>();
  const kept = new Set(notes.flatMap(({ item, event }) => (item === null || event.what === 'rest' ? [] : [item])));
  items.forEach((item, at) => {
    if (kept.has(at) || item.what === 'rest') return;
    const signs = item.elements.flatMap((element) =>
      element.children.filter(({ name }) => name === 'notations').flatMap(({ children }) => children.filter(({ name }) => name === 'slur')),
    );
    for (const sign of signs) {
      const after = notes.find((note) => note.event.what === 'note' && placeOf(notes, note, items.length) > at);
      const before = notes.findLast((note) => note.event.what === 'note' && placeOf(notes, note, items.length) < at);
      const to = sign.attributes.type === 'start' ? (after ?? before) : (before ?? after);
      if (to) moved.set(to.i, [...(moved.get(to.i) ?? []), raw(sign)]);
    }
  });
  return moved;
}

/** Where a note stands among the printed ones: its own place, or right behind the last one that is kept before it. */
function placeOf(notes: ReadonlyArray<{ i: number; item: number | null }>, note: { i: number; item: number | null }, most: number): number {
  if (note.item !== null) return note.item;
  const before = notes.filter(({ i, item }) => i < note.i && item !== null).at(-1)?.item ?? -1;
  return Math.min(most, before + 0.5);
}
