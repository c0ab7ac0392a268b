'use client';

import { LoaderCircle } from 'lucide-react';
import { noteById } from '@/core/score/find';
import { placeLabel } from '@/ui/kit/music';
import { BowChoices } from './bow-choices';
import { BowingCards } from './bowing-cards';
import { capital, Card, Numbers, sentence } from './choice-card';
import { AdviceList, HandSettings, HandSide } from './hand-side';
import type { PanelProps } from '../panel';
import type { Hand, Suggestions } from './use-choices';

export function ChoicesTab(props: PanelProps) {
  const { ready, passageName, choices, noteLabel, onSuggest } = props;
  const { working, suggestions, ofNote } = choices;
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-2 gap-2">
        <button type="button" className="button button-spruce" disabled={!ready || working} onClick={() => onSuggest('fingering')}>
          Suggest fingering
        </button>
        <button type="button" className="button button-rosin" disabled={!ready || working} onClick={() => onSuggest('bowing')}>
          Suggest bowing
        </button>
      </div>
      <HandSettings hand={props.hand} />
      {working && (
        <p className="flex items-center gap-2 text-soft" role="status">
          <LoaderCircle size={15} className="animate-spin" aria-hidden /> Trying every way …
        </p>
      )}
      {suggestions ? (
        <SuggestionList {...props} suggestions={suggestions} />
      ) : noteLabel ? (
        <>
          <HandSwitch hand={choices.hand} onHand={choices.setHand} />
          {choices.hand === 'bow' ? <BowChoices {...props} /> : <HandSide {...props} items={ofNote?.items ?? null} />}
        </>
      ) : (
        <>
          <p className="text-soft">
            Select a note to see every way to play it, or ask for all of {passageName}. What you have marked stays; the rest is planned around it.
          </p>
          <AdviceList {...props} />
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

function SuggestionList({ suggestions, passageName, open, choices, onTake, onCompare }: PanelProps & { suggestions: Suggestions }) {
  const at = (noteId: string) => {
    const note = open && noteById(open.part, noteId);
    return note ? placeLabel(open.part, note).toLowerCase() : '';
  };
  return (
    <section aria-label={suggestions.kind === 'fingering' ? 'Suggested fingerings' : 'Suggested bowings'} className="grid gap-2">
      <div className="flex items-baseline justify-between">
        <h2 className="text-base">
          {suggestions.kind === 'fingering' ? 'Fingering' : 'Bowing'} of {passageName}
        </h2>
        <span className="flex gap-3">
          {suggestions.items.length > 1 && (
            <button type="button" className="min-h-6 cursor-pointer text-xs font-semibold text-ink underline" onClick={onCompare}>
              compare
            </button>
          )}
          <button type="button" className="min-h-6 cursor-pointer text-xs text-soft underline" onClick={choices.close}>
            close
          </button>
        </span>
      </div>
      {suggestions.items.length === 0 && (
        <p className="text-soft">
          {suggestions.kind === 'fingering' ? 'No note here can be fingered on this instrument; the findings say why.' : 'Nothing here is bowed.'}
        </p>
      )}
      {suggestions.kind === 'fingering' ? (
        suggestions.items.map(({ way, numbers, outlook, more, less, changes }, i) => (
          <Card
            key={way.strategy + i}
            index={i}
            choices={choices}
            onTake={onTake}
            title={i === 0 ? 'Best on the whole' : capital(way.aim)}
            taken={changes.length === 0 && 'as marked'}
          >
            {i > 0 && <p className="text-[13px] text-soft">{sentence(more, less)}</p>}
            <Numbers
              rows={[
                ['shifts', `${numbers.shifts}`, numbers.shifts ? `${Math.round(numbers.shiftMm)} mm in all` : ''],
                ['hardest', numbers.hardest ? `${numbers.hardest.bitsPerS.toFixed(0)} bits/s` : 'none', numbers.hardest ? at(numbers.hardest.noteId) : ''],
                ['worst risk', outlook.worst ? `${Math.round(outlook.worst.chance * 100)} %` : 'none', outlook.worst ? at(outlook.worst.noteId) : ''],
                ['fourth finger / open', `${numbers.fourthFingers} / ${numbers.openStrings}`, ''],
                ['marks to write', `${changes.filter((change) => change.to).length}`, ''],
              ]}
            />
          </Card>
        ))
      ) : (
        <BowingCards items={suggestions.items} choices={choices} onTake={onTake} open={open} />
      )}
    </section>
  );
}
