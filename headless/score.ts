/** The command score: what a section coach sees of a whole score: who plays together, who has the tune, chords, entries, tempo, the rehearsal. */
import { checked } from '../core/checks/check';
import { tempiOverPlans } from '../core/checks/tempi';
import { phrasesOf } from '../core/ensemble/around';
import { chordName } from '../core/ensemble/chord';
import type { OtherPart } from '../core/ensemble/ensemble';
import { playedBows, rhythmGroups, type RhythmGroup } from '../core/ensemble/groups';
import { harmonyOf } from '../core/ensemble/harmony';
import { usualPlayer } from '../core/instruments/player';
import { editedPart } from '../core/marking/print-edits';
import type { Marking } from '../core/marking/mark';
import { rehearsalPage, sectionPassages, type CheckedPart, type PartOfScore } from '../core/rehearsal/page';
import { sayBars, sayNote } from '../core/score/address';
import { barIndexAt, type Bar, type Part } from '../core/score/score';
import { clockFor } from '../core/score/time';
import { bad, good, type Result } from '../core/util/result';

export interface ScoreAsked {
  /** With the corrections of the marks in force. */
  parts: readonly Part[];
  /** Marks of one part, by its id. */
  marked: { partId: string; marking: Marking } | null;
  /** Null for the printed one. */
  tempo: number | null;
}

type StringPart = Part & { instrument: NonNullable<Part['instrument']> };

/** Of the string parts, planned for usual adults around what is printed and marked. */
export function scoreValue({ parts, marked, tempo }: ScoreAsked): Result<unknown> {
  const all: PartOfScore[] = parts
    .filter(({ notes }) => notes.length > 0)
    .map((part) => {
      const marking = marked?.partId === part.id ? marked.marking : {};
      return { id: part.id, name: part.name, part: editedPart(part, marking), marking };
    });
  const strings = all.filter((each): each is PartOfScore & { part: StringPart } => each.part.instrument !== null);
  if (strings.length < 2)
    return bad(
      null,
      `The score has ${strings.length === 1 ? 'one string part' : 'no string part'}.`,
      'Give a score with two string parts at least; parts lists what a file has.',
    );
  const bars = all.reduce<readonly Bar[]>((most, { part }) => (part.bars.length > most.length ? part.bars : most), []);
  const passages = sectionPassages(bars);
  const made: CheckedPart[] = strings.map((own) => {
    const request = { part: own.part, marking: own.marking, player: usualPlayer(own.part.instrument), tempo, passages };
    const { report, ...planned } = checked(request);
    return { ...own, report: { ...report, ...tempiOverPlans(request, { report, ...planned }).tempi }, limits: planned.limits };
  });
  const others: OtherPart[] = strings.map(({ id, name, part, marking }) => ({ id, name, markingId: id, part, marking }));
  const bowsOf = playedBows(others, (id) => made.find((each) => each.id === id)?.report.bowing ?? null);
  const groups = rhythmGroups(others, bowsOf);
  const wanted = clockFor(strings[0]!.part, tempo).tempo;
  const page = rehearsalPage({ all, strings: made, groups, wanted, section: null });
  return good({ groups: groups.map((group) => groupValue(group, bars)), ...aroundValue(all, bars), ...pageValue(page) });
}

const groupValue = ({ fromBar, toBar, members, agreement, left, differences }: RhythmGroup, bars: readonly Bar[]) => ({
  bars: sayBars(bars, { fromBar, toBar }),
  fromBar,
  toBar,
  parts: members.map(({ name }) => name),
  agreement,
  left,
  differences: differences.map(({ what, at, text, says }) => ({
    what,
    at,
    text,
    says: says.map(({ value, members: those }) => ({ value, parts: those.map(({ name }) => name) })),
  })),
});

/** Roles and chords. */
function aroundValue(all: readonly PartOfScore[], bars: readonly Bar[]) {
  const nameOf = new Map(all.map(({ id, name }) => [id, name]));
  const at = (tick: number) => {
    const bar = bars[barIndexAt(bars, tick)]!;
    return sayNote({ bars: [...bars] }, { barIndex: bar.index, tick: tick - bar.onset, grace: null });
  };
  return {
    roles: phrasesOf(all)
      .filter(({ role }) => role !== 'silent')
      .map(({ partId, role, fromBar, toBar, sure }) => ({ part: nameOf.get(partId)!, role, bars: sayBars(bars, { fromBar, toBar }), fromBar, toBar, sure })),
    chords: harmonyOf(all.map(({ part }) => part)).flatMap(({ from, chord }) => (chord ? [{ at: at(from), chord: chordName(chord) }] : [])),
  };
}

function pageValue({ tempo, sections, wanted, against, opening, tunes, spots, moreSpots, entries, heldLong }: ReturnType<typeof rehearsalPage>) {
  const { text, floor, ceiling, floorBy, ceilingBy, none } = tempo;
  return {
    tempo: {
      text,
      floor,
      ceiling,
      floorBy,
      ceilingBy,
      none,
      wanted,
      sections: sections.map(({ name, bars, tempo: own }) => ({ name, bars, text: own.text, floor: own.floor, ceiling: own.ceiling, none: own.none })),
      against: against.map(({ name, barIndex, kind, tempo: limit }) => ({ part: name, barIndex, kind, tempo: limit })),
      opening: opening && { tempo: opening.tempo, spots: opening.spots.length },
    },
    tunes,
    heldLong: heldLong.map(({ bars, who, desks }) => ({ bars, who, desks })),
    entries: entries.map(({ barIndex: _, ...entry }) => entry),
    rehearsal: { spots: spots.map(({ barIndex: _, ...spot }) => spot), more: moreSpots },
  };
}
