'use client';

import Link from 'next/link';
import { useState } from 'react';
import { z } from 'zod';
import { LIMITS } from '@/core/util/limits';
import { Button } from '@/ui/kit/button';
import { Notice } from '@/ui/kit/notice';
import { PageHeader } from '@/ui/kit/page-header';
import { ProblemNote } from '@/ui/kit/problem';
import { useDoing } from '@/ui/kit/use-doing';
import { Answers } from './answers';
import { hasOpened, isDue, type AnswerOut, type Chosen, type PartOut, type PlayerOut } from './hand-out-data';
import { PartRow } from './part-row';
import { PrintingButton, PrintingNotice, usePrinting } from './printing';

interface Props {
  pieceId: string;
  title: string;
  parts: PartOut[];
  players: PlayerOut[];
  answers: AnswerOut[];
}

const doneShape = z.object({ handedOut: z.array(z.object({ part: z.string(), number: z.number(), isNew: z.boolean(), players: z.number() })) });

/** What is out of a piece and what changed since; handing it out. */
export function HandOuts({ pieceId, title, parts, players, answers }: Props) {
  const [changed, setChanged] = useState<Readonly<Record<string, Chosen>>>({});
  const [done, setDone] = useState<string | null>(null);
  const doing = useDoing();
  const printing = usePrinting(pieceId);
  const choiceOf = (part: PartOut): Chosen => changed[part.partId] ?? { isIn: part.usual.length > 0, players: part.usual };
  const going = parts.filter((part) => choiceOf(part).isIn && isDue(part, choiceOf(part)));

  const without = players
    .filter(({ id, hasLink }) => !hasLink && parts.some((part) => choiceOf(part).players.includes(id) && !hasOpened(part, id)))
    .map(({ name }) => name);

  async function handOut(word: string): Promise<boolean> {
    const told = await doing.send('POST', '/api/hand-outs', {
      word,
      parts: going.map((part) => ({ partId: part.partId, players: choiceOf(part).players })),
    });
    const parsed = told && doneShape.safeParse(told);
    if (!parsed?.success) return false;
    setDone(
      parsed.data.handedOut
        .map(
          ({ part, number, isNew, players: count }) =>
            `${part}: ${isNew ? `Hand-out ${number}` : `Hand-out ${number}, as it was`}, ${count} ${count === 1 ? 'player' : 'players'}`,
        )
        .join(' · '),
    );
    setChanged({});
    return true;
  }

  return (
    <div className="flex min-h-dvh flex-col">
      <PageHeader path={[{ name: title, href: parts.length > 1 ? `/score/${pieceId}` : `/desk/${parts[0]!.partId}` }, 'Hand-outs']}>
        {parts.some(({ last }) => last) && <PrintingButton printing={printing} />}
      </PageHeader>
      <main className="mx-auto grid w-full max-w-6xl grow gap-6 p-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <section aria-label="Parts" className="grid min-w-0 content-start gap-3">
          {doing.problem && <ProblemNote problem={doing.problem} onClose={doing.forget} />}
          <PrintingNotice printing={printing} />
          {done && <Notice actions={<Button onClick={() => setDone(null)}>Fine</Button>}>Handed out. {done}</Notice>}
          <WithoutLinks names={without} />
          {players.length === 0 && (
            <p className="text-soft">
              There is nobody to hand anything to yet: write down your players under Players, and give each their personal link in Studio.
            </p>
          )}
          <ul className="grid gap-2">
            {parts.map((part) => (
              <PartRow
                key={part.partId}
                pieceId={pieceId}
                part={part}
                players={players}
                chosen={choiceOf(part)}
                onChosen={(chosen) => setChanged((before) => ({ ...before, [part.partId]: chosen }))}
              />
            ))}
          </ul>
          <SendForm going={going} isBusy={doing.busy} onSend={handOut} />
        </section>
        <Answers answers={answers} />
      </main>
    </div>
  );
}

/** Who would get something and cannot open it. */
function WithoutLinks({ names }: { names: readonly string[] }) {
  if (names.length === 0) return null;
  return (
    <p className="text-[13px]">
      {names.join(', ')} {names.length === 1 ? 'has' : 'have'} no personal link yet, and cannot open what is handed out:{' '}
      <Link href="/studio?show=links" className="underline">
        make their links
      </Link>
      .
    </p>
  );
}

/** The word to the players, and handing out. */
function SendForm({ going, isBusy, onSend }: { going: readonly PartOut[]; isBusy: boolean; onSend(word: string): Promise<boolean> }) {
  const [word, setWord] = useState('');
  const send = async () => {
    if (await onSend(word.trim())) setWord('');
  };
  return (
    <form
      className="sticky bottom-0 grid gap-2 border-t border-line bg-paper py-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <label className="grid gap-1">
        A word to the players
        <textarea
          className="field w-full"
          rows={2}
          maxLength={LIMITS.handoutWord}
          value={word}
          onChange={(event) => setWord(event.target.value)}
          placeholder="Bowings up to E for Thursday"
        />
      </label>
      <span className="flex flex-wrap items-center gap-3">
        <Button look="spruce" type="submit" disabled={going.length === 0 || isBusy}>
          {going.length === 0 ? 'Nothing to hand out' : `Hand out ${going.length === 1 ? going[0]!.part : `${going.length} parts`}`}
        </Button>
        <span className="text-soft">
          {going.length === 0
            ? 'Every part that is chosen is out as it stands.'
            : 'What the players get is frozen: later marks stay here until you hand out again.'}
        </span>
      </span>
    </form>
  );
}
