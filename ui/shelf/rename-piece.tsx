'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { Pencil } from 'lucide-react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { pieceNamesShape, type PieceNames } from '@/core/util/names-shape';
import { LIMITS } from '@/core/util/limits';
import { Button } from '@/ui/kit/button';
import { Dialog, DialogClose } from '@/ui/kit/dialog';
import { FormField } from '@/ui/kit/form-field';
import { IconButton } from '@/ui/kit/icon-button';
import { ProblemNote, problemOf, sendJson, type Problem } from '@/ui/kit/problem';

interface Props {
  piece: { id: string; title: string; composer: string | null; parts: ReadonlyArray<{ id: string; name: string }> };
  onRenamed(): void;
}

/** What a piece, its composer and its parts are called; the file keeps its own names. */
export function RenamePiece({ piece, onRenamed }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <IconButton label={`Rename ${piece.title}`} onClick={() => setOpen(true)}>
        <Pencil size={15} aria-hidden />
      </IconButton>
      <Dialog
        bare
        open={open}
        onOpen={setOpen}
        title="Names"
        description="As they are shown everywhere here. Files that are taken out keep the names that came in them."
      >
        <Names
          piece={piece}
          onDone={() => {
            setOpen(false);
            onRenamed();
          }}
        />
      </Dialog>
    </>
  );
}

function Names({ piece, onDone }: { piece: Props['piece']; onDone(): void }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const parts = piece.parts.map(({ id, name }) => ({ id, name }));
  const form = useForm({
    resolver: zodResolver(pieceNamesShape),
    mode: 'onChange',
    defaultValues: { title: piece.title, composer: piece.composer ?? '', parts },
  });
  async function store(names: PieceNames) {
    const response = await sendJson('PUT', `/api/pieces/${piece.id}/names`, names);
    if (response?.ok) onDone();
    else setProblem(await problemOf(response));
  }
  const { isValid, isSubmitting } = form.formState;
  return (
    <form className="grid gap-3" onSubmit={(event) => void form.handleSubmit(store)(event)}>
      <FormField form={form} name="title" label="Title" limit={LIMITS.title} />
      <FormField form={form} name="composer" label="Composer" limit={LIMITS.title} />
      <fieldset className="grid max-h-64 gap-3 overflow-y-auto sm:grid-cols-2">
        <legend className="mb-1 font-semibold">Parts</legend>
        {parts.map(({ id, name }, i) => (
          <FormField key={id} form={form} name={`parts.${i}.name`} label={`Part ${i + 1}, now ${name}`} limit={LIMITS.title} />
        ))}
      </fieldset>
      {problem && <ProblemNote problem={problem} onClose={() => setProblem(null)} />}
      <div className="flex gap-2">
        <Button type="submit" look="spruce" disabled={!isValid || isSubmitting}>
          {isValid ? 'Keep these names' : 'Every name needs a letter'}
        </Button>
        <DialogClose>Close</DialogClose>
      </div>
    </form>
  );
}
