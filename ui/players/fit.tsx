'use client';

import { beatsPerMinute, signOf, upTo } from '@/ui/kit/tempo';
import { Button } from '@/ui/kit/button';
import Link from 'next/link';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { z } from 'zod';
import { toldOf } from '@/core/instruments/as-told';
import { linesOf } from '@/core/instruments/lines';
import type { FitCell, FitRow, ForPlayer, SpotCounts } from '@/core/checks/fit';
import { feltUnitOf, QUARTER, type BeatUnit } from '@/core/score/beat-unit';
import { firstTempo } from '@/core/score/time';
import { sectionFit } from '@/core/rehearsal/section-fit';
import type { InstrumentKind } from '@/core/score/score';
import type { Passage } from '@/core/score/passages';
import { applyChanges } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import { variantChanges, withVariant } from '@/core/marking/variant';
import { useAnalyst } from '@/ui/part/use-analyst';
import { useConditions } from '@/ui/part/use-part';
import { usePartSettings } from '@/ui/part/use-part-settings';
import { ProblemNote, sendJson } from '@/ui/kit/problem';
import type { DeskSettings } from '@/ui/part/part-data';
import type { Conditions } from '@/workers/questions';
import { Said, useTerms } from '@/ui/kit/terms';
import type { KnownPlayer } from './players';
import { Seating } from './seating';
import { LeavingOut, SectionRow } from './section';

export interface FitPart {
  id: string;
  title: string;
  name: string;
  instrument: InstrumentKind;
  musicVersion: string;
  /** For everybody, and what differs for some. */
  marking: Marking;
  variants: Array<{ playerId: string; markingId: string; marking: Marking }>;
  passages: Passage[];
  settings: DeskSettings;
}

const NOTHING = () => undefined;
const NO_ROWS: ReadonlyMap<string, FitRow | null> = new Map();
const MARKS = ['', '◆', '◆◆', '◆◆◆'];

/** Each player's row, worked out one after the other, and what would have to change for whom. */
function useFit(part: FitPart, players: readonly KnownPlayer[], divisi: Readonly<Record<string, number>>) {
  const { analyst, open, failed } = useAnalyst(part.id, part.musicVersion, NOTHING);
  const told = useMemo(() => toldOf(part.settings), [part.settings]);
  const conditions = useConditions(part.marking, null, { ...part.settings, told });
  const [variants, setVariants] = useState(part.variants);
  const [kept, setKept] = useState<{ playerId: string; ok: boolean } | null>(null);
  const [known, setKnown] = useState<{ of: object; rows: ReadonlyMap<string, FitRow | null> } | null>(null);
  const [changes, setChanges] = useState<ReadonlyMap<string, ForPlayer | 'working' | null>>(new Map());
  const forPlayer = useCallback(
    (player: KnownPlayer): Conditions => {
      const own = variants.find(({ playerId }) => playerId === player.id);
      return own ? { ...conditions, marking: withVariant(part.marking, own.marking) } : conditions;
    },
    [conditions, part.marking, variants],
  );
  // With other marks, lines or people nothing of what was known holds.
  const asked = useMemo(() => ({ divisi, forPlayer, passages: part.passages, players }), [divisi, forPlayer, part.passages, players]);
  const rows = known?.of === asked ? known.rows : NO_ROWS;
  useEffect(() => {
    if (!analyst) return;
    let gone = false;
    void (async () => {
      for (const player of asked.players) {
        // A player that cannot be worked out has a row that says so; the others go on.
        const row = await analyst.fit(asked.forPlayer(player), asked.passages, player, asked.divisi[player.id] ?? null).catch(() => null);
        if (gone) return;
        setKnown((before) => ({ of: asked, rows: new Map(before?.of === asked ? before.rows : NO_ROWS).set(player.id, row) }));
      }
    })();
    return () => {
      gone = true;
    };
  }, [analyst, asked]);

  async function ask(player: KnownPlayer) {
    if (!analyst) return;
    setChanges((before) => new Map(before).set(player.id, 'working'));
    const found = await analyst.changesFor(forPlayer(player), player).catch(() => null);
    setChanges((before) => new Map(before).set(player.id, found));
  }
  async function keep(player: KnownPlayer, found: ForPlayer) {
    const variant = await storeForPlayer(part, player, found);
    if (variant) {
      setVariants((before) => [...before.filter(({ playerId }) => playerId !== player.id), variant]);
      setChanges((before) => new Map([...before].filter(([id]) => id !== player.id)));
    }
    setKept({ playerId: player.id, ok: variant !== null });
  }
  const wanted = part.settings.tempo ?? (open ? firstTempo(open.part).quartersPerMinute : null);
  const unit = open ? feltUnitOf(open.part) : QUARTER;
  const ownMarks = (id: string) => Object.keys(variants.find(({ playerId }) => playerId === id)?.marking ?? {}).length;
  const lines = open ? linesOf(open.part).length : 1;
  return { failed, ready: analyst !== null, lines, wanted, unit, rows, changes, kept, ownMarks, ask, keep };
}

