/** The demo scores as text, for tests that need real music. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { readMusicXml, type ReadScore } from '../../core/formats/musicxml/read';

export const DEMO_NAMES = ['mill-race-serenade', 'staircase', 'evening-barge', 'the-heron', 'low-tide'] as const;

export const demoText = (name: string): string => readFileSync(path.join(process.cwd(), 'demo', 'scores', `${name}.musicxml`), 'utf8');

export function demoScore(name: string): ReadScore {
  const read = readMusicXml(demoText(name));
  if (!read.ok) throw new Error(read.problem.what);
  return read.value;
}
