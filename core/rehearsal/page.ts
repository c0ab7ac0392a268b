/** The page for the rehearsal: what a section coach brings, of the whole score or of one section, on one sheet. */
import { sayBar, sayBars } from '../score/address';
import type { BarRange } from '../score/bars';
import { beatOf } from '../score/beat';
import { noteById } from '../score/find';
import type { Bar, Part } from '../score/score';
import { silenceInWords } from '../score/silence';
import type { Marking } from '../marking/mark';
import { isSpot, type Finding } from '../checks/finding';
import { FINDINGS } from '../checks/kinds';
import type { Report } from '../checks/check';
import type { TempoLimit } from '../checks/finding';
import { tuneIn } from '../ensemble/around';
import { entriesOf, hasCue } from '../ensemble/entries';
import type { RhythmGroup } from '../ensemble/groups';
import { sectionsOf } from '../ensemble/sections';
import { tempoForAll, type TempoForAll } from '../ensemble/tempo-for-all';
import { heldLong, type HeldLong } from './held-long';
import { cheapestOpening, spotsAgainst, type Opening, type SpotToMend } from './opening';

export interface PartOfScore {
  id: string;
  name: string;
  part: Part;
  marking: Marking;
}

/** A string part with its check. */
export interface CheckedPart extends PartOfScore {
  report: Report;
  limits: readonly TempoLimit[];
}

export interface SectionTempo extends BarRange {
  name: string;
  bars: string;
  tempo: TempoForAll;
}

/** A spot of one part or of several at once; what comes again in a stretch is one. */
export interface RehearsalSpot {
  barIndex: number;
  /** Where, in bar order. */
  places: string[];
  who: string[];
  kind: Finding['kind'];
  severity: Finding['severity'];
  text: string;
  hearIt: string | null;
  tryIt: string | null;
}

export interface RehearsalPage {
  /** Null for the whole score. */
  section: string | null;
  wanted: number;
  tempo: TempoForAll;
  sections: SectionTempo[];
  /** What stands in the way of the wanted tempo; empty where nothing does. */
  against: SpotToMend[];
  /** At which tempo the least has to be mended; null where the wanted one works. */
  opening: Opening | null;
  tunes: Array<{ bars: string; who: string[] }>;
  spots: RehearsalSpot[];
  /** Spots that the page has no room for. */
  moreSpots: number;
  disagreements: Array<{ barIndex: number; bars: string; who: string[]; text: string }>;
  moreDisagreements: number;
  left: Array<{ bars: string; who: string[]; because: string }>;
  entries: Array<{ barIndex: number; at: string; who: string; silent: string; cue: string; printed: boolean }>;
  moreEntries: number;
  /** Notes that a section holds longer than any bow. */
  heldLong: HeldLong[];
}

interface Asked {
  /** All parts, in the order of the score. */
  all: readonly PartOfScore[];
  /** The string parts, checked at the wanted tempo. */
  strings: readonly CheckedPart[];
  groups: readonly RhythmGroup[];
  /** Quarters per minute. */
  wanted: number;
  /** Parts of the section that the page is for; null for the whole score. */
  section: { name: string; partIds: readonly string[] } | null;
}

const MOST_HELD = 3;
/** What one sheet holds, of A4 and of Letter, in lines and letters of a line (measured on the printed page). */
const ROOM = { spots: { lines: 28, letters: 100 }, column: { lines: 14, letters: 50 } };

