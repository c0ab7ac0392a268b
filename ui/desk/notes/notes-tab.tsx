'use client';

import { Button, PlaceButton, TextButton } from '@/ui/kit/button';
import { useDraft } from '@/ui/kit/draft';
import { LimitHint } from '@/ui/kit/limit';
import { useMemo, useState } from 'react';
import { changeTo } from '@/core/marking/change';
import { WORD_KINDS, type WordKind } from '@/core/marking/kinds';
import { NOTE_LABELS, notesFromText, notesText, playerNotes, targetAt, type PlayerNote } from '@/core/marking/notes';
import { sayBars, sayNote } from '@/core/score/address';
import type { Passage } from '@/core/score/passages';
import type { Note, Part } from '@/core/score/score';
import { LIMITS } from '@/core/util/limits';
import { problemText } from '@/core/util/result';
import { useDesk } from '../model/desk';

const KIND_NAMES: Readonly<Record<WordKind, string>> = {
  character: 'character',
  goal: 'the phrase goes to here',
  away: 'it comes away here',
  tune: 'who has the tune',
  listen: 'listen for',
  question: 'question to the player',
  apart: 'apart from others on purpose',
  words: 'words',
};

/** Words for the player, by note, bar and passage. */
export function NotesTab() {
  const { view, marking, passage, chosen } = useDesk();
  const { print } = view;
  const [wholePart, setWholePart] = useState(false);
  const all = useMemo(() => (print ? playerNotes(print, marking) : []), [print, marking]);
  const inPassage = all.filter((note) => note.barIndex <= passage.toBar && note.toBar >= passage.fromBar);
  const shown = wholePart ? all : inPassage;
  if (!print)
    return (
      <p className="text-soft" role="status">
        Reading …
      </p>
    );
  const about = addressOfSelection(print, chosen, passage);
  return (
    <div className="grid gap-4">
      <NewNote print={print} about={about} />
      <section aria-label="Notes for the player" className="grid gap-2 border-t border-line pt-3">
        <div className="flex items-baseline justify-between gap-2">
          <h2 className="text-base">{wholePart ? 'Notes in the whole part' : `Notes in ${passage.name}`}</h2>
          {all.length > inPassage.length || wholePart ? (
            <TextButton className="text-xs text-soft" onClick={() => setWholePart(!wholePart)}>
              {wholePart ? 'this passage only' : `all ${all.length}`}
            </TextButton>
          ) : null}
        </div>
        {shown.length === 0 && (
          <p className="text-[13px] text-soft">
            None yet. Say what the music is about, where the phrase goes, who has the tune, what to listen for. The player gets these as a list, and as words
            over the staff if you want.
          </p>
        )}
        <ul className="grid gap-2">
          {shown.map((note) => (
            <li key={`${note.target}|${note.kind}`}>
              <NoteCard note={note} />
            </li>
          ))}
        </ul>
      </section>
      <AsList print={print} count={all.length} />
    </div>
  );
}

function addressOfSelection(part: Part, chosen: readonly Note[], passage: Passage): string {
  const [first, last] = [chosen[0], chosen.at(-1)];
  if (!first || !last) return sayBars(part.bars, passage);
  if (chosen.length === 1) return sayNote(part, first);
  return sayBars(part.bars, { fromBar: first.barIndex, toBar: last.barIndex });
}

interface Draft {
  said: string;
  kind: WordKind;
  text: string;
}

/** A note that is being written: while it has words it stays about what it was begun for, wherever one goes meanwhile. */
function NewNote({ print, about }: { print: Part; about: string }) {
  const { data, marking, change, focusScore } = useDesk();
  const partId = data.part.id;
  const [draft, setDraft] = useDraft<Draft>(`note ${partId}`);
  const [other, setOther] = useState<{ about: string; said: string } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { kind, text } = draft ?? { kind: 'words' as WordKind, text: '' };
  const said = draft?.text ? draft.said : other?.about === about ? other.said : about;
  const write = (part: Partial<Draft>) => setDraft({ said, kind, text, ...part });
  const setSaid = (next: string) => (text ? write({ said: next }) : setOther({ about, said: next }));
  const add = () => {
    const target = targetAt(print, said);
    if (!target.ok) return setProblem(problemText(target.problem));
    const value = text.trim() || (kind === 'goal' || kind === 'away' ? KIND_NAMES[kind] : '');
    if (!value) return setProblem('There are no words yet. Write them, then add the note.');
    const before = Object.hasOwn(marking, `${target.value}|${kind}`) ? marking[`${target.value}|${kind}`]!.value : null;
    const joined = before === null ? value : `${before}\n${value}`;
    if (joined.length > LIMITS.note) return setProblem(`The note would have ${joined.length} characters; keep it to ${LIMITS.note}.`);
    change(
      `Note at ${said}`,
      [changeTo(marking, target.value, kind, { value: joined, origin: 'coach' })].filter((each) => each !== null),
    );
    setDraft(null);
    setProblem(null);
    focusScore();
  };
  return (
    <form
      aria-label="New note"
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <div className="flex gap-2">
        <label className="grow">
          <span className="text-[13px] text-soft">About</span>
          <input
            className="field w-full"
            value={said}
            title="As you would say it: 47, 47/3, E+2, upbeat to 31, 5–12"
            onChange={(event) => setSaid(event.target.value)}
          />
        </label>
        <label>
          <span className="text-[13px] text-soft">What it is</span>
          <select className="field w-full" value={kind} onChange={(event) => write({ kind: event.target.value as WordKind })}>
            {WORD_KINDS.map((each) => (
              <option key={each} value={each}>
                {KIND_NAMES[each]}
              </option>
            ))}
          </select>
        </label>
      </div>
      <textarea
        aria-label="Words for the player"
        data-takes-keys
        className="field min-h-16 w-full"
        maxLength={LIMITS.note}
        value={text}
        placeholder="Like a lullaby; the second bow is lighter."
        onChange={(event) => write({ text: event.target.value })}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) add();
        }}
      />
      <LimitHint text={text} limit={LIMITS.note} />
      {problem && (
        <p role="alert" className="text-[13px] text-plum">
          {problem}
        </p>
      )}
      <Button type="submit" className="justify-self-start">
        Add note
      </Button>
    </form>
  );
}

