/** A second edition of a demo score, as another publisher would print it: some notes, signs, fingers and one bar differ. */
import { demoScore } from './demo';
import { readMusicXml } from '../../core/formats/musicxml/read';
import { writeMarked } from '../../core/formats/musicxml/write';
import { markKey, type Mark } from '../../core/marking/mark';
import type { MarkKind } from '../../core/marking/kinds';
import { placeTarget } from '../../core/marking/target';

/** The text of the edition; `without` leaves one bar out, by its printed number. */
export function secondEdition(name: string, title: string, without: string | null): string {
  const { document, score } = demoScore(name);
  const part = score.parts[0]!;
  const marking: Record<string, Mark> = {};
  const set = (target: string, kind: MarkKind, value: string) => (marking[markKey(target, kind)] = { value, origin: 'coach' });
  const note = (i: number) => part.notes[i]!;
  set(note(4).id, 'pitch', 'F4');
  set(note(6).id, 'articulation:accent', 'yes');
  set(placeTarget(note(8).barIndex, note(8).tick), 'dynamic', 'ff');
  set(note(10).id, 'bow', 'up');
  set(note(12).id, 'finger', '4');
  set(note(14).id, 'slur', 'join');
  const text = writeMarked(document, part, marking);
  const titled = text.replace(/<work-title>[^<]*</, `<work-title>${title}<`);
  return without === null ? titled : titled.replace(new RegExp(`<measure number="${without}"[\\s\\S]*?</measure>\\s*`), '');
}

/** Its notes, for comparing with what is exported. */
export function notesOf(text: string) {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(read.problem.what);
  return read.value.score.parts[0]!.notes;
}
