'use client';

import { ImagePlus } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useRef, useState, type RefObject } from 'react';
import { LIMITS } from '@/core/util/limits';
import { Button } from '@/ui/kit/button';
import { DialogClose, OVERLAY } from '@/ui/kit/dialog';
import { FileButton } from '@/ui/kit/file-button';
import { LimitHint } from '@/ui/kit/limit';
import { ProblemNote, type Problem } from '@/ui/kit/problem';
import { Select } from '@/ui/kit/select';
import { forVoice, START, TYPED_DRAFT, voiceOf, VOICES } from './abc-head';
import { EngravedTyped } from './engraved-typed';
import { PaperView } from './paper-view';
import { PAPER_FILES, type Paper } from './papers';
import { usePapers } from './use-papers';
import { useTyped, type TypedText } from './use-typed';
import { WhatCanBeTyped } from './what-can-be-typed';

interface Props {
  open: boolean;
  onOpen(open: boolean): void;
  /** A passage that was typed before and is typed on: its text, whose draft it is, its piece, and what the button says. */
  typed?: { text: string; draft: string; pieceId: string; done: string };
  /** The passage as a file, to be taken in like any other; what was typed is kept until that is done. */
  onDone(file: File, draft: string): Promise<Problem | null>;
}

const FRAME =
  'fixed top-[3vh] left-1/2 z-50 flex max-h-[94vh] -translate-x-1/2 flex-col gap-3 overflow-y-auto rounded-xl border border-line bg-sheet p-5 shadow-xl';

/** A passage typed in a small open text format, for the teacher who only has paper. */
export function TypedPassage({ open, typed: before, onOpen, onDone }: Props) {
  const draft = before ? `${TYPED_DRAFT}.${before.draft}` : TYPED_DRAFT;
  const field = useRef<HTMLTextAreaElement>(null);
  const engraving = useRef<HTMLDivElement>(null);
  const papers = usePapers(draft, before?.pieceId ?? null, open);
  const hasPaper = papers.papers.length > 0;
  const typed = useTyped({ open, draft, first: before?.text ?? START, engraving, hasPaper });
  const [busy, setBusy] = useState(false);

  function goTo(line: number, column: number) {
    const above = typed.text.split('\n').slice(0, line - 1);
    const at = above.reduce((sum, each) => sum + each.length + 1, 0) + column - 1;
    field.current?.focus();
    field.current?.setSelectionRange(at, at + 1);
  }
  async function done() {
    setBusy(true);
    const name = (typed.shown?.title ?? 'Passage').replace(/[\\/:*?"<>|]/g, ' ');
    const wrong = await onDone(new File([typed.text], `${name}.abc`, { type: 'text/plain' }), draft);
    setBusy(false);
    if (wrong) typed.setProblem(wrong);
    else typed.letGo();
  }

  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        if (next) typed.start();
        onOpen(next);
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content
          className={`${FRAME} ${hasPaper ? 'w-[min(110rem,97vw)]' : 'w-[min(72rem,96vw)]'}`}
          aria-describedby="typed-help"
          onOpenAutoFocus={(event) => {
            event.preventDefault();
            typed.start();
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
          <div className={`grid gap-4 ${hasPaper ? 'lg:grid-cols-2' : ''}`}>
            {hasPaper && <Sheets papers={papers.papers} onRemove={(paper) => void papers.remove(paper)} />}
            <div className={`grid min-w-0 content-start gap-4 ${hasPaper ? '' : 'md:grid-cols-[22rem_1fr]'}`}>
              <TypingField typed={typed} field={field} className={hasPaper ? 'min-h-48' : 'min-h-64'} />
              <EngravedTyped typed={typed} box={engraving} onPlace={goTo} />
            </div>
          </div>
          <div className="sticky -bottom-5 -mx-5 -mb-5 flex gap-2 border-t border-line bg-sheet px-5 py-3">
            <Button look="spruce" disabled={!typed.ready || busy} onClick={() => void done()}>
              {before?.done ?? 'Put it on the shelf'}
            </Button>
            <DialogClose>Close, keep what is typed</DialogClose>
            {before && <p className="self-center text-[13px] text-soft">Undo ends where the text is replaced; the text before stays among the editions.</p>}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function TypingField({ typed: { text, setText }, field, className }: { typed: TypedText; field: RefObject<HTMLTextAreaElement | null>; className: string }) {
  const voice = voiceOf(text);
  const names = VOICES.map(([name]) => [name, name] as const);
  return (
    <div className="grid content-start gap-2">
      <div className="flex items-center gap-2">
        <span aria-hidden>For</span>
        <Select
          quiet
          label="For"
          value={voice}
          options={voice === '' ? [['', 'as the text says'] as const, ...names] : names}
          onValue={(name) => setText(forVoice(text, name))}
        />
      </div>
      <textarea
        ref={field}
        aria-label="The passage in ABC notation"
        spellCheck={false}
        className={`field w-full font-mono text-[13px] leading-5 ${className}`}
        maxLength={LIMITS.typed}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <LimitHint text={text} limit={LIMITS.typed} />
      <WhatCanBeTyped />
    </div>
  );
}

/** The sheets that one types from, one of them in view. */
function Sheets({ papers, onRemove }: { papers: readonly Paper[]; onRemove(paper: Paper): void }) {
  const [key, setKey] = useState<string | null>(null);
  const shown = papers.find((each) => each.key === key) ?? papers[0]!;
  return (
    <div className="grid h-[min(74vh,60rem)] min-w-0 grid-rows-[auto_1fr] gap-1 max-lg:h-[42vh]">
      {papers.length > 1 ? (
        <div role="tablist" aria-label="Sheets" className="flex flex-wrap gap-1">
          {papers.map((each) => (
            <Button
              key={each.key}
              role="tab"
              aria-selected={each.key === shown.key}
              look={each.key === shown.key ? 'spruce' : 'plain'}
              className="max-w-48 truncate"
              onClick={() => setKey(each.key)}
            >
              {each.name}
            </Button>
          ))}
        </div>
      ) : (
        <span />
      )}
      <PaperView key={shown.key} paper={shown} onRemove={() => onRemove(shown)} />
    </div>
  );
}
