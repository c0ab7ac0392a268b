'use client';

import { Button, buttonClass } from '@/ui/kit/button';
import { CircleAlert, Copy } from 'lucide-react';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { outbox, useUnsent } from './browser';
import { entryAsText, entryInWords, laneOf, type Entry } from './entry';
import { saveState, whyNot, type UnsentState } from './state';

/**
 * What the coach must know about changes that are not stored: why they wait, what was refused for good, and what waits for a
 * decision on another part.
 * @param partId the part that is open; its clashes are shown by its own screen
 */
export function UnsentNotices({ partId }: { partId: string | null }) {
  const state = useUnsent();
  const refused = state.entries.filter((entry) => entry.refused);
  const elsewhere = clashesElsewhere(state, partId);
  return (
    <>
      <Waiting state={state} />
      {elsewhere.map(({ id, name }) => (
        <p key={id} role="alert" className="flex items-center gap-3 rounded-lg border border-plum bg-plum-pale px-3 py-2">
          <span className="min-w-0 flex-1">
            <strong>{name}:</strong> what you changed there was changed elsewhere too. It is kept, and waits for your decision.
          </span>
          <Link className={buttonClass({ className: 'shrink-0' })} href={`/desk/${id}`}>
            Open it
          </Link>
        </p>
      ))}
      {refused.length > 0 && <Refused entries={refused} />}
    </>
  );
}

function clashesElsewhere(state: UnsentState, partId: string | null): Array<{ id: string; name: string }> {
  const parts = new Map<string, string>();
  for (const { body } of state.entries) {
    if (body.about === 'player' || body.part.id === partId || body.part.id === '' || !(laneOf(body) in state.clashes)) continue;
    parts.set(body.part.id, body.part.name);
  }
  return [...parts].map(([id, name]) => ({ id, name }));
}

/** A short silence is no news. */
const SILENCE_MS = 1_500;

function Waiting({ state }: { state: UnsentState }) {
  const problem = whyNot(state.way);
  const save = saveState(state);
  const waits = problem !== null && (save === 'waiting' || save === 'only here');
  const [shown, setShown] = useState(false);
  useEffect(() => {
    if (!waits) return;
    const timer = setTimeout(() => setShown(true), SILENCE_MS);
    return () => {
      clearTimeout(timer);
      setShown(false);
    };
  }, [waits]);
  if (!problem || !waits || !shown) return null;
  const count = state.entries.filter((entry) => !entry.refused).length;
  return (
    <p role="status" className="flex items-center gap-3 rounded-lg border border-plum bg-plum-pale px-3 py-2">
      <span className="min-w-0 flex-1">
        {problem.what}{' '}
        {save === 'only here' ? (
          <strong>This browser keeps nothing: leave this page open until it says “saved”.</strong>
        ) : (
          <>
            {count} {count === 1 ? 'change is' : 'changes are'} kept in this browser, also when it is closed.{' '}
            <span className="text-soft">{problem.remedy}</span>
          </>
        )}
      </span>
      <Button className="shrink-0" onClick={() => outbox()?.go()}>
        Try now
      </Button>
    </p>
  );
}

function Refused({ entries }: { entries: readonly Entry[] }) {
  return (
    <section aria-label="What could not be stored" className="rounded-lg border border-plum bg-plum-pale px-3 py-2">
      <p className="flex items-center gap-2">
        <CircleAlert size={18} className="shrink-0 text-plum" aria-hidden />
        {entries.length === 1 ? 'One change' : `${entries.length} changes`} could not be stored and {entries.length === 1 ? 'is' : 'are'} set aside here;
        everything else went on.
      </p>
      <ul className="mt-1 grid max-h-48 gap-1 overflow-y-auto">
        {entries.map((entry) => (
          <li key={entry.id} className="flex flex-wrap items-center gap-2 rounded border border-line bg-sheet px-2 py-1">
            <span className="min-w-40 grow">
              <strong>{entryInWords(entry)}</strong> <span className="text-soft">{entry.refused!.what}</span>
            </span>
            <CopyButton text={entryAsText(entry)} />
            <Button small onClick={() => void outbox()?.drop(entry.id)}>
              Drop
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function CopyButton({ text }: { text: string }) {
  const [done, setDone] = useState<boolean | null>(null);
  return (
    <Button
      small
      onClick={() =>
        void navigator.clipboard.writeText(text).then(
          () => setDone(true),
          () => setDone(false),
        )
      }
    >
      <Copy size={14} aria-hidden /> {done === null ? 'Copy' : done ? 'Copied' : 'Select it by hand'}
    </Button>
  );
}
