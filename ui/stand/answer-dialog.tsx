'use client';

import { useState } from 'react';
import { ANSWER_KINDS, type AnswerKind } from '@/core/handout/shapes';
import { LIMITS } from '@/core/util/limits';
import { Button } from '@/ui/kit/button';
import { Dialog, DialogClose } from '@/ui/kit/dialog';
import type { StandModel } from './use-stand';

export const ANSWER_WORDS: Readonly<Record<AnswerKind, string>> = {
  hurts: 'It hurts',
  'does not work': 'It does not work',
  question: 'I have a question',
  words: 'Something else',
};

/** What a player says about a bar, or about the whole part. */
export function AnswerDialog({ stand, bar, onClose }: { stand: StandModel; bar: number | null; onClose(): void }) {
  const [kind, setKind] = useState<AnswerKind>('does not work');
  const [words, setWords] = useState('');
  const where = bar === null ? 'the part' : `bar ${stand.music?.labels[bar] ?? bar + 1}`;
  const earlier = stand.said.answers.filter((answer) => answer.bar === bar);
  const needsWords = kind === 'question' || kind === 'words';
  const send = () => {
    stand.said.answer(bar, kind, words.trim());
    onClose();
  };
  return (
    <Dialog open onOpen={(open) => !open && onClose()} title={`About ${where}`} size="narrow" bare>
      {earlier.length > 0 && (
        <ul className="mb-3 grid gap-1 text-[13px]">
          {earlier.map((each) => (
            <li key={each.id}>
              You said: {ANSWER_WORDS[each.kind].toLowerCase()}
              {each.words && `, “${each.words}”`} <span className="text-soft">{each.isSettled ? '(dealt with)' : ''}</span>
            </li>
          ))}
        </ul>
      )}
      {stand.said.isOwn ? (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            send();
          }}
        >
          <fieldset className="grid gap-1">
            <legend className="sr-only">What it is</legend>
            {ANSWER_KINDS.map((each) => (
              <label key={each} className="flex min-h-8 cursor-pointer items-center gap-2">
                <input type="radio" name="kind" checked={kind === each} onChange={() => setKind(each)} /> {ANSWER_WORDS[each]}
              </label>
            ))}
          </fieldset>
          {kind === 'hurts' && (
            <p className="rounded-lg border border-plum bg-plum-pale px-3 py-2">
              Stop playing it until you have spoken with your teacher. Nothing in music is worth pain; where it stays, is numb or tingles, see a health
              professional, too.
            </p>
          )}
          <label className="grid gap-1">
            In your words{needsWords ? '' : ', if you like'}
            <textarea className="field" rows={3} maxLength={LIMITS.handoutWord} value={words} onChange={(event) => setWords(event.target.value)} />
          </label>
          <span className="flex gap-2">
            <Button look="spruce" type="submit" disabled={needsWords && words.trim() === ''}>
              Tell my coach
            </Button>
            <DialogClose>Cancel</DialogClose>
          </span>
        </form>
      ) : (
        <>
          {earlier.length === 0 && <p className="text-soft">Players say here what does not work.</p>}
          <DialogClose className="mt-3">Close</DialogClose>
        </>
      )}
    </Dialog>
  );
}
