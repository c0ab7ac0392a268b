/** Marks that could help against a finding, beside other fingers and bows at its note: each is tried before anybody sees it. */
import { DYNAMIC_LEVELS } from '../score/dynamics';
import { noteById } from '../score/find';
import { pitchName } from '../score/pitch';
import type { DynamicLevel, Note, Part } from '../score/score';
import { coachChanges, type Change } from '../marking/change';
import { markAt, splitKey, type Marking } from '../marking/mark';
import { isEditKind } from '../marking/kinds';
import { STRUCK } from '../marking/values';
import { barOfTarget, placeTarget, targetOf } from '../marking/target';
import type { Stroke } from '../bow-arm/describe';

import { driftsOf, unevenPair } from '../bow-arm/travel';
import type { Finding, FindingOf } from './finding';
import type { FindingKind } from './numbers';
import * as say from './remedy-words';

export interface ToTry {
  kind: 'bowing' | 'edit' | 'marks';
  text: string;
  changes: Change[];
}

export interface Tryable {
  part: Part;
  marking: Marking;
  /** The bow's plan as it is. */
  strokes: readonly Stroke[];
  hairCm: number;
  /** Bar and beat of a note, as people say it. */
  sayPlace(note: Note): string;
}

export function marksToTry(finding: Finding, around: Tryable): ToTry[] {
  // Each maker takes findings of its own kind (`MAKERS`), which an index cannot say.
  const make = MAKERS[finding.kind] as Maker | undefined;
  return make ? make(finding, around).filter(({ changes }) => changes.length > 0) : [];
}

type Maker<Kind extends FindingKind = FindingKind> = (finding: Extract<Finding, { kind: Kind }>, around: Tryable) => ToTry[];

const MAKERS: { readonly [Kind in FindingKind]?: Maker<Kind> } = {
  'bow runs out': splits,
  'bow must race back': fairBows,
  'stroke too quick': twoAndTwo,
  'string leap in a slur': parted,
  'level out of reach': otherBowOrLevel,
  'held to the wrong end': lifted,
  'wish not met': withoutWish,
  contradiction: withoutOneMark,
  unplayable: moved,
  'phrase or bow?': phraseOrBow,
};

const strokeOf = ({ strokes }: Tryable, noteId: string): number => strokes.findIndex(({ noteIds }) => noteIds.includes(noteId));

/** New bows inside the slur: at the notes nearest to equal shares of its time. */
function splits(finding: FindingOf<'bow runs out'>, around: Tryable): ToTry[] {
  const { part, marking, sayPlace } = around;
  const stroke = around.strokes[strokeOf(around, finding.noteIds[0]!)];
  if (!stroke) return [];
  const notes = stroke.noteIds.map((id) => noteById(part, id)!).filter((note, i, all) => i === 0 || note.onset > all[i - 1]!.onset);
  const end = notes.at(-1)!.onset + notes.at(-1)!.duration;
  const fewest = Math.max(2, Math.ceil(finding.numbers.neededCm / finding.numbers.hairCm));
  return [fewest, fewest + 1].flatMap((bows): ToTry[] => {
    const at = new Set<Note>();
    for (let k = 1; k < bows; k++) {
      const wanted = stroke.onset + ((end - stroke.onset) * k) / bows;
      const nearest = notes
        .slice(1)
        .reduce<Note | null>((best, note) => (!best || Math.abs(note.onset - wanted) < Math.abs(best.onset - wanted) ? note : best), null);
      if (nearest) at.add(nearest);
    }
    const places = [...at].sort((a, b) => a.onset - b.onset);
    return [
      {
        kind: 'bowing',
        text: say.newBowAt(places.map(sayPlace)),
        changes: places.flatMap((note) => coachChanges(marking, note.id, 'slur', 'split')),
      },
    ];
  });
}

