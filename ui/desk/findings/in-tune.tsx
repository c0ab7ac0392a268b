'use client';

import { TOLERANCE_CENTS } from '@/core/checks/tables';
import type { PitchSchool } from '@/core/checks/target';
import { NumberField } from '@/ui/kit/number-field';
import { Select } from '@/ui/kit/select';
import { useDesk } from '../model/desk';

const AIMS: ReadonlyArray<readonly [PitchSchool, words: string, why: string]> = [
  ['pythagorean', 'melodic pitch', 'Melodic: a chain of pure fifths, as the open strings are tuned; high leading notes'],
  ['just', 'chordal pitch', 'Chordal: pure over the chord that sounds, or over the tonic; low major thirds'],
  ['equal', 'tempered pitch', 'Equal temperament, as with a piano'],
];

/** Cents that may be said: less nobody hears, more is another note. */
const CENTS = { least: 2, most: 60, step: 0.1 };

/** How far off is minded, and where a note is in tune. */
export function InTune() {
  const { settings, setting, view } = useDesk();
  const { intonation } = settings;
  const usual = TOLERANCE_CENTS[view.person.level];
  return (
    <div className="flex items-center gap-1.5 text-[13px]" role="group" aria-label="In tune">
      <span className="flex items-center gap-1">
        <span className="text-soft">within</span>
        <NumberField
          label="Cents off that are minded, 2 to 60"
          title={`Cents off that are minded, 2 to 60; empty is the usual ${usual} of this level`}
          className="w-11 px-1"
          range={CENTS}
          placeholder={String(usual)}
          value={intonation.toleranceCents}
          onValue={(toleranceCents) => setting({ intonation: { ...intonation, toleranceCents } })}
        />
        <span className="text-soft">cents of</span>
      </span>
      <Select
        quiet
        label="Pitch that is aimed at"
        title={AIMS.find(([school]) => school === intonation.school)![2]}
        className="min-w-0 grow px-1"
        value={intonation.school}
        options={AIMS.map(([school, words]) => [school, words] as const)}
        onValue={(school) => setting({ intonation: { ...intonation, school } })}
      />
    </div>
  );
}
