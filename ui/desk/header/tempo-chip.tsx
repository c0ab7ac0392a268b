'use client';

import { printedTempo, TEMPO_LIMITS } from '@/core/score/time';
import { TextButton } from '@/ui/kit/button';
import { NumberField } from '@/ui/kit/number-field';
import { useDesk } from '../model/desk';

/** The wanted tempo; without one the printed one holds. */
export function TempoChip() {
  const { settings, setting, view } = useDesk();
  const printed = view.part ? printedTempo(view.part) : null;
  const wanted = settings.tempo;
  const shown = wanted ?? printed;
  return (
    <span className="chip" title={printed ? `Quarters per minute; printed ${Math.round(printed)}` : 'Quarters per minute; the part prints none'}>
      <span aria-hidden className="font-serif">
        ♩ =
      </span>
      <NumberField
        label="Wanted tempo in quarters per minute"
        className="chip-field w-7"
        range={TEMPO_LIMITS}
        placeholder=""
        value={shown === null ? null : Math.round(shown)}
        onValue={(tempo) => setting({ tempo: tempo === printed ? null : tempo })}
      />
      {wanted !== null && printed !== null && (
        <TextButton className="text-xs text-soft" onClick={() => setting({ tempo: null })}>
          printed {Math.round(printed)}
        </TextButton>
      )}
    </span>
  );
}
