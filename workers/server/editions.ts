/** What the server does with two editions of a part, off its main thread. */
import { align } from '../../core/editions/align';
import { reanchor, reanchorRanges } from '../../core/editions/anchor';
import { differences, type Difference } from '../../core/editions/differences';
import { correctedPart } from '../../core/formats/musicxml/corrected';
import { partDocument } from '../../core/formats/musicxml/part-document';
import { readScoreBytes } from '../../core/formats/read';
import type { Change } from '../../core/marking/change';
import type { Marking } from '../../core/marking/mark';
import { noteById } from '../../core/score/find';
import { midiOf } from '../../core/score/pitch';
import { automaticPassages, type Passage } from '../../core/score/passages';
import type { Part } from '../../core/score/score';
import { bad, good, type Result } from '../../core/util/result';
import { partFrom } from './parts';

export interface LikestPart {
  filePartId: string;
  name: string;
  music: string;
}

/** Share of notes that must find one of the same pitch before two parts count as editions of one. */
const LEAST_LIKENESS = 0.2;

/** The part of a file that has the most notes in common with ours. */
export function likestPart({ music, bytes }: { music: string; bytes: Uint8Array }): Result<LikestPart> {
  const read = readScoreBytes(bytes);
  if (!read.ok) return read;
  const { score, document } = read.value;
  const ours = partFrom(music).part;
  let best: { id: string; name: string; share: number } | null = null;
  for (const part of candidates(score.parts, ours)) {
    const same = [...align(ours, part).notes].filter(([a, b]) => midiOf(noteById(ours, a)!.pitch) === midiOf(noteById(part, b)!.pitch)).length;
    const share = same / Math.max(ours.notes.length, part.notes.length, 1);
    if (!best || share > best.share) best = { id: part.id, name: part.name, share };
  }
  if (!best || best.share < LEAST_LIKENESS) {
    return bad(
      score.parts.map((part) => part.name).join(', '),
      `No part in the file is like ${ours.name}: it is other music.`,
      'Choose another edition of the same part, or put the file on the shelf as a piece of its own.',
    );
  }
  return good({ filePartId: best.id, name: best.name, music: partDocument(document, best.id, score.timeLine) });
}

/** Parts worth a closer look: of our instrument first, then of a like length; a full score has many. */
const MOST_CANDIDATES = 8;

function candidates(parts: readonly Part[], ours: Part): Part[] {
  const unlike = (part: Part) => (part.instrument === ours.instrument ? 0 : 1e6) + Math.abs(part.notes.length - ours.notes.length);
  return parts
    .filter((part) => part.notes.length > 0)
    .sort((a, b) => unlike(a) - unlike(b))
    .slice(0, MOST_CANDIDATES);
}

export function compareEditions({ ours, theirs, marking }: { ours: string; theirs: string; marking: Marking }): {
  differences: Difference[];
  bars: { ours: number; theirs: number };
} {
  const [a, b] = [correctedPart(partFrom(ours).read, marking), partFrom(theirs).part];
  return { differences: differences(a, marking, b), bars: { ours: a.bars.length, theirs: b.bars.length } };
}

export interface CarriedOver {
  markings: Array<{ changes: Change[]; lost: number }>;
  passages: Passage[];
  bars: number;
  notes: number;
  barLabels: string[];
}

/** Marks and passages of one edition on another. */
export function carryOver(input: { before: string; after: string; markings: readonly Marking[]; passages: readonly Passage[] }): CarriedOver {
  const [before, after] = [partFrom(input.before).part, partFrom(input.after).part];
  const passages = reanchorRanges(input.passages, before, after);
  return {
    markings: input.markings.map((marking) => {
      const { changes, lost } = reanchor(marking, correctedPart(partFrom(input.before).read, marking), after);
      return { changes, lost };
    }),
    passages: passages.length ? passages : automaticPassages(after),
    bars: after.bars.length,
    notes: after.notes.filter((note) => !note.cue).length,
    barLabels: after.bars.map((bar) => bar.label),
  };
}
