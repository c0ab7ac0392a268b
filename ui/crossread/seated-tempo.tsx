'use client';

import Link from 'next/link';
import { useState } from 'react';
import { withMore } from '@/core/ensemble/tempo-for-all';
import { playerTempo, type Seated } from '@/core/rehearsal/section-fit';
import { Button } from '@/ui/kit/button';
import { useCrossreadModel } from './model/use-crossread';

type Known = Seated & { part: string };

/** The tempo with everybody who sits in the sections: worked out player by player when it is asked for. */
export function SeatedTempo() {
  const { data, shown, seatedIn } = useCrossreadModel();
  const tempo = shown!.tempo!;
  const seated = data.parts.flatMap((part) => part.seated.map((seat) => ({ part, ...seat })));
  const [known, setKnown] = useState<{ of: typeof tempo; rows: Known[] } | null>(null);
  // With other marks or another tempo it is to be asked anew.
  const rows = known?.of === tempo ? known.rows : null;
  async function ask() {
    const found: Known[] = [];
    setKnown({ of: tempo, rows: found });
    for (const { part, player, line } of seated) {
      const row = await seatedIn(part.id, player, line).catch(() => null);
      found.push({ part: part.name, name: player.name, row });
      setKnown((now) => (now?.of === tempo ? { of: tempo, rows: [...found] } : now));
    }
  }
  if (seated.length === 0)
    return (
      <p className="text-[13px] text-soft">
        For usual adults. Seat the players of a section{' '}
        <Link className="underline" href={`/players?part=${shown!.lanes.find(({ instrument }) => instrument !== null)?.partId ?? ''}`}>
          under Players
        </Link>
        , and it is said for them.
      </p>
    );
  if (rows === null)
    return (
      <Button small className="w-fit" onClick={() => void ask()}>
        With the {seated.length} who sit here
      </Button>
    );
  if (rows.length < seated.length)
    return (
      <p role="status" className="text-[13px] text-soft">
        {rows.length} of {seated.length} players …
      </p>
    );
  const able = rows.flatMap(({ name, part, row }) => (row ? [{ name: `${name}, ${part}`, row }] : []));
  const unknown = rows.filter(({ row }) => row === null).map(({ name }) => name);
  return (
    <section aria-label="With those who sit here" className="grid gap-0.5 border-t border-line pt-3 text-[13px]">
      <h2 className="text-[15px]">With the {seated.length} who sit here</h2>
      <p>
        {
          withMore(
            tempo.all,
            able.map(({ name, row }) => playerTempo(name, row.whole)),
          ).text
        }
      </p>
      <ul className="grid gap-0.5">
        {tempo.sections.map(({ name, bars, tempo: all }, i) => (
          <li key={bars}>
            <strong>{name === bars ? bars : `${name} · ${bars}`}</strong>{' '}
            <span className="text-soft">
              {
                withMore(
                  all,
                  able.flatMap(({ name: who, row }) => (row.passages[i] ? [playerTempo(who, row.passages[i])] : [])),
                ).text
              }
            </span>
          </li>
        ))}
      </ul>
      {unknown.length > 0 && <p role="alert">This could not be worked out for {unknown.join(', ')}; look at size and tuning under Players.</p>}
    </section>
  );
}