export function rehearsalPage({ all, strings, groups, wanted, section }: Asked): RehearsalPage {
  const isOurs = (id: string) => section === null || section.partIds.includes(id);
  const own = strings.filter(({ id }) => isOurs(id));
  const bars = all.reduce<readonly Bar[]>((most, { part }) => (part.bars.length > most.length ? part.bars : most), []);
  const limits = own.map(({ id, name, limits: each }) => ({ partId: id, name, limits: each }));
  const against = spotsAgainst(limits, wanted);
  const held = heldLong(own);
  const inTurn = new Set(held.flatMap(({ noteIds }) => noteIds));
  const spots = spotsOf(bars, own, ({ kind, noteIds }) => kind === 'bow runs out' && inTurn.has(noteIds[0]!));
  const shown = fitting(spots, ROOM.spots, ({ who, kind, places, text, hearIt, tryIt }) => [who, kind, places, text, hearIt, tryIt].join(' '));
  const concerned = groups.filter(({ members, differences }) => differences.length > 0 && members.some(({ partId }) => isOurs(partId)));
  return {
    section: section?.name ?? null,
    wanted,
    tempo: tempoForAll(own.map(({ name, report }) => ({ name, ...rangeOf(report.tempo) }))),
    sections: sectionTempi(bars, own),
    against,
    opening: against.length ? cheapestOpening(limits, wanted) : null,
    tunes: tunesOf(bars, all),
    spots: shown.sort((a, b) => a.barIndex - b.barIndex),
    moreSpots: spots.length - shown.length,
    ...apartOnPage(concerned, bars),
    ...entriesOnPage(entriesAll(own, all)),
    heldLong: held.slice(0, MOST_HELD),
  };
}

/** As many as there is room for, in their order; one at least. */
function fitting<T>(all: readonly T[], { lines, letters }: { lines: number; letters: number }, textOf: (each: T) => string): T[] {
  let used = 0;
  const count = all.findIndex((each) => (used += Math.ceil(textOf(each).length / letters)) > lines);
  return count < 0 ? [...all] : all.slice(0, Math.max(1, count));
}

/** What is still apart, then what was left so. */
function apartOnPage(concerned: readonly RhythmGroup[], bars: readonly Bar[]): Pick<RehearsalPage, 'disagreements' | 'moreDisagreements' | 'left'> {
  const left = concerned.flatMap((group) => (group.left === null ? [] : [{ bars: sayBars(bars, group), who: namesOf(group), because: group.left }]));
  const open = concerned
    .filter((group) => group.left === null)
    .sort((a, b) => Number(b.agreement === 'opposite bows') - Number(a.agreement === 'opposite bows') || a.fromBar - b.fromBar)
    .map((group) => ({ barIndex: group.fromBar, bars: sayBars(bars, group), who: namesOf(group), text: differenceText(group) }));
  const shown = fitting(open, ROOM.column, ({ bars: at, text }) => `${at} ${text}`);
  const room = ROOM.column.lines - shown.length;
  return {
    disagreements: shown.sort((a, b) => a.barIndex - b.barIndex),
    moreDisagreements: open.length - shown.length,
    left: fitting(left, { ...ROOM.column, lines: Math.max(2, room) }, ({ bars: at, who, because }) => `${at} ${who.join()} apart on purpose ${because}`),
  };
}

function entriesOnPage(all: RehearsalPage['entries']): Pick<RehearsalPage, 'entries' | 'moreEntries'> {
  const entries = fitting(all, ROOM.column, ({ at, who, silent, cue }) => `${at} ${who} ${silent} ${cue}`);
  return { entries, moreEntries: all.length - entries.length };
}

const rangeOf = ({ floor, ceiling, none }: Report['tempo'] | Report['passages'][number]) => ({ floor, ceiling, none: none !== null });
const namesOf = ({ members }: RhythmGroup): string[] => members.map(({ name }) => name);

/** The stretches of a score as passages of each part's check. */
export const sectionPassages = (bars: readonly Bar[]): Array<{ name: string; fromBar: number; toBar: number }> => sectionsOf(bars);

function sectionTempi(bars: readonly Bar[], own: readonly CheckedPart[]): SectionTempo[] {
  return sectionsOf(bars).map(({ name, fromBar, toBar }) => ({
    name,
    fromBar,
    toBar,
    bars: sayBars(bars, { fromBar, toBar }),
    tempo: tempoForAll(
      own.flatMap(({ name: who, report }) => {
        const passage = report.passages.find((each) => each.fromBar === fromBar && each.toBar === toBar);
        return passage ? [{ name: who, ...rangeOf(passage) }] : [];
      }),
    ),
  }));
}

