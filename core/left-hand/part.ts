/** Fingerings for all lines of a part: alternatives for one, the best for notes that only other lines have. */
import { linesOf, type Line } from '../instruments/lines';
import { newFingeringMemory, planFingering, type FingeringMemory, type FingeringRequest, type FingeringResult } from './fingering';

export function fingerPart(request: Omit<FingeringRequest, 'line'>, mainLine = 0, memories: FingeringMemory[] = []): FingeringResult {
  const lines = linesOf(request.part);
  const main = lines[mainLine] ?? lines[0];
  const others = lines.filter((line) => line !== main);
  const memoryOf = (line: Line) => (memories[lines.indexOf(line)] ??= newFingeringMemory());
  const result = planFingering({ ...request, line: main! }, memoryOf(main!));
  const seen = new Set(main!.events.flatMap((event) => event.ids));
  for (const line of others) {
    const more = planFingering({ ...request, line, alternatives: 1 }, memoryOf(line));
    const own = more.alternatives[0]?.notes.filter((note) => !seen.has(note.id)) ?? [];
    result.unplayable.push(...more.unplayable.filter(({ event }) => !event.ids.every((id) => seen.has(id))));
    if (result.alternatives.length === 0 && more.alternatives[0]) result.alternatives = [{ ...more.alternatives[0], notes: [] }];
    result.alternatives = result.alternatives.map((way) => ({ ...way, notes: [...way.notes, ...own] }));
    for (const event of line.events) event.ids.forEach((id) => seen.add(id));
  }
  return result;
}