/** The long and the short stroke of an uneven pair, wherever its figure comes. */
function pairsOf(at: number, { strokes, hairCm }: Tryable): Array<[long: Stroke, short: Stroke]> {
  const [long, short] = [strokes[at - 1]!, strokes[at]!];
  const drift = driftsOf(strokes, hairCm).find((each) => at >= each.at && at < each.at + each.strokes * each.times);
  const [from, to] = drift ? [drift.at, drift.at + drift.strokes * drift.times] : [at - 1, at + 1];
  const like = (a: Stroke, b: Stroke) => Math.abs(a.seconds - b.seconds) < 0.05 * b.seconds;
  const pairs: Array<[Stroke, Stroke]> = [];
  for (let k = Math.max(1, from + 1); k < to; k++) {
    const [a, b] = [strokes[k - 1]!, strokes[k]!];
    if (like(a, long) && like(b, short)) pairs.push([a, b]);
  }
  return pairs.length ? pairs : [[long, short]];
}

function fairBows(finding: Finding, around: Tryable): ToTry[] {
  const at = strokeOf(around, finding.noteIds[0]!);
  if (at < 1) return [];
  const { marking } = around;
  const pairs = pairsOf(at, around);
  const [long, short] = pairs[0]!;
  const { fairCm, littleCm } = unevenPair(long.seconds, short.seconds, long.preferredCm, short.preferredCm);
  const amounts = [...new Set([fairCm, littleCm].map((cm) => Math.max(1, Math.round(cm))))].map((cm): ToTry => ({
    kind: 'bowing',
    text: say.lessOnLong(cm, pairs.length),
    changes: pairs.flatMap(([each]) => coachChanges(marking, each.noteIds[0]!, 'bow-amount', `${cm} cm`)),
  }));
  if (pairs.length === 1) return [...amounts, ...lifted(finding, around)];
  const hooked: ToTry = {
    kind: 'bowing',
    text: say.hookThem(pairs.length),
    changes: pairs.flatMap(([, each]) => coachChanges(marking, each.noteIds[0]!, 'hook', 'yes')),
  };
  return [...amounts, hooked];
}

/** Strokes of a quick row that are slurred at most. */
const LONGEST_ROW = 32;

function twoAndTwo(finding: Finding, around: Tryable): ToTry[] {
  const { strokes, marking } = around;
  const at = strokeOf(around, finding.noteIds[0]!);
  const first = strokes[at];
  if (!first) return [];
  let end = at;
  while (end < strokes.length && end - at < LONGEST_ROW && strokes[end]!.events === 1 && Math.abs(strokes[end]!.seconds - first.seconds) < first.seconds * 0.1)
    end++;
  const joined = strokes.slice(at, end).filter((_, k) => k % 2 === 1);
  return [
    {
      kind: 'bowing',
      text: say.twoAndTwo(joined.length),
      changes: joined.flatMap(({ noteIds }) => coachChanges(marking, noteIds[0]!, 'slur', 'join')),
    },
  ];
}

/** Too little sound: more bow, or a softer level. */
function otherBowOrLevel(finding: FindingOf<'level out of reach'>, { part, marking, hairCm }: Tryable): ToTry[] {
  const note = noteById(part, finding.noteIds[0]!)!;
  const { level, missingDb } = finding.numbers;
  const other = DYNAMIC_LEVELS[DYNAMIC_LEVELS.indexOf(level as DynamicLevel) - 1];
  const cm = Math.round(finding.numbers.cm * 10 ** (-missingDb / 20));
  const place = placeTarget(note.barIndex, note.onset - part.bars[note.barIndex]!.onset);
  const bow: ToTry = {
    kind: 'bowing',
    text: say.moreBowMarked(cm),
    changes: coachChanges(marking, note.id, 'bow-amount', `${cm} cm`),
  };
  const said = (name: string): ToTry => ({
    kind: 'edit',
    text: say.softerLevel(name),
    changes: coachChanges(marking, place, 'dynamic', name),
  });
  return [...(cm >= 1 && cm <= hairCm ? [bow] : []), ...(other ? [said(other)] : [])];
}

