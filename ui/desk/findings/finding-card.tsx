'use client';

import { useEffect, useRef, useState } from 'react';
import { calculationOf } from '@/core/checks/calculation';
import { isQuiet, type Finding } from '@/core/checks/finding';
import { inUnit } from '@/core/checks/kinds';
import { numbersInWords } from '@/core/checks/number-words';
import type { TriedRemedy } from '@/core/checks/remedies';
import { noteById } from '@/core/score/find';
import { LIMITS } from '@/core/util/limits';
import { Button, PlaceButton, TextButton } from '@/ui/kit/button';
import { LimitHint } from '@/ui/kit/limit';
import { pitchLabel, placeLabel } from '@/ui/kit/music';
import { NotAnswered } from '@/ui/kit/not-answered';
import { capital } from '@/ui/kit/words';
import { Said } from '@/ui/kit/terms';
import { useDesk } from '../model/desk';

const SEVERITY = ['', 'watch', 'risk', 'will fail'];

/** @param all findings that say the same of several places, the first of them first */
export function FindingCard({ all }: { all: readonly Finding[] }) {
  const { spots, lookAt } = useDesk();
  const finding = all.find(({ id }) => id === spots.current?.id) ?? all[0]!;
  const current = spots.current?.id === finding.id;
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    if (current) card.current?.scrollIntoView({ block: 'nearest' });
  }, [current]);
  const said = (
    <>
      <span className="block text-xs font-semibold text-soft">{capital(finding.kind)}</span>
      <span className="block text-[13px]">
        <Said>{finding.text}</Said>
      </span>
    </>
  );
  return (
    <article
      ref={card}
      aria-label={`${finding.kind}, bar ${finding.bar}`}
      aria-current={current ? 'true' : undefined}
      className={`rounded-xl border-2 px-3 py-2 ${current ? 'border-ink bg-paper' : 'border-line'}`}
    >
      <div className="flex items-baseline justify-between gap-2">
        <Places all={all} shown={current ? finding : null} />
        <span className={`shrink-0 text-xs font-semibold ${finding.severity > 1 ? 'text-plum' : 'text-soft'}`}>
          {'◆'.repeat(finding.severity)} {isQuiet(finding) ? 'for the eye' : SEVERITY[finding.severity]}
        </span>
      </div>
      {current ? (
        said
      ) : (
        <button type="button" className="block w-full cursor-pointer text-left" onClick={() => lookAt(finding)}>
          {said}
        </button>
      )}
      {current ? (
        <Looked finding={finding} all={all} />
      ) : (
        finding.hearIt && (
          <p className="text-[13px] text-spruce">
            <Said>{finding.hearIt}</Said>
          </p>
        )
      )}
    </article>
  );
}

/** Places are named until so many; the others are counted. */
const PLACES_SHOWN = 6;

/** Where it is: each place opens the finding there. */
function Places({ all, shown }: { all: readonly Finding[]; shown: Finding | null }) {
  const { view, lookAt } = useDesk();
  const { part } = view;
  const [every, setEvery] = useState(false);
  const named = (finding: Finding) => {
    const note = part && noteById(part, finding.noteIds[0]!);
    return note ? `${placeLabel(part, note)} · ${pitchLabel(note.pitch)}` : `Bar ${finding.bar}`;
  };
  const listed = every ? all : all.slice(0, PLACES_SHOWN);
  return (
    <span className="flex flex-wrap items-baseline gap-x-2.5">
      {listed.map((finding) => (
        <PlaceButton
          key={finding.id}
          aria-current={all.length > 1 && finding.id === shown?.id ? 'true' : undefined}
          className={all.length > 1 && shown && finding.id !== shown.id ? 'font-normal' : ''}
          onClick={() => lookAt(finding)}
        >
          {named(finding)}
        </PlaceButton>
      ))}
      {all.length > listed.length && (
        <TextButton className="text-[13px] text-soft" onClick={() => setEvery(true)}>
          and {all.length - listed.length} more
        </TextButton>
      )}
    </span>
  );
}

