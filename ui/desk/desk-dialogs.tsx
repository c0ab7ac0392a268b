'use client';

import { CompareBowings } from './choices/compare-bowings';
import { CompareFingerings } from './choices/compare-fingerings';
import type { Compared } from './choices/compare';
import { FindDialog } from './dialogs';
import { KeysDialog } from './keys-dialog';
import { deskDeeds } from './model/deeds';
import { useDesk } from './model/desk';
import type { DeskDialog } from './model/use-desk-model';
import { AboutPart } from './setting/about-part';
import { HandDialog } from './setting/hand-dialog';

/** Every dialog of the Desk; one at a time. When it closes the score gets the focus back: keys open them, no button. */
export function DeskDialogs() {
  const desk = useDesk();
  const { dialog, setDialog } = desk;
  const opened = (name: DeskDialog) => ({
    open: dialog === name,
    onOpen: (isOpen: boolean) => setDialog(isOpen ? name : null),
    onClosed: desk.focusScore,
  });
  return (
    <>
      <KeysDialog {...opened('keys')} />
      <FindDialog {...opened('find')} />
      <CompareDialog />
      <HandDialog {...opened('hand')} />
      <AboutPart {...opened('part')} />
    </>
  );
}

/** Suggestions side by side; what is compared is heard with the other hand as the tracks have it. */
function CompareDialog() {
  const desk = useDesk();
  const { choices, play, view, drawn, passage, setDialog } = desk;
  const { suggestions } = choices;
  if (!view.part || !play.secondsAt || !suggestions) return null;
  const compared: Compared = {
    open: desk.dialog === 'compare',
    part: view.part,
    range: passage,
    passageName: passage.name,
    secondsAt: play.secondsAt,
    onClosed: desk.focusScore,
    onOpen: (isOpen) => {
      if (!isOpen) play.stop();
      setDialog(isOpen ? 'compare' : null);
    },
    onTake: (index) => {
      play.stop();
      setDialog(null);
      deskDeeds(desk).take(index, true);
    },
  };
  return suggestions.kind === 'bowing' ? (
    <CompareBowings compared={compared} items={suggestions.items} onPlay={({ plan }) => void play.start({ ...drawn, strokes: plan.strokes }, false)} />
  ) : (
    <CompareFingerings
      compared={compared}
      items={suggestions.items}
      instrument={view.instrument}
      onPlay={({ way }) => void play.start({ ...drawn, notes: way.notes }, false)}
    />
  );
}
