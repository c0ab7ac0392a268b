'use client';

import { LoaderCircle } from 'lucide-react';
import type { ReactNode } from 'react';
import { fingerName } from '@/core/instruments/player';
import { stringName } from '@/core/instruments/instrument';
import { costsMore } from '@/core/left-hand/reasons';
import type { NoteChoice } from '@/core/left-hand/choices';
import type { Shift } from '@/core/left-hand/shift';
import { noteById } from '@/core/score/find';
import { placeLabel } from '@/ui/kit/music';
import type { PanelProps } from './panel';
import type { Suggestions } from './use-choices';

export function ChoicesTab(props: PanelProps) {
  const { ready, passageName, choices, onSuggest } = props;
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
      ) : ofNote ? (
        <NoteChoiceList {...props} items={ofNote.items} />
      ) : (
        <p className="text-soft">
          Select a note to see every way to play it, or ask for all of {passageName}. What you have marked stays; the rest is planned around it.
        </p>
      )}
    </div>
  );
}

interface CardProps extends Pick<PanelProps, 'choices' | 'onTake'> {
  index: number;
  title: string;
  /** Everything it would write is marked already. */
  taken: boolean;
  children: ReactNode;
}

/** One choice; pointing at it shows it in the tracks. */
function Card({ index, choices, onTake, title, taken, children }: CardProps) {
  const highlighted = choices.highlighted === index;
  return (
    <article
      aria-label={title}
      data-highlighted={highlighted}
      className={`rounded-xl border-2 px-3 py-2 ${highlighted ? 'border-spruce bg-paper' : 'border-line bg-sheet'}`}
      onMouseEnter={() => choices.highlight(index)}
      onFocus={() => choices.highlight(index)}
    >
      <div className="flex items-center justify-between gap-2">
        <h3 className="font-sans text-sm font-bold">{title}</h3>
        {taken ? (
          <span className="text-xs font-semibold text-spruce">as marked</span>
        ) : (
          <button type="button" className="button min-h-7" onClick={() => onTake(index)}>
            Take
          </button>
        )}
      </div>
      {children}
    </article>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const sentence = (more: readonly string[], less: readonly string[]) =>
  [more.length ? `Costs more: ${more.join(', ')}.` : '', less.length ? `Gains: ${less.join(', ')}.` : ''].filter(Boolean).join(' ');

function SuggestionList({ suggestions, passageName, open, choices, onTake }: PanelProps & { suggestions: Suggestions }) {
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
        <button type="button" className="cursor-pointer text-xs text-soft underline" onClick={choices.close}>
          close
        </button>
      </div>
      {suggestions.items.length === 0 && (
        <p className="text-soft">
          {suggestions.kind === 'fingering' ? 'No note here can be fingered on this instrument; the findings say why.' : 'Nothing here is bowed.'}
        </p>
      )}
      {suggestions.kind === 'fingering'
        ? suggestions.items.map(({ way, numbers, more, less, changes }, i) => (
            <Card
              key={way.strategy + i}
              index={i}
              choices={choices}
              onTake={onTake}
              title={i === 0 ? 'Best on the whole' : capital(way.aim)}
              taken={changes.length === 0}
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
        : suggestions.items.map(({ plan, numbers, changes }, i) => (
            <Card
              key={plan.strategy + i}
              index={i}
              choices={choices}
              onTake={onTake}
              title={i === 0 ? 'Best on the whole' : capital(plan.aim)}
              taken={changes.length === 0}
            >
              {!numbers.feasible && <p className="text-[13px] font-semibold text-plum">Somewhere the bow or the time is too short.</p>}
              <Numbers
                rows={[
                  ['strokes', `${numbers.strokes}`, `${numbers.barsOnUp} ${numbers.barsOnUp === 1 ? 'bar begins' : 'bars begin'} up`],
                  ['retakes / hooks', `${numbers.retakes} / ${numbers.hooks}`, ''],
                  ['slurs split', `${numbers.splits}`, ''],
                  ['greatest step', `${numbers.greatestStepDb.toFixed(0)} dB`, 'by speed alone'],
                  ['marks to write', `${changes.filter((change) => change.to).length}`, ''],
                ]}
              />
              {plan.changes.slice(0, 3).map((change) => (
                <p key={change.kind + change.noteId} className="mt-1 text-[13px] text-soft">
                  {capital(at(change.noteId))}: {change.kind}, {change.why}.
                </p>
              ))}
            </Card>
          ))}
    </section>
  );
}

function Numbers({ rows }: { rows: ReadonlyArray<readonly [string, string, string]> }) {
  return (
    <dl className="mt-1 text-[13px]">
      {rows.map(([name, value, more]) => (
        <div key={name} className="flex justify-between gap-2">
          <dt className="text-soft">{name}</dt>
          <dd className="text-right">
            <strong>{value}</strong> <span className="text-soft">{more}</span>
          </dd>
        </div>
      ))}
    </dl>
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
