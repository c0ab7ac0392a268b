'use client';

import { Button, buttonClass, ToggleButton } from '@/ui/kit/button';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import { DIFFERENCE_KINDS, type Difference, type DifferenceKind } from '@/core/editions/differences';
import { changeTo, type Change } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import { LIMITS } from '@/core/util/limits';
import { shortened } from '@/core/util/text';
import { sendChangeSet } from '@/ui/unsent/browser';
import { Confirm } from '@/ui/kit/confirm';
import { ProblemNote, problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import { Notice } from '@/ui/kit/notice';
import { PageHeader } from '@/ui/kit/page-header';
import { DifferenceCard } from './difference-card';
import { Pair } from './pair';

export interface TwoEditionsProps {
  part: { id: string; name: string; title: string; fileName: string; bars: number };
  markingId: string;
  marking: Marking;
  comparison: { id: string; name: string; differences: Difference[]; leftAlone: string[]; bars: { ours: number; theirs: number } };
}

/** Which differences are shown and which are left, and what becomes of them. */
function useTwoEditions({ part, markingId, marking, comparison }: TwoEditionsProps) {
  const router = useRouter();
  const [left, setLeft] = useState<ReadonlySet<string>>(() => new Set(comparison.leftAlone));
  const [problem, setProblem] = useState<Problem | null>(null);
  const [notice, setNotice] = useState<string | null>(null);
  const [working, setWorking] = useState(false);
  const api = `/api/parts/${part.id}/editions/${comparison.id}`;

  async function take(which: readonly Difference[]) {
    const changes = changesFor(marking, which, comparison.name);
    if (changes.length === 0) return;
    setWorking(true);
    const reason =
      which.length === 1 ? `${which[0]!.at}: ${which[0]!.kind} as in ${comparison.name}` : `${which.length} differences taken from ${comparison.name}`;
    const set = { id: crypto.randomUUID(), at: new Date().toISOString(), reason: shortened(reason, LIMITS.reason), undoes: null, changes };
    const outcome = await sendChangeSet(markingId, { id: part.id, name: part.name }, set);
    setWorking(false);
    if (outcome.kind === 'no answer') setProblem({ ...outcome.problem, remedy: 'Nothing was taken over. Try again.' });
    else if (outcome.clash)
      setProblem({ place: null, what: 'The marks were changed elsewhere meanwhile.', remedy: 'Reload this page; nothing was taken over.' });
    else if (outcome.refused) setProblem(outcome.refused.problem);
    else {
      setProblem(null);
      setNotice(`${which.length === 1 ? 'One difference' : `${which.length} differences`} taken over. Undo on the Desk takes it back.`);
    }
    router.refresh();
  }

  async function leave(id: string, leaveIt: boolean) {
    const next = new Set(left);
    if (leaveIt) next.add(id);
    else next.delete(id);
    setLeft(next);
    const response = await sendJson('PUT', `${api}/left`, [...next]);
    if (!response?.ok) setProblem(await problemOf(response));
  }

  async function replace() {
    setWorking(true);
    const response = await sendJson('POST', `${api}/replace`, {});
    setWorking(false);
    const done = response?.ok ? z.object({ lost: z.number() }).safeParse(await response.json().catch(() => null)) : null;
    if (!done?.success) return setProblem(await problemOf(response));
    router.push(`/desk/${part.id}${done.data.lost ? '?tab=reading' : ''}`);
  }

  return { left, problem, setProblem, notice, working, take, leave, replace };
}

type Work = ReturnType<typeof useTwoEditions>;

/** Two editions of one part: what differs, in a list and in the score, each to be taken over or left. */
export function TwoEditions(props: TwoEditionsProps) {
  const { part, marking, comparison } = props;
  const work = useTwoEditions(props);
  const [focus, setFocus] = useState<string | null>(comparison.differences[0]?.id ?? null);
  const focused = comparison.differences.find((difference) => difference.id === focus) ?? comparison.differences.find(({ id }) => !work.left.has(id)) ?? null;
  return (
    <div className="flex h-screen flex-col max-lg:h-auto">
      <PageHeader path={[part.title, { name: part.name, href: `/desk/${part.id}` }, 'Two editions']}>
        <Confirm
          question={`Use ${comparison.name} from now on?`}
          yes="Use it"
          onYes={() => void work.replace()}
          trigger={<Button disabled={work.working}>Use the other file from now on</Button>}
        >
          Marks and passages are carried over. Undo does not take this back, and ends here for what was done before; the present file stays among the editions
          and can be put in its place again.
        </Confirm>
        <Link className={buttonClass()} href={`/desk/${part.id}`}>
          Back to the Desk
        </Link>
      </PageHeader>
      <div className="flex min-h-0 grow max-lg:flex-col">
        <main className="flex min-w-0 grow flex-col gap-3 overflow-y-auto p-4">
          {work.problem && <ProblemNote problem={work.problem} onClose={() => work.setProblem(null)} />}
          {work.notice && <Notice>{work.notice}</Notice>}
          <p className="text-soft">
            Yours is {part.fileName} with your changes, {comparison.bars.ours} bars; the other is {comparison.name}, {comparison.bars.theirs} bars.
          </p>
          {focused ? (
            <Pair partId={part.id} editionId={comparison.id} marking={marking} bars={comparison.bars} difference={focused} all={comparison.differences} />
          ) : (
            <section className="rounded-xl border border-line bg-sheet p-8 text-center">
              <h2 className="text-lg">Nothing differs any more</h2>
              <p className="mt-1 text-soft">Both editions say the same, note by note, with your changes in force.</p>
            </section>
          )}
        </main>
        <DifferenceList differences={comparison.differences} work={work} focus={focused?.id ?? null} onFocus={setFocus} />
      </div>
    </div>
  );
}

interface ListProps {
  differences: readonly Difference[];
  work: Work;
  focus: string | null;
  onFocus(id: string): void;
}

function DifferenceList({ differences, work, focus, onFocus }: ListProps) {
  const { left, working, take, leave } = work;
  const [kind, setKind] = useState<DifferenceKind | null>(null);
  const [showLeft, setShowLeft] = useState(false);
  const open = differences.filter((difference) => !left.has(difference.id));
  const counts = countsOf(open);
  const ofKind = (showLeft ? differences : open).filter((difference) => kind === null || difference.kind === kind);
  // What the coach has marked otherwise comes by itself, after what the prints say.
  const shown = [...ofKind.filter(({ yours }) => !yours), ...ofKind.filter(({ yours }) => yours)];
  const takeable = shown.filter((difference) => difference.take && !difference.yours && !left.has(difference.id));
  const firstYours = shown.find((difference) => difference.yours)?.id ?? null;
  return (
    <aside aria-label="Differences" className="flex w-96 shrink-0 flex-col border-l border-line bg-sheet max-lg:w-full max-lg:border-t max-lg:border-l-0">
      <div className="grid gap-2 border-b border-line p-3">
        <div className="flex flex-wrap gap-1" role="group" aria-label="Kinds of difference">
          <ToggleButton pressed={kind === null} onClick={() => setKind(null)}>
            all {open.length}
          </ToggleButton>
          {DIFFERENCE_KINDS.filter((each) => counts[each]).map((each) => (
            <ToggleButton key={each} pressed={kind === each} onClick={() => setKind(each)}>
              {each} {counts[each]}
            </ToggleButton>
          ))}
        </div>
        <div className="flex flex-wrap gap-2">
          <Button look="spruce" disabled={working || takeable.length === 0} onClick={() => void take(takeable)}>
            Take over {takeable.length === shown.length && kind === null ? 'all' : 'these'} {takeable.length || ''}
          </Button>
          {left.size > 0 && (
            <Button aria-pressed={showLeft} onClick={() => setShowLeft(!showLeft)}>
              {showLeft ? 'Hide' : 'Show'} {left.size} left as they are
            </Button>
          )}
        </div>
      </div>
      <ul className="grid min-h-0 grow content-start gap-2 overflow-y-auto p-3">
        {shown.length === 0 && <li className="text-soft">Nothing of this kind.</li>}
        {shown.slice(0, MOST_SHOWN).map((difference) => (
          <li key={difference.id} className="grid gap-2">
            {difference.id === firstYours && (
              <h2 className="pt-1 text-[15px]">
                Your own marks <span className="text-[13px] text-soft">differ here; they stay unless you take one over by itself.</span>
              </h2>
            )}
            <DifferenceCard
              difference={difference}
              focused={difference.id === focus}
              left={left.has(difference.id)}
              working={working}
              onFocus={() => onFocus(difference.id)}
              onTake={() => void take([difference])}
              onLeave={(leaveIt) => void leave(difference.id, leaveIt)}
            />
          </li>
        ))}
        {shown.length > MOST_SHOWN && <li className="text-[13px] text-soft">and {shown.length - MOST_SHOWN} more; choose a kind above.</li>}
      </ul>
    </aside>
  );
}

/** A longer list is not read any more. */
const MOST_SHOWN = 300;

function countsOf(differences: readonly Difference[]): Partial<Record<DifferenceKind, number>> {
  const counts: Partial<Record<DifferenceKind, number>> = {};
  for (const { kind } of differences) counts[kind] = (counts[kind] ?? 0) + 1;
  return counts;
}

function changesFor(marking: Marking, differences: readonly Difference[], edition: string): Change[] {
  const wanted = new Map<string, Change>();
  for (const { take } of differences) {
    for (const { target, kind, value } of take ?? []) {
      const change = changeTo(marking, target, kind, { value, origin: 'coach', why: shortened(`as in ${edition}`, LIMITS.why) });
      if (change) wanted.set(`${target}|${kind}`, change);
    }
  }
  return [...wanted.values()];
}