/** The worst first. What differs elsewhere in the part is no matter of the rehearsal: what differs between parts stands by itself. @param isTold elsewhere on the page */
function spotsOf(bars: readonly Bar[], own: readonly CheckedPart[], isTold: (finding: Finding) => boolean): RehearsalSpot[] {
  const sections = sectionsOf(bars);
  const sectionAt = (bar: number) => sections.findIndex(({ fromBar, toBar }) => fromBar <= bar && bar <= toBar);
  const spots = new Map<string, RehearsalSpot>();
  for (const spot of inOneBar(own, isTold)) {
    const key = `${spot.kind} ${sectionAt(spot.barIndex)} ${spot.who.join()}`;
    const there = spots.get(key);
    if (!there) spots.set(key, spot);
    else {
      there.places.push(...spot.places);
      if (spot.severity > there.severity) Object.assign(there, { ...spot, barIndex: there.barIndex, places: there.places });
    }
  }
  return [...spots.values()].sort((a, b) => b.severity - a.severity || b.who.length - a.who.length || a.barIndex - b.barIndex);
}

/** The same kind in the same bar is one, whoever has it; in bar order. */
function inOneBar(own: readonly CheckedPart[], isTold: (finding: Finding) => boolean): RehearsalSpot[] {
  const spots = new Map<string, RehearsalSpot>();
  for (const { name, part, report } of own) {
    for (const finding of report.findings) {
      const { barIndex, kind, severity, text, hearIt, remedies } = finding;
      if (!isSpot(finding) || FINDINGS[kind].likeness || isTold(finding)) continue;
      const there = spots.get(`${kind} ${barIndex}`);
      if (!there) {
        const at = `${sayBar(part.bars, barIndex)}/${Math.round(finding.beat * 100) / 100}`;
        spots.set(`${kind} ${barIndex}`, { barIndex, places: [at], who: [name], kind, severity, text, hearIt, tryIt: remedies[0]?.text ?? null });
        continue;
      }
      if (!there.who.includes(name)) there.who.push(name);
      if (severity > there.severity) Object.assign(there, { severity, text, hearIt, tryIt: remedies[0]?.text ?? null });
    }
  }
  return [...spots.values()].sort((a, b) => a.barIndex - b.barIndex);
}

/** The first difference of a group, and how many more there are. */
function differenceText({ differences }: RhythmGroup): string {
  const [first] = [...differences].sort((a, b) => Number(b.what === 'bow') - Number(a.what === 'bow') || a.barIndex - b.barIndex);
  const more = differences.length - 1;
  return `${first!.at}: ${first!.text}${more ? ` (${more} more)` : ''}`;
}

/** Who has the tune from where to where; who shares it stands together. */
function tunesOf(bars: readonly Bar[], all: readonly PartOfScore[]): RehearsalPage['tunes'] {
  const has = tuneIn(all);
  const tunes: Array<BarRange & { who: string[] }> = [];
  bars.forEach((_, bar) => {
    const who = all.filter(({ id }) => has(id, bar)).map(({ name }) => name);
    const last = tunes.at(-1);
    if (last && String(last.who) === String(who)) last.toBar = bar;
    else tunes.push({ fromBar: bar, toBar: bar, who });
  });
  return tunes.filter(({ who }) => who.length > 0).map((each) => ({ bars: sayBars(bars, each), who: each.who }));
}

function entriesAll(own: readonly CheckedPart[], all: readonly PartOfScore[]): RehearsalPage['entries'] {
  const has = tuneIn(all);
  return own
    .flatMap(({ id, name, part, marking }) =>
      entriesOf(
        part,
        all.filter((other) => other.id !== id),
        has,
      ).map((entry) => {
        const [cue] = entry.cues;
        const note = noteById(part, entry.noteId)!;
        const bar = part.bars[entry.barIndex]!;
        return {
          barIndex: entry.barIndex,
          at: `${sayBar(part.bars, entry.barIndex)}/${beatOf(bar, note.tick)}`,
          who: name,
          silent: silenceInWords(entry.silence),
          cue: cue ? `${cue.name}, bar ${cue.bar}/${Math.round(cue.beat * 100) / 100} ${cue.pitch}` : 'nobody plays before it',
          printed: hasCue(entry, marking),
        };
      }),
    )
    .sort((a, b) => a.barIndex - b.barIndex);
}
