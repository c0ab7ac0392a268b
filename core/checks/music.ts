/** Findings that lie in the music and its marks rather than in one hand: traps for the reader and the counter, music marked in two ways. */
import type { Line } from '../instruments/lines';
import { noteById } from '../score/find';
import type { Note, Part } from '../score/score';
import type { Player } from '../instruments/player';
import type { Marking } from '../marking/mark';
import { changeTo } from '../marking/change';
import type { AidKind, ReadingAid } from '../reading/aid';
import { readingAids } from '../reading/reading';
import { markedDifferently, type MarkedDifferently } from '../marking/consistency';
import type { Finding } from './finding';
import { hearAgainst } from './hear';
import { bowedOtherwise, type OtherPart } from '../ensemble/ensemble';
import { cueChanges, cuesBefore, hasCue } from '../ensemble/entries';
import { markLike, printCueText } from './remedy-words';
import { acrossText, cueText, differentlyText, hearText } from './words';

type Placed = (note: Note) => { bar: string; barIndex: number; beat: number };

/** What is told as a finding; milder aids stay in the Reading tab. */
const KIND_OF: Readonly<Partial<Record<AidKind, 'reading trap' | 'counting trap'>>> = {
  'sign still holds': 'reading trap',
  'other octave': 'reading trap',
  'cross-relation': 'reading trap',
  'new clef': 'reading trap',
  'held over': 'counting trap',
  entry: 'counting trap',
};

const COUNT_IN = 'Count the rest aloud, bar by bar (1 2 3, 2 2 3, 3 2 3 …), and sing the first note before it comes.';

function countIn(note: Note, part: Part, others: readonly OtherPart[]): string {
  const cues = cuesBefore(note, part, others);
  return cues.length ? `${COUNT_IN} ${cueText(cues)}` : COUNT_IN;
}

/** Each cue that can be put small into the part; none where one is there. */
function cuesToPrint(note: Note, part: Part, marking: Marking, others: readonly OtherPart[]): Finding['remedies'] {
  const entry = { noteId: note.id, barIndex: note.barIndex };
  if (hasCue(entry, marking)) return [];
  return cuesBefore(note, part, others).flatMap((cue) => {
    const changes = cueChanges(cue, entry, part, marking, others.find(({ id }) => id === cue.partId)!.part);
    return changes.length ? [{ text: printCueText(cue.name, cue.bar), before: null, after: null, changes }] : [];
  });
}

/** A misread note is heard against an open string, where one goes with it. */
function readAloud(note: Note, { instrument }: Player): string {
  const open = hearAgainst(note.pitch, null, instrument);
  return `Name the notes aloud before playing them.${open ? ` ${hearText(open)}` : ''}`;
}

const aidsOf = new WeakMap<Part, { player: string; aids: ReadingAid[] }>();

/** What a reader may trip over; worked out once for a part on an instrument. */
export function knownAids(part: Part, player: Player): ReadingAid[] {
  const key = JSON.stringify(player.instrument);
  const known = aidsOf.get(part);
  if (known?.player === key) return known.aids;
  const aids = readingAids(part, player);
  aidsOf.set(part, { player: key, aids });
  return aids;
}

export function readingFindings(part: Part, player: Player, marking: Marking, place: Placed, others: readonly OtherPart[] = []): Finding[] {
  return knownAids(part, player).flatMap(({ id, kind, noteIds, text, count, remedy }): Finding[] => {
    const told = KIND_OF[kind];
    const note = noteById(part, noteIds[0]!);
    if (!told || !note) return [];
    const change = remedy && changeTo(marking, remedy.target, remedy.kind, { value: remedy.value, origin: 'coach' });
    return [
      {
        id: `${told} ${id}`,
        kind: told,
        ...place(note),
        noteIds: [...noteIds],
        severity: 1,
        numbers: { kind, ...(count ? { count } : {}) },
        text,
        hearIt: count ? `Count it aloud: ${count}` : told === 'counting trap' ? countIn(note, part, others) : readAloud(note, player),
        remedies: [
          ...(remedy ? [{ text: remedy.text, before: null, after: null, changes: change ? [change] : [] }] : []),
          ...(kind === 'entry' ? cuesToPrint(note, part, marking, others) : []),
        ],
      },
    ];
  });
}