/** The slur ends before the leap. */
function parted(finding: FindingOf<'string leap in a slur'>, { part, marking, sayPlace }: Tryable): ToTry[] {
  const note = noteById(part, finding.noteIds[0]!)!;
  return [{ kind: 'bowing', text: say.newBowAt([sayPlace(note)]), changes: coachChanges(marking, note.id, 'slur', 'split') }];
}

function lifted(finding: Finding, { marking }: Tryable): ToTry[] {
  return [{ kind: 'bowing', text: say.LIFT, changes: coachChanges(marking, finding.noteIds[0]!, 'retake', 'yes') }];
}

/** Wishes that reach a note: at itself, its bar, or a run of bars. */
function withoutWish(finding: Finding, { marking }: Tryable): ToTry[] {
  const reaches = (text: string): boolean => {
    const target = targetOf(text);
    if (target.on === 'note') return finding.noteIds.includes(text);
    if (target.on === 'bars') return target.fromBar <= finding.barIndex && target.toBar >= finding.barIndex;
    return target.on === 'bar' && barOfTarget(text) === finding.barIndex;
  };
  return Object.keys(marking).flatMap((key): ToTry[] => {
    const { target, kind } = splitKey(key);
    if (!kind.startsWith('bow-') || marking[key]!.off || !reaches(target)) return [];
    return [{ kind: 'marks', text: say.withoutWish(marking[key]!.value), changes: coachChanges(marking, target, kind, null) }];
  });
}

/** Taking away one of the marks that clash: those at the note and where the stroke before begins. */
function withoutOneMark(finding: Finding, around: Tryable): ToTry[] {
  const { part, marking, strokes, sayPlace } = around;
  const at = strokeOf(around, finding.noteIds[0]!);
  const ids = [...finding.noteIds, ...(at > 0 ? [strokes[at - 1]!.noteIds[0]!] : [])];
  const kinds = ['finger', 'string', 'bow', 'hook', 'retake', 'slur'] as const;
  return ids.flatMap((id) => {
    const note = noteById(part, id)!;
    return kinds.flatMap((kind): ToTry[] => {
      const marked = markAt(marking, id, kind);
      const printed = kind === 'finger' || kind === 'string' || kind === 'bow' ? note.printed[kind] : null;
      if (!marked && printed === null) return [];
      const changes = coachChanges(marking, id, kind, printed === null ? null : STRUCK);
      return [
        {
          kind: 'marks',
          text: say.without(
            kind === 'bow' ? 'bow direction' : kind,
            kind === 'hook' || kind === 'retake' ? null : String(marked?.value ?? printed),
            sayPlace(note),
          ),
          changes,
        },
      ];
    });
  });
}

function moved(finding: FindingOf<'unplayable'>, { part, marking }: Tryable): ToTry[] {
  const notes = finding.noteIds.map((id) => noteById(part, id)!);
  const { reason } = finding.numbers;
  if (reason === 'no hand can hold it') {
    const bar = part.bars[notes[0]!.barIndex]!;
    return [
      {
        kind: 'edit',
        text: say.DIVIDED,
        changes: coachChanges(marking, placeTarget(bar.index, notes[0]!.onset - bar.onset), 'divisi', 'divided'),
      },
    ];
  }
  const by = reason === 'below the lowest string' ? 1 : -1;
  return [
    {
      kind: 'edit',
      text: say.octave(by > 0),
      changes: notes.flatMap((note) => coachChanges(marking, note.id, 'pitch', pitchName({ ...note.written, octave: note.written.octave + by }))),
    },
  ];
}

function phraseOrBow(finding: Finding, { marking }: Tryable): ToTry[] {
  return (['phrase', 'bow'] as const).map((value) => ({
    kind: 'marks',
    text: say.phraseOrBow(value),
    changes: coachChanges(marking, finding.noteIds[0]!, 'slur-is', value),
  }));
}

/** Changes that change what is printed: the part has to be made anew for them. */
export const isEdit = (changes: readonly Change[]): boolean => changes.some(({ kind }) => isEditKind(kind));
