'use client';

import { LIMITS } from '@/core/util/limits';
import { LimitHint } from '@/ui/kit/limit';
import { Printer } from 'lucide-react';
import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import { isQuiet, type Finding } from '@/core/checks/finding';
import type { TriedRemedy } from '@/core/checks/remedies';
import { TOLERANCE_CENTS } from '@/core/checks/tables';
import type { PitchSchool } from '@/core/checks/target';
import { noteById } from '@/core/score/find';
import { pitchLabel, placeLabel } from '@/ui/kit/music';
import { capital } from '../choices/choice-card';
import { passes, SIDES, type FindingFilter, type Side } from '@/ui/part/findings-shown';
import type { InTuneProps, PanelProps } from '../panel';
import type { Findings } from './use-findings';

const SEVERITY = ['', 'watch', 'risk', 'will fail'];
const FROM: ReadonlyArray<readonly [from: FindingFilter['from'], words: string]> = [
  [1, '◆ and up'],
  [2, '◆◆ and up'],
  [3, '◆◆◆ only'],
];

export function FindingsTab(props: PanelProps) {
  const { ready, findings, elsewhere, passageName, spots } = props;
  if (!ready)
    return (
      <p className="text-soft" role="status">
        Checking …
      </p>
    );
  const shown = findings.filter((finding) => passes(finding, spots.filter));
  const here = new Set(findings.map(({ id }) => id));
  return (
    <div className="grid gap-2">
      <Link href={`/desk/${props.partId}/check`} className="flex min-h-6 items-center gap-1.5 text-[13px] font-semibold underline">
        <Printer size={14} aria-hidden /> Check sheet for the lesson
      </Link>
      <Filter findings={findings} spots={spots} shown={shown.length} />
      <InTune {...props.inTune} />
      {findings.length === 0 && <p className="text-soft">Nothing in {passageName} passes a threshold for this player at this tempo.</p>}
      <ul className="grid gap-2">
        {shown.map((finding) => (
          <li key={finding.id}>
            <FindingCard finding={finding} {...props} />
          </li>
        ))}
      </ul>
      <Quiet {...props} />
      {elsewhere > 0 && (
        <p className="text-[13px] text-soft">
          {elsewhere} more in other passages; <kbd className="key">f</kbd> goes on to the next{here.size ? '' : ' one'}.
        </p>
      )}
      <p className="border-t border-line pt-2 text-xs text-soft">
        Figures are arithmetic, not medical advice: no pain, ever; rest at least five minutes in every half hour; numbness, tingling or lasting pain means stop,
        and see teacher and health professional.
      </p>
    </div>
  );
}

function Filter({ findings, spots, shown }: { findings: readonly Finding[]; spots: Findings; shown: number }) {
  const { filter, setFilter } = spots;
  const kinds = [...new Set(findings.map(({ kind }) => kind))].sort();
  return (
    <div className="grid grid-cols-3 gap-1.5" role="group" aria-label="Which findings are shown">
      <select
        aria-label="Hand"
        className="field min-w-0 px-1 text-[13px]"
        value={filter.side}
        onChange={(event) => setFilter({ ...filter, side: event.target.value as Side })}
      >
        {SIDES.map((side) => (
          <option key={side} value={side}>
            {side === 'all' ? 'All' : capital(side)}
          </option>
        ))}
      </select>
      <select
        aria-label="Kind"
        className="field min-w-0 px-1 text-[13px]"
        value={filter.kind}
        onChange={(event) => setFilter({ ...filter, kind: event.target.value as FindingFilter['kind'] })}
      >
        <option value="all">All kinds</option>
        {filter.kind !== 'all' && !kinds.includes(filter.kind) && <option value={filter.kind}>{capital(filter.kind)}</option>}
        {kinds.map((kind) => (
          <option key={kind} value={kind}>
            {capital(kind)}
          </option>
        ))}
      </select>
      <select
        aria-label="Severity"
        className="field min-w-0 px-1 text-[13px]"
        value={filter.from}
        onChange={(event) => setFilter({ ...filter, from: Number(event.target.value) as FindingFilter['from'] })}
      >
        {FROM.map(([from, words]) => (
          <option key={from} value={from}>
            {words}
          </option>
        ))}
      </select>
      {shown < findings.length && (
        <p className="col-span-3 text-[13px] text-soft" role="status">
          {shown} of {findings.length} shown.
        </p>
      )}
    </div>
  );
}

