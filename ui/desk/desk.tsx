'use client';

import { LoaderCircle } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import type { NoteChoice } from '@/core/left-hand/choices';
import { fingerName, playerFrom, usualPlayer } from '@/core/instruments/player';
import { changeTo, type Change } from '@/core/marking/change';
import { bowInForce, fingerInForce } from '@/core/marking/mark';
import { noteById } from '@/core/score/find';
import type { Passage } from '@/core/score/passages';
import { printedTempo } from '@/core/score/time';
import { ProblemNote, problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import { barsLabel, pitchLabel, placeLabel } from '@/ui/kit/music';
import type { Conditions } from '@/workers/analyst';
import { GoToDialog, KeysDialog } from './dialogs';
import { Header } from './header';
import { commandFor, type Command } from './keys';
import { cleared, marksInWords, nextString, toggled } from './mark-changes';
import { Panel, shownChoices, type Suggestions } from './panel';
import { addressOf } from './passage-asked';
import { PlanTable } from './plan-table';
import { Rail } from './rail';
import { Systems, type Folded } from './systems';
import type { DeskData } from './types';
import { useAnalyst, useReport } from './use-analyst';
import { useEngraving } from './use-engraving';
import { useMarking } from './use-marking';
import { useSelection } from './use-selection';

const WHAT: Readonly<Record<string, string>> = {
  finger: 'Finger',
  string: 'String',
  bow: 'Bow',
  retake: 'Retake',
  hook: 'Hook',
  slur: 'Slur',
  covered: 'Covered interval',
};

/** The workbench for one part. */
export function Desk({ data }: { data: DeskData }) {
  const { store, state } = useMarking(data.markingId, data.marking, data.history);
  const { analyst, open, failed } = useAnalyst(data.part.id);
  const part = open?.part ?? null;
  const [passages, setPassages] = useState(data.passages);
  const [current, setCurrent] = useState(data.passageIndex);
  const [playerId, setPlayerId] = useState(data.playerId);
  const [tempo, setTempo] = useState(data.tempo);
  const [tab, setTab] = useState('choices');
  const [suggestions, setSuggestions] = useState<Suggestions | null>(null);
  const [noteChoices, setNoteChoices] = useState<{ noteId: string; items: NoteChoice[] } | null>(null);
  const [working, setWorking] = useState(false);
  const [highlighted, setHighlighted] = useState(0);
  const [dialog, setDialog] = useState<'keys' | 'go to' | null>(null);
  const [folded, setFolded] = useState<Folded>({ hand: false, bow: false, risk: false });
  const [asTable, setAsTable] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [undoPassages, setUndoPassages] = useState<{ what: string; before: Passage[] } | null>(null);
  const score = useRef<HTMLDivElement>(null);
  /** Suggestions asked for another passage or other marks are out of date when they come. */
  const latestAsked = useRef(0);
  const widthPx = useWidth(score, data.widthPx);

  const passage = useMemo<Passage>(
    () => passages[current] ?? { name: 'the part', fromBar: 0, toBar: Math.max(0, (part?.bars.length ?? 1) - 1) },
    [passages, current, part],
  );
  const player = data.players.find((each) => each.id === playerId) ?? null;
  const conditions = useMemo<Conditions>(() => ({ marking: state.marking, player, tempo }), [state.marking, player, tempo]);
  const { report, failed: checkFailed } = useReport(analyst, conditions, passages);
  const engraved = useEngraving(data.part.id, passage, widthPx, state.marking, { engraving: data.engraving, widthPx: data.widthPx }, passages[current + 1]);
  const { selection, chosen, order, pick, away, clear } = useSelection(part, data.noteId);
  const focus = selection.focus && part ? noteById(part, selection.focus) : undefined;
  const chosenIds = useMemo(() => new Set(chosen.map((note) => note.id)), [chosen]);

  const instrument = useMemo(() => {
    const made = player ? playerFrom(player) : null;
    return made?.ok ? made.value.instrument : data.part.instrument ? usualPlayer(data.part.instrument).instrument : usualPlayer('violin').instrument;
  }, [player, data.part.instrument]);

  // Choices for a selected note follow the selection and every change of the marking.
  useEffect(() => {
    if (!analyst || !selection.focus || suggestions) return;
    let gone = false;
    const noteId = selection.focus;
    const timer = setTimeout(() => {
      void analyst.choices(conditions, noteId).then((items) => {
        if (gone) return;
        setNoteChoices({ noteId, items });
        setHighlighted(0);
      });
    }, 60);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [analyst, selection.focus, conditions, suggestions]);

  // The address says which passage and note are shown.
  useEffect(() => {
    if (!part) return;
    const query = new URLSearchParams({
      bars: addressOf(
        part.bars.map((bar) => bar.label),
        passage,
      ),
    });
    if (selection.focus) query.set('note', selection.focus);
    window.history.replaceState(null, '', `/desk/${data.part.id}?${query}`);
  }, [part, data.part.id, passage, selection.focus]);

  const change = useCallback(
    (reason: string, changes: readonly Change[]) => {
      setSuggestions(null);
      store.apply(reason, changes);
    },
    [store],
  );

  const openPassage = useCallback(
    (index: number) => {
      if (index < 0 || index >= passages.length) return;
      setCurrent(index);
      latestAsked.current++;
      setWorking(false);
      setSuggestions(null);
      clear();
      setNoteChoices(null);
      score.current?.focus({ preventScroll: true });
      score.current?.scrollTo({ top: 0 });
    },
    [passages.length, clear],
  );

  const go = useCallback(
    (noteId: string, extend = false) => {
      const note = part && noteById(part, noteId);
      if (!note) return;
      const inCurrent = note.barIndex >= passage.fromBar && note.barIndex <= passage.toBar;
      if (!inCurrent) {
        const found = passages.findIndex((each) => note.barIndex >= each.fromBar && note.barIndex <= each.toBar);
        if (found >= 0) setCurrent(found);
        setSuggestions(null);
      }
      setNoteChoices(null);
      pick(noteId, extend);
      score.current?.focus({ preventScroll: true });
    },
    [part, passages, passage.fromBar, passage.toBar, pick],
  );

  async function suggest(kind: 'fingering' | 'bowing') {
    if (!analyst) return;
    setTab('choices');
    setWorking(true);
    const asked = ++latestAsked.current;
    try {
      const range = { fromBar: passage.fromBar, toBar: passage.toBar };
      const made: Suggestions =
        kind === 'fingering'
          ? { kind, items: await analyst.suggestFingering(conditions, range) }
          : { kind, items: await analyst.suggestBowing(conditions, range) };
      if (asked !== latestAsked.current) return;
      setSuggestions(made);
      setHighlighted(0);
    } catch {
      setProblem({ place: null, what: 'The suggestion could not be made.', remedy: 'Nothing was changed; try again, or reload the page.' });
    }
    setWorking(false);
  }

  function take(index: number) {
    if (suggestions) {
      const changes = suggestions.items[index]?.changes ?? [];
      change(`Suggested ${suggestions.kind}, bars ${barsLabel(part, passage.fromBar, passage.toBar)}`, changes);
    } else if (noteChoices && focus) {
      const choice = shownChoices(noteChoices.items)[index];
      if (!choice) return;
      const { place } = choice;
      change(
        `${placeLabel(part!, focus, open!.ticksPerQuarter)}: ${fingerName(place.finger)} on string ${place.string}`,
        [
          changeTo(state.marking, focus.id, 'finger', { value: fingerName(place.finger), origin: 'coach' }),
          changeTo(state.marking, focus.id, 'string', { value: String(place.string), origin: 'coach' }),
        ].filter((each) => each !== null),
      );
    }
    score.current?.focus({ preventScroll: true });
  }

  async function changePassages(next: Passage[], what: string) {
    const before = passages;
    const sorted = [...next].sort((a, b) => a.fromBar - b.fromBar || a.toBar - b.toBar);
    const shown = passages[current];
    setPassages(sorted);
    const kept = shown ? sorted.findIndex((each) => each.fromBar === shown.fromBar && each.toBar === shown.toBar) : -1;
    setCurrent(kept >= 0 ? kept : Math.max(0, Math.min(current, sorted.length - 1)));
    setUndoPassages({ what, before });
    const response = await sendJson('PUT', `/api/parts/${data.part.id}/passages`, sorted);
    if (!response?.ok) {
      setPassages(before);
      setUndoPassages(null);
      setProblem(await problemOf(response));
    }
  }

  const selectionBars = chosen.length ? { fromBar: chosen[0]!.barIndex, toBar: chosen.at(-1)!.barIndex } : null;

  function newPassage() {
    if (!selectionBars) return;
    const same = passages.findIndex((each) => each.fromBar === selectionBars.fromBar && each.toBar === selectionBars.toBar);
    if (same >= 0) return openPassage(same);
    void changePassages(
      [...passages, { name: `Bars ${barsLabel(part, selectionBars.fromBar, selectionBars.toBar)}`, ...selectionBars }],
      `New passage ${barsLabel(part, selectionBars.fromBar, selectionBars.toBar)}`,
    );
  }

  async function setSetting(setting: { playerId: string | null } | { tempo: number | null }) {
    if ('playerId' in setting) setPlayerId(setting.playerId);
    else setTempo(setting.tempo);
    setSuggestions(null);
    const response = await sendJson('PUT', `/api/parts/${data.part.id}/settings`, setting);
    if (!response?.ok) setProblem(await problemOf(response));
  }

  const listLength = suggestions ? suggestions.items.length : noteChoices ? shownChoices(noteChoices.items).length : 0;

  function obey(command: Command) {
    switch (command.do) {
      case 'mark':
        return (
          chosen.length &&
          change(`${WHAT[command.kind]} ${command.value === 'yes' ? '' : command.value}`.trim(), toggled(state.marking, chosen, command.kind, command.value))
        );
      case 'cycle string':
        return focus && change('String', nextString(focus, state.marking, instrument.strings.length));
      case 'clear':
        return chosen.length && change('Marks taken away', cleared(state.marking, chosen));
      case 'step': {
        const first = order.find((note) => note.barIndex >= passage.fromBar);
        const next = selection.focus ? away(command.by) : (first ?? null);
        return next && go(next.id, command.extend);
      }
      case 'row':
        return setHighlighted((at) => Math.max(0, Math.min(listLength - 1, at + command.by)));
      case 'passage':
        return openPassage(current + command.by);
      case 'new passage':
        return newPassage();
      case 'take':
        return take(highlighted);
      case 'undo':
        setSuggestions(null);
        return store.undo();
      case 'redo':
        setSuggestions(null);
        return store.redo();
      case 'go to':
        return setDialog('go to');
      case 'help':
        return setDialog('keys');
      case 'suggest fingering':
        return void suggest('fingering');
      case 'suggest bowing':
        return void suggest('bowing');
      case 'leave':
        return setSuggestions(null);
    }
  }

  const onKeyDown = (event: KeyboardEvent) => {
    const command = commandFor(event.nativeEvent);
    if (!command) return;
    event.preventDefault();
    obey(command);
  };

  // Undo, redo and going to a bar work from anywhere on the page but a text field.
  const obeyRef = useRef(obey);
  useEffect(() => {
    obeyRef.current = obey;
  });
  useEffect(() => {
    const listen = (event: globalThis.KeyboardEvent) => {
      if (event.defaultPrevented || (event.target as Element).closest('input, textarea, [role=dialog]')) return;
      const command = commandFor(event);
      if (command && ['undo', 'redo', 'go to', 'help'].includes(command.do)) {
        event.preventDefault();
        obeyRef.current(command);
      }
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);

  // What the tracks show: the plan, or the highlighted choice in its place.
  const planned = report?.fingering?.notes ?? NO_NOTES;
  const strokes = report?.bowing?.strokes ?? NO_STROKES;
  const previewed = useMemo(() => {
    const way =
      suggestions?.kind === 'fingering'
        ? suggestions.items[highlighted]?.way.notes
        : !suggestions && highlighted > 0 && noteChoices && noteChoices.noteId === selection.focus
          ? shownChoices(noteChoices.items)[highlighted]?.notes
          : undefined;
    if (!way) return planned;
    const changed = new Map(way.map((note) => [note.id, note]));
    return planned.map((note) => changed.get(note.id) ?? note);
  }, [suggestions, noteChoices, highlighted, planned, selection.focus]);
  const previewedStrokes = useMemo(() => {
    const plan = suggestions?.kind === 'bowing' ? suggestions.items[highlighted]?.plan.strokes : undefined;
    if (!plan || !part) return strokes;
    const from = part.bars[passage.fromBar]!.onset;
    const last = part.bars[passage.toBar]!;
    return [...strokes.filter((stroke) => stroke.onset < from), ...plan, ...strokes.filter((stroke) => stroke.onset >= last.onset + last.ticks)];
  }, [suggestions, highlighted, strokes, part, passage.fromBar, passage.toBar]);

  const findings = useMemo(
    () => report?.findings.filter((finding) => finding.barIndex >= passage.fromBar && finding.barIndex <= passage.toBar) ?? [],
    [report, passage.fromBar, passage.toBar],
  );
  const fingersMarked = useMemo(
    () => new Set(part?.notes.filter((note) => fingerInForce(note, state.marking) !== null).map((note) => note.id)),
    [part, state.marking],
  );
  const bowsMarked = useMemo(
    () => new Set(part?.notes.filter((note) => bowInForce(note, state.marking) !== null).map((note) => note.id)),
    [part, state.marking],
  );
  const plannedFocus = focus ? previewed.find((note) => note.id === focus.id) : undefined;
  const status =
    focus && part && open
      ? `${chosen.length > 1 ? `${chosen.length} notes, bars ${barsLabel(part, chosen[0]!.barIndex, chosen.at(-1)!.barIndex)} · ` : ''}${placeLabel(part, focus, open.ticksPerQuarter)} · ${pitchLabel(focus.pitch)} · ${marksInWords(focus, state.marking)}${plannedFocus && !fingersMarked.has(focus.id) ? ` · planned: ${fingerName(plannedFocus.place.finger)} on string ${plannedFocus.place.string}${plannedFocus.place.position ? `, ${plannedFocus.place.position} position` : ''}` : ''}`
      : 'Click a note, or press → to begin.';
  const others = data.players.filter((each) => data.part.instrument === null || each.instrument === data.part.instrument);

  return (
    <div className="flex h-screen flex-col max-lg:h-auto max-lg:min-h-screen">
      <Header
        data={data}
        players={others}
        player={player}
        save={state.save}
        tempo={{ wanted: tempo, printed: part ? printedTempo(part) : null }}
        canUndo={state.stacks.undo.at(-1)?.reason ?? null}
        canRedo={state.stacks.redo.at(-1)?.reason.replace(/^Undo: /, '') ?? null}
        onPlayer={(id) => void setSetting({ playerId: id })}
        onTempo={(value) => void setSetting({ tempo: value })}
        onDownload={(event) => {
          if (state.save === 'saved') return;
          event.preventDefault();
          setProblem({
            place: null,
            what: 'Your last marks are not saved yet, and would be missing in the file.',
            remedy: 'Wait until it says “saved”, then take the file.',
          });
        }}
        onUndo={() => obey({ do: 'undo' })}
        onRedo={() => obey({ do: 'redo' })}
      />
      <div className="flex min-h-0 grow max-lg:flex-col">
        <Rail
          passages={passages}
          current={current}
          report={report}
          part={part}
          selectionBars={chosen.length > 1 ? selectionBars : null}
          onOpen={openPassage}
          onChange={(next, what) => void changePassages(next, what)}
          onNew={newPassage}
        />
        <main className="flex min-w-0 grow flex-col">
          <div className="grid gap-2 px-3 pt-2 empty:hidden">
            {failed && <ProblemNote problem={{ place: null, what: failed, remedy: '' }} />}
            {checkFailed && (
              <ProblemNote
                problem={{
                  place: null,
                  what: 'The check could not be made with these marks.',
                  remedy: 'The marks are saved; what is shown is the last check. Undo the last mark or reload.',
                }}
              />
            )}
            {data.part.instrument === null && !player && (
              <p className="rounded-lg border border-line bg-sheet px-3 py-2">
                The name of this part says no bowed instrument that is known here; it is checked as for a violin. Choose a player above to say otherwise.
              </p>
            )}
            {problem && <ProblemNote problem={problem} onClose={() => setProblem(null)} />}
            {engraved.problem && <ProblemNote problem={engraved.problem} />}
            {state.conflict && (
              <div role="alert" className="flex flex-wrap items-center gap-2 rounded-lg border border-plum bg-plum-pale px-3 py-2">
                <p className="grow">
                  {state.conflict.conflicts.length} {state.conflict.conflicts.length === 1 ? 'mark was' : 'marks were'} changed elsewhere meanwhile. Your last
                  changes are kept here and not saved yet.
                </p>
                <button type="button" className="button" onClick={() => store.settle(true)}>
                  Keep mine
                </button>
                <button type="button" className="button" onClick={() => store.settle(false)}>
                  Take theirs
                </button>
              </div>
            )}
            {undoPassages && (
              <p role="status" className="flex items-center gap-3 rounded-lg border border-line bg-sheet px-3 py-1">
                <span className="grow">{undoPassages.what}.</span>
                <button
                  type="button"
                  className="button min-h-7"
                  onClick={() => void changePassages(undoPassages.before, 'Passages are as before').then(() => setUndoPassages(null))}
                >
                  Undo
                </button>
                <button type="button" className="button min-h-7" onClick={() => setUndoPassages(null)}>
                  Fine
                </button>
              </p>
            )}
          </div>
          <div
            ref={score}
            tabIndex={0}
            role="group"
            aria-label={`Score: ${passage.name}. Arrow keys walk the notes, question mark lists the keys.`}
            aria-describedby="status"
            data-engraved={engraved.current}
            data-report={report !== null}
            className="grid grow content-start gap-2 overflow-y-auto px-3 py-2 focus-visible:-outline-offset-2"
            onKeyDown={onKeyDown}
          >
            {engraved.engraving ? (
              <Systems
                engraving={engraved.engraving}
                fromBar={passage.fromBar}
                part={part}
                instrument={instrument}
                notes={previewed}
                strokes={previewedStrokes}
                risks={report?.risks ?? NO_RISKS}
                findings={findings}
                fingersMarked={fingersMarked}
                bowsMarked={bowsMarked}
                selected={chosenIds}
                focus={selection.focus}
                preview={previewed !== planned}
                folded={folded}
                onPick={go}
              />
            ) : (
              <p className="flex items-center gap-2 p-6 text-soft" role="status">
                <LoaderCircle size={16} className="animate-spin" aria-hidden /> Engraving {passage.name} …
              </p>
            )}
            {asTable && part && open && (
              <PlanTable
                part={part}
                ticksPerQuarter={open.ticksPerQuarter}
                instrument={instrument}
                strokes={previewedStrokes}
                risks={report?.risks ?? NO_RISKS}
                marked={fingersMarked}
                notes={previewed.filter((note) => {
                  const bar = noteById(part, note.id)?.barIndex ?? -1;
                  return bar >= passage.fromBar && bar <= passage.toBar;
                })}
              />
            )}
          </div>
          <p id="status" role="status" className="truncate border-t border-line bg-sheet px-3 py-1 text-[13px]">
            {status}
          </p>
        </main>
        <Panel
          tab={tab}
          onTab={setTab}
          ready={report !== null}
          working={working}
          passageName={passage.name}
          part={part}
          ticksPerQuarter={open?.ticksPerQuarter ?? 1}
          instrument={instrument}
          suggestions={suggestions}
          highlighted={highlighted}
          noteChoices={
            noteChoices && focus && noteChoices.noteId === focus.id && part && open
              ? { ...noteChoices, label: `${placeLabel(part, focus, open.ticksPerQuarter)} · ${pitchLabel(focus.pitch)}` }
              : null
          }
          findings={findings}
          elsewhere={(report?.findings.length ?? 0) - findings.length}
          onSuggest={(kind) => void suggest(kind)}
          onHighlight={setHighlighted}
          onTake={take}
          onClose={() => setSuggestions(null)}
          onGo={(id) => go(id)}
        />
      </div>
      <footer className="flex min-h-8 flex-wrap items-center gap-x-4 gap-y-1 border-t border-line px-4 py-1 text-xs text-soft">
        <span>
          <kbd className="key">0</kbd>–<kbd className="key">4</kbd> finger
        </span>
        <span>
          <kbd className="key">Shift</kbd> <kbd className="key">1</kbd>–<kbd className="key">4</kbd> string
        </span>
        <span>
          <kbd className="key">d</kbd> <kbd className="key">u</kbd> bow
        </span>
        <span>
          <kbd className="key">x</kbd> <kbd className="key">j</kbd> slur
        </span>
        <span>
          <kbd className="key">n</kbd> passage
        </span>
        <span>
          <kbd className="key">Ctrl K</kbd> go to bar
        </span>
        <button type="button" className="min-h-6 cursor-pointer" onClick={() => setDialog('keys')}>
          <kbd className="key">?</kbd> all keys
        </button>
        <span className="grow" />
        <span role="group" aria-label="Tracks" className="flex gap-1">
          {(['hand', 'bow', 'risk'] as const).map((track) => (
            <button
              key={track}
              type="button"
              aria-pressed={!folded[track]}
              className={`min-h-6 cursor-pointer rounded px-2 ${folded[track] ? 'text-soft line-through' : 'font-semibold text-ink'}`}
              onClick={() => setFolded({ ...folded, [track]: !folded[track] })}
            >
              {track === 'hand' ? 'Left hand' : track === 'bow' ? 'Bow' : 'Risk'}
            </button>
          ))}
          <button
            type="button"
            aria-pressed={asTable}
            className={`min-h-6 cursor-pointer rounded px-2 ${asTable ? 'font-semibold text-ink' : 'text-soft'}`}
            onClick={() => setAsTable(!asTable)}
          >
            As a table
          </button>
        </span>
      </footer>
      <KeysDialog open={dialog === 'keys'} onOpen={(isOpen) => setDialog(isOpen ? 'keys' : null)} />
      <GoToDialog
        open={dialog === 'go to'}
        part={part}
        onOpen={(isOpen) => setDialog(isOpen ? 'go to' : null)}
        onGo={(barIndex) => {
          setDialog(null);
          const note = order.find((each) => each.barIndex >= barIndex);
          const found = passages.findIndex((each) => barIndex >= each.fromBar && barIndex <= each.toBar);
          if (note && note.barIndex === barIndex) setTimeout(() => go(note.id), 0);
          else openPassage(found);
        }}
      />
    </div>
  );
}

const NO_NOTES: never[] = [];
const NO_STROKES: never[] = [];
const NO_RISKS: never[] = [];

/** Room for the engraving in px; remembered in a cookie, so that the server's first picture fits. */
function useWidth(element: React.RefObject<HTMLDivElement | null>, first: number): number {
  const [width, setWidth] = useState(first);
  useEffect(() => {
    const node = element.current;
    if (!node) return;
    const observer = new ResizeObserver(() => {
      const room = Math.max(240, Math.floor((node.clientWidth - 42) / 8) * 8);
      setWidth((before) => {
        if (Math.abs(before - room) < 8) return before;
        document.cookie = `score-width=${room}; path=/; max-age=31536000; samesite=lax`;
        return room;
      });
    });
    observer.observe(node);
    return () => observer.disconnect();
  }, [element]);
  return width;
}
