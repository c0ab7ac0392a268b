/** What a page of a part costs to play from. Values are judgement unless a source is named; not editable by the user. */
export const PAGING = {
  /** Seconds in which a sheet is turned and the bow is back on the string. */
  turnS: 1.5,
  /** A turn without any rest. */
  hurried: 10,
  /** What comes first after the turn can be found while it sounds for so long, in seconds; a shorter note costs up to `eyes`. */
  eyesS: 1,
  eyes: 1,
  /** A page of which nothing is used. */
  empty: 2,
  /** The last page, where less than this share of it is used. */
  scantBelow: 0.25,
  scant: 0.5,
  /** Each page. */
  page: 0.3,
} as const;
