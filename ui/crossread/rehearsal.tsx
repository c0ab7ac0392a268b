'use client';

import { Printer } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { RehearsalPage, RehearsalSpot } from '@/core/rehearsal/page';
import { Button } from '@/ui/kit/button';
import { pitchSigns } from '@/ui/kit/music';
import { PageHeader } from '@/ui/kit/page-header';
import { ProblemNote } from '@/ui/kit/problem';
import { nameOf, useAnswer } from '@/ui/kit/queries';
import { Select } from '@/ui/kit/select';
import { Said } from '@/ui/kit/terms';
import type { ScoreData } from './model/score-data';
import { stillToDo } from './model/still-to-do';
import { useScore } from './model/use-score';
import { useStores } from './model/use-stores';
import { useTempi } from './model/use-tempi';

const WHOLE = 'score';

/** One page for the rehearsal: tempo, spots of all parts in bar order, what is still bowed apart, entries. */
export function Rehearsal({ data, studio, partId }: { data: ScoreData; studio: string; partId: string | null }) {
  const router = useRouter();
  const { tempi, lane } = useTempi(data);
  const { markings } = useStores(data, [lane]);
  const { shown, problem, unread, rehearsal } = useScore(data.pieceId, markings, tempi);
  const tempo = shown?.tempo ?? null;
  const answer = useAnswer({ key: ['rehearsal', tempo ? nameOf(tempo) : 0, partId], ask: tempo ? () => rehearsal(partId) : null, keep: true });
  const page = answer.value;
  const strings = shown?.lanes.filter(({ instrument }) => instrument !== null) ?? [];
  return (
    <div className="min-h-screen">
      <PageHeader path={[data.title, { name: 'Side by side', href: `/score/${data.pieceId}` }, 'Rehearsal page']}>
        <span className="chip">
          <span className="text-soft">for</span>
          <Select<string>
            quiet
            label="Whom the page is for"
            className="chip-field"
            value={partId ?? WHOLE}
            options={[[WHOLE, 'the whole score'], ...strings.map(({ partId: id, name }) => [id, name] as const)]}
            onValue={(next) => router.replace(`/score/${data.pieceId}/rehearsal${next === WHOLE ? '' : `?for=${next}`}`)}
          />
        </span>
        <Button look="spruce" disabled={!page} onClick={() => window.print()}>
          <Printer size={15} aria-hidden /> Print
        </Button>
      </PageHeader>
      <main className="sheet sheet-tight mx-auto max-w-[56rem] px-6 py-5 text-[13px]">
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          <h1 className="text-xl">
            {data.title}
            {page?.section ? `, ${page.section}` : ''}
          </h1>
          <p className="text-soft">{studio} · rehearsal page · for usual adults at the wanted tempo</p>
        </div>
        {(problem ?? answer.problem) && <ProblemNote problem={(problem ?? answer.problem)!} />}
        {unread.length > 0 && <p className="text-plum">Could not be read and is left out: {unread.join(', ')}.</p>}
        {shown && strings.length === 0 && (
          <p className="mt-3">No part of this piece is for a bowed string instrument: say in a part’s menu which one it is played on.</p>
        )}
        {!page && !problem && (shown === null || strings.length > 0) && (
          <p role="status" className="mt-3 text-soft">
            {shown ? stillToDo(shown.lanes) : 'Laying the parts side by side …'}
          </p>
        )}
        {page && <Contents page={page} />}
        <p className="mt-3 border-t border-line pt-1.5 text-xs text-soft">
          Arithmetic, not medical advice: no pain, ever; rest at least five minutes in every half hour; loud places over and over need rests for the ears too.
          Numbness, tingling or lasting pain means stop, and see teacher and health professional.
        </p>
      </main>
    </div>
  );
}

function Block({ name, children }: { name: string; children: ReactNode }) {
  return (
    <section aria-label={name} className="mt-2 border-t border-line pt-1.5">
      <h2 className="text-[15px]">{name}</h2>
      {children}
    </section>
  );
}

const listed = (names: readonly string[]): string => names.join(', ');

