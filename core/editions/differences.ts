/** What two editions of a part say differently, note by note, and what taking the other one over would mark. */
import { rounded } from '../util/round';
import { linesOf } from '../instruments/lines';
import { sayBar, sayNote } from '../score/address';
import { noteById } from '../score/find';
import { pitchName } from '../score/pitch';
import { ARTICULATIONS, WRITABLE_ARTICULATIONS, type Note, type Part, type WritableArticulation } from '../score/score';
import { slurLinks } from '../marking/links';
import { bowInForce, fingerInForce, markAt, stringInForce, type Marking } from '../marking/mark';
import { articulationKind, type MarkKind } from '../marking/kinds';
import { hairpinValue, STRUCK } from '../marking/values';
import { editedPart } from '../marking/print-edits';
import { placeTarget } from '../marking/target';
import { align, type Alignment } from './align';
import { TICKS_PER_QUARTER } from '../score/ticks';

export const DIFFERENCE_KINDS = [
  'bar',
  'note',
  'pitch',
  'rhythm',
  'slur',
  'articulation',
  'dynamic',
  'hairpin',
  'tempo',
  'words',
  'bowing',
  'fingering',
] as const;
export type DifferenceKind = (typeof DIFFERENCE_KINDS)[number];

export interface Difference {
  id: string;
  kind: DifferenceKind;
  /** Where, as people say it: in our edition, or in the other one where we have no such place. */
  at: string;
  ourBar: number | null;
  theirBar: number | null;
  /** Bars to look at: the bar itself, or the one before the place where it is missing. */
  look: { ours: number; theirs: number };
  ourNotes: string[];
  theirNotes: string[];
  ours: string;
  theirs: string;
  /** Not between the prints alone: a mark of the coach makes it, or stands where the prints differ. */
  yours: boolean;
  /** Marks that take the other edition over; null where only the whole file can. */
  take: Array<{ target: string; kind: MarkKind; value: string }> | null;
}

/**
 * What the prints say differently, as long as our marks have not taken it over, and what our own marks say differently.
 * @param marking our marks: edits and marks that are in force count as ours
 * @param theirs the other edition as printed
 */
export function differences(print: Part, marking: Marking, theirs: Part): Difference[] {
  const now = compared(print, marking, theirs);
  if (Object.keys(marking).length === 0) return now.map((difference) => ({ ...difference, yours: false }));
  const printed = new Set(compared(print, {}, theirs).map(({ id }) => id));
  const marked = ({ take }: Pick<Difference, 'take'>) => take?.some(({ target, kind }) => markAt(marking, target, kind) !== undefined) ?? false;
  return now.map((difference) => ({ ...difference, yours: !printed.has(difference.id) || marked(difference) }));
}

function compared(print: Part, marking: Marking, theirs: Part): Array<Omit<Difference, 'yours'>> {
  const ours = editedPart(print, marking);
  const alignment = align(ours, theirs);
  const found: Found[] = [];
  const look = { ours: 0, theirs: 0 };
  for (const pair of alignment.bars) {
    look.ours = pair.ours ?? look.ours;
    look.theirs = pair.theirs ?? look.theirs;
    if (pair.ours === null || pair.theirs === null) {
      found.push({ ...missingBar(ours, theirs, pair.ours, pair.theirs), look: { ...look } });
      continue;
    }
    const bars = { ourBar: pair.ours, theirBar: pair.theirs };
    found.push(...missingNotes(ours, theirs, alignment, bars));
    for (const note of ours.notes) {
      if (note.barIndex !== pair.ours) continue;
      const other = noteById(theirs, alignment.notes.get(note.id) ?? '');
      if (other) found.push(...atNote(ours, theirs, note, other, marking));
    }
  }
  found.push(...slurDifferences(ours, theirs, marking, alignment), ...signDifferences(ours, theirs, alignment));
  const order = (difference: Found) => difference.ourBar ?? difference.look!.ours + 0.5;
  return found
    .map((difference, i) => ({ difference, i }))
    .sort((a, b) => order(a.difference) - order(b.difference) || a.i - b.i)
    .map(({ difference }) => ({ ...difference, look: difference.look ?? { ours: difference.ourBar!, theirs: difference.theirBar! } }));
}

