'use client';

import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { spanMm } from '@/core/instruments/geometry';
import { asMeasured, HAND_SIZES, handOf, measuredShape, type HandSize, type MeasuredHand, type Player } from '@/core/instruments/player';
import type { Term } from '@/core/left-hand/costs';
import { PRESET_TABLE, PRESETS, weighable, type HandPreferences } from '@/core/left-hand/preferences';
import { DENSITIES, type Density } from '@/core/left-hand/worth-writing';
import { capital } from '../choices/choice-card';
import { OVERLAY } from '@/ui/kit/dialog';
import { giveBack } from '../dialogs';
import type { HandChange } from '@/ui/part/use-players';
import type { PlayerChoice } from '@/ui/part/part-data';

interface Props {
  open: boolean;
  person: Player;
  /** Null for the usual adult, whose hand is what it is. */
  player: PlayerChoice | null;
  preferences: HandPreferences;
  density: Density;
  onOpen(open: boolean): void;
  onClosed(): void;
  onPreferences(preferences: HandPreferences): void;
  onDensity(density: Density): void;
  onHand(change: HandChange): void;
}

/** How this part is fingered, and the hand that it is fingered for. */
export function HandDialog({ open, person, player, preferences, density, onOpen, onClosed, onPreferences, onDensity, onHand }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content
          className="fixed top-[6vh] left-1/2 z-50 max-h-[88vh] w-[min(58rem,96vw)] -translate-x-1/2 overflow-y-auto rounded-xl border border-line bg-sheet p-5 shadow-xl"
          aria-describedby={undefined}
          onCloseAutoFocus={giveBack(onClosed)}
        >
          <Dialog.Title className="text-lg">Fingering: how, and for which hand</Dialog.Title>
          <div className="mt-3 grid gap-6 md:grid-cols-2">
            <Preferences person={person} preferences={preferences} density={density} onPreferences={onPreferences} onDensity={onDensity} />
            <HandOf person={person} player={player} onHand={onHand} />
          </div>
          <Dialog.Close className="button mt-5">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

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

function Preferences({
  person,
  preferences,
  density,
  onPreferences,
  onDensity,
}: Pick<Props, 'person' | 'preferences' | 'density' | 'onPreferences' | 'onDensity'>) {
  return (
    <section aria-label="How this part is fingered" className="grid content-start gap-3">
      <h2 className="text-base">This part</h2>
      <label className="grid gap-1">
        <span>Played</span>
        <select
          className="field"
          value={preferences.preset}
          onChange={(event) => onPreferences({ ...preferences, preset: event.target.value as HandPreferences['preset'] })}
        >
          {PRESETS.map((preset) => (
            <option key={preset} value={preset}>
              {capital(preset)}
            </option>
          ))}
        </select>
        <span className="text-[13px] text-soft">{capital(PRESET_TABLE[preferences.preset].aim)}.</span>
      </label>
      {SCHOOLS.map(({ key, label, options }) => (
        <label key={key} className="grid gap-1">
          <span>{label}</span>
          <select className="field" value={preferences[key]} onChange={(event) => onPreferences({ ...preferences, [key]: event.target.value })}>
            {options.map(([value, words]) => (
              <option key={value} value={value}>
                {capital(words)}
              </option>
            ))}
          </select>
        </label>
      ))}
      <label className="grid gap-1">
        <span>Fingers that a suggestion writes</span>
        <select className="field" value={density} onChange={(event) => onDensity(event.target.value as Density)}>
          {DENSITIES.map((each) => (
            <option key={each} value={each}>
              {capital(DENSITY_WORDS[each])}
            </option>
          ))}
        </select>
      </label>
      <Weights person={person} preferences={preferences} onPreferences={onPreferences} />
    </section>
  );
}

/** What is avoided how much: 1 is the usual weight, or the preset's. */
function Weights({ person, preferences, onPreferences }: Pick<Props, 'person' | 'preferences' | 'onPreferences'>) {
  const preset = PRESET_TABLE[preferences.preset].weights;
  const own = Object.keys(preferences.weights).length;
  const set = (term: Term, weight: number | null) => {
    const weights = { ...preferences.weights };
    if (weight === null) delete weights[term];
    else weights[term] = weight;
    onPreferences({ ...preferences, weights });
  };
  return (
    <details>
      <summary className="cursor-pointer">Avoid more, avoid less{own ? ` (${own} set here)` : ''}</summary>
      <p className="mt-1 text-[13px] text-soft">
        1 is the usual weight; 0 does not mind at all, 5 avoids it wherever it can. What you set here stands over the preset.
      </p>
      <div className="mt-2 grid gap-1.5">
        {weighable(person.instrument.kind).map(([term, words]) => {
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
              <button
                type="button"
                className="min-h-6 w-12 cursor-pointer text-xs text-soft underline disabled:invisible"
                aria-label={`${words}: back to usual`}
                disabled={preferences.weights[term] === undefined}
                onClick={() => set(term, null)}
              >
                reset
              </button>
            </div>
          );
        })}
      </div>
    </details>
  );
}