const AIMS: ReadonlyArray<readonly [PitchSchool, words: string, why: string]> = [
  ['pythagorean', 'melodic pitch', 'Melodic: a chain of pure fifths, as the open strings are tuned; high leading notes'],
  ['just', 'chordal pitch', 'Chordal: pure over the chord that sounds, or over the tonic; low major thirds'],
  ['equal', 'tempered pitch', 'Equal temperament, as with a piano'],
];

/** How far off is minded, and where a note is in tune. */
function InTune({ intonation, level, onIntonation }: InTuneProps) {
  const usual = TOLERANCE_CENTS[level];
  const [typed, setTyped] = useState<string | null>(null);
  const cents = Number(typed);
  const valid = typed === null || typed.trim() === '' || (cents >= 2 && cents <= 60);
  const tell = () => {
    if (typed === null || !valid) return;
    setTyped(null);
    onIntonation({ ...intonation, toleranceCents: typed.trim() === '' ? null : Math.round(cents * 10) / 10 });
  };
  return (
    <div className="flex items-center gap-1.5 text-[13px]" role="group" aria-label="In tune">
      <label className="flex items-center gap-1">
        <span className="text-soft">within</span>
        <input
          aria-label="Cents off that are minded, 2 to 60"
          title={`Cents off that are minded, 2 to 60; empty is the usual ${usual} of this level`}
          inputMode="decimal"
          className={`field w-11 px-1 text-right ${valid ? '' : 'border-plum text-plum'}`}
          aria-invalid={!valid}
          placeholder={String(usual)}
          value={typed ?? intonation.toleranceCents ?? ''}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={tell}
          onKeyDown={(event) => event.key === 'Enter' && tell()}
        />
        {valid ? (
          <span className="text-soft">cents of</span>
        ) : (
          <span role="alert" className="text-plum">
            2 to 60
          </span>
        )}
      </label>
      <select
        aria-label="Pitch that is aimed at"
        title={AIMS.find(([school]) => school === intonation.school)![2]}
        className="field min-w-0 grow px-1"
        value={intonation.school}
        onChange={(event) => onIntonation({ ...intonation, school: event.target.value as PitchSchool })}
      >
        {AIMS.map(([school, words]) => (
          <option key={school} value={school}>
            {words}
          </option>
        ))}
      </select>
    </div>
  );
}

function FindingCard({ finding, open, onGo, spots }: PanelProps & { finding: Finding }) {
  const note = open && noteById(open.part, finding.noteIds[0]!);
  const current = spots.current?.id === finding.id;
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    if (current) card.current?.scrollIntoView({ block: 'nearest' });
  }, [current]);
  return (
    <article
      ref={card}
      aria-label={`${finding.kind}, bar ${finding.bar}`}
      aria-current={current ? 'true' : undefined}
      className={`rounded-xl border-2 px-3 py-2 ${current ? 'border-ink bg-paper' : 'border-line'}`}
    >
      <div className="flex items-baseline justify-between gap-2">
        <button
          type="button"
          className="min-h-6 cursor-pointer text-left font-bold underline decoration-line underline-offset-4 hover:decoration-ink"
          onClick={() => {
            spots.choose(finding.id);
            onGo(finding.noteIds[0]!);
          }}
        >
          {note ? `${placeLabel(open.part, note)} · ${pitchLabel(note.pitch)}` : `Bar ${finding.bar}`}
        </button>
        <span className={`text-xs font-semibold ${finding.severity > 1 ? 'text-plum' : 'text-soft'}`}>
          {'◆'.repeat(finding.severity)} {isQuiet(finding) ? 'for the eye' : SEVERITY[finding.severity]}
        </span>
      </div>
      <p className="text-xs font-semibold text-soft">{capital(finding.kind)}</p>
      <p className="text-[13px]">{finding.text}</p>
      {current ? <Looked finding={finding} spots={spots} /> : finding.hearIt && <p className="text-[13px] text-spruce">{finding.hearIt}</p>}
    </article>
  );
}