/** The finding that is looked at: how to hear it, what helps, its numbers, and to leave it as it is. */
function Looked({ finding, all }: { finding: Finding; all: readonly Finding[] }) {
  const { spots } = useDesk();
  const { pointed, point, take } = spots;
  const { value: remedies, problem, retry } = spots.remedies;
  const ways = finding.hear?.map(({ text }) => text) ?? (finding.hearIt ? [finding.hearIt] : []);
  return (
    <>
      {ways.length > 0 && (
        <section aria-label="How to hear it" className="mt-1 grid gap-0.5 text-[13px] text-spruce">
          {ways.map((text) => (
            <p key={text}>
              <Said>{text}</Said>
            </p>
          ))}
        </section>
      )}
      <section aria-label="What helps" className="mt-1.5 grid gap-1">
        {problem && <NotAnswered problem={problem} onRetry={retry} />}
        {remedies === null && !problem && (
          <p className="text-[13px] text-soft" role="status">
            Trying what helps …
          </p>
        )}
        {remedies?.length === 0 && <p className="text-[13px] text-soft">Nothing that was tried makes it easier; practise it, or accept it.</p>}
        {remedies?.map((remedy, i) => (
          <RemedyLine
            key={remedy.text + i}
            kind={finding.kind}
            remedy={remedy}
            highlighted={pointed === i}
            onPoint={() => point(i)}
            onLeave={() => point(null)}
            onTake={() => take(i)}
          />
        ))}
      </section>
      <details className="mt-1 text-xs text-soft">
        <summary className="cursor-pointer">How do you know?</summary>
        <dl>
          {numbersInWords(finding).map(([label, value]) => (
            <div key={label} className="flex justify-between gap-2">
              <dt>{label}</dt>
              <dd className="shrink-0 text-right">
                <Said>{value}</Said>
              </dd>
            </div>
          ))}
        </dl>
        <Calculation finding={finding} />
      </details>
      <Accept finding={finding} all={all} />
    </>
  );
}

/** The sums that lead from the numbers to the severity: anybody can do them again. */
function Calculation({ finding }: { finding: Finding }) {
  const sums = calculationOf(finding);
  if (sums.length === 0) return null;
  return (
    <ol aria-label="The calculation" className="mt-1 grid gap-0.5 border-t border-line pt-1">
      {sums.map(({ what, sum, from }) => (
        <li key={what}>
          {capital(what)}: <span className="text-ink tabular-nums">{sum}</span>
          {from && ` (${from})`}
        </li>
      ))}
    </ol>
  );
}

interface LineProps {
  /** Of the finding that it is against. */
  kind: Finding['kind'];
  remedy: TriedRemedy;
  highlighted: boolean;
  onPoint(): void;
  onLeave(): void;
  onTake(): void;
}

function RemedyLine({ kind, remedy, highlighted, onPoint, onLeave, onTake }: LineProps) {
  const takeable = Boolean(remedy.changes?.length) || remedy.tempo !== undefined || remedy.elsewhere !== undefined;
  const measured = remedy.before !== null && remedy.after !== null;
  return (
    <div
      data-highlighted={highlighted}
      className={`flex items-start justify-between gap-2 rounded-lg border px-2 py-1 text-[13px] ${highlighted ? 'border-spruce bg-sheet' : 'border-line'}`}
      onMouseEnter={onPoint}
      onMouseLeave={onLeave}
      onFocus={onPoint}
    >
      <span>
        <Said>{remedy.text}</Said>
        {measured && (
          <span className="block text-soft">
            {remedy.solved && remedy.kind !== 'tempo' && remedy.kind !== 'marks' ? 'solved' : beforeAndAfter(kind, remedy)}
            {remedy.brings.length > 0 && `; brings ${remedy.brings.slice(0, 2).join(', ')}`}
          </span>
        )}
      </span>
      {takeable && (
        <Button small className="shrink-0" onClick={onTake}>
          Take
        </Button>
      )}
    </div>
  );
}

/** In the finding's own unit where marks were tried; a tempo, and what is only said, in plain figures. */
function beforeAndAfter(kind: Finding['kind'], { kind: of, before, after }: TriedRemedy): string {
  const figure = (value: number) => (Number.isInteger(value) ? String(value) : value.toFixed(2));
  const measured = of !== 'tempo' && of !== 'advice' && of !== 'marks';
  const said = (value: number) => (measured ? inUnit(kind, value) : figure(value));
  return `${said(before!)} → ${said(after!)}`;
}

function Accept({ finding, all }: { finding: Finding; all: readonly Finding[] }) {
  const { spots } = useDesk();
  const [why, setWhy] = useState<string | null>(null);
  if (why === null)
    return (
      <TextButton className="mt-1 text-[13px] text-soft" onClick={() => setWhy('')}>
        Accept it as it is
      </TextButton>
    );
  return (
    <form
      className="mt-1.5 grid gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        spots.accept([finding], why);
      }}
    >
      <label className="grid gap-0.5 text-[13px]">
        Why it may stay
        <input
          autoFocus
          className="field"
          maxLength={LIMITS.acceptedWhy}
          value={why}
          placeholder="she plays it in time"
          onChange={(event) => setWhy(event.target.value)}
        />
        <LimitHint text={why} limit={LIMITS.acceptedWhy} />
      </label>
      <span className="flex gap-2">
        <Button type="submit" small>
          {all.length > 1 ? 'Accept here' : 'Accept'}
        </Button>
        {all.length > 1 && (
          <Button small onClick={() => spots.accept(all, why)}>
            Accept at all {all.length} places
          </Button>
        )}
        <TextButton className="text-[13px] text-soft" onClick={() => setWhy(null)}>
          Cancel
        </TextButton>
      </span>
      <span className="text-xs text-soft">It stays quiet until something it depends on changes.</span>
    </form>
  );
}