/** A difference before it is said where to look; bars that both editions have are looked at themselves. */
type Found = Omit<Difference, 'look' | 'yours'> & { look?: Difference['look'] };

const NOTHING = '—';

function missingBar(ours: Part, theirs: Part, ourBar: number | null, theirBar: number | null): Found {
  const at = ourBar !== null ? sayBar(ours.bars, ourBar) : sayBar(theirs.bars, theirBar!);
  const notes = (part: Part, bar: number | null) => (bar === null ? [] : part.notes.filter((note) => note.barIndex === bar));
  const said = (list: readonly Note[], bar: number | null) =>
    bar === null ? 'no such bar' : list.map((note) => pitchName(note.written)).join(' ') || 'a bar of rest';
  const [a, b] = [notes(ours, ourBar), notes(theirs, theirBar)];
  return {
    id: `bar ${ourBar ?? ''}/${theirBar ?? ''}`,
    kind: 'bar',
    at,
    ourBar,
    theirBar,
    ourNotes: a.map((note) => note.id),
    theirNotes: b.map((note) => note.id),
    ours: said(a, ourBar),
    theirs: said(b, theirBar),
    take: null,
  };
}

function missingNotes(ours: Part, theirs: Part, { onlyOurs, onlyTheirs }: Alignment, bars: { ourBar: number; theirBar: number }): Found[] {
  const list = (part: Part, ids: readonly string[], bar: number) => ids.map((id) => noteById(part, id)!).filter((note) => note.barIndex === bar);
  const one = (note: Note, part: Part, isOurs: boolean): Found => ({
    id: `note ${isOurs ? '-' : '+'}${note.id}`,
    kind: 'note',
    at: sayNote(part, note),
    ...bars,
    ourNotes: isOurs ? [note.id] : [],
    theirNotes: isOurs ? [] : [note.id],
    ours: isOurs ? pitchName(note.written) : NOTHING,
    theirs: isOurs ? NOTHING : pitchName(note.written),
    take: null,
  });
  return [
    ...list(ours, onlyOurs, bars.ourBar).map((note) => one(note, ours, true)),
    ...list(theirs, onlyTheirs, bars.theirBar).map((note) => one(note, theirs, false)),
  ];
}

