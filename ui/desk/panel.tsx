'use client';

import { LoaderCircle } from 'lucide-react';
import { Tabs } from 'radix-ui';
import type { NoteChoice } from '@/core/left-hand/choices';
import { costsMore } from '@/core/left-hand/reasons';
import type { Finding } from '@/core/checks/finding';
import { fingerName } from '@/core/instruments/player';
import { stringName, type Instrument } from '@/core/instruments/instrument';
import type { Shift } from '@/core/left-hand/shift';
import { noteById } from '@/core/score/find';
import type { Part } from '@/core/score/score';
import type { BowingChoice, FingeringChoice } from '@/workers/analyst';
import { pitchLabel, placeLabel } from '@/ui/kit/music';

export type Suggestions = { kind: 'fingering'; items: FingeringChoice[] } | { kind: 'bowing'; items: BowingChoice[] };

interface Props {
  tab: string;
  onTab(tab: string): void;
  ready: boolean;
  working: boolean;
  passageName: string;
  part: Part | null;
  ticksPerQuarter: number;
  instrument: Instrument | null;
  suggestions: Suggestions | null;
  noteChoices: { noteId: string; label: string; items: NoteChoice[] } | null;
  highlighted: number;
  findings: readonly Finding[];
  elsewhere: number;
  onSuggest(kind: 'fingering' | 'bowing'): void;
  onHighlight(index: number): void;
  onTake(index: number): void;
  onClose(): void;
  onGo(noteId: string): void;
}

export function Panel(props: Props) {
  const { findings, tab, onTab } = props;
  return (
    <Tabs.Root
      value={tab}
      onValueChange={onTab}
      className="flex h-full w-76 shrink-0 flex-col border-l border-line bg-sheet max-lg:w-full max-lg:border-t max-lg:border-l-0"
    >
      <Tabs.List aria-label="Choices and findings" className="flex border-b border-line">
        {[
          ['choices', 'Choices'],
          ['findings', `Findings ${props.ready ? findings.length : ''}`],
        ].map(([value, label]) => (
          <Tabs.Trigger
            key={value}
            value={value!}
            className="min-h-11 cursor-pointer px-4 font-semibold text-soft data-[state=active]:border-b-2 data-[state=active]:border-ink data-[state=active]:text-ink"
          >
            {label}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value="choices" className="grow overflow-y-auto p-3">
        <Choices {...props} />
      </Tabs.Content>
      <Tabs.Content value="findings" className="grow overflow-y-auto p-3">
        <Findings {...props} />
      </Tabs.Content>
    </Tabs.Root>
  );
}

function Choices(props: Props) {
  const { ready, working, passageName, suggestions, noteChoices, onSuggest } = props;
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
      ) : noteChoices ? (
        <NoteChoiceList {...props} noteChoices={noteChoices} />
      ) : (
        <p className="text-soft">
          Select a note to see every way to play it, or ask for all of {passageName}. What you have marked stays; the rest is planned around it.
        </p>
      )}
    </div>
  );
}

