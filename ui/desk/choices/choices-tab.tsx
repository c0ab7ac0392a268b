'use client';

import { placeLabel, pitchLabel } from '@/ui/kit/music';
import { Button, TextButton } from '@/ui/kit/button';
import { NotAnswered } from '@/ui/kit/not-answered';
import { Waiting } from '@/ui/kit/waiting';
import { deskDeeds } from '../model/deeds';
import { useDesk } from '../model/desk';
import type { Hand } from '../model/use-choices';
import type { Suggestions } from '../model/use-suggestions';
import { BowChoices } from './bow-choices';
import { BowingCards } from './bowing-cards';
import { FingeringCards } from './fingering-cards';
import { AdviceList, HandSettings, HandSide } from './hand-side';
import { PencilSigns } from './pencil-signs';

export function ChoicesTab() {
  const desk = useDesk();
  const { report, passage, choices, view, focus } = desk;
  const { working, suggestions } = choices;
  const { suggest } = deskDeeds(desk);
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-2 gap-2">
        <Button look="spruce" disabled={!report || working} onClick={() => suggest('fingering')}>
          Suggest fingering
        </Button>
        <Button look="rosin" disabled={!report || working} onClick={() => suggest('bowing')}>
          Suggest bowing
        </Button>
      </div>
      <HandSettings />
      {working && <Waiting>Trying every way …</Waiting>}
      {suggestions ? (
        <SuggestionList suggestions={suggestions} />
      ) : view.part && focus ? (
        <>
          <HandSwitch hand={choices.hand} onHand={choices.setHand} />
          <h2 className="text-base">{`${placeLabel(view.part, focus)} · ${pitchLabel(focus.pitch)}`}</h2>
          {choices.unanswered.problem && <NotAnswered problem={choices.unanswered.problem} onRetry={choices.unanswered.retry} />}
          {choices.hand === 'bow' ? <BowChoices /> : <HandSide />}
          <PencilSigns />
        </>
      ) : (
        <>
          <p className="text-soft">
            Select a note to see every way to play it, or ask for all of {passage.name}. What you have marked stays; the rest is planned around it.
          </p>
          <AdviceList />
        </>
      )}
    </div>
  );
}

const HANDS: ReadonlyArray<[hand: Hand, name: string]> = [
  ['left', 'Left hand'],
  ['bow', 'Bow'],
];

function HandSwitch({ hand, onHand }: { hand: Hand; onHand(hand: Hand): void }) {
  return (
    <div role="radiogroup" aria-label="Choices for" className="grid grid-cols-2 rounded-lg border border-line bg-paper p-0.5">
      {HANDS.map(([value, name]) => (
        <button
          key={value}
          type="button"
          role="radio"
          aria-checked={hand === value}
          className={`min-h-7 cursor-pointer rounded-md text-[13px] font-semibold ${hand === value ? `bg-sheet shadow-sm ${value === 'bow' ? 'text-rosin' : 'text-spruce'}` : 'text-soft'}`}
          onClick={() => onHand(value)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

const WORDS = {
  fingering: { label: 'Suggested fingerings', name: 'Fingering', none: 'No note here can be fingered on this instrument; the findings say why.' },
  bowing: { label: 'Suggested bowings', name: 'Bowing', none: 'Nothing here is bowed.' },
};

function SuggestionList({ suggestions }: { suggestions: Suggestions }) {
  const { passage, choices, setDialog } = useDesk();
  const { label, name, none } = WORDS[suggestions.kind];
  return (
    <section aria-label={label} className="grid gap-2">
      <div className="flex items-baseline justify-between">
        <h2 className="text-base">
          {name} of {passage.name}
        </h2>
        <span className="flex gap-3">
          {suggestions.items.length > 1 && (
            <TextButton className="text-xs font-semibold text-ink" onClick={() => setDialog('compare')}>
              compare
            </TextButton>
          )}
          <TextButton className="text-xs text-soft" onClick={choices.close}>
            close
          </TextButton>
        </span>
      </div>
      {suggestions.items.length === 0 && <p className="text-soft">{none}</p>}
      {suggestions.kind === 'fingering' ? <FingeringCards items={suggestions.items} /> : <BowingCards items={suggestions.items} />}
    </section>
  );
}
