'use client';

import { Button } from '@/ui/kit/button';
import { Pencil } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { LIMITS } from '@/core/util/limits';
import { CONTENT, OVERLAY } from '@/ui/kit/dialog';
import { LimitHint } from '@/ui/kit/limit';
import { ProblemNote, problemOf, sendJson, type Problem } from '@/ui/kit/problem';

interface Props {
  piece: { id: string; title: string; composer: string | null; parts: ReadonlyArray<{ id: string; name: string }> };
  onRenamed(): void;
}

/** What a piece, its composer and its parts are called; the file keeps its own names. */
export function RenamePiece({ piece, onRenamed }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="button px-2" aria-label={`Rename ${piece.title}`} title="Rename the piece and its parts">
        <Pencil size={15} aria-hidden />
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content className={CONTENT}>
          <Dialog.Title className="text-lg">Names</Dialog.Title>
          <Dialog.Description className="mt-1 text-soft">
            As they are shown everywhere here. Files that are taken out keep the names that came in them.
          </Dialog.Description>
          <Names
            piece={piece}
            onDone={() => {
              setOpen(false);
              onRenamed();
            }}
          />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Names({ piece, onDone }: { piece: Props['piece']; onDone(): void }) {
  const [title, setTitle] = useState(piece.title);
  const [composer, setComposer] = useState(piece.composer ?? '');
  const [parts, setParts] = useState<Readonly<Record<string, string>>>(() => Object.fromEntries(piece.parts.map(({ id, name }) => [id, name])));
  const [problem, setProblem] = useState<Problem | null>(null);
  const empty = title.trim() === '' || Object.values(parts).some((name) => name.trim() === '');
  async function store() {
    const names = { title, composer: composer.trim() || null, parts: Object.entries(parts).map(([id, name]) => ({ id, name })) };
    const response = await sendJson('PUT', `/api/pieces/${piece.id}/names`, names);
    if (response?.ok) onDone();
    else setProblem(await problemOf(response));
  }
  const field = (label: string, value: string, change: (next: string) => void) => (
    <label key={label} className="grid gap-1">
      <span className="text-[13px] text-soft">{label}</span>
      <input className="field" value={value} maxLength={LIMITS.title} onChange={(event) => change(event.target.value)} />
      <LimitHint text={value} limit={LIMITS.title} />
    </label>
  );
  return (
    <form
      className="mt-3 grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!empty) void store();
      }}
    >
      {field('Title', title, setTitle)}
      {field('Composer', composer, setComposer)}
      <fieldset className="grid max-h-64 gap-3 overflow-y-auto sm:grid-cols-2">
        <legend className="mb-1 font-semibold">Parts</legend>
        {piece.parts.map(({ id, name }, i) => field(`Part ${i + 1}, now ${name}`, parts[id]!, (next) => setParts({ ...parts, [id]: next })))}
      </fieldset>
      {problem && <ProblemNote problem={problem} onClose={() => setProblem(null)} />}
      <div className="flex gap-2">
        <Button type="submit" look="spruce" disabled={empty}>
          {empty ? 'Every name needs a letter' : 'Keep these names'}
        </Button>
        <Dialog.Close className="button">Close</Dialog.Close>
      </div>
    </form>
  );
}
