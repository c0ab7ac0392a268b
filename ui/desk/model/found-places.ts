/** What Ctrl+K finds for what was typed: places, ranges, passages, commands, players, other parts, pages. Plain functions. */
import { barsAt, placeAt, sayBars, type Place } from '@/core/score/address';
import type { BarRange } from '@/core/score/bars';
import type { Passage } from '@/core/score/passages';
import type { Part } from '@/core/score/score';
import { KEY_LIST, type Command } from './keys';
import type { DeskDialog } from './use-desk-model';

export type Aim =
  | { to: 'place'; place: Pick<Place, 'barIndex' | 'noteId'> }
  | { to: 'bars'; bars: BarRange }
  | { to: 'passage'; index: number }
  | { to: 'command'; command: Command }
  | { to: 'player'; playerId: string | null }
  | { to: 'dialog'; dialog: DeskDialog }
  | { to: 'page'; href: string };

export interface FoundPlace {
  name: string;
  /** What sort of thing it is. */
  sort: string;
  aim: Aim;
}

export interface Sources {
  part: Part | null;
  passages: readonly Passage[];
  players: ReadonlyArray<{ id: string; name: string }>;
  parts: ReadonlyArray<{ id: string; name: string }>;
  partId: string;
}

/** More would not be read. */
const SHOWN = 12;

const DIALOGS: ReadonlyArray<[name: string, dialog: DeskDialog]> = [
  ['How this part is fingered', 'hand'],
  ['About this part: instrument, pitch, tuning', 'part'],
  ['All keys', 'keys'],
];

/** @returns places first, then by how early the text stands in the name; everything that can be done where nothing is typed */
export function foundPlaces(text: string, sources: Sources): FoundPlace[] {
  const said = text.trim();
  const all = named(sources);
  if (said === '') return all.slice(0, SHOWN);
  const wanted = said.toLowerCase();
  const rank = ({ name }: FoundPlace) => {
    const at = name.toLowerCase().indexOf(wanted);
    if (at < 0) return Infinity;
    return at === 0 || /[^\p{L}\p{N}]/u.test(name[at - 1]!) ? at : at + 1000;
  };
  const found = all.filter((each) => rank(each) < Infinity).sort((a, b) => rank(a) - rank(b));
  return [...inTheScore(said, sources.part), ...found].slice(0, SHOWN);
}

function inTheScore(said: string, part: Part | null): FoundPlace[] {
  if (!part) return [];
  const place = placeAt(part, said);
  if (place.ok) return [{ name: `Go to ${said}`, sort: 'place', aim: { to: 'place', place: place.value } }];
  const bars = barsAt(part, said);
  return bars.ok ? [{ name: `Select bars ${sayBars(part.bars, bars.value)}`, sort: 'bars', aim: { to: 'bars', bars: bars.value } }] : [];
}

function named({ part, passages, players, parts, partId }: Sources): FoundPlace[] {
  return [
    ...passages.map((passage, index): FoundPlace => ({
      name: part ? `${passage.name}, bars ${sayBars(part.bars, passage)}` : passage.name,
      sort: 'passage',
      aim: { to: 'passage', index },
    })),
    ...KEY_LIST.flatMap(({ what, command }): FoundPlace[] =>
      command ? [{ name: what.replace(/ \(.*\)$/, ''), sort: 'command', aim: { to: 'command', command } }] : [],
    ),
    { name: 'Check for a usual adult', sort: 'player', aim: { to: 'player', playerId: null } },
    ...players.map(({ id, name }): FoundPlace => ({ name: `Check for ${name}`, sort: 'player', aim: { to: 'player', playerId: id } })),
    ...parts.filter(({ id }) => id !== partId).map(({ id, name }): FoundPlace => ({ name, sort: 'part', aim: { to: 'page', href: `/desk/${id}` } })),
    ...DIALOGS.map(([name, dialog]): FoundPlace => ({ name, sort: 'setting', aim: { to: 'dialog', dialog } })),
    { name: 'Check sheet', sort: 'page', aim: { to: 'page', href: `/desk/${partId}/check` } },
    { name: 'How this part fits the players', sort: 'page', aim: { to: 'page', href: `/players?part=${partId}` } },
    { name: 'Shelf', sort: 'page', aim: { to: 'page', href: '/' } },
  ];
}
