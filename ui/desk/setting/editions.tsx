'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { FileButton, SCORE_FILES } from '@/ui/kit/file-button';
import { ProblemNote, type Problem } from '@/ui/kit/problem';
import { bringInEdition } from '@/ui/part/bring-in';
import type { PartData } from '@/ui/part/part-data';

/** Other editions of the part: those that were brought in, and a way to bring one in. */
export function Editions({ data }: { data: PartData }) {
  const router = useRouter();
  const [working, setWorking] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function bringIn(file: File) {
    setWorking(true);
    setProblem(null);
    const made = await bringInEdition(data.part.id, file);
    setWorking(false);
    if (made.ok) router.push(`/desk/${data.part.id}/edition/${made.value.id}`);
    else setProblem(made.problem);
  }
  return (
    <section aria-label="Other editions" className="grid gap-2">
      <h2 className="text-base">Other editions</h2>
      <p className="text-[13px] text-soft">
        Bring in another file of the same part: a new version, or another publisher’s. You see what differs and take over what you like, or use the new file and
        keep all marks.
      </p>
      <ul className="grid gap-1">
        {data.editions.map(({ id, name }) => (
          <li key={id}>
            <Link className="underline" href={`/desk/${data.part.id}/edition/${id}`}>
              {name}
            </Link>
          </li>
        ))}
      </ul>
      <FileButton label="Another edition" accept={SCORE_FILES} className="justify-self-start" disabled={working} onFiles={([file]) => void bringIn(file!)}>
        {working ? 'Comparing …' : 'Compare with another file'}
      </FileButton>
      {problem && <ProblemNote problem={problem} onClose={() => setProblem(null)} />}
    </section>
  );
}
