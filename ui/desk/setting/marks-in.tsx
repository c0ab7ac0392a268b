'use client';

import { useState } from 'react';
import { readMarksFile, type ReadMarks } from '@/core/formats/marks-file';
import { changeTo } from '@/core/marking/change';
import { splitKey } from '@/core/marking/mark';
import type { Part } from '@/core/score/score';
import { Button } from '@/ui/kit/button';
import { FileButton } from '@/ui/kit/file-button';
import { ProblemNote, type Problem } from '@/ui/kit/problem';
import { useDesk } from '../model/desk';

/** Reads a marks file back: what is marked already stays, what has no place here is named. */
export function MarksIn({ part }: { part: Part }) {
  const { marking, change } = useDesk();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  /** Marks of another part: they are read only when the coach has said so. */
  const [asked, setAsked] = useState<{ name: string; from: string; marks: ReadMarks } | null>(null);
  async function readIn(file: File) {
    setSaid(null);
    setAsked(null);
    const read = readMarksFile(await file.text(), part);
    if (!read.ok) return setProblem({ ...read.problem, place: [file.name, read.problem.place].filter(Boolean).join(', ') });
    setProblem(null);
    const { madeOn } = read.value;
    if (madeOn && madeOn.name !== part.name) setAsked({ name: file.name, from: madeOn.name, marks: read.value });
    else take(file.name, read.value);
  }
  function take(name: string, { marking: found, lost }: ReadMarks) {
    setAsked(null);
    const entries = Object.entries(found);
    const fresh = entries.filter(([key]) => marking[key] === undefined);
    change(
      `Marks from ${name}`,
      fresh.flatMap(([key, mark]) => {
        const { target, kind } = splitKey(key);
        return changeTo(marking, target, kind, mark) ?? [];
      }),
    );
    const kept = entries.length - fresh.length;
    const places = lost.slice(0, 8).map(({ at, kind }) => `${kind} at ${at}`);
    const parts = [
      `${fresh.length} marks read`,
      kept ? `${kept} left as they are here` : '',
      lost.length ? `${lost.length} without a place: ${places.join(', ')}${lost.length > places.length ? ' …' : ''}` : '',
    ];
    setSaid(`${parts.filter(Boolean).join('; ')}.`);
  }
  return (
    <section aria-label="Marks from a file" className="grid gap-2">
      <h2 className="text-base">Marks from a file</h2>
      <FileButton label="Marks file" accept=".json" className="justify-self-start" onFiles={([file]) => void readIn(file!)}>
        Read marks from a file
      </FileButton>
      {asked && (
        <div role="group" aria-label="Marks of another part" className="flex flex-wrap items-center gap-2 rounded-lg border border-line px-3 py-2">
          <p className="grow basis-64">
            These marks were made on {asked.from}; this part is {part.name}. Fingers go to notes of the same pitch only; bows, words and signs to the same
            places.
          </p>
          <Button onClick={() => take(asked.name, asked.marks)}>Read them all the same</Button>
          <Button onClick={() => setAsked(null)}>Leave them</Button>
        </div>
      )}
      {said && (
        <p role="status" className="text-[13px]">
          {said}
        </p>
      )}
      {problem && <ProblemNote problem={problem} onClose={() => setProblem(null)} />}
    </section>
  );
}
