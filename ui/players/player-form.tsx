'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useForm, useWatch } from 'react-hook-form';
import { DEFAULT_SIZE, INSTRUMENT_KINDS, isUpper, NAMED_TUNINGS, SIZES } from '@/core/instruments/instrument';
import { HAND_SIZES, LEVELS } from '@/core/instruments/player';
import { newPlayerShape, type NewPlayer } from '@/core/instruments/player-shape';
import type { InstrumentKind } from '@/core/score/score';
import { LIMITS } from '@/core/util/limits';
import { Button } from '@/ui/kit/button';
import { Dialog, DialogClose } from '@/ui/kit/dialog';
import { FormField } from '@/ui/kit/form-field';
import { ProblemNote, type Problem } from '@/ui/kit/problem';
import { Select } from '@/ui/kit/select';
import type { KnownPlayer } from './players';

const NEW: NewPlayer = {
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

interface Props {
  player: KnownPlayer | null;
  /** Why it could not be saved as it is. */
  problem: Problem | null;
  onClose(): void;
  onSave(said: NewPlayer): Promise<void>;
}

/** Who it is, and what is played; hands are measured on the Desk. */
export function PlayerForm({ player, problem, onClose, onSave }: Props) {
  const form = useForm<NewPlayer>({
    resolver: zodResolver(newPlayerShape),
    defaultValues: player ? { ...NEW, ...player, measured: player.measured ?? null, technique: player.technique ?? {} } : NEW,
  });
  const said = useWatch({ control: form.control }) as NewPlayer;
  const put = <Name extends keyof NewPlayer>(name: Name, value: NewPlayer[Name]) => form.setValue(name as 'size', value as string, { shouldDirty: true });
  function play(instrument: InstrumentKind) {
    put('instrument', instrument);
    put('size', DEFAULT_SIZE[instrument]);
    put('tuning', 'orchestral');
    put('thumbPosition', !isUpper(instrument));
  }
  const sizes = SIZES[said.instrument];
  const tunings = ['orchestral', ...Object.keys(NAMED_TUNINGS[said.instrument])];
  return (
    <Dialog bare open onOpen={(open) => !open && onClose()} title={player ? player.name : 'New player'} size="narrow">
      <form className="grid gap-3" onSubmit={(event) => void form.handleSubmit(onSave)(event)}>
        <FormField form={form} name="name" label="Name" limit={LIMITS.name} />
        <div className="grid grid-cols-2 gap-3">
          <Select label="Instrument" value={said.instrument} options={INSTRUMENT_KINDS.map((kind) => [kind, kind] as const)} onValue={play} />
          <FormField
            form={form}
            name="size"
            label="Size"
            limit={20}
            offered={Object.entries(sizes).map(([size, mm]) => [size, `${mm} mm of string`] as const)}
            hint={`${Object.keys(sizes).join(', ')}, or a string length such as ${sizes[DEFAULT_SIZE[said.instrument]]}mm`}
          />
        </div>
        <FormField
          form={form}
          name="tuning"
          label="Tuning"
          limit={60}
          offered={tunings.map((tuning) => [tuning, ''] as const)}
          hint={`${tunings.join(', ')}, or the sounding strings from low to high, such as E1,A1,D2,G2`}
        />
        <div className="grid grid-cols-2 gap-3">
          <div>
            <Select
              label="Hand"
              value={said.hand}
              options={HAND_SIZES.map((hand) => [hand, hand] as const)}
              onValue={(hand) => {
                put('hand', hand);
                put('measured', null);
              }}
            />
            {said.measured && <span className="text-xs text-soft">measured: {said.measured.comfortable} mm; choosing a preset forgets it</span>}
          </div>
          <Select label="Level" value={said.level} options={LEVELS.map((level) => [level, level] as const)} onValue={(level) => put('level', level)} />
        </div>
        {!isUpper(said.instrument) && (
          <label className="flex items-center gap-2">
            <input type="checkbox" {...form.register('thumbPosition')} /> Plays with the thumb on the string
          </label>
        )}
        {problem && <ProblemNote problem={problem} />}
        <span className="mt-1 flex gap-2">
          <Button type="submit" look="spruce" disabled={form.formState.isSubmitting}>
            {player ? 'Save' : 'Add player'}
          </Button>
          <DialogClose>Cancel</DialogClose>
        </span>
      </form>
    </Dialog>
  );
}
