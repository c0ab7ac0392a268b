/** How often properties are tried: a quarter as often in `bin/test`, with one seed; as often as they say, with any, in `npm run test:long`. */
const LONG = Boolean(process.env.OMAGGIO_LONG);

export const runs = (often: number): number => (LONG ? often : Math.min(often, Math.max(5, Math.ceil(often / 4))));
