'use client';

import type { Term } from '@/core/left-hand/costs';
import { PRESET_TABLE, PRESETS, weighable, type HandPreferences } from '@/core/left-hand/preferences';
import { DENSITIES, type Density } from '@/core/left-hand/worth-writing';
import { TextButton } from '@/ui/kit/button';
import { Select } from '@/ui/kit/select';
import { capital } from '@/ui/kit/words';
import { useTerms } from '@/ui/kit/terms';
import { useDesk } from '../model/desk';

const SCHOOLS: ReadonlyArray<{
  key: Exclude<keyof HandPreferences, 'preset' | 'weights'>;
  label: string;
  options: ReadonlyArray<readonly [value: string, words: string]>;
}> = [
  {
    key: 'openStrings',
    label: 'Open string or fourth finger',
    options: [
      ['usual', 'open where it is quick, stopped where it is long'],
      ['open', 'open wherever there is one'],
      ['stopped', 'stopped'],
    ],
  },
  {
    key: 'chromatic',
    label: 'Chromatic lines',
    options: [
      ['usual', 'as it lies best'],
      ['finger each', 'a finger for each half step'],
      ['sliding', 'fingers that slide'],
    ],
  },
  {
    key: 'slides',
    label: 'A shift inside a slur',
    options: [
      ['hidden', 'hidden where it can be'],
      ['wanted', 'heard, the line wants it'],
    ],
  },
  {
    key: 'halfStepTrill',
    label: 'Half-step trill',
    options: [
      ['neighbours', 'neighbouring fingers'],
      ['1-3', '1 and 3'],
    ],
  },
  {
    key: 'trillBegins',
    label: 'Trills begin',
    options: [
      ['main', 'on the main note'],
      ['upper', 'on the upper note'],
    ],
  },
];

const DENSITY_WORDS: Readonly<Record<Density, string>> = {
  sparse: 'sparse: starts and shifts',
  usual: 'usual: also what is unexpected',
  'every note': 'every note',
};

/** How this part likes to be fingered. */
export function Preferences() {
  const say = useTerms();
  const { settings, setting } = useDesk();
  const { preferences, density } = settings;
  const prefer = (change: Partial<HandPreferences>) => setting({ preferences: { ...preferences, ...change } });
  return (
    <section aria-label="How this part is fingered" className="grid content-start gap-3">
      <h2 className="text-base">This part</h2>
      <div className="grid gap-1">
        <Select
          label="Played"
          value={preferences.preset}
          options={PRESETS.map((preset) => [preset, capital(preset)] as const)}
          onValue={(preset) => prefer({ preset })}
        />
        <span className="text-[13px] text-soft">{capital(PRESET_TABLE[preferences.preset].aim)}.</span>
      </div>
      {SCHOOLS.map(({ key, label, options }) => (
        <Select
          key={key}
          label={label}
          value={preferences[key] as string}
          options={options.map(([value, words]) => [value, say(capital(words))] as const)}
          onValue={(value) => prefer({ [key]: value })}
        />
      ))}
      <Select
        label="Fingers that a suggestion writes"
        value={density}
        options={DENSITIES.map((each) => [each, capital(DENSITY_WORDS[each])] as const)}
        onValue={(next) => setting({ density: next })}
      />
      <Weights />
    </section>
  );
}

/** What is avoided how much: 1 is the usual weight, or the preset's. */
function Weights() {
  const { view, settings, setting } = useDesk();
  const { preferences } = settings;
  const preset = PRESET_TABLE[preferences.preset].weights;
  const own = Object.keys(preferences.weights).length;
  const set = (term: Term, weight: number | null) => {
    const weights = { ...preferences.weights };
    if (weight === null) delete weights[term];
    else weights[term] = weight;
    setting({ preferences: { ...preferences, weights } });
  };
  return (
    <details>
      <summary className="cursor-pointer">Avoid more, avoid less{own ? ` (${own} set here)` : ''}</summary>
      <p className="mt-1 text-[13px] text-soft">
        1 is the usual weight; 0 does not mind at all, 5 avoids it wherever it can. What you set here stands over the preset.
      </p>
      <div className="mt-2 grid gap-1.5">
        {weighable(view.instrument.kind).map(([term, words]) => {
          const weight = preferences.weights[term] ?? preset[term] ?? 1;
          return (
            <div key={term} className="flex items-center gap-2 text-[13px]">
              <span className="grow" aria-hidden>
                {words}
              </span>
              <input
                type="range"
                min={0}
                max={5}
                step={0.25}
                value={weight}
                aria-label={words}
                aria-valuetext={`${weight} times the usual weight`}
                className="min-h-6 w-28 accent-(--spruce)"
                onChange={(event) => set(term, Number(event.target.value))}
              />
              <span className="w-8 text-right font-semibold" aria-hidden>
                {weight}
              </span>
              <TextButton
                className="w-12 text-xs text-soft disabled:invisible"
                aria-label={`${words}: back to usual`}
                disabled={preferences.weights[term] === undefined}
                onClick={() => set(term, null)}
              >
                reset
              </TextButton>
            </div>
          );
        })}
      </div>
    </details>
  );
}
