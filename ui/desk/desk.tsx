'use client';

import { LoaderCircle } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Finding } from '@/core/checks/finding';
import type { Change } from '@/core/marking/change';
import type { Place } from '@/core/score/address';
import { noteById } from '@/core/score/find';
import type { Passage } from '@/core/score/passages';
import type { Part } from '@/core/score/score';
import { printedTempo } from '@/core/score/time';
import { NO_ANSWER, type Problem } from '@/ui/kit/problem';
import { barsLabel, pitchLabel, placeLabel } from '@/ui/kit/music';
import { useUnsent } from '@/ui/unsent/browser';
import { UnsentNotices } from '@/ui/unsent/notices';
import { saveState, whyNot } from '@/ui/unsent/state';
import type { Conditions } from '@/workers/analyst';
import { DeskDialogs, type DeskDialog } from './desk-dialogs';
import { ClashNotice, PassagesClash } from '@/ui/part/clash-notice';
import { Footer } from './footer';
import { Header } from './header';
import type { Command } from './keys';
import { markInWords } from '@/core/marking/in-words';
import { cleared, nextString, toggled } from '@/ui/part/mark-changes';
import { MoreBars } from '@/ui/score/more-bars';
import { Notices } from './notices';
import { Panel } from './panel';
import { addressQuery, arrivalAt } from './passage-asked';
import { PlanTable } from './plan-table';
import { PlayedOn } from './setting/played-on';
import { Rail } from './rail';
import { statusText } from './status';
import { Systems, type Folded } from '@/ui/score/systems';
import { takenChoice } from './choices/taken';
import type { DeskData } from '@/ui/desk/desk-data';
import { useBowPanel } from './choices/use-bow-panel';
import { useAnalyst, useOthers, useReading, useReport } from '@/ui/part/use-analyst';
import { useChoices } from './choices/use-choices';
import { useCommands } from './use-commands';
import { useDraggedBow } from './choices/use-dragged-bow';
import { useDrawn } from './use-drawn';
import { useEngraving } from '@/ui/score/use-engraving';
import { useFindings } from './findings/use-findings';
import { useHandPanel } from './choices/use-hand-panel';
import { useMarking, useShownMarking } from '@/ui/part/use-marking';
import { usePartSettings, type SettingsChange } from '@/ui/part/use-part-settings';
import { usePassages } from '@/ui/part/use-passages';
import { useGoing } from './use-going';
import { usePlay } from '@/ui/playing/use-play';
import { usePlayers } from '@/ui/part/use-players';
import { useSelection } from './use-selection';
import { useShownPart } from '@/ui/part/use-shown-part';
import { nextStep } from '@/ui/part/undo-chain';
import { useElsewhere } from '@/ui/part/use-elsewhere';
import { usePlayersMarking } from '@/ui/part/use-variant';
import { useWidth } from '@/ui/score/use-width';

const NOT_CHECKED: Problem = {
  place: null,
  what: 'The check could not be made with these marks.',
  remedy: 'The marks are saved; what is shown is the last check. Undo the last mark or reload.',
};
const NOT_SAVED: Problem = {
  place: null,
  what: 'Your last marks are not saved yet, and would be missing in the file.',
  remedy: 'Wait until it says “saved”, then take the file.',
};

const NOT_HERE: Problem = {
  place: null,
  what: 'This part is shown at another pitch than its file has, so that a wrong pitch cannot be corrected here.',
  remedy: 'Correct it in the file and bring that in as another edition; everything else can be marked.',
};

const NOTHING_PLANNED: never[] = [];

