'use client';

import { Button, TextButton } from '@/ui/kit/button';
import { SlidersHorizontal } from 'lucide-react';
import { useState } from 'react';
import { stringName } from '@/core/instruments/instrument';
import { fingerName } from '@/core/instruments/player';
import type { HandAdvice } from '@/core/left-hand/advice';
import { costsMore } from '@/core/left-hand/reasons';
import type { Shift } from '@/core/left-hand/shift';
import { fingerInForce } from '@/core/marking/mark';
import { barsLabel } from '@/ui/kit/music';
import { NotAnswered } from '@/ui/kit/not-answered';
import { capital, costsAndGains } from '@/ui/kit/words';
import { Said } from '@/ui/kit/terms';
import { deskDeeds } from '../model/deeds';
import { useDesk } from '../model/desk';
import { useFrames, useHandAdvice } from '../model/use-hand-panel';
import { Card } from './choice-card';
import { Fingerboard } from './fingerboard';

/** The left hand at the selected note: where it lies, and every way to play the note. */
export function HandSide() {
  const { frame, previewed, focus, person } = useFrames();
  return (
    <>
      {/* Where the panel is low the choices come first, the drawing beside or after them. */}
      <div className="grid gap-3 sm:max-lg:grid-cols-2">
        <div className="max-lg:order-2">{frame && focus && <Fingerboard frame={previewed ?? frame} words={frame} person={person} noteId={focus} />}</div>
        <NoteChoiceList />
      </div>
      <AdviceList />
    </>
  );
}

/** How the part is fingered, in a line that opens the settings. */
export function HandSettings() {
  const { settings, view, setDialog } = useDesk();
  const { preferences } = settings;
  const { person } = view;
  const own = Object.keys(preferences.weights).length;
  return (
    <button type="button" className="flex min-h-7 cursor-pointer items-center gap-1.5 text-left text-[13px] text-soft" onClick={() => setDialog('hand')}>
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

function NoteChoiceList() {
  const desk = useDesk();
  const { choices, view, marking, focus } = desk;
  const { instrument } = view;
  const items = choices.ofNote?.items;
  if (!items) return null;
  const planned = items[0];
  const isMarked = focus !== undefined && fingerInForce(focus, marking) !== null;
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
        const { more, less } = planned && i > 0 ? costsMore(choice.terms, planned.terms) : { more: [], less: [] };
        return (
          <Card key={name + i} index={i} title={name} taken={choice.now && 'now'} onKeep={choice.now && !isMarked && (() => deskDeeds(desk).take(i))}>
            <p className="text-[13px] text-soft">
              {[shiftWords(shift, 'Shift here:'), shiftWords(nextShift?.shift ?? null, 'Next shift:')].filter(Boolean).join(' ') || 'No shift here.'}{' '}
              {costsAndGains(more, less)}
              {i > 0 && Math.abs(extra) < 0.15 ? ' Hardly any difference.' : ''}
              {extra <= -0.15 ? ' Easier than what is planned around your mark.' : ''}
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
export function AdviceList() {
  const { view, passage, go } = useDesk();
  const { advice, problem, retry, mark } = useHandAdvice();
  const [all, setAll] = useState(false);
  if (problem) return <NotAnswered problem={problem} onRetry={retry} />;
  if (!advice || advice.length === 0) return null;
  const shown = all ? advice : advice.slice(0, SHOWN);
  return (
    <section aria-label="Worth knowing" className="grid gap-1.5">
      <h2 className="text-base">Worth knowing in {passage.name}</h2>
      <ul className="grid gap-1.5">
        {shown.map((each) => (
          <li key={each.kind + each.noteIds.join()} className="rounded-lg border border-line px-2.5 py-1.5 text-[13px]">
            <button type="button" className="min-h-6 cursor-pointer text-left" onClick={() => go(each.noteIds[0]!)}>
              <strong className="font-semibold">
                {capital(each.kind)}
                <span className="font-normal text-soft">, bar {barsLabel(view.part, each.barIndex, each.barIndex)}</span>
              </strong>
              <span className="block text-soft">
                <Said>{each.text}</Said>
              </span>
            </button>
            {each.take && <TakeAdvice advice={each} onAdvice={mark} />}
          </li>
        ))}
      </ul>
      {shown.length < advice.length && (
        <TextButton className="justify-self-start text-[13px]" onClick={() => setAll(true)}>
          Show all {advice.length}
        </TextButton>
      )}
    </section>
  );
}

function TakeAdvice({ advice, onAdvice }: { advice: HandAdvice; onAdvice(advice: HandAdvice): void }) {
  return (
    <Button small className="mt-1" onClick={() => onAdvice(advice)}>
      Mark it
    </Button>
  );
}