const HALF_STEPS = ['', '', 'a tone', 'a minor third', 'a major third', 'a fourth', 'a tritone', 'a fifth', 'a minor sixth', 'a major sixth'];
/** First position: the first finger lies here, half steps above the open string. */
const FIRST_AT = 2;

/** "about a fourth": what a spread in mm is in first position on this instrument. */
function inFirstPosition(mm: number, lengthMm: number): string {
  let halfSteps = 0;
  while (halfSteps < HALF_STEPS.length - 1 && spanMm(lengthMm, FIRST_AT, FIRST_AT + halfSteps + 1) <= mm + 1) halfSteps++;
  return HALF_STEPS[halfSteps] ? `reaches ${HALF_STEPS[halfSteps]} in first position` : 'less than a tone';
}

function HandOf({ person, player, onHand }: Pick<Props, 'person' | 'player' | 'onHand'>) {
  const { kind, lengthMm } = person.instrument;
  if (!player) {
    return (
      <section aria-label="The hand" className="grid content-start gap-2">
        <h2 className="text-base">The hand of a usual adult</h2>
        <p className="text-soft">
          First to fourth finger {Math.round(person.hand.comfortableMm[14])} mm, at most {Math.round(person.hand.limitMm[14])} mm. Choose a player at the top to
          measure a hand and to say how it was taught.
        </p>
      </section>
    );
  }
  const { measured, technique } = player;
  return (
    <section aria-label="The hand" className="grid content-start gap-3">
      <h2 className="text-base">
        The hand of {player.name} <span className="font-sans text-[13px] text-soft">(wherever {player.name} plays)</span>
      </h2>
      <label className="grid gap-1">
        <span>Hand</span>
        <select
          className="field"
          value={measured ? 'measured' : player.hand}
          onChange={(event) =>
            onHand(event.target.value === 'measured' ? { measured: asMeasured(handOf(player.hand)) } : { hand: event.target.value as HandSize, measured: null })
          }
        >
          {HAND_SIZES.map((size) => (
            <option key={size} value={size}>
              {capital(size)}: {Math.round(handOf(size).comfortableMm[14])} mm, at most {Math.round(handOf(size).limitMm[14])} mm from 1 to 4
            </option>
          ))}
          <option value="measured">Measured</option>
        </select>
      </label>
      {measured && <Measured key={player.id} measured={measured} lengthMm={lengthMm} onHand={onHand} />}
      {(kind === 'cello' || kind === 'bass') && (
        <>
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={player.thumbPosition} onChange={(event) => onHand({ thumbPosition: event.target.checked })} /> Plays with the thumb
            on the string
          </label>
          {player.thumbPosition && (
            <label className="grid gap-1">
              <span>The thumb goes on from</span>
              <select
                className="field"
                value={technique?.thumbFrom ?? 10}
                onChange={(event) => onHand({ technique: { thumbFrom: Number(event.target.value) } })}
              >
                {[5, 7, 9, 10, 12].map((stop) => (
                  <option key={stop} value={stop}>
                    {stop} half steps above the open string{stop === 10 ? ' (usual)' : stop === 12 ? ' (the octave)' : ''}
                  </option>
                ))}
              </select>
            </label>
          )}
        </>
      )}
      {kind === 'bass' && (
        <label className="grid gap-1">
          <span>Low positions</span>
          <select
            className="field"
            value={technique?.bassFingers ?? 'three'}
            onChange={(event) => onHand({ technique: { bassFingers: event.target.value as 'three' | 'four' } })}
          >
            <option value="three">Three fingers: 1-2-4, a tone in the hand</option>
            <option value="four">Four fingers: 1-2-3-4, a minor third in the hand</option>
          </select>
        </label>
      )}
      <p className="rounded-lg border border-line bg-paper px-3 py-2 text-[13px]">
        Measure without force. No pain, ever: a smaller hand gets another fingering, not a bigger stretch. Numbness, tingling or lasting pain means stop, and
        see a teacher and a health professional.
      </p>
    </section>
  );
}

