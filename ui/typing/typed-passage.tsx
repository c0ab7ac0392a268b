'use client';

import { Button, TextButton } from '@/ui/kit/button';
import { LIMITS } from '@/core/util/limits';
import { LimitHint } from '@/ui/kit/limit';
import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { FileButton } from '@/ui/kit/file-button';
import { OVERLAY } from '@/ui/kit/dialog';
import { ProblemNote, problemOf, sendJson, whileWanted, type Problem } from '@/ui/kit/problem';
import { PaperView } from './paper-view';
import { PAPER_FILES } from './papers';
import { usePapers } from './use-papers';
import { ImagePlus } from 'lucide-react';
import type { TypedPassage as Typed } from '@/workers/server/tasks';

interface Props {
  open: boolean;
  onOpen(open: boolean): void;
  /** A passage that was typed before and is typed on: its text, whose draft it is, its piece, and what the button says. */
  typed?: { text: string; draft: string; pieceId: string; done: string };
  /** The passage as a file, to be taken in like any other; what was typed is kept until that is done. */
  onDone(file: File, draft: string): Promise<Problem | null>;
}

const START = `X:1
T:Passage
M:4/4
L:1/8
K:D
V:1 name="Violin"
`;

/** What is typed is kept here until it lies on the shelf. */
export const TYPED_DRAFT = 'omaggio.typed-passage';

const VOICES: ReadonlyArray<[name: string, clef: string]> = [
  ['Violin', 'treble'],
  ['Viola', 'alto'],
  ['Cello', 'bass'],
  ['Double Bass', 'bass'],
];

const EXAMPLES: ReadonlyArray<[abc: string, what: string]> = [
  ['A B c d', 'notes; c is an octave above C, c\u2019 and C, go on up and down'],
  ['^F _B =C', 'sharp, flat, natural; they hold to the bar line'],
  ['A2 A/ A3', 'twice, half, three times the length that L: says'],
  ['z2', 'rest'],
  ['vA uB', 'down-bow, up-bow'],
  ['!3!A', 'finger 3; !open! and !thumb!'],
  ['(ABc)', 'slur'],
  ['A-|A', 'tie'],
  ['[DA]', 'double stop'],
  ['(3ABc', 'triplet'],
  ['.A !>!A !tenuto!A', 'dot, accent, line'],
  ['!p!A !<(!B c!<)!d', 'dynamics and hairpins'],
  ['"dolce"A', 'words'],
  ['{/g}A !trill!A', 'grace note, trill'],
  ['|: :| |1 |2', 'repeats, first and second time'],
];