function atNote(ours: Part, theirs: Part, note: Note, other: Note, marking: Marking): Found[] {
  const found: Found[] = [];
  const add = (kind: DifferenceKind, a: string, b: string, take: Difference['take']) =>
    found.push({
      id: `${kind} ${note.id}`,
      kind,
      at: sayNote(ours, note),
      ourBar: note.barIndex,
      theirBar: other.barIndex,
      ourNotes: [note.id],
      theirNotes: [other.id],
      ours: a,
      theirs: b,
      take,
    });
  if (pitchName(note.written) !== pitchName(other.written)) {
    add('pitch', pitchName(note.written), pitchName(other.written), [{ target: note.id, kind: 'pitch', value: pitchName(other.written) }]);
  }
  const time = (part: Part, each: Note) => [each.tick / TICKS_PER_QUARTER, each.duration / TICKS_PER_QUARTER, each.tiedTo] as const;
  const [a, b] = [time(ours, note), time(theirs, other)];
  if (Math.abs(a[0] - b[0]) > 1e-3 || Math.abs(a[1] - b[1]) > 1e-3 || a[2] !== b[2]) {
    const say = ([tick, length, tied]: typeof a) => `${round(length)} quarters at ${round(tick + 1)}${tied ? ', tied on' : ''}`;
    add('rhythm', say(a), say(b), null);
  }
  const articulations = ARTICULATIONS.filter((name) => note.articulations.includes(name) !== other.articulations.includes(name));
  if (articulations.length) {
    const writable = articulations.filter((name): name is WritableArticulation => (WRITABLE_ARTICULATIONS as readonly string[]).includes(name));
    add(
      'articulation',
      note.articulations.join(', ') || NOTHING,
      other.articulations.join(', ') || NOTHING,
      writable.map((name) => ({ target: note.id, kind: articulationKind(name), value: other.articulations.includes(name) ? 'yes' : STRUCK })),
    );
  }
  const bow = bowInForce(note, marking);
  if (bow !== other.printed.bow)
    add('bowing', bow ? `${bow}-bow` : NOTHING, other.printed.bow ? `${other.printed.bow}-bow` : NOTHING, [
      { target: note.id, kind: 'bow', value: other.printed.bow ?? STRUCK },
    ]);
  const hand = [fingerInForce(note, marking), stringInForce(note, marking)] as const;
  const theirHand = [other.printed.finger, other.printed.string] as const;
  if (hand[0] !== theirHand[0] || hand[1] !== theirHand[1]) {
    const say = ([finger, string]: typeof hand) => [finger && `finger ${finger}`, string && `string ${string}`].filter(Boolean).join(', ') || NOTHING;
    const take: Difference['take'] = [];
    if (hand[0] !== theirHand[0]) take.push({ target: note.id, kind: 'finger', value: theirHand[0] ?? STRUCK });
    if (hand[1] !== theirHand[1]) take.push({ target: note.id, kind: 'string', value: theirHand[1] === null ? STRUCK : String(theirHand[1]) });
    add('fingering', say(hand), say(theirHand), take);
  }
  return found;
}

const round = (value: number): number => rounded(value, 3);

/** Where one edition slurs a note to the one before and the other does not. */
function slurDifferences(ours: Part, theirs: Part, marking: Marking, { notes }: Alignment): Found[] {
  const slurred = (part: Part, own: Marking) => {
    const ids = new Map<string, boolean>();
    for (const line of linesOf(part)) {
      const links = slurLinks(part, line, own);
      line.events.forEach((event, i) => event.ids.forEach((id) => ids.set(id, links[i]!)));
    }
    return ids;
  };
  const a = slurred(ours, marking);
  const b = slurred(theirs, {});
  const seen = new Set<string>();
  return ours.notes.flatMap((note): Found[] => {
    const otherId = notes.get(note.id);
    const other = otherId === undefined ? undefined : noteById(theirs, otherId);
    const place = `${note.onset} ${note.staff} ${note.voice} ${note.grace}`;
    if (!other || note.cue || note.tiedFrom || a.get(note.id) === b.get(other.id) || seen.has(place)) return [];
    seen.add(place);
    const say = (linked: boolean | undefined) => (linked ? 'slurred to the note before' : 'new bow');
    return [
      {
        id: `slur ${note.id}`,
        kind: 'slur',
        at: sayNote(ours, note),
        ourBar: note.barIndex,
        theirBar: other.barIndex,
        ourNotes: [note.id],
        theirNotes: [other.id],
        ours: say(a.get(note.id)),
        theirs: say(b.get(other.id)),
        take: [{ target: note.id, kind: 'slur', value: b.get(other.id) ? 'join' : 'split' }],
      },
    ];
  });
}