const PAIRS: ReadonlyArray<readonly [pair: '12' | '23' | '34', words: string]> = [
  ['12', '1 to 2'],
  ['23', '2 to 3'],
  ['34', '3 to 4'],
];

function Measured({ measured, lengthMm, onHand }: { measured: MeasuredHand; lengthMm: number; onHand(change: HandChange): void }) {
  const [draft, setDraft] = useState(measured);
  const checked = measuredShape.safeParse(draft);
  const put = (next: MeasuredHand) => {
    setDraft(next);
    if (measuredShape.safeParse(next).success) onHand({ measured: next });
  };
  const mm = (label: string, value: number, onValue: (mm: number) => void, hint: string | null) => (
    <label key={label} className="grid gap-0.5 text-[13px]">
      <span>{label}</span>
      <span className="flex items-center gap-2">
        <input type="number" className="field w-20" min={15} max={260} value={value} onChange={(event) => onValue(Number(event.target.value))} /> mm
        {hint && <span className="text-soft">{hint}</span>}
      </span>
    </label>
  );
  return (
    <fieldset className="grid gap-2 rounded-lg border border-line p-3">
      <legend className="px-1 text-[13px]">In first position, with the first finger down, how far does the fourth reach?</legend>
      {mm('With ease', draft.comfortable, (comfortable) => put({ ...draft, comfortable }), inFirstPosition(draft.comfortable, lengthMm))}
      {mm('At most, still without pain', draft.greatest, (greatest) => put({ ...draft, greatest }), inFirstPosition(draft.greatest, lengthMm))}
      {!checked.success && (
        <p role="alert" className="text-[13px] text-plum">
          {checked.error.issues[0]!.path.join(' ')}: {checked.error.issues[0]!.message}. Give mm from 15 to 260; the last good figures stay in force.
        </p>
      )}
      <details>
        <summary className="cursor-pointer text-[13px]">Between neighbouring fingers</summary>
        <div className="mt-2 grid gap-2">
          {PAIRS.map(([pair, words]) => {
            const own = draft.pairs?.[pair];
            return (
              <div key={pair} className="flex flex-wrap items-end gap-3">
                {own ? (
                  <>
                    {mm(
                      `${words}, with ease`,
                      own.comfortable,
                      (comfortable) => put({ ...draft, pairs: { ...draft.pairs, [pair]: { ...own, comfortable } } }),
                      null,
                    )}
                    {mm('at most', own.greatest, (greatest) => put({ ...draft, pairs: { ...draft.pairs, [pair]: { ...own, greatest } } }), null)}
                  </>
                ) : (
                  <button
                    type="button"
                    className="min-h-6 cursor-pointer text-[13px] underline"
                    onClick={() => put({ ...draft, pairs: { ...draft.pairs, [pair]: usualPair(pair, draft) } })}
                  >
                    Measure {words} too
                  </button>
                )}
              </div>
            );
          })}
        </div>
      </details>
    </fieldset>
  );
}

function usualPair(pair: '12' | '23' | '34', { comfortable, greatest }: MeasuredHand): { comfortable: number; greatest: number } {
  const usual = handOf('medium');
  return {
    comfortable: Math.round((usual.comfortableMm[pair as unknown as 12] * comfortable) / usual.comfortableMm[14]),
    greatest: Math.round((usual.limitMm[pair as unknown as 12] * greatest) / usual.limitMm[14]),
  };
}
