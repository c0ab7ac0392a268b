'use client';

import { Button } from '@/ui/kit/button';
import { INSTRUMENT_KINDS } from '@/core/instruments/instrument';
import { octavesInWords, type WayToPlay } from '@/core/instruments/play-on';
import type { InstrumentKind } from '@/core/score/score';

export interface PlayedOnProps {
  name: string;
  kind: InstrumentKind | null;
  octaves: number;
  /** The coach has said so. */
  told: boolean;
  ways: readonly WayToPlay[];
  /** Of a part with several. */
  staves: readonly number[];
  staff: number | null;
}

interface Said {
  onPlayOn(way: Pick<WayToPlay, 'kind' | 'octaves'>): void;
  onStaff(staff: number | null): void;
}

const OCTAVES = [-2, -1, 0, 1, 2];

/** What the part is played on, with the best guess until the coach has said it. */
export function PlayedOn({ of: { name, kind, octaves, told, ways, staves, staff }, onPlayOn, onStaff }: Said & { of: PlayedOnProps }) {
  const shown = kind ?? 'violin';
  const guess = ways.find((way) => way.kind === shown && way.octaves === octaves);
  return (
    <div role="group" aria-label="Played on" className="flex flex-wrap items-center gap-2 rounded-lg border border-line bg-sheet px-3 py-2">
      <p className="grow basis-64">
        {name} is no part for a bowed instrument. It is shown to be played on:{' '}
        {guess && <span className="text-soft">{told ? guess.because : `the best guess, since ${guess.because}`}</span>}
      </p>
      {staves.length > 1 && (
        <label className="flex items-center gap-1.5">
          Staff
          <select className="field min-h-8" value={staff ?? ''} onChange={(event) => onStaff(event.target.value === '' ? null : Number(event.target.value))}>
            <option value="">all</option>
            {staves.map((each) => (
              <option key={each} value={each}>
                {each === staves[0] ? 'upper' : each === staves.at(-1) ? 'lower' : each}
              </option>
            ))}
          </select>
        </label>
      )}
      <label className="flex items-center gap-1.5">
        Instrument
        <select
          className="field min-h-8"
          value={shown}
          onChange={(event) => {
            const wanted = event.target.value as InstrumentKind;
            onPlayOn({ kind: wanted, octaves: ways.find((way) => way.kind === wanted)?.octaves ?? 0 });
          }}
        >
          {INSTRUMENT_KINDS.map((each) => (
            <option key={each} value={each}>
              {each}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-1.5">
        Sounding
        <select className="field min-h-8" value={octaves} onChange={(event) => onPlayOn({ kind: shown, octaves: Number(event.target.value) })}>
          {OCTAVES.map((each) => (
            <option key={each} value={each}>
              {octavesInWords(each)}
            </option>
          ))}
        </select>
      </label>
      {!told && <Button onClick={() => onPlayOn({ kind: shown, octaves })}>Yes, on the {shown === 'bass' ? 'double bass' : shown}</Button>}
    </div>
  );
}
