'use client';

import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { LIMITS } from '@/core/util/limits';
import { seatInWords } from '@/core/rehearsal/section-fit';
import { capital } from '@/ui/kit/words';
import { IconButton } from '@/ui/kit/icon-button';
import { Button } from '@/ui/kit/button';
import { Select } from '@/ui/kit/select';
import type { KnownPlayer } from './players';

interface Props {
  /** Whoever plays the instrument. */
  players: readonly KnownPlayer[];
  /** Ids in the order of seats, two at a desk. */
  seats: readonly string[];
  /** How many lines the part has; more than one where it is divided. */
  lines: number;
  /** Which of them a player has. */
  divisi: Readonly<Record<string, number>>;
  onChange(change: { seats?: string[]; divisi?: Record<string, number> }): void;
}

/** Who sits where in the section of a part. */
export function Seating({ players, seats, lines, divisi, onChange }: Props) {
  const onSeats = (next: string[]) => onChange({ seats: next });
  const seated = seats.flatMap((id) => players.find((player) => player.id === id) ?? []);
  const free = players.filter(({ id }) => !seats.includes(id));
  const ids = seated.map(({ id }) => id);
  const swap = (place: number) => onSeats(ids.map((id, i) => (i === place ? ids[place + 1]! : i === place + 1 ? ids[place]! : id)));
  return (
    <section aria-label="Seating" className="grid grid-cols-1 gap-1">
      <h3 className="text-base">Seating</h3>
      {seated.length === 0 && (
        <p className="text-[13px] text-soft">Nobody sits here yet. Seat the players of the section, desk by desk; then it is said what all of them can play.</p>
      )}
      <ol className="grid max-w-3xl grid-cols-1 gap-1 sm:grid-cols-2">
        {seated.map(({ id, name }, place) => (
          <li key={id} title={name} className="flex min-w-0 items-center justify-between gap-2 rounded-lg border border-line px-2 py-0.5 text-[13px]">
            <span className="flex min-w-0 gap-1">
              <strong className="truncate">{name}</strong> <span className="shrink-0 text-soft">{seatInWords(place)}</span>
            </span>
            <span className="flex shrink-0 items-center">
              {lines > 1 && (
                <Select
                  quiet
                  className="py-0 text-xs"
                  label={`Line of ${name}`}
                  value={divisi[id] ?? -1}
                  options={[[-1, 'all lines'] as const, ...Array.from({ length: lines }, (_, i) => [i, `line ${i + 1}`] as const)]}
                  onValue={(line) => onChange({ divisi: { ...without(divisi, id), ...(line < 0 ? {} : { [id]: line }) } })}
                />
              )}
              <IconButton bare label={`${name} one seat to the front`} disabled={place === 0} onClick={() => swap(place - 1)}>
                <ArrowUp size={14} aria-hidden />
              </IconButton>
              <IconButton bare label={`${name} one seat back`} disabled={place === seated.length - 1} onClick={() => swap(place)}>
                <ArrowDown size={14} aria-hidden />
              </IconButton>
              <IconButton bare label={`${name} does not sit here`} onClick={() => onSeats(ids.filter((each) => each !== id))}>
                <X size={14} aria-hidden />
              </IconButton>
            </span>
          </li>
        ))}
      </ol>
      {lines > 1 && seated.length > 1 && (
        <Button small className="w-fit" onClick={() => onChange({ divisi: Object.fromEntries(ids.map((id, place) => [id, place % lines])) })}>
          {lines === 2 ? 'Divide at the desk: outside the upper line, inside the lower' : `Divide the ${lines} lines from seat to seat`}
        </Button>
      )}
      {free.length > 0 && seated.length < LIMITS.seats && (
        <Select
          quiet
          className="w-fit"
          label="Seat a player"
          value=""
          options={[['', `${capital(seatInWords(seated.length))}: who?`] as const, ...free.map(({ id, name }) => [id, name] as const)]}
          onValue={(id) => id && onSeats([...ids, id])}
        />
      )}
    </section>
  );
}

const without = (divisi: Readonly<Record<string, number>>, id: string) => Object.fromEntries(Object.entries(divisi).filter(([each]) => each !== id));
