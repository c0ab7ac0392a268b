'use client';

import { useState, type FormEvent } from 'react';
import { Button, ToggleButton } from '@/ui/kit/button';
import { IconButton } from '@/ui/kit/icon-button';
import { LimitHint } from '@/ui/kit/limit';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { LIMITS } from '@/core/util/limits';
import { sayBar } from '@/core/score/address';
import { splitNote, withLength, withoutNote, withTie } from '@/core/score/bar-rhythm';
import { barText, barVoices, eventOf, fillProblem, parseBarText, type BarEvent, type BarVoice } from '@/core/score/bar-text';
import { plain, type NoteLength } from '@/core/score/note-length';
import type { Bar, Note, Part } from '@/core/score/score';
import { problemText } from '@/core/util/result';
import { Said } from '@/ui/kit/terms';
import { Row } from './row';
import { useCorrecting } from './use-correcting';

const LENGTHS = [1, 2, 4, 8, 16, 32];

interface Props {
  edited: Part;
  /** The first selected note, as it is with the edits. */
  first: Note | null;
  why: string;
}

/** What is corrected at a note. */
interface AtNote {
  first: Note;
  why: string;
  bar: Bar;
  voices: readonly BarVoice[];
}

/** The rhythm of the selected note's bar: by buttons at the note, and as text for everything else. */
export function BarRows({ edited, first, fromBar, why }: Props & { fromBar: number }) {
  const [barIndex, setBarIndex] = useState(first?.barIndex ?? fromBar);
  const [of, setOf] = useState(first?.id);
  // A bar of which no note is left, and so none selected, stays there to be written.
  if (first && of !== first.id) {
    setOf(first.id);
    setBarIndex(first.barIndex);
  }
  const read = barVoices(edited, barIndex);
  const bar = edited.bars[barIndex]!;
  const printed = read.ok ? barText(read.value) : '';
  return (
    <>
      {read.ok && barIndex === first?.barIndex && <NoteLengths key={`${first.id} ${printed}`} voices={read.value} {...{ first, why, bar }} />}
      <Row label="Bar">
        <span className="flex grow items-center gap-1">
          <IconButton label="Bar before" disabled={barIndex === 0} onClick={() => setBarIndex(barIndex - 1)}>
            <ChevronLeft size={16} aria-hidden />
          </IconButton>
          <span className="min-w-6 text-center text-[13px]">{sayBar(edited.bars, barIndex)}</span>
          <IconButton label="Next bar" disabled={barIndex + 1 >= edited.bars.length} onClick={() => setBarIndex(barIndex + 1)}>
            <ChevronRight size={16} aria-hidden />
          </IconButton>
        </span>
        {read.ok ? (
          <BarField key={`${barIndex} ${printed}`} {...{ barIndex, printed, bar, why }} />
        ) : (
          <p className="text-[13px] text-soft">{problemText(read.problem)}</p>
        )}
      </Row>
    </>
  );
}

/** Length, rest, tie, two halves: where the bar would not be filled, it is written out to be completed. */
function NoteLengths({ first, why, bar, voices }: AtNote) {
  const correct = useCorrecting();
  const [unfilled, setUnfilled] = useState<string | null>(null);
  const at = eventOf(voices, first, bar.ticks);
  if (!at) return null;
  const { events } = voices[at.voice]!;
  const event = events[at.event]!;
  const put = (made: readonly BarEvent[] | null) => {
    if (!made) return;
    const now = voices.map((voice, i) => (i === at.voice ? { ...voice, events: made } : voice));
    if (fillProblem(now, bar) !== null) return setUnfilled(barText(now));
    setUnfilled(null);
    void correct(first.barIndex, barText(now), why);
  };
  const length = event.length ?? plain(1);
  const toLength = (next: NoteLength) => put(withLength(events, at.event, next));
  const isTriplet = length.actual === 3 && length.normal === 2;
  return (
    <>
      <Row label="Length">
        {LENGTHS.map((of) => (
          <ToggleButton
            key={of}
            aria-label={`Length one ${of}th`.replace('1th', 'whole').replace('2th', 'half')}
            pressed={length.of === of}
            onClick={() => toLength({ ...length, of })}
          >
            1/{of}
          </ToggleButton>
        ))}
        <ToggleButton pressed={length.dots > 0} onClick={() => toLength({ ...length, dots: length.dots ? 0 : 1 })}>
          dotted
        </ToggleButton>
        <ToggleButton pressed={isTriplet} onClick={() => toLength(isTriplet ? { ...length, actual: 1, normal: 1 } : { ...length, actual: 3, normal: 2 })}>
          triplet
        </ToggleButton>
      </Row>
      <Row label="Note">
        <ToggleButton pressed={event.heads.some(({ tied }) => tied)} onClick={() => put(withTie(events, at.event))}>
          tied to the next
        </ToggleButton>
        <ToggleButton onClick={() => put(splitNote(events, at.event))}>in two halves</ToggleButton>
        <ToggleButton onClick={() => put(withoutNote(events, at.event))}>{event.what === 'grace' ? 'take out' : 'rest instead'}</ToggleButton>
      </Row>
      {unfilled !== null && <BarField key={unfilled} barIndex={first.barIndex} printed="" typed={unfilled} bar={bar} why={why} />}
    </>
  );
}

function BarField({ barIndex, printed, typed = printed, bar, why }: { barIndex: number; printed: string; typed?: string; bar: Bar; why: string }) {
  const correct = useCorrecting();
  const [text, setText] = useState(typed);
  const read = parseBarText(text);
  const wrong = read.ok ? fillProblem(read.value, bar) : problemText(read.problem);
  const isNew = text.trim() !== printed;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (isNew && wrong === null) void correct(barIndex, text, why);
  };
  return (
    <form className="grid w-full gap-1" onSubmit={submit}>
      <textarea
        aria-label="Notes of the bar as text, such as A4/4 B4/8. r/16 C5/2"
        aria-invalid={wrong !== null}
        className="field min-h-14 w-full font-mono text-[13px]"
        maxLength={LIMITS.barText}
        rows={2}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && !event.shiftKey) submit(event);
          if (event.key === 'Escape' && isNew) setText(printed);
        }}
      />
      <LimitHint text={text} limit={LIMITS.barText} />
      {wrong ? (
        <span role="alert" className="text-xs text-plum">
          <Said>{wrong}</Said>
        </span>
      ) : (
        isNew && (
          <span className="flex items-center gap-2">
            <Button small type="submit">
              Correct the bar
            </Button>
            <span className="text-xs text-soft">It fills the bar.</span>
          </span>
        )
      )}
      {!isNew && (
        <span className="text-xs text-soft">
          <Said>A4/8 is an eighth note, “.” a dot, “t” a triplet, “r” a rest, “~” a tie, “+” a chord.</Said>
        </span>
      )}
    </form>
  );
}
