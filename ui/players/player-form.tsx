'use client';

import { Button } from '@/ui/kit/button';
import { LIMITS } from '@/core/util/limits';
import { LimitHint } from '@/ui/kit/limit';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { DEFAULT_SIZE, INSTRUMENT_KINDS, NAMED_TUNINGS, SIZES } from '@/core/instruments/instrument';
import { HAND_SIZES, LEVELS, type HandSize, type Level } from '@/core/instruments/player';
import type { InstrumentKind } from '@/core/score/score';
import { ProblemNote, type Problem } from '@/ui/kit/problem';
import type { KnownPlayer } from './players';

export interface Said {
  name: string;
  instrument: InstrumentKind;
  size: string;
  tuning: string;
  hand: HandSize;
  measured: KnownPlayer['measured'];
  technique: NonNullable<KnownPlayer['technique']>;
  level: Level;
  thumbPosition: boolean;
}

const NEW: Said = {
  name: '',
  instrument: 'violin',
  size: DEFAULT_SIZE.violin,
  tuning: 'orchestral',
  hand: 'medium',
  measured: null,
  technique: {},
  level: 'intermediate',
  thumbPosition: false,
};

const isLow = (kind: InstrumentKind): boolean => kind === 'cello' || kind === 'bass';

interface Props {
  player: KnownPlayer | null;
  /** Why it could not be saved as it is. */
  problem: Problem | null;
  onClose(): void;
  onSave(said: Said): void;
}

/** Who it is, and what is played; hands are measured on the Desk. */
export function PlayerForm({ player, problem, onClose, onSave }: Props) {
  const [said, setSaid] = useState<Said>(player ? { ...NEW, ...player, measured: player.measured ?? null, technique: player.technique ?? {} } : NEW);
  const set = (change: Partial<Said>) => setSaid({ ...said, ...change });
  const sizes = SIZES[said.instrument];
  const tunings = ['orchestral', ...Object.keys(NAMED_TUNINGS[said.instrument])];
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          className="fixed top-[8vh] left-1/2 z-50 max-h-[86vh] w-[min(30rem,94vw)] -translate-x-1/2 overflow-y-auto rounded-xl border border-line bg-sheet p-5 shadow-xl"
          aria-describedby={undefined}
        >
          <Dialog.Title className="text-lg">{player ? player.name : 'New player'}</Dialog.Title>
          <form
            className="mt-3 grid gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              const { name, instrument, size, tuning, hand, measured, technique, level, thumbPosition } = said;
              onSave({ name, instrument, size, tuning, hand, measured, technique, level, thumbPosition });
            }}
          >
            <label className="grid gap-1">
              <span>Name</span>
              <input className="field" required maxLength={LIMITS.name} value={said.name} onChange={(event) => set({ name: event.target.value })} />
              <LimitHint text={said.name} limit={LIMITS.name} />
            </label>
            <div className="grid grid-cols-2 gap-3">
              <label className="grid gap-1">
                <span>Instrument</span>
                <select
                  className="field"
                  value={said.instrument}
                  onChange={(event) => {
                    const instrument = event.target.value as InstrumentKind;
                    set({ instrument, size: DEFAULT_SIZE[instrument], tuning: 'orchestral', thumbPosition: isLow(instrument) });
                  }}
                >
                  {INSTRUMENT_KINDS.map((kind) => (
                    <option key={kind} value={kind}>
                      {kind}
                    </option>
                  ))}
                </select>
              </label>
              <label className="grid gap-1">
                <span>Size</span>
                <input className="field" list="sizes" required value={said.size} onChange={(event) => set({ size: event.target.value })} />
                <datalist id="sizes">
                  {Object.entries(sizes).map(([size, mm]) => (
                    <option key={size} value={size}>
                      {mm} mm of string
                    </option>
                  ))}
                </datalist>
                <span className="text-xs text-soft">
                  {Object.keys(sizes).join(', ')}, or a string length such as {sizes[DEFAULT_SIZE[said.instrument]]}mm
                </span>
              </label>
            </div>
            <label className="grid gap-1">
              <span>Tuning</span>
              <input className="field" list="tunings" required value={said.tuning} onChange={(event) => set({ tuning: event.target.value })} />
              <datalist id="tunings">
                {tunings.map((tuning) => (
                  <option key={tuning} value={tuning} />
                ))}
              </datalist>
              <span className="text-xs text-soft">{tunings.join(', ')}, or the sounding strings from low to high, such as E1,A1,D2,G2</span>
            </label>
            <div className="grid grid-cols-2 gap-3">
              <label className="grid gap-1">
                <span>Hand</span>
                <select className="field" value={said.hand} onChange={(event) => set({ hand: event.target.value as HandSize, measured: null })}>
                  {HAND_SIZES.map((hand) => (
                    <option key={hand} value={hand}>
                      {hand}
                    </option>
                  ))}
                </select>
                {said.measured && <span className="text-xs text-soft">measured: {said.measured.comfortable} mm; choosing a preset forgets it</span>}
              </label>
              <label className="grid gap-1">
                <span>Level</span>
                <select className="field" value={said.level} onChange={(event) => set({ level: event.target.value as Level })}>
                  {LEVELS.map((level) => (
                    <option key={level} value={level}>
                      {level}
                    </option>
                  ))}
                </select>
              </label>
            </div>
            {isLow(said.instrument) && (
              <label className="flex items-center gap-2">
                <input type="checkbox" checked={said.thumbPosition} onChange={(event) => set({ thumbPosition: event.target.checked })} /> Plays with the thumb
                on the string
              </label>
            )}
            {problem && <ProblemNote problem={problem} />}
            <span className="mt-1 flex gap-2">
              <Button type="submit" look="spruce">
                {player ? 'Save' : 'Add player'}
              </Button>
              <Dialog.Close className="button">Cancel</Dialog.Close>
            </span>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
