/** Freezing: what the players of a part would get now, and what they got. Each content is kept once. */
import { toldOf, type Told } from '../../core/instruments/as-told';
import { frozenOf, type Frozen, type SaidAlone } from '../../core/handout/frozen';
import { RECORD_VERSION } from '../../core/marking/versions';
import type { InstrumentKind } from '../../core/score/score';
import type { Access } from '../access';
import { db, type OfStudio, type Queryable } from '../db';
import { markingOfPart } from '../markings';
import { musicOf, partById, partSettings } from '../parts';
import { digestOf } from '../sources';
import { variantsOf } from '../variants';

const utf8 = new TextEncoder();
const sha256 = (text: string): string => digestOf(utf8.encode(text));

export interface FrozenNow {
  frozen: Frozen;
  music: string;
  instrument: InstrumentKind | null;
  /** Who would get it: those who sit in the part, and the player of its Desk. */
  usual: string[];
}

/** As the part stands; null where it is not there. */
export async function frozenNow(access: Access, partId: string): Promise<FrozenNow | null> {
  const part = await partById(access, partId);
  if (!part) return null;
  const [music, settings, marking, variants] = await Promise.all([
    musicOf(access, partId),
    partSettings(access, partId),
    markingOfPart(access, partId),
    variantsOf(access, partId),
  ]);
  if (!music) return null;
  const frozen = frozenOf({
    title: part.title,
    composer: part.composer,
    part: part.name,
    music: sha256(music.text),
    marking: marking.marking,
    variants: Object.fromEntries(variants.map((each) => [each.playerId, each.marking])),
    lines: settings.divisi,
    tempo: settings.tempo,
    told: toldOf(settings),
  });
  const usual = [...new Set([...settings.seats, ...(settings.playerId ? [settings.playerId] : [])])];
  return { frozen, music: music.text, instrument: settings.instrument ?? part.instrument, usual };
}

/** Of a frozen state what everybody gets, as it is kept. */
type Kept = Omit<Frozen, 'own' | 'lines'> & {
  /** How its notes are named (`core/marking/versions.ts`). */
  version: number;
};

/** Keeps a state and its music. @returns their names */
export async function keepFrozen(
  client: Queryable,
  { studio }: OfStudio,
  { own: _, lines: __, ...everybody }: Frozen,
  music: string,
): Promise<{ state: string; music: string }> {
  const text = JSON.stringify({ version: RECORD_VERSION, ...everybody } satisfies Kept);
  const kept = [text, music].map((each) => ({ sha256: sha256(each), text: each }));
  for (const each of kept)
    await client.query('INSERT INTO frozen (studio_id, sha256, text) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', [studio, each.sha256, each.text]);
  return { state: kept[0]!.sha256, music: kept[1]!.sha256 };
}

export interface GivenTo {
  playerId: string;
  own: SaidAlone;
  line: number | null;
}

/** The state of a hand-out with what was given to these players. */
export function frozenFrom(state: string, players: readonly GivenTo[]): Frozen {
  const { version: _, told, ...everybody } = JSON.parse(state) as Kept;
  return {
    ...everybody,
    told: toldOf(told satisfies Told),
    own: Object.fromEntries(players.filter(({ own }) => Object.keys(own).length > 0).map(({ playerId, own }) => [playerId, own])),
    lines: Object.fromEntries(players.flatMap(({ playerId, line }) => (line === null ? [] : [[playerId, line]]))),
  };
}

/** The same for some players only. */
export function forPlayersOnly(frozen: Frozen, players: readonly string[]): Frozen {
  const ofThem = <T>(record: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(record).filter(([id]) => players.includes(id)));
  return { ...frozen, own: ofThem(frozen.own), lines: ofThem(frozen.lines) };
}

export async function frozenTexts(access: OfStudio, names: readonly string[]): Promise<Map<string, string>> {
  const { rows } = await db(access).query<{ sha256: string; text: string }>('SELECT sha256, text FROM frozen WHERE studio_id = $1 AND sha256 = ANY($2)', [
    access.studio,
    names,
  ]);
  return new Map(rows.map((row) => [row.sha256, row.text]));
}

/** Contents that no hand-out needs any more. */
export async function dropUnusedFrozen(client: Queryable, { studio }: OfStudio): Promise<void> {
  await client.query(
    `DELETE FROM frozen WHERE studio_id = $1 AND NOT EXISTS (SELECT 1 FROM handouts WHERE handouts.studio_id = $1 AND (state = sha256 OR music = sha256))`,
    [studio],
  );
}