/** A passage typed in a small open text format, for the teacher who only has paper. */
export function TypedPassage({ open, typed, onOpen, onDone }: Props) {
  const draft = typed ? `${TYPED_DRAFT}.${typed.draft}` : TYPED_DRAFT;
  const first = typed?.text ?? START;
  const [text, setText] = useState(first);
  const [shown, setShown] = useState<Typed | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const field = useRef<HTMLTextAreaElement>(null);
  const engraving = useRef<HTMLDivElement>(null);
  const papers = usePapers(draft, typed?.pieceId ?? null, open);
  const [paperKey, setPaperKey] = useState<string | null>(null);
  const paper = papers.papers.find(({ key }) => key === paperKey) ?? papers.papers[0] ?? null;
  const hasPaper = paper !== null;

  useEffect(() => {
    if (!open) return;
    const abort = new AbortController();
    const timer = setTimeout(() => {
      void whileWanted(abort.signal, async () => {
        if (text.trim() === START.trim()) {
          setShown(null);
          return setProblem(null);
        }
        window.localStorage.setItem(draft, text);
        const response = await sendJson('POST', '/api/typed', { abc: text, widthPx: roomIn(engraving.current) }, abort.signal);
        if (abort.signal.aborted) return;
        if (response?.ok) {
          setShown((await response.json()) as Typed);
          setProblem(null);
        } else {
          setShown(null);
          setProblem(await problemOf(response));
        }
      });
    }, 250);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [open, text, draft, hasPaper]);

  const voice = VOICES.find(([name]) => new RegExp(`name="${name}"`).test(text))?.[0] ?? '';
  const setVoice = (name: string) => {
    const clef = VOICES.find(([each]) => each === name)?.[1] ?? 'treble';
    const line = `V:1 name="${name}" clef=${clef}`;
    setText(/^V:\s*1\b.*$/m.test(text) ? text.replace(/^V:\s*1\b.*$/m, line) : text.replace(/^(K:.*)$/m, `$1\n${line}`));
  };
  const goTo = (line: number, column: number) => {
    const before = text.split('\n').slice(0, line - 1);
    const at = before.reduce((sum, each) => sum + each.length + 1, 0) + column - 1;
    field.current?.focus();
    field.current?.setSelectionRange(at, at + 1);
  };
  const ready = shown !== null && shown.parts.some((part) => part.notes > 0);

  async function done() {
    setBusy(true);
    const wrong = await onDone(new File([text], `${(shown?.title ?? 'Passage').replace(/[\\/:*?"<>|]/g, ' ')}.abc`, { type: 'text/plain' }), draft);
    setBusy(false);
    if (wrong) setProblem(wrong);
    else window.localStorage.removeItem(draft);
  }
  const start = () => setText(window.localStorage.getItem(draft) ?? first);

  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        if (next) start();
        onOpen(next);
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content
          className={`fixed top-[3vh] left-1/2 z-50 flex max-h-[94vh] -translate-x-1/2 flex-col gap-3 overflow-y-auto rounded-xl border border-line bg-sheet p-5 shadow-xl ${paper ? 'w-[min(110rem,97vw)]' : 'w-[min(72rem,96vw)]'}`}
          aria-describedby="typed-help"
          onOpenAutoFocus={(event) => {
            event.preventDefault();
            start();
            field.current?.focus();
          }}
          onDragOver={(event) => event.preventDefault()}
          onDrop={(event) => {
            event.preventDefault();
            event.stopPropagation();
            void papers.add([...event.dataTransfer.files]);
          }}
        >
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <Dialog.Title className="text-lg">Type a passage</Dialog.Title>
            <p id="typed-help" className="min-w-0 grow text-soft">
              In ABC notation: letters are notes. It is engraved as you type, and kept in this browser until it lies on the shelf.
            </p>
            <FileButton label="Photograph or PDF to type from" accept={PAPER_FILES} multiple onFiles={(files) => void papers.add(files)}>
              <ImagePlus size={15} aria-hidden /> Lay a sheet beside it
            </FileButton>
          </div>
          {papers.problem && <ProblemNote problem={papers.problem} onClose={papers.dismiss} />}
          <div className={`grid gap-4 ${paper ? 'lg:grid-cols-2' : ''}`}>
            {paper && (
              <div className="grid h-[min(74vh,60rem)] min-w-0 grid-rows-[auto_1fr] gap-1 max-lg:h-[42vh]">
                {papers.papers.length > 1 ? (
                  <div role="tablist" aria-label="Sheets" className="flex flex-wrap gap-1">
                    {papers.papers.map((each) => (
                      <button
                        key={each.key}
                        type="button"
                        role="tab"
                        aria-selected={each.key === paper.key}
                        className={`button max-w-48 truncate ${each.key === paper.key ? 'button-spruce' : ''}`}
                        onClick={() => setPaperKey(each.key)}
                      >
                        {each.name}
                      </button>
                    ))}
                  </div>
                ) : (
                  <span />
                )}
                <PaperView key={paper.key} paper={paper} onRemove={() => void papers.remove(paper)} />
              </div>
            )}
            <div className={`grid min-w-0 content-start gap-4 ${paper ? '' : 'md:grid-cols-[22rem_1fr]'}`}>
              <div className="grid content-start gap-2">
                <label className="flex items-center gap-2">
                  <span>For</span>
                  <select className="field" value={voice} onChange={(event) => setVoice(event.target.value)}>
                    {voice === '' && <option value="">as the text says</option>}
                    {VOICES.map(([name]) => (
                      <option key={name}>{name}</option>
                    ))}
                  </select>
                </label>
                <textarea
                  ref={field}
                  aria-label="The passage in ABC notation"
                  spellCheck={false}
                  className={`field w-full font-mono text-[13px] leading-5 ${paper ? 'min-h-48' : 'min-h-64'}`}
                  maxLength={LIMITS.typed}
                  value={text}
                  onChange={(event) => setText(event.target.value)}
                />
                <LimitHint text={text} limit={LIMITS.typed} />
                <WhatCanBeTyped />
              </div>
              <div className="grid min-w-0 content-start gap-2" aria-live="polite">
                <div
                  ref={engraving}
                  role="img"
                  aria-label={ready ? `Engraved: ${describe(shown)}` : 'Nothing engraved yet'}
                  className="min-h-40 overflow-x-auto rounded-xl border border-line bg-paper p-2"
                >
                  {shown?.engraving?.systems.map((system, i) => (
                    <div key={i} className="engraving" dangerouslySetInnerHTML={{ __html: system.svg }} />
                  ))}
                </div>
                {ready && <p className="text-[13px] text-soft">{describe(shown)}</p>}
                {shown && shown.parts[0] && shown.barsEngraved < shown.parts[0].bars && (
                  <p className="text-[13px] text-soft">The first {shown.barsEngraved} bars are shown here; all of them are taken in.</p>
                )}
                {problem && (
                  <p role="alert" className="text-[13px] text-plum">
                    {problem.place && <strong>{problem.place}: </strong>}
                    {problem.what} {problem.remedy}
                  </p>
                )}
                {shown && shown.problems.length > 0 && (
                  <ul aria-label="What was not understood" className="grid max-h-44 gap-1 overflow-y-auto text-[13px]">
                    {shown.problems.map((each, i) => (
                      <li key={i}>
                        <TextButton className="font-semibold text-plum" onClick={() => goTo(each.line, each.column)}>
                          line {each.line}, column {each.column}
                        </TextButton>{' '}
                        {each.text}
                      </li>
                    ))}
                  </ul>
                )}
              </div>
            </div>
          </div>
          <div className="sticky -bottom-5 -mx-5 -mb-5 flex gap-2 border-t border-line bg-sheet px-5 py-3">
            <Button look="spruce" disabled={!ready || busy} onClick={() => void done()}>
              {typed?.done ?? 'Put it on the shelf'}
            </Button>
            <Dialog.Close className="button">Close, keep what is typed</Dialog.Close>
            {typed && <p className="self-center text-[13px] text-soft">Undo ends where the text is replaced; the text before stays among the editions.</p>}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Width for an engraving inside a box with its padding, in px. */
const roomIn = (box: HTMLElement | null): number => Math.max(240, Math.min(1200, (box?.clientWidth ?? 660) - 20));

function WhatCanBeTyped() {
  return (
    <details className="text-[13px]">
      <summary className="cursor-pointer">What can be typed</summary>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
        {EXAMPLES.map(([abc, what]) => (
          <div key={abc} className="contents">
            <dt className="font-mono">{abc}</dt>
            <dd className="text-soft">{what}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}

function describe(typed: Typed): string {
  return typed.parts
    .map(({ name, instrument, bars, notes }) => `${name}${instrument ? '' : ' (instrument not known)'}: ${bars} ${bars === 1 ? 'bar' : 'bars'}, ${notes} notes`)
    .join('; ');
}