/** Dynamics, hairpins, tempi and words, by place. */
function signDifferences(ours: Part, theirs: Part, { bars }: Alignment): Found[] {
  const found: Found[] = [];
  for (const { ours: ourBar, theirs: theirBar } of bars) {
    if (ourBar === null || theirBar === null) continue;
    const [a, b] = [signsOf(ours, ourBar), signsOf(theirs, theirBar)];
    for (const kind of ['dynamic', 'hairpin', 'tempo', 'words'] as const) {
      const places = new Map<number, { ours: string[]; theirs: string[] }>();
      const at = (quarters: number) => {
        const place = places.get(quarters) ?? { ours: [], theirs: [] };
        places.set(quarters, place);
        return place;
      };
      for (const sign of a) if (sign.kind === kind) at(sign.at).ours.push(sign.text);
      for (const sign of b) if (sign.kind === kind) at(sign.at).theirs.push(sign.text);
      for (const [quarters, place] of [...places].sort(([x], [y]) => x - y)) {
        if (place.ours.sort().join(' ') === place.theirs.sort().join(' ')) continue;
        const tick = Math.round(quarters * TICKS_PER_QUARTER);
        const target = placeTarget(ourBar, tick);
        found.push({
          id: `${kind} ${target}`,
          kind,
          at: sayNote(ours, { barIndex: ourBar, tick, grace: null }),
          ourBar,
          theirBar,
          ourNotes: ours.notes.filter((note) => note.barIndex === ourBar && note.tick === tick).map((note) => note.id),
          theirNotes: theirs.notes.filter((note) => note.barIndex === theirBar && round(note.tick / TICKS_PER_QUARTER) === quarters).map((note) => note.id),
          ours: place.ours.join(', ') || NOTHING,
          theirs: place.theirs.join(', ') || NOTHING,
          take: takeSign(kind, target, place, ours, ourBar, tick),
        });
      }
    }
  }
  return found;
}

interface PlacedSign {
  kind: 'dynamic' | 'hairpin' | 'tempo' | 'words';
  /** Quarters from the bar line. */
  at: number;
  text: string;
}

function signsOf(part: Part, barIndex: number): PlacedSign[] {
  const bar = part.bars[barIndex]!;
  const inside = (tick: number) => tick >= bar.onset && tick < bar.onset + bar.ticks;
  const quarters = (ticks: number) => round(ticks / TICKS_PER_QUARTER);
  const at = (tick: number) => quarters(tick - bar.onset);
  return [
    ...part.dynamics.filter(({ tick }) => inside(tick)).map(({ tick, text }): PlacedSign => ({ kind: 'dynamic', at: at(tick), text })),
    ...part.hairpins
      .filter(({ from }) => inside(from))
      .map(({ kind, from, to }): PlacedSign => ({ kind: 'hairpin', at: at(from), text: `${kind} for ${quarters(to - from)} quarters` })),
    ...part.tempi
      .filter(({ tick, printed }) => inside(tick) && printed !== null)
      .map(({ tick, printed }): PlacedSign => ({ kind: 'tempo', at: at(tick), text: printed! })),
    ...part.words.filter(({ tick }) => inside(tick)).map(({ tick, text }): PlacedSign => ({ kind: 'words', at: at(tick), text })),
  ];
}

function takeSign(
  kind: PlacedSign['kind'],
  target: string,
  { ours, theirs }: { ours: string[]; theirs: string[] },
  part: Part,
  barIndex: number,
  tick: number,
): Difference['take'] {
  const [wanted] = theirs;
  switch (kind) {
    case 'dynamic':
      return [{ target, kind: 'dynamic', value: wanted ?? STRUCK }];
    case 'tempo':
      return [{ target, kind: 'tempo', value: wanted ?? STRUCK }];
    case 'words':
      return [
        ...(ours.length ? [{ target, kind: 'printed-text' as const, value: STRUCK }] : []),
        ...(theirs.length ? [{ target, kind: 'text' as const, value: theirs.join(' ') }] : []),
      ];
    case 'hairpin': {
      const match = /^(crescendo|diminuendo) for ([\d.]+) quarters$/.exec(wanted ?? '');
      if (!match) return [{ target, kind: 'hairpin', value: STRUCK }];
      const end = part.bars[barIndex]!.onset + tick + Math.round(Number(match[2]) * TICKS_PER_QUARTER);
      const last = part.bars.findLast((bar) => bar.onset < end);
      if (!last) return null;
      return [
        { target, kind: 'hairpin', value: hairpinValue({ kind: match[1] as 'crescendo', toBar: last.index, toTick: Math.min(last.ticks, end - last.onset) }) },
      ];
    }
  }
}