/** The finding that is looked at: how to hear it, what helps, its numbers, and to leave it as it is. */
function Looked({ finding, spots }: { finding: Finding; spots: Findings }) {
  const { remedies, pointed, point, take } = spots;
  const ways = finding.hear?.map(({ text }) => text) ?? (finding.hearIt ? [finding.hearIt] : []);
  return (
    <>
      {ways.length > 0 && (
        <section aria-label="How to hear it" className="mt-1 grid gap-0.5 text-[13px] text-spruce">
          {ways.map((text) => (
            <p key={text}>{text}</p>
          ))}
        </section>
      )}
      <section aria-label="What helps" className="mt-1.5 grid gap-1">
        {remedies === null && (
          <p className="text-[13px] text-soft" role="status">
            Trying what helps …
          </p>
        )}
        {remedies?.length === 0 && <p className="text-[13px] text-soft">Nothing that was tried makes it easier; practise it, or accept it.</p>}
        {remedies?.map((remedy, i) => (
          <RemedyLine
            key={remedy.text + i}
            remedy={remedy}
            highlighted={pointed === i}
            onPoint={() => point(i)}
            onLeave={() => point(null)}
            onTake={() => take(i)}
          />
        ))}
      </section>
      <details className="mt-1 text-xs text-soft">
        <summary className="cursor-pointer">the numbers</summary>
        <dl>
          {Object.entries(finding.numbers).map(([name, value]) => (
            <div key={name} className="flex justify-between gap-2">
              <dt>{name}</dt>
              <dd className="text-right">{String(value)}</dd>
            </div>
          ))}
        </dl>
      </details>
      <Accept finding={finding} spots={spots} />
    </>
  );
}

interface LineProps {
  remedy: TriedRemedy;
  highlighted: boolean;
  onPoint(): void;
  onLeave(): void;
  onTake(): void;
}

function RemedyLine({ remedy, highlighted, onPoint, onLeave, onTake }: LineProps) {
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
        {remedy.text}
        {measured && (
          <span className="block text-soft">
            {remedy.solved && remedy.kind !== 'tempo' && remedy.kind !== 'marks' ? 'solved' : `${figure(remedy.before!)} → ${figure(remedy.after!)}`}
            {remedy.brings.length > 0 && `; brings ${remedy.brings.slice(0, 2).join(', ')}`}
          </span>
        )}
      </span>
      {takeable && (
        <button type="button" className="button min-h-7 shrink-0" onClick={onTake}>
          Take
        </button>
      )}
    </div>
  );
}

const figure = (value: number): string => (Number.isInteger(value) ? String(value) : value.toFixed(2));

function Accept({ finding, spots }: { finding: Finding; spots: Findings }) {
  const [why, setWhy] = useState<string | null>(null);
  if (why === null)
    return (
      <button type="button" className="mt-1 min-h-6 cursor-pointer text-[13px] text-soft underline" onClick={() => setWhy('')}>
        Accept it as it is
      </button>
    );
  return (
    <form
      className="mt-1.5 grid gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        spots.accept(finding, why);
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
        <button type="submit" className="button min-h-7">
          Accept
        </button>
        <button type="button" className="min-h-6 cursor-pointer text-[13px] text-soft underline" onClick={() => setWhy(null)}>
          Cancel
        </button>
      </span>
      <span className="text-xs text-soft">It stays quiet until something it depends on changes.</span>
    </form>
  );
}

/** Accepted findings, each with its reason and a way back. */
function Quiet({ spots, open, onGo }: PanelProps) {
  if (spots.quiet.length === 0) return null;
  return (
    <details className="text-[13px]">
      <summary className="cursor-pointer text-soft">{spots.quiet.length} accepted in this part</summary>
      <ul className="mt-1 grid gap-1">
        {spots.quiet.map(({ finding, why }) => {
          const note = open && noteById(open.part, finding.noteIds[0]!);
          return (
            <li key={finding.id} className="flex items-baseline justify-between gap-2">
              <button type="button" className="min-h-6 cursor-pointer text-left" onClick={() => onGo(finding.noteIds[0]!)}>
                {note ? placeLabel(open.part, note) : `Bar ${finding.bar}`}, {finding.kind}
                {why && <span className="text-soft">: {why}</span>}
              </button>
              <button type="button" className="min-h-6 shrink-0 cursor-pointer underline" onClick={() => spots.bringBack(finding)}>
                tell it again
              </button>
            </li>
          );
        })}
      </ul>
    </details>
  );
}
