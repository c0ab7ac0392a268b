'use client';

import { LoaderCircle } from 'lucide-react';
import { fingerName } from '@/core/instruments/player';
import { stringName } from '@/core/instruments/instrument';
import { costsMore } from '@/core/left-hand/reasons';
import type { NoteChoice } from '@/core/left-hand/choices';
import type { Shift } from '@/core/left-hand/shift';
import { noteById } from '@/core/score/find';
import { placeLabel } from '@/ui/kit/music';
import { BowChoices } from './bow-choices';
import { BowingCards } from './bowing-cards';
import { capital, Card, Numbers, sentence } from './choice-card';
import type { PanelProps } from './panel';
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
          {choices.hand === 'bow' ? <BowChoices {...props} /> : ofNote && <NoteChoiceList {...props} items={ofNote.items} />}
        </>
      ) : (
        <p className="text-soft">
          Select a note to see every way to play it, or ask for all of {passageName}. What you have marked stays; the rest is planned around it.
        </p>
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
          {suggestions.kind === 'bowing' && suggestions.items.length > 1 && (
            <button type="button" className="min-h-6 cursor-pointer text-xs font-semibold text-rosin underline" onClick={onCompare}>
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
        suggestions.items.map(({ way, numbers, more, less, changes }, i) => (
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
                ['string changes in slurs', `${numbers.stringChangesInSlurs}`, ''],
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

const shiftWords = (shift: Shift | null, what: string) =>
  shift && shift.mm >= 1 ? `${what} ${Math.round(shift.mm)} mm in ${(shift.gapMs / 1000).toFixed(2)} s, ${shift.heard}.` : '';

function NoteChoiceList({ items, noteLabel, instrument, choices, onTake }: PanelProps & { items: readonly NoteChoice[] }) {
  const best = items[0];
  return (
    <section aria-label="Ways to play this note" className="grid gap-2">
      <h2 className="text-base">{noteLabel}</h2>
      {items.length === 0 && <p className="text-soft">This note cannot be played on this instrument; the findings say why.</p>}
      {items.map((choice, i) => {
        const { place, shift, nextShift, extra } = choice;
        const name = [
          `${place.finger === 0 ? 'Open' : fingerName(place.finger)} on ${stringName(instrument, place.string)}`,
          place.position,
          place.harmonic && 'harmonic',
          place.extension && 'extended',
        ]
          .filter(Boolean)
          .join(' · ');
        const { more, less } = best && i > 0 ? costsMore(choice.terms, best.terms) : { more: [], less: [] };
        return (
          <Card key={name + i} index={i} choices={choices} onTake={onTake} title={name} taken={false}>
            <p className="text-[13px] text-soft">
              {[shiftWords(shift, 'Shift here:'), shiftWords(nextShift?.shift ?? null, 'Next shift:')].filter(Boolean).join(' ') || 'No shift here.'}{' '}
              {sentence(more, less)}
              {i > 0 && extra < 0.15 ? ' Hardly any difference.' : ''}
            </p>
          </Card>
        );
      })}
    </section>
  );
}