function Card({
  index,
  highlighted,
  onHighlight,
  onTake,
  title,
  taken,
  children,
}: {
  index: number;
  highlighted: boolean;
  onHighlight(index: number): void;
  onTake(index: number): void;
  title: string;
  taken: boolean;
  children: React.ReactNode;
}) {
  return (
    <article
      aria-label={title}
      data-highlighted={highlighted}
      className={`rounded-xl border-2 px-3 py-2 ${highlighted ? 'border-spruce bg-paper' : 'border-line bg-sheet'}`}
      onMouseEnter={() => onHighlight(index)}
      onFocus={() => onHighlight(index)}
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

function SuggestionList({ suggestions, passageName, part, ticksPerQuarter, highlighted, onHighlight, onTake, onClose }: Props & { suggestions: Suggestions }) {
  const at = (noteId: string) => {
    const note = part && noteById(part, noteId);
    return part && note ? placeLabel(part, note, ticksPerQuarter).toLowerCase() : '';
  };
  return (
    <section aria-label={suggestions.kind === 'fingering' ? 'Suggested fingerings' : 'Suggested bowings'} className="grid gap-2">
      <div className="flex items-baseline justify-between">
        <h2 className="text-base">
          {suggestions.kind === 'fingering' ? 'Fingering' : 'Bowing'} of {passageName}
        </h2>
        <button type="button" className="cursor-pointer text-xs text-soft underline" onClick={onClose}>
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
              highlighted={i === highlighted}
              onHighlight={onHighlight}
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
              highlighted={i === highlighted}
              onHighlight={onHighlight}
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

/** More would not be compared any more. */
const SHOWN_CHOICES = 7;

export const shownChoices = (items: readonly NoteChoice[]): NoteChoice[] => items.slice(0, SHOWN_CHOICES);

const shiftWords = (shift: Shift | null, what: string) =>
  shift && shift.mm >= 1 ? `${what} ${Math.round(shift.mm)} mm in ${(shift.gapMs / 1000).toFixed(2)} s, ${shift.heard}.` : '';

function NoteChoiceList({ noteChoices, instrument, highlighted, onHighlight, onTake }: Props & { noteChoices: NonNullable<Props['noteChoices']> }) {
  const items = shownChoices(noteChoices.items);
  const best = items[0];
  return (
    <section aria-label="Ways to play this note" className="grid gap-2">
      <h2 className="text-base">{noteChoices.label}</h2>
      {items.length === 0 && <p className="text-soft">This note cannot be played on this instrument; the findings say why.</p>}
      {items.map((choice, i) => {
        const { place, shift, nextShift, extra } = choice;
        const name = `${place.finger === 0 ? 'Open' : fingerName(place.finger)} on ${instrument ? stringName(instrument, place.string) : place.string}${place.position ? ` · ${place.position}` : ''}${place.harmonic ? ' · harmonic' : ''}${place.extension ? ' · extended' : ''}`;
        const { more, less } = best && i > 0 ? costsMore(choice.terms, best.terms) : { more: [], less: [] };
        return (
          <Card key={name + i} index={i} highlighted={i === highlighted} onHighlight={onHighlight} onTake={onTake} title={name} taken={false}>
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

const SEVERITY = ['', 'watch', 'risk', 'will fail'];

function Findings({ ready, findings, elsewhere, part, ticksPerQuarter, passageName, onGo }: Props) {
  if (!ready)
    return (
      <p className="text-soft" role="status">
        Checking …
      </p>
    );
  return (
    <div className="grid gap-2">
      {findings.length === 0 && <p className="text-soft">Nothing in {passageName} passes a threshold for this player at this tempo.</p>}
      <ul className="grid gap-2">
        {findings.map((finding) => {
          const note = part && noteById(part, finding.noteIds[0]!);
          return (
            <li key={finding.id}>
              <article className="rounded-xl border border-line px-3 py-2" aria-label={`${finding.kind}, bar ${finding.bar}`}>
                <div className="flex items-baseline justify-between gap-2">
                  <button
                    type="button"
                    className="min-h-6 cursor-pointer text-left font-bold underline decoration-line underline-offset-4 hover:decoration-ink"
                    onClick={() => onGo(finding.noteIds[0]!)}
                  >
                    {part && note ? `${placeLabel(part, note, ticksPerQuarter)} · ${pitchLabel(note.pitch)}` : `Bar ${finding.bar}`}
                  </button>
                  <span className={`text-xs font-semibold ${finding.severity > 1 ? 'text-plum' : 'text-soft'}`}>
                    {'◆'.repeat(finding.severity)} {SEVERITY[finding.severity]}
                  </span>
                </div>
                <p className="text-[13px]">{finding.text}</p>
                {finding.hearIt && <p className="text-[13px] text-spruce">{finding.hearIt}</p>}
                {finding.remedies.map((remedy) => (
                  <p key={remedy.text} className="text-[13px] text-soft">
                    {remedy.text}
                  </p>
                ))}
                <details className="text-xs text-soft">
                  <summary className="cursor-pointer">the numbers</summary>
                  <dl>
                    {Object.entries(finding.numbers).map(([name, value]) => (
                      <div key={name} className="flex justify-between gap-2">
                        <dt>{name}</dt>
                        <dd>{String(value)}</dd>
                      </div>
                    ))}
                  </dl>
                </details>
              </article>
            </li>
          );
        })}
      </ul>
      {elsewhere > 0 && <p className="text-[13px] text-soft">{elsewhere} more in other passages; the list on the left says where.</p>}
      <p className="border-t border-line pt-2 text-xs text-soft">
        Figures are arithmetic, not medical advice: no pain, ever; rest at least five minutes in every half hour; numbness, tingling or lasting pain means stop,
        and see teacher and health professional.
      </p>
    </div>
  );
}