/** A note, changed in its place: what is half changed is there again after going elsewhere, beside what it says by then. */
function NoteCard({ note }: { note: PlayerNote }) {
  const { data, marking, change, go, goToBar } = useDesk();
  const partId = data.part.id;
  const [kept, setKept] = useDraft<{ text: string; of: string }>(`note ${partId} ${note.target} ${note.kind}`);
  const draft = kept?.text ?? null;
  /** The coach wants to write here now. */
  const [asked, setAsked] = useState(false);
  const setDraft = (text: string | null) => setKept(text === null ? null : { text, of: kept?.of ?? note.text });
  const set = (value: string | null) =>
    change(
      value === null ? `Note at ${note.at} taken away` : `Note at ${note.at}`,
      [changeTo(marking, note.target, note.kind, value === null ? null : { value, origin: 'coach' })].filter((each) => each !== null),
    );
  const commit = () => {
    const value = draft?.trim() ?? '';
    if (value && value !== note.text) set(value);
    setDraft(null);
  };
  return (
    <article aria-label={`Note at ${note.at}`} className="rounded-xl border border-line px-3 py-2 text-[13px]">
      <div className="flex items-baseline justify-between gap-2">
        <PlaceButton onClick={() => (note.target.startsWith('n-') ? go(note.target) : goToBar(note.barIndex))}>{note.at}</PlaceButton>
        <span className="text-xs text-soft">{NOTE_LABELS[note.kind]}</span>
      </div>
      {draft === null ? (
        <p className="whitespace-pre-line">{note.text}</p>
      ) : (
        <>
          <textarea
            autoFocus={asked}
            aria-label={`Words at ${note.at}`}
            className="field min-h-16 w-full"
            maxLength={LIMITS.note}
            value={draft}
            onChange={(event) => setDraft(event.target.value)}
            onBlur={commit}
            onKeyDown={(event) => {
              if (event.key === 'Escape') setDraft(null);
              if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) commit();
            }}
          />
          <LimitHint text={draft} limit={LIMITS.note} />
          {kept && kept.of !== note.text && <p className="whitespace-pre-line text-soft">It says now: {note.text}</p>}
        </>
      )}
      <div className="flex gap-3 text-xs">
        <TextButton
          onClick={() => {
            setAsked(true);
            if (draft === null) setDraft(note.text);
            else commit();
          }}
        >
          {draft === null ? 'change' : 'done'}
        </TextButton>
        <TextButton onClick={() => set(null)}>take away</TextButton>
      </div>
    </article>
  );
}

/** The notes as plain text, out and in. */
function AsList({ print, count }: { print: Part; count: number }) {
  const { data, marking, change } = useDesk();
  const partId = data.part.id;
  const [list, setList] = useDraft<{ text: string }>(`list of notes ${partId}`);
  const pasted = list?.text ?? '';
  const setPasted = (text: string) => setList(text ? { text } : null);
  const [problem, setProblem] = useState<string | null>(null);
  const [copied, setCopied] = useState(false);
  return (
    <details className="border-t border-line pt-3 text-[13px]">
      <summary className="cursor-pointer">As a list, out and in</summary>
      <div className="mt-2 grid gap-2">
        <Button
          className="justify-self-start"
          disabled={count === 0}
          onClick={() => {
            void navigator.clipboard.writeText(notesText(print, marking)).then(
              () => setCopied(true),
              () => setPasted(notesText(print, marking)),
            );
          }}
        >
          {copied ? 'Copied' : `Copy ${count === 1 ? 'the note' : `all ${count} notes`}`}
        </Button>
        <label>
          <span className="text-soft">Paste a list, one note a line, such as “47/3 listen: the cellos”</span>
          <textarea className="field min-h-20 w-full" value={pasted} onChange={(event) => setPasted(event.target.value)} />
        </label>
        {problem && (
          <p role="alert" className="text-plum">
            {problem}
          </p>
        )}
        <Button
          className="justify-self-start"
          disabled={!pasted.trim()}
          onClick={() => {
            const changes = notesFromText(print, marking, pasted);
            if (!changes.ok) return setProblem(problemText(changes.problem));
            change('Notes from a list', changes.value);
            setProblem(null);
            setPasted('');
          }}
        >
          Add these notes
        </Button>
      </div>
    </details>
  );
}
