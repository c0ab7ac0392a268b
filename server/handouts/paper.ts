/** Hand-outs on paper. */
import { forPlayer } from '../../core/handout/frozen';
import type { Sheet } from '../../workers/server/paper';
import type { PaperName } from '../../workers/server/pdf';
import type { Access } from '../access';
import { db, type OfStudio } from '../db';
import { inWorker, type Asker } from '../workers';
import { frozenFrom, frozenTexts } from './frozen';
import { handoutColumns, latestOf, type HandoutRow } from './hand-out';
import { changedFor, readAs, sheetOf, type StandSheet } from './on-the-stand';

/** Height of a staff of a part on paper, in mm (common practice: 6.5 to 7.5). */
const STAFF_MM = 6.8;

const label = ({ number, madeAt }: Pick<HandoutRow, 'number' | 'madeAt'>): string =>
  `Hand-out ${number}, ${new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' }).format(madeAt)}`;

async function sheetFrom(
  access: OfStudio,
  { given, frozen, earlier }: Omit<StandSheet, 'given'> & { given: Pick<HandoutRow, 'number' | 'madeAt' | 'word'> },
  asker: Asker,
): Promise<Sheet> {
  const [read, bars] = await Promise.all([readAs(access, frozen), earlier ? changedFor(access, earlier.frozen, frozen, asker) : []]);
  const { title, composer, part } = frozen;
  return { ...read, title, composer, part, label: label(given), word: given.word, changes: earlier ? { since: earlier.number, bars } : null };
}

export interface Printed {
  fileName: string;
  bytes: Uint8Array;
}

/** What one player has of a part; null where nothing was handed out to them. */
export async function printedFor(access: OfStudio, partId: string, playerId: string, paper: PaperName, asker: Asker): Promise<Printed | null> {
  const sheet = await sheetOf(access, partId, playerId);
  if (!sheet) return null;
  const { title, part } = sheet.frozen;
  const bytes = await inWorker('printParts', { sheets: [await sheetFrom(access, sheet, asker)], paper, staffMm: STAFF_MM }, asker);
  return { fileName: `${title}, ${part}, Hand-out ${sheet.given.number}.pdf`, bytes };
}

/** What changed for one player, as strips to paste in; null where nothing did. */
export async function stripsFor(access: OfStudio, partId: string, playerId: string, paper: PaperName, asker: Asker): Promise<Printed | null> {
  const sheet = await sheetOf(access, partId, playerId);
  if (!sheet?.earlier) return null;
  const { title, part } = sheet.frozen;
  const bytes = await inWorker('printStrips', { sheet: await sheetFrom(access, sheet, asker), paper, staffMm: STAFF_MM }, asker);
  return { fileName: `${title}, ${part}, what changed in Hand-out ${sheet.given.number}.pdf`, bytes };
}

/** The latest hand-out of a part as everybody reads it; null where it is not out. */
export async function printedPart(access: Access, partId: string, paper: PaperName, asker: Asker): Promise<Printed | null> {
  const last = (await latestOf(access, [partId])).get(partId);
  if (!last) return null;
  const sheet = await sheetFrom(access, await forEverybody(access, last), asker);
  return {
    fileName: `${sheet.title}, ${sheet.part}, Hand-out ${last.number}.pdf`,
    bytes: await inWorker('printParts', { sheets: [sheet], paper, staffMm: STAFF_MM }, asker),
  };
}

/** One hand-out as everybody reads it. */
export async function printedHandout(access: OfStudio, handoutId: string, paper: PaperName, asker: Asker): Promise<Uint8Array> {
  const { rows } = await db(access).query<HandoutRow>(`SELECT ${handoutColumns()} FROM handouts WHERE studio_id = $1 AND id = $2`, [access.studio, handoutId]);
  const sheet = await sheetFrom(access, await forEverybody(access, rows[0]!), asker);
  return inWorker('printParts', { sheets: [sheet], paper, staffMm: STAFF_MM }, asker);
}

async function forEverybody(access: OfStudio, given: HandoutRow) {
  const { rows } = await db(access).query<HandoutRow>(
    `SELECT ${handoutColumns()} FROM handouts WHERE studio_id = $1 AND part_id = $2 AND number < $3 ORDER BY number DESC LIMIT 1`,
    [access.studio, given.partId, given.number],
  );
  const [before] = rows;
  const texts = await frozenTexts(access, [given.state, ...(before ? [before.state] : [])]);
  const read = ({ state }: HandoutRow) => forPlayer(frozenFrom(texts.get(state)!, []), '');
  return { given, frozen: read(given), earlier: before ? { number: before.number, frozen: read(before) } : null };
}