export function consistencyFindings(part: Part, line: Line, marking: Marking, place: Placed): Finding[] {
  return markedDifferently(part, line, marking).flatMap((found): Finding[] => {
    const note = noteById(part, found.differences[0]!.secondNote);
    if (!note) return [];
    const [here, there] = [barsOf(part, found.second), barsOf(part, found.first)];
    return [
      {
        id: `marked differently elsewhere ${note.id}`,
        kind: 'marked differently elsewhere',
        ...place(note),
        noteIds: found.differences.map(({ secondNote }) => secondNote),
        severity: found.differences.some(({ first, second }) => first !== null && second !== null) ? 2 : 1,
        numbers: { like: there, alike: found.alike, differences: found.differences.length, marks: inWords(found) },
        text: differentlyText(here, there, found.alike, inWords(found)),
        hearIt: null,
        remedies: [
          { text: markLike(here, there), before: found.differences.length, after: 0, changes: found.copyThere },
          { text: markLike(there, here), before: found.differences.length, after: 0, changes: found.copyHere },
        ].filter(({ changes }) => changes.length > 0),
      },
    ];
  });
}

/** Bows that another section has otherwise, one finding for each bar and part. */
export function acrossFindings(part: Part, line: Line, marking: Marking, others: readonly OtherPart[], place: Placed): Finding[] {
  return bowedOtherwise(part, line, marking, others).flatMap((found): Finding[] => {
    const { other, how, differences, copyHere, copyThere } = found;
    const note = noteById(part, differences[0]!.hereNote);
    if (!note) return [];
    const [here, there] = [`bar ${part.bars[found.here]!.label}`, `bar ${other.part.bars[found.there]!.label}`];
    const marks = differences.slice(0, NAMED).map(({ kind, here: own, there: other }) => `${kind} ${own ?? 'unmarked'} against ${other ?? 'unmarked'}`);
    const solves = { before: differences.length, after: 0 };
    const theirs = { partId: other.id, markingId: other.markingId, name: other.name };
    const said = marks.join(', ') + (differences.length > NAMED ? ` and ${differences.length - NAMED} more` : '');
    return [
      {
        id: `marked differently elsewhere ${note.id} ${other.id}`,
        kind: 'marked differently elsewhere',
        ...place(note),
        noteIds: differences.map(({ hereNote }) => hereNote),
        severity: how === 'together' ? 2 : 1,
        numbers: { part: other.name, like: there, how, differences: differences.length, marks: said },
        text: acrossText(here, other.name, there, how, said),
        hearIt: null,
        remedies: [
          ...(copyHere.length ? [{ text: markLike(here, other.name), ...solves, changes: copyHere }] : []),
          ...(copyThere.length ? [{ text: markLike(`${there} of ${other.name}`, here), ...solves, elsewhere: { ...theirs, changes: copyThere } }] : []),
        ],
      },
    ];
  });
}

function barsOf(part: Part, { fromBar, toBar }: { fromBar: number; toBar: number }): string {
  const label = (index: number) => part.bars[index]!.label;
  return fromBar === toBar ? `bar ${label(fromBar)}` : `bars ${label(fromBar)}–${label(toBar)}`;
}

const NAMED = 3;

function inWords({ differences }: MarkedDifferently): string {
  const said = differences.slice(0, NAMED).map(({ kind, first, second }) => `${kind} ${second ?? 'unmarked'} against ${first ?? 'unmarked'}`);
  return said.join(', ') + (differences.length > NAMED ? ` and ${differences.length - NAMED} more` : '');
}
