/**
 * How much of everything is taken: one table for fields, core, requests and files. Lengths of texts are in UTF-16 units, as
 * fields and strings count them. Values are judgement: far above what a person writes, far below what makes a page or a file
 * unusable. Not editable by the user.
 */
export const LIMITS = {
  /** The coach's word with a hand-out, and a player's answer. */
  handoutWord: 3_000,
  /** What one player says about one hand-out. */
  answers: 300,
  /** What one player pencils into one part, and words of it. */
  pencil: 2_000,
  pencilWords: 60,
  /** Words for the player at a note, a bar or a passage. */
  note: 600,
  /** Words, tempo and pitch that an edit prints. */
  printedWords: 300,
  /** A sign over a note. */
  sign: 24,
  /** The notes of one bar, typed. */
  barText: 1_200,
  /** Why something was changed. */
  why: 300,
  /** Why a finding is accepted. */
  acceptedWhy: 600,
  /** What was done, in the history; longer ones are shortened. */
  reason: 300,
  /** Names of passages and players. */
  name: 80,
  /** Titles, composers, names of parts and editions as they come out of a file; longer ones are shortened. */
  title: 240,
  fileName: 200,
  /** Printed number of a bar. */
  barLabel: 24,
  /** Where a mark stands: the id of a note, a place, a run of bars. */
  target: 200,
  /** Changes that are taken back together. */
  changesInSet: 20_000,
  /** Change sets in one request. */
  setsInRequest: 100,
  /** Parts of one piece that are renamed together. */
  partsNamed: 200,
  passages: 500,
  /** Players who sit in the section of one part. */
  seats: 60,
  accepted: 2_000,
  /** Warnings that are kept of one file. */
  warnings: 500,
  /** Body of a request that is no file. */
  requestBytes: 8 * 1024 * 1024,
  /** A file, packed or plain. */
  fileBytes: 32 * 1024 * 1024,
  /** A file in ABC, and a passage that is typed and engraved while it is typed, in UTF-16 units. */
  abc: 200_000,
  typed: 20_000,
  /** Sheets that lie beside one typed passage. */
  papers: 24,
  /** Bars that are engraved in one picture. */
  barsEngraved: 48,
} as const;
