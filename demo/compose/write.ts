/** Writes the demo scores: npm run demo. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { toMusicXml } from './musicxml';
import { SERENADE } from './serenade';
import { EVENING_BARGE, HERON, LOW_TIDE, STAIRCASE } from './studies';

const DEMO_FILES = {
  'mill-race-serenade': SERENADE,
  staircase: STAIRCASE,
  'evening-barge': EVENING_BARGE,
  'the-heron': HERON,
  'low-tide': LOW_TIDE,
} as const;

const folder = new URL('../scores/', import.meta.url);
mkdirSync(folder, { recursive: true });
for (const [name, piece] of Object.entries(DEMO_FILES)) writeFileSync(new URL(`${name}.musicxml`, folder), toMusicXml(piece));
