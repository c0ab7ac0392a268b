/** Marks that a command is given: what they correct, and what is planned around. */
import { readMarksFile } from '../core/formats/marks-file';
import { corrected } from '../core/formats/musicxml/corrected';
import type { MusicXmlDocument, ReadScore } from '../core/formats/musicxml/read';
import type { Marking } from '../core/marking/mark';
import { resolutionBefore } from '../core/marking/versions';
import type { Part } from '../core/score/score';
import { bad, good, type Result } from '../core/util/result';

/** The part with the notes and clefs that the marks correct, in its document. */
export function withCorrections(read: ReadScore, part: Part, marksText: string | null): Result<{ part: Part; document: MusicXmlDocument }> {
  const marks = marksText === null ? null : readMarksFile(marksText, part, resolutionBefore(read.document.text));
  if (marks && !marks.ok) return marks;
  const now = corrected(read, { [part.id]: marks?.value.marking ?? {} });
  const [lost] = now.unplaced[part.id] ?? [];
  if (lost !== undefined) return bad('marks file', `${part.name} cannot be corrected as "${lost}" says.`, 'Say notes that fill the bar, as in A4/4 B4/4 C5/2.');
  return good({ part: now.read.score.parts.find(({ id }) => id === part.id)!, document: now.read.document });
}

/** Marks to plan around; one that has no place in the part is a mistake here. */
export function readMarks(text: string | null, part: Part, document: string): Result<Marking> {
  if (text === null) return good({});
  const read = readMarksFile(text, part, resolutionBefore(document));
  if (!read.ok) return read;
  const [lost] = read.value.lost;
  if (lost)
    return bad(
      `marks file, mark ${lost.index + 1}`,
      `${part.name} has no note "${lost.at}".`,
      'Say a note of this part, by its id or as bar and beat, such as 47/3.',
    );
  return good(read.value.marking);
}
