/** The demo scores as text, for tests that need real music. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { frozen } from '../../core/util/freeze';
import { readMusicXml, type ReadScore } from '../../core/formats/musicxml/read';

export const DEMO_NAMES = ['mill-race-serenade', 'staircase', 'evening-barge', 'the-heron', 'low-tide'] as const;

export const demoText = (name: string): string => readFileSync(path.join(process.cwd(), 'demo', 'scores', `${name}.musicxml`), 'utf8');

const read = new Map<string, ReadScore>();

/** Read once: scores are never changed. */
export function demoScore(name: string): ReadScore {
  const known = read.get(name);
  if (known) return known;
  const score = readMusicXml(demoText(name));
  if (!score.ok) throw new Error(score.problem.what);
  const { score: value, ...document } = score.value;
  const kept = { ...document, score: frozen(value) };
  read.set(name, kept);
  return kept;
}
