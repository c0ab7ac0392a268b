'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useForm, useWatch } from 'react-hook-form';
import type { z } from 'zod';
import { LIMITS } from '@/core/util/limits';
import { newPersonShape } from '@/core/util/person-shape';
import { Button } from '@/ui/kit/button';
import { Dialog, DialogClose } from '@/ui/kit/dialog';
import { FormField } from '@/ui/kit/form-field';
import { ProblemNote } from '@/ui/kit/problem';
import { Select } from '@/ui/kit/select';
import { useDoing } from '@/ui/kit/use-doing';

type NewPerson = z.infer<typeof newPersonShape>;

/** Somebody else who teaches here. */
export function NewPersonForm({ onClose }: { onClose(): void }) {
  const doing = useDoing();
  const form = useForm<NewPerson>({ resolver: zodResolver(newPersonShape), defaultValues: { name: '', role: 'coach' } });
  const role = useWatch({ control: form.control, name: 'role' });
  const save = async (said: NewPerson) => {
    if (await doing.send('POST', '/api/studio/people', said)) onClose();
  };
  return (
    <Dialog bare open onOpen={(open) => !open && onClose()} title="Somebody else who teaches here" size="narrow">
      <form className="grid gap-3" onSubmit={(event) => void form.handleSubmit(save)(event)}>
        <FormField form={form} name="name" label="Name" limit={LIMITS.name} hint="As it stands under their marks" />
        <Select
          label="Role"
          value={role}
          options={[
            ['coach', 'coach'],
            ['owner', 'owner'],
          ]}
          onValue={(next) => form.setValue('role', next)}
        />
        {doing.problem && <ProblemNote problem={doing.problem} />}
        <span className="mt-1 flex gap-2">
          <Button type="submit" look="spruce" disabled={doing.busy}>
            Add
          </Button>
          <DialogClose>Cancel</DialogClose>
        </span>
      </form>
    </Dialog>
  );
}
