/** The command score: which parts of a score play together, what differs in them, and the tempo for all. */
import { checked } from '../core/checks/check';
import type { OtherPart } from '../core/ensemble/ensemble';
import { playedBows, rhythmGroups } from '../core/ensemble/groups';
import { tempoForAll } from '../core/ensemble/tempo-for-all';
import { usualPlayer } from '../core/instruments/player';
import { sayBars } from '../core/score/address';
import type { Part, Score } from '../core/score/score';
import { bad, good, type Result } from '../core/util/result';

/** Of the string parts, planned for usual adults around what is printed. @param tempo null for the printed one */
export function scoreValue({ parts }: Pick<Score, 'parts'>, tempo: number | null): Result<unknown> {
  const strings = parts.filter((part): part is Part & { instrument: NonNullable<Part['instrument']> } => part.instrument !== null && part.notes.length > 0);
  if (strings.length < 2)
    return bad(
      null,
      `The score has ${strings.length === 1 ? 'one string part' : 'no string part'}.`,
      'Give a score with two string parts at least; parts lists what a file has.',
    );
  const own: OtherPart[] = strings.map((part) => ({ id: part.id, name: part.name, markingId: part.id, part, marking: {} }));
  const reports = new Map(strings.map((part) => [part.id, checked({ part, marking: {}, player: usualPlayer(part.instrument), tempo, passages: [] }).report]));
  const bowsOf = playedBows(own, (id) => reports.get(id)?.bowing ?? null);
  const { bars } = strings[0]!;
  const groups = rhythmGroups(own, bowsOf).map(({ fromBar, toBar, members, agreement, differences }) => ({
    bars: sayBars(bars, { fromBar, toBar }),
    fromBar,
    toBar,
    parts: members.map(({ name }) => name),
    agreement,
    differences: differences.map(({ what, at, text, says }) => ({
      what,
      at,
      text,
      says: says.map(({ value, members: those }) => ({ value, parts: those.map(({ name }) => name) })),
    })),
  }));
  const { text, floor, ceiling, floorBy, ceilingBy, none } = tempoForAll(
    strings.map(({ id, name }) => {
      const range = reports.get(id)!.tempo;
      return { name, floor: range.floor, ceiling: range.ceiling, none: range.none !== null };
    }),
  );
  return good({ groups, tempo: { text, floor, ceiling, floorBy, ceilingBy, none } });
}