/** The workbench for one part. */
export function Desk({ data }: { data: DeskData }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [named] = useState({ id: data.part.id, name: `${data.part.name}, ${data.title}` });
  const { store, state } = useMarking(named, data.markingId, data.marking, data.history);
  const { analyst, open: opened, failed } = useAnalyst(data.part.id, data.musicVersion, arrive);
  const { passages, current, setCurrent, ...passageList } = usePassages(named, data.passages, data.passageIndex, data.deeds.passages);
  const {
    playerId,
    tempo,
    told,
    line,
    preferences,
    density,
    intonation,
    accepted,
    set: setSettings,
    undoLane,
  } = usePartSettings(named, data.settings, data.deeds.settings);
  const { players, changeHand } = usePlayers(data.players);
  const [tab, setTab] = useState(data.tab);
  const unsentNow = useUnsent();
  const [showPrint, setShowPrint] = useState(false);
  const [dialog, setDialog] = useState<DeskDialog | null>(null);
  const [folded, setFolded] = useState<Folded>({ hand: false, bow: false, risk: false });
  const [asTable, setAsTable] = useState(false);
  const score = useRef<HTMLDivElement>(null);
  const widthPx = useWidth(score, data.widthPx);

  const player = players.find((each) => each.id === playerId) ?? null;
  const own = usePlayersMarking({ part: named, everybody: store, base: state, player, first: data.variant, onProblem: setProblem });
  const { marking } = own;
  const shown = useShownMarking(marking, showPrint);
  const view = useShownPart({ opened, told, shown, marking, player, named: data.part.instrument });
  const { print, part, open, kind, person, instrument } = view;
  const passage = useMemo<Passage>(
    () => passages[current] ?? { name: 'the part', fromBar: 0, toBar: Math.max(0, (part?.bars.length ?? 1) - 1) },
    [passages, current, part],
  );
  const conditions = useMemo<Conditions>(
    () => ({ marking: shown, player, tempo, told, preferences, density, intonation, line }),
    [shown, player, tempo, told, preferences, density, intonation, line],
  );
  const [wasChecked, setWasChecked] = useState(false);
  const others = useOthers(analyst, data.part.id, wasChecked && data.siblings.length > 1);
  const isOpen = (markingId: string) => markingId === data.markingId || own.isOpen(markingId);
  const elsewhere = useElsewhere(named, data.elsewhere, isOpen, (set, partId) => void analyst?.joined(partId, set.changes).then(others.note));
  const ownLanes = [...own.undoLanes, passageList.undoLane, undoLane];
  const lanes = [...ownLanes, ...elsewhere.lanes(ownLanes)];
  const [undoNext, redoNext] = [nextStep(lanes, 'undo'), nextStep(lanes, 'redo')];
  const { report: checked, failed: checkFailed } = useReport(analyst, conditions, passages, others.known);
  if (checked && !wasChecked) setWasChecked(true);
  const { selection, chosen, order, pick, away, clear } = useSelection(part, data.noteId);
  const focus = selection.focus && part ? noteById(part, selection.focus) : undefined;
  const engraved = useEngraving(
    data.part.id,
    passage,
    widthPx,
    view.moved,
    shown,
    { engraving: data.engraving, widthPx: data.widthPx },
    passages[current + 1],
    focus?.barIndex ?? null,
  );
  const chosenIds = useMemo(() => new Set(chosen.map((note) => note.id)), [chosen]);
  const selectionBars = chosen.length ? { fromBar: chosen[0]!.barIndex, toBar: chosen.at(-1)!.barIndex } : null;
  const choices = useChoices(analyst, conditions, selection.focus, passage, setProblem);
  const closeChoices = choices.close;
  const play = usePlay({ open, instrument, tempo, line, passage, focus, onProblem: setProblem });
  const { playing, secondsAt } = play;
  const aids = useReading(analyst, conditions, tab === 'reading');

  // The address says which passage, note and tab are shown, in the words that people use.
  useEffect(() => {
    if (print) window.history.replaceState(null, '', `/desk/${data.part.id}?${addressQuery(print, passage, selection.focus, tab)}`);
  }, [print, data.part.id, passage, selection.focus, tab]);

  /** Goes where the address says, in words that only the part can resolve: letters, notes, "upbeat to 31". */
  function arrive(read: Part) {
    const arrival = arrivalAt(read, passages, data);
    if (arrival.passage !== null) setCurrent(arrival.passage);
    if (arrival.noteId !== null) pick(arrival.noteId, false);
    if (arrival.problem) setProblem(arrival.problem);
  }

  const { focusScore, openPassage, go, goToBar } = useGoing({ part, passages, passage, order, score, setCurrent, pick, clear, closeChoices });

  const put = own.change;
  const isMoved = view.moved.concert || view.moved.octaves !== 0;
  const change = useCallback(
    (reason: string, changes: readonly Change[]) => {
      closeChoices();
      // A pitch would be written into the file as it is shown here, and not as the file has it.
      if (isMoved && changes.some(({ kind: of }) => of === 'pitch')) return setProblem(NOT_HERE);
      put(reason, changes);
    },
    [closeChoices, put, isMoved],
  );

  const spots = useFindings({
    analyst,
    conditions,
    report: checked,
    accepted,
    wanted: tab === 'findings',
    onAccept: (finding) => setSetting({ accept: [finding] }),
    onRelease: (id) => setSetting({ release: [id] }),
    onChange: change,
    onTempo: (next) => setSetting({ tempo: next }),
    onElsewhere: elsewhere.make,
    onProblem: setProblem,
  });
  const report = spots.told;
  const dragged = useDraggedBow(analyst, conditions, passage, report, change);
  const { notes, strokes, findings, fingersMarked, bowsMarked, risks } = useDrawn(report, choices, part, passage, marking, dragged.strokes, spots.tried);

  function suggest(kind: 'fingering' | 'bowing') {
    setTab('choices');
    void choices.suggest(kind);
  }

  function take(index: number, compared = false) {
    const where = part && { part, bars: barsLabel(part, passage.fromBar, passage.toBar), focus, marking };
    const taken = where && takenChoice(choices, index, where, compared);
    if (taken) change(taken.reason, taken.changes);
    focusScore();
  }

  function playOrStop() {
    if (playing.snapshot().seconds !== null) play.stop();
    else void play.start({ notes, strokes }, true);
  }

  function lookAt(finding: Finding) {
    setTab('findings');
    spots.choose(finding.id);
    go(finding.noteIds[0]!);
  }

  function newPassage() {
    if (!selectionBars) return;
    const same = passages.findIndex((each) => each.fromBar === selectionBars.fromBar && each.toBar === selectionBars.toBar);
    if (same >= 0) return openPassage(same);
    const label = barsLabel(part, selectionBars.fromBar, selectionBars.toBar);
    passageList.change(
      [...passages, { name: `${selectionBars.fromBar === selectionBars.toBar ? 'Bar' : 'Bars'} ${label}`, ...selectionBars }],
      `New passage ${label}`,
    );
  }

  function setSetting(change: SettingsChange) {
    closeChoices();
    setSettings(change);
  }

  function goTo({ barIndex, noteId }: Pick<Place, 'barIndex' | 'noteId'>) {
    setDialog(null);
    if (noteId) go(noteId);
    else goToBar(barIndex);
  }

  function obey(command: Command): void {
    switch (command.do) {
      case 'mark': {
        if (chosen.length) change(markInWords(command.kind, command.value), toggled(marking, chosen, command.kind, command.value));
        if (command.kind === 'finger' || command.kind === 'string') choices.setHand('left');
        else if (command.kind !== 'covered') choices.setHand('bow');
        return;
      }
      case 'cycle string':
        if (focus) change('String', nextString(focus, marking, instrument.strings.length));
        return;
      case 'clear':
        if (chosen.length) change('Marks taken away', cleared(marking, chosen));
        return;
      case 'step': {
        const next = selection.focus ? away(command.by) : order.find((note) => note.barIndex >= passage.fromBar);
        if (next) go(next.id, command.extend);
        return;
      }
      case 'row':
        return tab === 'findings' ? spots.stepRemedy(command.by) : choices.step(command.by);
      case 'passage':
        return openPassage(current + command.by);
      case 'new passage':
        return newPassage();
      case 'take':
        return tab === 'findings' ? spots.takePointed() : take(choices.highlighted);
      case 'undo':
        closeChoices();
        return undoNext?.act();
      case 'redo':
        closeChoices();
        return redoNext?.act();
      case 'go to':
        return setDialog('go to');
      case 'help':
        return setDialog('keys');
      case 'finding': {
        const next = spots.next(command.by);
        if (next) lookAt(next);
        return;
      }
      case 'play':
        return playOrStop();
      case 'suggest fingering':
        return suggest('fingering');
      case 'suggest bowing':
        return suggest('bowing');
      case 'tab':
        return setTab(command.tab);
      case 'leave':
        return closeChoices();
    }
  }
  const playedOn = view.playedOn && (
    <PlayedOn
      {...view.playedOn}
      onPlayOn={({ kind: on, octaves }) => setSetting({ instrument: on, octaves, playerId: null })}
      onStaff={(staff) => setSetting({ staff })}
    />
  );
  const onKeyDown = useCommands(obey);

  const handPanel = useHandPanel({
    analyst,
    conditions,
    marking,
    planned: report?.fingering?.notes ?? NOTHING_PLANNED,
    notes,
    person,
    passage,
    focus: selection.focus,
    wanted: tab === 'choices' && choices.hand === 'left' && !choices.suggestions,
    onChange: change,
    onSettings: () => setDialog('hand'),
  });
  const bowPanel = useBowPanel({
    analyst,
    conditions,
    part,
    marking,
    report,
    strokes,
    passage,
    focus,
    chosen,
    wanted: tab === 'choices' && choices.hand === 'bow',
    onChange: change,
  });

  return (
    <div className="flex h-screen flex-col max-lg:h-auto max-lg:min-h-screen">
      <Header
        data={data}
        players={players.filter((each) => kind === null || each.instrument === kind)}
        player={player}
        tempo={{ wanted: tempo, printed: part ? printedTempo(part) : null }}
        own={own}
        canUndo={undoNext?.what ?? null}
        canRedo={redoNext?.what ?? null}
        onPlayer={(id) => setSetting({ playerId: id })}
        onTempo={(value) => setSetting({ tempo: value })}
        mayTake={() => {
          const isSaved = saveState(unsentNow) === 'saved';
          if (!isSaved) setProblem(NOT_SAVED);
          return isSaved;
        }}
        lines={{ count: view.lines, shown: Math.min(line, view.lines - 1) }}
        onLine={(next) => setSetting({ line: next })}
        onAbout={() => setDialog('part')}
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
          onChange={passageList.change}
          onNew={newPassage}
        />
        <main className="flex min-w-0 grow flex-col">
          <Notices
            problems={[
              failed === null ? null : { place: null, what: failed, remedy: '' },
              checkFailed ? NOT_CHECKED : null,
              // That nobody answers is said once.
              engraved.problem === NO_ANSWER && whyNot(unsentNow.way) ? null : engraved.problem,
            ]}
            own={problem}
            onCloseOwn={() => setProblem(null)}
            playedOn={view.playedOn && !view.playedOn.told && playedOn}
            ask={view.askSounds ? (sounds) => setSetting({ sounds }) : null}
            clash={
              <>
                {own.clash && <ClashNotice key={own.clash.map(({ key }) => key).join()} marks={own.clash} part={part} onSettle={own.settle} />}
                {passageList.clash && <PassagesClash theirs={passageList.clash} onSettle={passageList.settle} />}
                <UnsentNotices partId={data.part.id} />
              </>
            }
            passagesChanged={undoNext?.what === passageList.changed ? passageList.changed : null}
            onUndoPassages={() => {
              undoNext?.act();
              passageList.dismiss();
            }}
            onDismissPassages={passageList.dismiss}
          />
          <div
            ref={score}
            tabIndex={0}
            role="group"
            aria-label={`Score: ${passage.name}. Arrow keys walk the notes, question mark lists the keys.`}
            aria-describedby="status"
            data-engraved={engraved.current}
            data-report={report !== null}
            className="grid min-h-0 grow auto-rows-max content-start gap-2 overflow-y-auto px-3 py-2 focus-visible:-outline-offset-2"
            onKeyDown={onKeyDown}
          >
            {engraved.engraving ? (
              <Systems
                engraving={engraved.engraving}
                fromBar={passage.fromBar}
                part={part}
                instrument={instrument}
                notes={notes}
                strokes={strokes}
                risks={risks}
                findings={findings}
                fingersMarked={fingersMarked}
                bowsMarked={bowsMarked}
                selected={chosenIds}
                focus={selection.focus}
                folded={folded}
                playerNotes={view.notes}
                changed={view.changed}
                playing={playing}
                secondsAt={secondsAt}
                onPick={go}
                onDragBow={dragged.drag}
                onDropBow={dragged.drop}
                onOpenNote={(note) => {
                  setTab('notes');
                  goTo({ barIndex: note.barIndex, noteId: note.target.startsWith('n-') ? note.target : null });
                }}
              />
            ) : engraved.problem ? null : (
              <p className="flex items-center gap-2 p-6 text-soft" role="status">
                <LoaderCircle size={16} className="animate-spin" aria-hidden /> Engraving {passage.name} …
              </p>
            )}
            {engraved.engraving && engraved.toCome && <MoreBars onMore={engraved.more} />}
            {asTable && open && (
              <PlanTable open={open} range={passage} instrument={instrument} notes={notes} strokes={strokes} risks={risks} marked={fingersMarked} />
            )}
          </div>
          <p id="status" role="status" className="shrink-0 truncate border-t border-line bg-sheet px-3 py-1 text-[13px]">
            {statusText(open, focus, chosen, marking, focus && notes.find((note) => note.id === focus.id))}
          </p>
        </main>
        <Panel
          partId={data.part.id}
          tab={tab}
          onTab={setTab}
          ready={report !== null}
          passageName={passage.name}
          open={open}
          instrument={instrument}
          choices={choices}
          noteLabel={focus && open ? `${placeLabel(open.part, focus)} · ${pitchLabel(focus.pitch)}` : ''}
          findings={findings}
          spots={spots}
          inTune={{ intonation, level: person.level, onIntonation: (next) => setSetting({ intonation: next }) }}
          elsewhere={(report?.findings.length ?? 0) - findings.length}
          onSuggest={suggest}
          onTake={take}
          onCompare={() => setDialog('compare')}
          bow={bowPanel}
          hand={handPanel}
          onGo={go}
          reading={{
            print,
            edited: part,
            marking,
            chosen,
            passage,
            aids,
            showPrint,
            onShowPrint: setShowPrint,
            onChange: change,
            onGo: go,
            onGoToBar: goToBar,
          }}
          notes={{ partId: data.part.id, print, marking, chosen, passage, onChange: change, onGo: go, onGoToBar: goToBar }}
        />
      </div>
      <Footer folded={folded} onFold={setFolded} asTable={asTable} onTable={setAsTable} onKeys={() => setDialog('keys')} play={play} onPlay={playOrStop} />
      <DeskDialogs
        dialog={dialog}
        onDialog={setDialog}
        onClosed={focusScore}
        part={part}
        passage={passage}
        instrument={instrument}
        choices={choices}
        play={play}
        shown={{ notes, strokes }}
        onGoTo={goTo}
        onTakeCompared={(index) => take(index, true)}
        hand={{
          person,
          player,
          preferences,
          density,
          onPreferences: (next) => setSetting({ preferences: next }),
          onDensity: (next) => setSetting({ density: next }),
          onHand: (next) => player && changeHand(player.id, next),
        }}
        about={{ playedOn, data, part: opened?.part ?? null, told, marking, onTold: setSetting, onChange: change }}
      />
    </div>
  );
}
