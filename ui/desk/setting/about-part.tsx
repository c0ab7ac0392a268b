'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { SOUNDS, type Sounds } from '@/core/instruments/as-told';
import { readMarksFile, type ReadMarks } from '@/core/formats/marks-file';
import { changeTo, type Change } from '@/core/marking/change';
import { splitKey, type Marking } from '@/core/marking/mark';
import { INSTRUMENT_KINDS } from '@/core/instruments/instrument';
import { orderInWords, playedOrder } from '@/core/score/played';
import type { InstrumentKind, Part } from '@/core/score/score';
import { FileButton, SCORE_FILES } from '@/ui/kit/file-button';
import { ProblemNote, problemOf, type Problem } from '@/ui/kit/problem';
import { CONTENT, OVERLAY } from '@/ui/kit/dialog';
import { giveBack } from '../dialogs';
import { EditTyped } from '@/ui/typing/edit-typed';
import type { DeskSettings } from '@/ui/part/part-data';
import type { DeskData } from '@/ui/desk/desk-data';

interface Props {
  open: boolean;
  data: DeskData;
  /** As read, before anything was told about it. */
  part: Part | null;
  told: Pick<DeskSettings, 'instrument' | 'sounds' | 'section'>;
  onOpen(open: boolean): void;
  onClosed(): void;
  onTold(change: Partial<DeskSettings>): void;
  /** How a part for something else is played; nothing where it is for a bowed string instrument. */
  playedOn: ReactNode;
  marking: Marking;
  onChange(reason: string, changes: readonly Change[]): void;
}

const SOUND_WORDS: Readonly<Record<Sounds, string>> = {
  file: 'as the file says, or as is usual',
  written: 'as written',
  'octave-lower': 'an octave lower than written',
  'tone-higher': 'solo tuning, written for the fingers: an octave lower and a tone higher',
};

const halfSteps = (count: number): string => (count === 0 ? 'as written' : `${Math.abs(count)} half steps ${count < 0 ? 'lower' : 'higher'} than written`);

/** What the file says about the part, and what the coach says otherwise. */
export function AboutPart({ open, data, part, told, playedOn, onOpen, onClosed, onTold, marking, onChange }: Props) {
  const played = part && playedOrder(part.bars);
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content className={CONTENT} aria-describedby={undefined} onCloseAutoFocus={giveBack(onClosed)}>
          <Dialog.Title className="text-lg">About {data.part.name}</Dialog.Title>
          {part && (
            <div className="mt-3 grid gap-3">
              {playedOn}
              <label className="grid gap-1">
                <span>Instrument</span>
                <select
                  className="field"
                  value={told.instrument ?? ''}
                  onChange={(event) => onTold({ instrument: (event.target.value || null) as InstrumentKind | null, playerId: null })}
                >
                  <option value="">{part.instrument ? `${part.instrument}, because ${part.instrumentBecause}` : `not known: ${part.instrumentBecause}`}</option>
                  {INSTRUMENT_KINDS.map((kind) => (
                    <option key={kind} value={kind}>
                      {kind}
                    </option>
                  ))}
                </select>
              </label>
              <label className="grid gap-1">
                <span>It sounds</span>
                <select className="field" value={told.sounds} onChange={(event) => onTold({ sounds: event.target.value as Sounds })}>
                  {SOUNDS.map((sounds) => (
                    <option key={sounds} value={sounds}>
                      {SOUND_WORDS[sounds]}
                      {sounds === 'file' ? ` (here ${halfSteps(part.soundsHalfSteps)}${part.transposesItself ? ', says the file' : ''})` : ''}
                    </option>
                  ))}
                </select>
              </label>
              <label className="grid gap-1">
                <span>Played by</span>
                <select
                  className="field"
                  value={told.section === null ? '' : told.section ? 'section' : 'one'}
                  onChange={(event) => onTold({ section: event.target.value === '' ? null : event.target.value === 'section', line: 0 })}
                >
                  <option value="">{part.section ? 'a section, by its name' : 'one player, by its name'}</option>
                  <option value="section">a section: what no one can hold is divided</option>
                  <option value="one">one player: every chord is for one hand</option>
                </select>
              </label>
              {played && (
                <p>
                  <span className="text-soft">Played in this order:</span> {orderInWords(part.bars, played.order)}
                  {played.doubts.map((doubt) => (
                    <span key={doubt.text} className="block text-plum">
                      Bar {part.bars[doubt.barIndex]!.label}: {doubt.text}
                    </span>
                  ))}
                </p>
              )}
              {data.typed && <EditTyped partId={data.part.id} pieceId={data.pieceId} />}
              <Editions data={data} />
              <MarksIn part={part} marking={marking} onChange={onChange} />
              {data.warnings.length > 0 && (
                <details>
                  <summary className="cursor-pointer">What was noticed when the file was read ({data.warnings.length})</summary>
                  <ul className="mt-1 grid max-h-60 gap-1 overflow-y-auto text-[13px]">
                    {data.warnings.map((warning, i) => (
                      <li key={i}>
                        <strong>{warning.place}:</strong> {warning.text}
                      </li>
                    ))}
                  </ul>
                </details>
              )}
            </div>
          )}
          <Dialog.Close className="button mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Other editions of the part: those that were brought in, and a way to bring one in. */
function Editions({ data }: { data: DeskData }) {
  const router = useRouter();
  const [working, setWorking] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function bringIn(file: File) {
    setWorking(true);
    setProblem(null);
    const response = await fetch(`/api/parts/${data.part.id}/editions?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file }).catch(() => null);
    setWorking(false);
    if (!response?.ok) return setProblem(await problemOf(response));
    const { id } = (await response.json()) as { id: string };
    router.push(`/desk/${data.part.id}/edition/${id}`);
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

/** Reads a marks file back: what is marked already stays, what has no place here is named. */
function MarksIn({ part, marking, onChange }: Pick<Props, 'marking' | 'onChange'> & { part: Part }) {
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
    onChange(
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
          <button type="button" className="button" onClick={() => take(asked.name, asked.marks)}>
            Read them all the same
          </button>
          <button type="button" className="button" onClick={() => setAsked(null)}>
            Leave them
          </button>
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
