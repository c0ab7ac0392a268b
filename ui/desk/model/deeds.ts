'use client';

import { onOpenStrings } from '@/core/playback/on-open-strings';
import { MARKS } from '@/core/marking/kinds';
import type { Place } from '@/core/score/address';
import { barsLabel } from '@/ui/kit/music';
import { cleared, markedBy, nextString } from '@/ui/part/mark-changes';
import type { DeskModel } from './use-desk-model';
import type { Command } from './keys';
import type { PanelTab } from './tabs';
import { takenChoice } from './taken';

/** What keys and buttons make the Desk do. */
export function deskDeeds(desk: DeskModel) {
  const { passages, passage, choices, view, tab, setTab, play, drawn } = desk;

  function take(index: number, compared = false) {
    const { part } = view;
    const where = part && { part, bars: barsLabel(part, passage.fromBar, passage.toBar), focus: desk.focus, marking: desk.marking };
    const taken = where && takenChoice(choices, index, where, compared);
    if (taken) desk.change(taken.reason, taken.changes);
    desk.focusScore();
  }

  function newPassage() {
    const bars = desk.selectionBars;
    if (!bars) return;
    const same = passages.list.findIndex((each) => each.fromBar === bars.fromBar && each.toBar === bars.toBar);
    if (same >= 0) return desk.openPassage(same);
    const label = barsLabel(view.part, bars.fromBar, bars.toBar);
    passages.change([...passages.list, { name: `${bars.fromBar === bars.toBar ? 'Bar' : 'Bars'} ${label}`, ...bars }], `New passage ${label}`);
  }

  return {
    take,
    newPassage,
    suggest(kind: 'fingering' | 'bowing') {
      setTab('choices');
      choices.suggest(kind);
    },
    playOrStop() {
      if (play.playing.snapshot().seconds !== null) play.stop();
      else void play.start(drawn, true);
    },
    /** The passage without the left hand, played at once; back with the same key. */
    openStrings() {
      play.stop();
      desk.setOnStrings(!desk.onStrings);
      if (!desk.onStrings) void play.start({ notes: onOpenStrings(drawn.notes), strokes: drawn.strokes }, true);
    },
    undo() {
      choices.close();
      desk.undo?.act();
    },
    redo() {
      choices.close();
      desk.redo?.act();
    },
    goTo({ barIndex, noteId }: Pick<Place, 'barIndex' | 'noteId'>) {
      desk.setDialog(null);
      if (noteId) desk.go(noteId);
      else desk.goToBar(barIndex);
    },
    /** Of the choices, or of the remedies where the findings are open; never what is there already. */
    takePointed() {
      if (tab === 'findings') desk.spots.takePointed();
      else if (!choices.ofNote?.items[choices.highlighted]?.now || choices.suggestions) take(choices.highlighted);
    },
  };
}

type Does = { [K in Command['do']]: (command: Extract<Command, { do: K }>) => void };

/** Each command has its deed: one without is a type error. */
export function obeying(desk: DeskModel): (command: Command) => void {
  const { marking, chosen, choices, passages, tab, spots } = desk;
  const deeds = deskDeeds(desk);
  /** With the keys in the field that it is opened for, where it has one. */
  function openTab(next: PanelTab) {
    desk.setTab(next);
    requestAnimationFrame(() => document.querySelector<HTMLElement>('[role=tabpanel][data-state=active] [data-takes-keys]')?.focus());
  }
  const does: Does = {
    mark({ kind, value }) {
      const { part } = desk.view;
      if (part && chosen.length) {
        const { reason, changes } = markedBy(part, marking, chosen, kind, value);
        desk.change(reason, changes);
      }
      if (MARKS[kind].fingers && kind !== 'slur') choices.setHand('left');
      else if (MARKS[kind].bow) choices.setHand('bow');
    },
    'cycle string'() {
      if (desk.focus) desk.change('String', nextString(desk.focus, marking, desk.view.instrument.strings.length));
    },
    clear() {
      if (chosen.length) desk.change('Marks taken away', cleared(marking, chosen));
    },
    step({ by, extend }) {
      const next = desk.selection.focus ? desk.away(by) : desk.order.find((note) => note.barIndex >= desk.passage.fromBar);
      if (next) desk.go(next.id, extend);
    },
    row: ({ by }) => (tab === 'findings' ? spots.stepRemedy(by) : choices.step(by)),
    passage: ({ by }) => desk.openPassage(passages.current + by),
    'new passage': deeds.newPassage,
    take: deeds.takePointed,
    undo: deeds.undo,
    redo: deeds.redo,
    'go to': () => desk.setDialog('find'),
    help: () => desk.setDialog('keys'),
    finding({ by }) {
      const next = spots.next(by);
      if (next) desk.lookAt(next);
    },
    play: deeds.playOrStop,
    'open strings': deeds.openStrings,
    'suggest fingering': () => deeds.suggest('fingering'),
    'suggest bowing': () => deeds.suggest('bowing'),
    tab: (command) => openTab(command.tab),
    cue: () => void desk.cues.atSelection(),
    'music alone': () => desk.setCalm(!desk.calm),
    leave() {
      choices.close();
      desk.setCalm(false);
    },
  };
  return (command) => (does[command.do] as (command: Command) => void)(command);
}