function Contents({ page }: { page: RehearsalPage }) {
  const { tempo, sections, wanted, against, opening, tunes, spots, moreSpots, disagreements, moreDisagreements, left, entries, moreEntries, heldLong } = page;
  const failing = sections.filter(
    ({ tempo: { none, ceiling, floor } }) => none || (ceiling !== null && ceiling < wanted) || (floor !== null && floor > wanted),
  );
  return (
    <>
      <section aria-label="Tempo" className="mt-2 rounded-lg border border-line px-3 py-1.5">
        <p>
          <strong>
            {Math.round(wanted)} {failing.length === 0 ? 'works everywhere' : `does not work in ${listed(failing.map(({ name }) => name))}`}.
          </strong>{' '}
          {tempo.text}{' '}
          {failing.map(({ name, tempo: own }) => (
            <span key={name}>
              {name}: {own.text}{' '}
            </span>
          ))}
          {opening && opening.spots.length < against.length && (
            <>
              {against.length} {against.length === 1 ? 'spot is' : 'spots are'} in the way of {Math.round(wanted)}; at {Math.round(opening.tempo)}{' '}
              {opening.spots.length === 0 ? 'none is' : `only ${opening.spots.length}`}.
            </>
          )}
        </p>
        <p className="text-soft">The tune: {tunesInWords(tunes)}</p>
      </section>
      <Block name="Spots in bar order">
        {spots.length === 0 && <p>Nothing passes a threshold. Listen all the same.</p>}
        <ol className="grid gap-1">
          {spots.map((spot) => (
            <Spot key={`${spot.barIndex} ${spot.kind}`} spot={spot} />
          ))}
        </ol>
        {moreSpots > 0 && (
          <p className="text-soft">
            {moreSpots} milder {moreSpots === 1 ? 'one is' : 'ones are'} on the Desks.
          </p>
        )}
      </Block>
      <InTurn held={heldLong} />
      <div className="grid gap-x-6 sm:grid-cols-2 print:grid-cols-2">
        <Block name="Still bowed or printed apart">
          {disagreements.length === 0 && <p>Nothing.</p>}
          <ul className="grid gap-0.5">
            {disagreements.map(({ bars, who, text }) => (
              <li key={`${bars} ${who.join()}`}>
                <strong>{bars}</strong> {text}
              </li>
            ))}
            {left.map(({ bars, who, because }) => (
              <li key={`${bars} ${who.join()}`} className="text-soft">
                {bars} {listed(who)}: apart on purpose, {because}
              </li>
            ))}
          </ul>
          {moreDisagreements > 0 && <p className="text-soft">{moreDisagreements} more side by side.</p>}
        </Block>
        <Block name="Entries">
          {entries.length === 0 && <p>Nobody rests for a whole bar.</p>}
          <ul className="grid gap-0.5">
            {entries.map(({ at, who, silent, cue, printed }) => (
              <li key={`${at} ${who}`}>
                <strong>{at}</strong> {who}, {silent}: {pitchSigns(cue)}
                {printed && <span className="text-soft"> (printed)</span>}
              </li>
            ))}
          </ul>
          {moreEntries > 0 && <p className="text-soft">{moreEntries} more side by side.</p>}
        </Block>
      </div>
    </>
  );
}

/** What a section holds longer than any bow. */
function InTurn({ held }: { held: RehearsalPage['heldLong'] }) {
  if (held.length === 0) return null;
  return (
    <Block name="Longer than a bow: change in turn, never with the desk beside">
      {held.map(({ bars, who, desks }) => (
        <p key={`${who} ${bars}`}>
          <strong>{bars}</strong> {who}: {desks}.
        </p>
      ))}
    </Block>
  );
}

/** Of a large score whoever is first, and how many with them. */
const NAMED = 2;
const STRETCHES = 10;
function tunesInWords(tunes: RehearsalPage['tunes']): string {
  const shown = tunes.slice(0, STRETCHES).map(({ bars, who }) => {
    const more = who.length - NAMED;
    return `${bars} ${more > 1 ? `${who.slice(0, NAMED).join(', ')} and ${more} more` : who.join(' and ')}`;
  });
  return [...shown, ...(tunes.length > STRETCHES ? ['…'] : [])].join(' · ');
}

function Spot({ spot }: { spot: RehearsalSpot }) {
  const { places, who, kind, severity, text, hearIt, tryIt } = spot;
  const [first, ...more] = places;
  return (
    <li className="spot grid grid-cols-[3.5rem_1fr] gap-x-2">
      <strong>{first}</strong>
      <p>
        <strong>{listed(who)}</strong>{' '}
        <span className={severity > 1 ? 'text-plum' : 'text-soft'}>
          {'◆'.repeat(severity)} {kind}
          {more.length > 0 && `, also ${more.join(', ')}`}.
        </span>{' '}
        <Said>{text}</Said>
        {hearIt && (
          <span className="text-spruce">
            {' '}
            <Said>{hearIt}</Said>
          </span>
        )}
        {tryIt && (
          <>
            {' '}
            <span className="font-semibold">Try:</span> <Said>{tryIt}</Said>
          </>
        )}
      </p>
    </li>
  );
}

/** From Crossread to its page. */
export const RehearsalLink = ({ pieceId }: { pieceId: string }) => (
  <Link className="button" href={`/score/${pieceId}/rehearsal`}>
    <Printer size={15} aria-hidden /> Rehearsal page
  </Link>
);
