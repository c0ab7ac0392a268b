'use client';

import { useState, type FormEvent } from 'react';
import { LIMITS } from '@/core/util/limits';
import { Button } from '@/ui/kit/button';
import { Dialog, DialogClose } from '@/ui/kit/dialog';
import { ProblemNote } from '@/ui/kit/problem';
import type { Person } from './people';
import { useDoing } from '@/ui/kit/use-doing';

interface Props {
  person: Person;
  isMe: boolean;
  onClose(): void;
}

/** The name and the pass phrase that somebody signs in with; it may be pasted, and looked at. */
export function PhraseForm({ person, isMe, onClose }: Props) {
  const doing = useDoing();
  const [shown, setShown] = useState(false);
  async function save(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const said = new FormData(event.currentTarget);
    const text = (name: string) => String(said.get(name) ?? '');
    const change = { signIn: text('signIn'), phrase: text('phrase'), ...(isMe && person.hasPhrase ? { current: text('current') || ' ' } : {}) };
    if (await doing.send('PUT', isMe ? '/api/studio/me' : `/api/studio/people/${person.id}`, change)) onClose();
  }
  const type = shown ? 'text' : 'password';
  return (
    <Dialog
      bare
      open
      onOpen={(open) => !open && onClose()}
      title={`How ${person.name} signs in`}
      size="narrow"
      description="With these, any browser lets them in."
    >
      <form className="grid gap-3" onSubmit={(event) => void save(event)}>
        <Word label="Name to sign in with" name="signIn" type="text" autoComplete="username" limit={LIMITS.name} initial={person.signIn ?? ''} />
        {isMe && person.hasPhrase && <Word label="Pass phrase of today" name="current" type={type} autoComplete="current-password" limit={1_000} />}
        <Word
          label="New pass phrase"
          name="phrase"
          type={type}
          autoComplete="new-password"
          limit={1_000}
          hint="At least 12 letters: three or four words that do not belong together. It may be pasted."
        />
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={shown} onChange={(event) => setShown(event.target.checked)} /> Show what is typed
        </label>
        <p className="text-[13px] text-soft">All other browsers of {person.name} are shut out then.</p>
        {doing.problem && <ProblemNote problem={doing.problem} />}
        <span className="mt-1 flex gap-2">
          <Button type="submit" look="spruce" disabled={doing.busy}>
            Save
          </Button>
          <DialogClose>Cancel</DialogClose>
        </span>
      </form>
    </Dialog>
  );
}

interface WordProps {
  label: string;
  name: string;
  type: 'text' | 'password';
  autoComplete: string;
  limit: number;
  initial?: string;
  hint?: string;
}

function Word({ label, name, type, autoComplete, limit, initial = '', hint }: WordProps) {
  return (
    <label className="grid gap-1">
      <span className="text-[13px] text-soft">{label}</span>
      <input className="field" name={name} type={type} autoComplete={autoComplete} required maxLength={limit} defaultValue={initial} />
      {hint && <span className="text-xs text-soft">{hint}</span>}
    </label>
  );
}
