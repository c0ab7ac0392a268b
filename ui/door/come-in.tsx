'use client';

import { useState, type FormEvent } from 'react';
import { LIMITS } from '@/core/util/limits';
import { Button, buttonClass } from '@/ui/kit/button';
import { ProblemNote, problemOf, sendJson, type Problem } from '@/ui/kit/problem';

interface Props {
  /** Where one wanted to go. */
  to: string;
  /** Somebody here signs in with a pass phrase. */
  phrases: boolean;
  /** Served to this machine alone. */
  atHome: boolean;
  /** What did not open the door. */
  problem: Problem | null;
  /** This browser is in already. */
  isIn: boolean;
}

/** The way in: a pass phrase where there are any, a key otherwise. */
export function ComeIn({ to, phrases, atHome, problem, isIn }: Props) {
  return (
    <main className="mx-auto grid max-w-xl gap-5 p-6 pt-16">
      <h1 className="font-serif text-3xl font-semibold">Omaggio</h1>
      {problem && <ProblemNote problem={problem} />}
      {isIn && (
        <p>
          This browser is in already.{' '}
          <a href={to} className={buttonClass({ small: true })}>
            Go on
          </a>
        </p>
      )}
      {phrases && <SignIn to={to} />}
      <section className="grid gap-2 rounded-xl border border-line bg-sheet px-5 py-4">
        <h2 className="text-lg">{phrases ? 'With a key' : 'This browser needs a key'}</h2>
        <p>A key is an address that lets in one browser, once.</p>
        <ul className="list-disc pl-5">
          <li>
            On a device that is in: <strong>Studio</strong>, <strong>Let in another device</strong>.
          </li>
          {atHome && (
            <li>
              In the terminal, in Omaggio’s folder: <code>bin/key</code>. The address that <code>bin/start</code> printed is one, too.
            </li>
          )}
          <li>Players open the personal link that their teacher gave them.</li>
        </ul>
      </section>
    </main>
  );
}

function SignIn({ to }: { to: string }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  async function signIn(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const said = new FormData(event.currentTarget);
    setBusy(true);
    const response = await sendJson('POST', '/api/session', { name: said.get('name'), phrase: said.get('phrase') });
    setBusy(false);
    if (!response?.ok) return setProblem(await problemOf(response));
    // A whole new page: nothing of what the stranger saw is left.
    window.location.assign(to);
  }
  return (
    <form className="grid gap-3 rounded-xl border border-line bg-sheet px-5 py-4" onSubmit={(event) => void signIn(event)}>
      <h2 className="text-lg">Sign in</h2>
      <label className="grid gap-1">
        <span className="text-[13px] text-soft">Name</span>
        <input className="field" name="name" autoComplete="username" required maxLength={LIMITS.name} />
      </label>
      <label className="grid gap-1">
        <span className="text-[13px] text-soft">Pass phrase</span>
        <input className="field" name="phrase" type="password" autoComplete="current-password" required maxLength={1_000} />
      </label>
      {problem && <ProblemNote problem={problem} onClose={() => setProblem(null)} />}
      <span>
        <Button type="submit" look="spruce" disabled={busy}>
          Sign in
        </Button>
      </span>
    </form>
  );
}