const variantShape = z.object({ markingId: z.string(), marking: z.custom<Marking>((value) => typeof value === 'object' && value !== null) });

/** What helps this player becomes the player's own marks; everybody else keeps theirs. Null where it could not be stored. */
async function storeForPlayer(part: FitPart, player: KnownPlayer, found: ForPlayer): Promise<FitPart['variants'][number] | null> {
  const opened = await sendJson('PUT', `/api/parts/${part.id}/variants/${player.id}`, {});
  const read = opened?.ok ? variantShape.safeParse(await opened.json().catch(() => null)) : null;
  if (!read?.success) return null;
  const { markingId, marking } = read.data;
  const changed = variantChanges(part.marking, marking, found.changes);
  const set = { id: crypto.randomUUID(), at: new Date().toISOString(), reason: `${player.name}: what helps, from Fit`, changes: changed, undoes: null };
  const stored = changed.length ? await sendJson('POST', `/api/markings/${markingId}/changes`, [set]) : opened;
  return stored?.ok ? { playerId: player.id, markingId, marking: applyChanges(marking, changed).marking } : null;
}

/** Players down, passages across: up to which tempo it works, and the worst spot. */
export function Fit({ part, players }: { part: FitPart; players: readonly KnownPlayer[] }) {
  const { seats, divisi, set } = usePartSettings({ id: part.id, name: `${part.name}, ${part.title}` }, part.settings, []);
  const fit = useFit(part, players, divisi);
  const { wanted, unit, kept } = fit;
  const seated = seats.flatMap((id) => players.find((player) => player.id === id) ?? []);
  // Those who sit there come first, in the order of their seats.
  const ordered = [...seated, ...players.filter((player) => !seated.includes(player))];
  const known = seated.every(({ id }) => fit.rows.get(id) !== undefined);
  const section =
    seated.length > 0 && known && wanted
      ? sectionFit(
          seated.map(({ id, name }) => ({ name, row: fit.rows.get(id) ?? null })),
          wanted,
        )
      : null;
  if (fit.failed) return <ProblemNote problem={fit.failed} />;
  if (players.length === 0) return <p className="text-soft">Nobody here plays the {part.instrument}.</p>;
  return (
    <>
      <p className="text-[13px] text-soft">
        Up to which tempo ({signOf(unit)} per minute) nothing passes its threshold{wanted ? `; wanted ${beatsPerMinute(wanted, unit)}` : ''}. ◆ watch, ◆◆ risk,
        ◆◆◆ will fail.
      </p>
      <div className="overflow-x-auto">
        <table className="w-full min-w-160 border-separate border-spacing-0 text-left text-[13px]">
          <thead>
            <tr>
              <th scope="col" className="border-b border-line py-1 pr-3">
                Player
              </th>
              <th scope="col" className="border-b border-line px-2 py-1">
                Whole part
              </th>
              {part.passages.map((passage, i) => (
                <th key={i} scope="col" className="border-b border-line px-2 py-1">
                  <Link className="hover:underline" href={`/desk/${part.id}?bars=${passage.fromBar + 1}-${passage.toBar + 1}`}>
                    {passage.name}
                  </Link>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {section && wanted && <SectionRow section={section} wanted={wanted} unit={unit} />}
            {ordered.map((player) => (
              <PlayerRow key={player.id} player={player} row={fit.rows.get(player.id)} passages={part.passages.length} wanted={wanted} unit={unit} />
            ))}
          </tbody>
        </table>
      </div>
      {section && wanted && <LeavingOut section={section} passages={part.passages} wanted={wanted} unit={unit} />}
      <Seating players={players} seats={seats} lines={fit.lines} divisi={divisi} onChange={set} />
      <section aria-label="What to change for whom" className="grid gap-2">
        <h3 className="text-base">What to change for whom</h3>
        {ordered.map((player) => (
          <ForWhom
            key={player.id}
            player={player}
            own={fit.ownMarks(player.id)}
            found={fit.changes.get(player.id)}
            kept={kept?.playerId === player.id ? kept.ok : null}
            ready={fit.ready}
            onAsk={() => void fit.ask(player)}
            onKeep={(found) => void fit.keep(player, found)}
          />
        ))}
      </section>
    </>
  );
}

interface RowProps {
  player: KnownPlayer;
  /** Undefined until it is worked out; null where it could not be. */
  row: FitRow | null | undefined;
  passages: number;
  wanted: number | null;
  unit: BeatUnit;
}

function PlayerRow({ player, row, passages, wanted, unit }: RowProps) {
  const cells = [row?.whole, ...(row?.passages ?? Array.from({ length: passages }, () => undefined))];
  return (
    <tr>
      <th scope="row" title={player.name} className="max-w-48 truncate border-b border-line py-1 pr-3 font-semibold">
        {player.name} <span className="font-normal text-soft">{player.size}</span>
      </th>
      {row === null ? (
        <td colSpan={passages + 1} className="border-b border-line px-2">
          This could not be worked out for {player.name}; look at size and tuning, or reload.
        </td>
      ) : (
        cells.map((cell, i) => <Cell key={i} cell={cell} wanted={wanted} unit={unit} />)
      )}
    </tr>
  );
}

function Cell({ cell, wanted, unit }: { cell: FitCell | undefined; wanted: number | null; unit: BeatUnit }) {
  const say = useTerms();
  if (!cell) return <td className="border-b border-line px-2 text-soft">…</td>;
  const { ceiling, none, worst, spots } = cell;
  const short = none !== null || (wanted !== null && ceiling !== null && ceiling < wanted);
  return (
    <td
      className="border-b border-line px-2 py-1 align-top"
      title={worst ? `Bar ${worst.bar}/${worst.beat}, ${worst.kind}: ${say(worst.text)}` : 'nothing found'}
    >
      <strong className={`whitespace-nowrap ${short ? 'text-plum' : ''}`}>
        {none ? (none === 'unplayable' ? none : 'no tempo') : ceiling === null ? 'any' : upTo(ceiling, unit)}
      </strong>
      {worst && (
        <span className={`block text-xs ${worst.severity > 1 ? 'text-plum' : 'text-soft'}`}>
          {MARKS[worst.severity]} {worst.kind}, bar {worst.bar}
          {spots > 1 && ` (${spots})`}
        </span>
      )}
    </td>
  );
}

const sum = (counts: SpotCounts): number => counts.reduce((all, count) => all + count, 0);

/** @example "23 spots (2 will fail, 4 risk, 17 watch)" */
function inCounts(counts: SpotCounts): string {
  const said = (['watch', 'risk', 'will fail'] as const).map((word, i) => (counts[i] ? `${counts[i]} ${word}` : '')).filter(Boolean);
  const all = sum(counts);
  return all === 0 ? 'no spots' : `${all} ${all === 1 ? 'spot' : 'spots'} (${said.reverse().join(', ')})`;
}

interface ForWhomProps {
  player: KnownPlayer;
  /** Marks that are this player's alone. */
  own: number;
  found: ForPlayer | 'working' | null | undefined;
  /** Whether the last try to keep changes went well; null where there was none. */
  kept: boolean | null;
  ready: boolean;
  onAsk(): void;
  onKeep(found: ForPlayer): void;
}

function ForWhom({ player, own, found, kept, ready, onAsk, onKeep }: ForWhomProps) {
  return (
    <article aria-label={`For ${player.name}`} className="rounded-lg border border-line px-3 py-2">
      <div className="flex items-center justify-between gap-3">
        <span>
          <strong>{player.name}</strong>
          {own > 0 && <span className="text-spruce"> has {own === 1 ? '1 own mark' : `${own} own marks`}</span>}
        </span>
        {found === undefined && (
          <Button small disabled={!ready} onClick={onAsk}>
            Look for changes
          </Button>
        )}
        {found === 'working' && (
          <span role="status" className="text-soft">
            Trying what helps, spot by spot …
          </span>
        )}
      </div>
      {kept === true && (
        <p role="status" className="text-[13px]">
          Kept for {player.name} alone; everybody else plays as before.
        </p>
      )}
      {kept === false && <p role="alert">The changes could not be kept; nothing was changed. Reload the page and look again.</p>}
      {found === null && <p role="alert">Nothing could be tried for {player.name}; reload the page to try again.</p>}
      {found && found !== 'working' && (
        <>
          <p className="text-[13px]">
            {found.mended.length === 0
              ? sum(found.before) === 0
                ? 'Nothing to change.'
                : `${inCounts(found.before)}; none of them mended by other marks: practise them, or play slower.`
              : `${inCounts(found.before)}. With these changes ${inCounts(found.left)}:`}
          </p>
          <ul className="list-disc pl-5 text-[13px]">
            {found.mended.map(({ bar, kind, text }, i) => (
              <li key={i}>
                Bar {bar}, {kind}: <Said>{text}</Said>
              </li>
            ))}
          </ul>
          {found.mended.length > 0 && (
            <Button small className="mt-1" onClick={() => onKeep(found)}>
              Keep as {player.name}’s own marks
            </Button>
          )}
        </>
      )}
    </article>
  );
}
