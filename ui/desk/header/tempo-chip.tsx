'use client';

import { feltUnitOf } from '@/core/score/beat-unit';
import { firstTempo, TEMPO_LIMITS } from '@/core/score/time';
import { TextButton } from '@/ui/kit/button';
import { NumberField } from '@/ui/kit/number-field';
import { beatsPerMinute, signOf } from '@/ui/kit/tempo';
import { useTerms } from '@/ui/kit/terms';
import { useDesk } from '../model/desk';

/** The wanted tempo in the beat that is felt; without one the printed one holds, or a guess that says that it is one. */
export function TempoChip() {
  const say = useTerms();
  const { settings, setting, view } = useDesk();
  if (!view.part) return null;
  const unit = feltUnitOf(view.part);
  const name = say(unit.name);
  const { quartersPerMinute, guessed } = firstTempo(view.part);
  const [first, wanted] = [beatsPerMinute(quartersPerMinute, unit), settings.tempo];
  return (
    <span className="chip" title={`Beats per minute (${name}); ${guessed === null ? `printed ${first}` : `guessed: ${guessed}`}`}>
      <span aria-hidden className="font-serif">
        {signOf(unit)} =
      </span>
      <NumberField
        label={`Wanted tempo in ${unit.name === 'half' && name === unit.name ? 'halves' : `${name}s`} per minute`}
        className="chip-field w-9"
        range={{ least: TEMPO_LIMITS.least / unit.quarters, most: TEMPO_LIMITS.most / unit.quarters, step: 0.1 }}
        placeholder={guessed === null ? '' : String(first)}
        value={wanted !== null ? beatsPerMinute(wanted, unit) : guessed === null ? first : null}
        onValue={(tempo) => setting({ tempo: tempo === null || (tempo === first && guessed === null) ? null : tempo * unit.quarters })}
      />
      {guessed !== null && wanted === null && <span className="text-xs text-soft">a guess</span>}
      {wanted !== null && (
        <TextButton className="text-xs text-soft" onClick={() => setting({ tempo: null })}>
          {guessed === null ? 'printed' : 'guess'} {first}
        </TextButton>
      )}
    </span>
  );
}
