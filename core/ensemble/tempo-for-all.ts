/** At which tempo everybody can play it: the intersection of what the check of each part says. */

/** What a part can do with its marks; quarters per minute. */
export interface PartTempo {
  name: string;
  /** Null where there is no limit. */
  floor: number | null;
  ceiling: number | null;
  /** A note of it cannot be played at any tempo. */
  none: boolean;
}

export interface TempoForAll {
  floor: number | null;
  ceiling: number | null;
  /** Who decides each end. */
  floorBy: string | null;
  ceilingBy: string | null;
  /** Parts that no tempo suits. */
  never: string[];
  /** Floor over ceiling, or a part that no tempo suits. */
  none: boolean;
  text: string;
}

export function tempoForAll(parts: readonly PartTempo[]): TempoForAll {
  const never = parts.filter(({ none }) => none).map(({ name }) => name);
  const able = parts.filter(({ none }) => !none);
  const slowest = able.reduce<PartTempo | null>((most, part) => (part.floor !== null && (most === null || part.floor > most.floor!) ? part : most), null);
  const quickest = able.reduce<PartTempo | null>(
    (least, part) => (part.ceiling !== null && (least === null || part.ceiling < least.ceiling!) ? part : least),
    null,
  );
  const [floor, ceiling] = [slowest?.floor ?? null, quickest?.ceiling ?? null];
  const crossed = floor !== null && ceiling !== null && floor > ceiling;
  const ends = { floor, ceiling, floorBy: slowest?.name ?? null, ceilingBy: quickest?.name ?? null, never, none: crossed || never.length > 0 };
  return { ...ends, text: inWords(ends, crossed) };
}

/** The same with more people: what all of them can play together. */
export function withMore(all: TempoForAll, more: readonly PartTempo[]): TempoForAll {
  const { floor, ceiling, floorBy, ceilingBy, never } = all;
  return tempoForAll([
    ...(floorBy === null ? [] : [{ name: floorBy, floor, ceiling: null, none: false }]),
    ...(ceilingBy === null ? [] : [{ name: ceilingBy, floor: null, ceiling, none: false }]),
    ...never.map((name) => ({ name, floor: null, ceiling: null, none: true })),
    ...more,
  ]);
}

const listed = (names: readonly string[]): string => (names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`);
const whole = (tempo: number, up: boolean): number => (up ? Math.ceil(tempo) : Math.floor(tempo));

function inWords({ floor, ceiling, floorBy, ceilingBy, never }: Omit<TempoForAll, 'text' | 'none'>, crossed: boolean): string {
  if (never.length) return `No common tempo: ${listed(never)} cannot play it at any.`;
  if (crossed) return `No common tempo: ${floorBy} needs ${whole(floor!, true)}, ${ceilingBy} stops at ${whole(ceiling!, false)}.`;
  const from = floor === null ? '' : `from ${whole(floor, true)} on (${floorBy})`;
  const to = ceiling === null ? '' : `up to ${whole(ceiling, false)} (${ceilingBy})`;
  return from || to ? `All together ${[from, to].filter(Boolean).join(', ')}.` : 'At any tempo.';
}
