'use client';

import type { ReactNode } from 'react';
import { INSTRUMENT_KINDS } from '@/core/instruments/instrument';
import { octavesInWords, type WayToPlay } from '@/core/instruments/play-on';
import type { InstrumentKind } from '@/core/score/score';
import type { Sounds } from '@/core/instruments/as-told';
import { ProblemNote, type Problem } from '@/ui/kit/problem';

interface Props {
  problems: ReadonlyArray<Problem | null>;
  own: Problem | null;
  onCloseOwn(): void;
  /** A part for something else than a bowed string instrument. */
  playedOn: PlayedOnProps | null;
  onPlayOn(way: Pick<WayToPlay, 'kind' | 'octaves'>): void;
  onStaff(staff: number | null): void;
  /** Asked where a bass is tuned for solo pieces; null where there is nothing to ask. */
  ask: ((sounds: Sounds) => void) | null;
  /** What was changed elsewhere too, and whose stands. */
  clash: ReactNode;
  passagesChanged: string | null;
  onUndoPassages(): void;
  onDismissPassages(): void;
}

/** What the coach must know, above the score. */
export function Notices({ problems, own, onCloseOwn, playedOn, onPlayOn, onStaff, ask, clash, passagesChanged, onUndoPassages, onDismissPassages }: Props) {
  return (
    <div className="grid gap-2 px-3 pt-2 empty:hidden">
      {problems.map((problem) => problem && <ProblemNote key={problem.what} problem={problem} />)}
      {own && <ProblemNote problem={own} onClose={onCloseOwn} />}
      {playedOn && <PlayedOn {...playedOn} onPlayOn={onPlayOn} onStaff={onStaff} />}
      {ask && (
        <div role="group" aria-label="Solo tuning" className="flex flex-wrap items-center gap-2 rounded-lg border border-line bg-sheet px-3 py-2">
          <p className="grow">This bass is tuned a tone higher. Is the part written for the fingers (it sounds a tone higher than usual) or for the ear?</p>
          <button type="button" className="button" onClick={() => ask('tone-higher')}>
            For the fingers
          </button>
          <button type="button" className="button" onClick={() => ask('octave-lower')}>
            For the ear
          </button>
        </div>
      )}
      {clash}
      {passagesChanged && (
        <p role="status" className="flex items-center gap-3 rounded-lg border border-line bg-sheet px-3 py-1">
          <span className="grow">{passagesChanged}.</span>
          <button type="button" className="button min-h-7" onClick={onUndoPassages}>
            Undo
          </button>
          <button type="button" className="button min-h-7" onClick={onDismissPassages}>
            Fine
          </button>
        </p>
      )}
    </div>
  );
}

interface PlayedOnProps {
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

const OCTAVES = [-2, -1, 0, 1, 2];

/** What the part is played on, with the best guess until the coach has said it. */
function PlayedOn({ name, kind, octaves, told, ways, staves, staff, onPlayOn, onStaff }: PlayedOnProps & Pick<Props, 'onPlayOn' | 'onStaff'>) {
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
      {!told && (
        <button type="button" className="button" onClick={() => onPlayOn({ kind: shown, octaves })}>
          Yes, on the {shown === 'bass' ? 'double bass' : shown}
        </button>
      )}
    </div>
  );
}
