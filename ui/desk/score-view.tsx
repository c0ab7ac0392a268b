'use client';

import { useEffect } from 'react';
import type { PlayerNote } from '@/core/marking/notes';
import { Waiting } from '@/ui/kit/waiting';
import { MoreBars } from '@/ui/score/more-bars';
import { TracksFit } from '@/ui/score/heights';
import { Systems } from '@/ui/score/systems';
import { useDesk } from './model/desk';
import { deskDeeds, obeying } from './model/deeds';
import { useCommands } from './model/use-commands';
import { PlanTable } from './plan-table';

/** The passage, engraved, with its tracks; it listens to the keys. */
export function ScoreView() {
  const desk = useDesk();
  const { score, passage, engraved, report, wholeChecked, view, drawn, asTable } = desk;
  const onKeyDown = useCommands(obeying(desk));
  // The keys work at once, for whoever has not gone elsewhere yet.
  useEffect(() => {
    if (document.activeElement === document.body) score.current?.focus({ preventScroll: true });
  }, [score]);
  return (
    <div
      ref={score}
      id="score"
      tabIndex={0}
      role="group"
      aria-label={`Score: ${passage.name}. Arrow keys walk the notes, question mark lists the keys.`}
      aria-describedby="status"
      data-engraved={engraved.current}
      data-report={report !== null}
      data-whole={wholeChecked}
      className="grid min-h-0 grow auto-rows-max content-start gap-2 overflow-y-auto px-3 py-2 focus-visible:-outline-offset-2"
      onKeyDown={onKeyDown}
    >
      {engraved.engraving ? <Drawn /> : engraved.problem ? null : <Waiting className="p-6">Engraving {passage.name} …</Waiting>}
      {engraved.engraving && engraved.toCome && <MoreBars onMore={engraved.more} />}
      {asTable && view.open && <PlanTable open={view.open} range={passage} instrument={view.instrument} plan={drawn} />}
    </div>
  );
}

const MUSIC_ALONE = { hand: true, bow: true, strings: true, risk: true, open: false };

function Drawn() {
  const desk = useDesk();
  const { engraved, seen, view, conditions, drawn, chosenIds, selection, folded, play, dragged } = desk;
  const openNote = (note: PlayerNote) => {
    desk.setTab('notes');
    deskDeeds(desk).goTo({ barIndex: note.barIndex, noteId: note.target.startsWith('n-') ? note.target : null });
  };
  return (
    <TracksFit>
      <Systems
        picture={{ engraving: engraved.engraving!, fromBar: seen.fromBar, engraved: engraved.marking, marking: conditions.marking }}
        music={{ part: view.part, instrument: view.instrument, changed: view.changed, playerNotes: view.notes, line: conditions.line }}
        plan={drawn}
        selection={{ selected: chosenIds, focus: selection.focus }}
        folded={desk.calm ? MUSIC_ALONE : { ...folded, open: desk.onStrings }}
        playing={{ store: play.playing, secondsAt: play.secondsAt }}
        does={{ pick: desk.go, dragBow: dragged.drag, dropBow: dragged.drop, openNote }}
      />
    </TracksFit>
  );
}
