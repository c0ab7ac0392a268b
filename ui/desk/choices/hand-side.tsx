'use client';

import { SlidersHorizontal } from 'lucide-react';
import { useState } from 'react';
import { stringName } from '@/core/instruments/instrument';
import { fingerName } from '@/core/instruments/player';
import type { HandAdvice } from '@/core/left-hand/advice';
import type { NoteChoice } from '@/core/left-hand/choices';
import { costsMore } from '@/core/left-hand/reasons';
import type { Shift } from '@/core/left-hand/shift';
import { barsLabel } from '@/ui/kit/music';
import { capital, Card, sentence } from './choice-card';
import { Fingerboard } from './fingerboard';
import type { PanelProps } from '../panel';

/** The left hand at the selected note: where it lies, and every way to play the note. */
export function HandSide(props: PanelProps & { items: readonly NoteChoice[] | null }) {
  const { hand, items, noteLabel } = props;
  return (
    <>
      <h2 className="text-base">{noteLabel}</h2>
      {hand.frame && hand.focus && <Fingerboard frame={hand.previewed ?? hand.frame} words={hand.frame} person={hand.person} noteId={hand.focus} />}
      {items && <NoteChoiceList {...props} items={items} />}
      <AdviceList {...props} />
    </>
  );
}

/** How the part is fingered, in a line that opens the settings. */
export function HandSettings({ hand }: Pick<PanelProps, 'hand'>) {
  const { preferences, person } = hand;
  const own = Object.keys(preferences.weights).length;
  return (
    <button type="button" className="flex min-h-7 cursor-pointer items-center gap-1.5 text-left text-[13px] text-soft" onClick={hand.onSettings}>
      <SlidersHorizontal size={14} aria-hidden />
      <span>
        Fingered the <strong className="font-semibold text-ink">{preferences.preset}</strong> way{own ? `, ${own} weights of your own` : ''},{' '}
        <strong className="font-semibold text-ink">{person.hand.name}</strong> hand
      </span>
      <span className="underline">change</span>
    </button>
  );
}

const shiftWords = (shift: Shift | null, what: string) =>
  shift && shift.mm >= 1 ? `${what} ${Math.round(shift.mm)} mm in ${(shift.gapMs / 1000).toFixed(2)} s, ${shift.heard}.` : '';

function NoteChoiceList({ items, instrument, choices, onTake }: PanelProps & { items: readonly NoteChoice[] }) {
  const best = items[0];
  return (
    <section aria-label="Ways to play this note" className="grid gap-2">
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

/** More would bury the choices. */
const SHOWN = 6;

/** Fingers to cover, leave down, set before and damp, early moves, patterns: what else there is to say about the passage. */
export function AdviceList({ hand, open, passageName, onGo }: PanelProps) {
  const { advice, onAdvice } = hand;
  const [all, setAll] = useState(false);
  if (!advice || advice.length === 0) return null;
  const shown = all ? advice : advice.slice(0, SHOWN);
  return (
    <section aria-label="Worth knowing" className="grid gap-1.5">
      <h2 className="text-base">Worth knowing in {passageName}</h2>
      <ul className="grid gap-1.5">
        {shown.map((each) => (
          <li key={each.kind + each.noteIds.join()} className="rounded-lg border border-line px-2.5 py-1.5 text-[13px]">
            <button type="button" className="min-h-6 cursor-pointer text-left" onClick={() => onGo(each.noteIds[0]!)}>
              <strong className="font-semibold">
                {capital(each.kind)}
                <span className="font-normal text-soft">, bar {barsLabel(open?.part ?? null, each.barIndex, each.barIndex)}</span>
              </strong>
              <span className="block text-soft">{each.text}</span>
            </button>
            {each.take && <TakeAdvice advice={each} onAdvice={onAdvice} />}
          </li>
        ))}
      </ul>
      {shown.length < advice.length && (
        <button type="button" className="min-h-6 cursor-pointer justify-self-start text-[13px] underline" onClick={() => setAll(true)}>
          Show all {advice.length}
        </button>
      )}
    </section>
  );
}

function TakeAdvice({ advice, onAdvice }: { advice: HandAdvice; onAdvice(advice: HandAdvice): void }) {
  return (
    <button type="button" className="button mt-1 min-h-7" onClick={() => onAdvice(advice)}>
      Mark it
    </button>
  );
}
