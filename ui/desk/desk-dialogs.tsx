'use client';

import type { Instrument } from '@/core/instruments/instrument';
import type { Place } from '@/core/score/address';
import type { Passage } from '@/core/score/passages';
import type { Part } from '@/core/score/score';
import { AboutPart } from './setting/about-part';
import { CompareBowings } from './choices/compare-bowings';
import { CompareFingerings } from './choices/compare-fingerings';
import { GoToDialog, KeysDialog } from './dialogs';
import { HandDialog } from './setting/hand-dialog';
import type { Choices } from './choices/use-choices';
import type { Plan, Play } from '@/ui/playing/use-play';

export type DeskDialog = 'keys' | 'go to' | 'part' | 'compare' | 'hand';

/** What the dialogs see to themselves. */
type Opened = 'open' | 'onOpen' | 'onClosed';

interface Props {
  dialog: DeskDialog | null;
  onDialog(dialog: DeskDialog | null): void;
  /** The score gets the focus back. */
  onClosed(): void;
  part: Part | null;
  passage: Passage;
  instrument: Instrument;
  choices: Choices;
  play: Play;
  /** As the tracks show it: what is compared is heard with the other hand as it is. */
  shown: Plan;
  onGoTo(place: Place): void;
  onTakeCompared(index: number): void;
  hand: Omit<Parameters<typeof HandDialog>[0], Opened>;
  about: Omit<Parameters<typeof AboutPart>[0], Opened>;
}

/** Every dialog of the Desk; one at a time. */
export function DeskDialogs({ dialog, onDialog, onClosed, part, passage, instrument, choices, play, shown, onGoTo, onTakeCompared, hand, about }: Props) {
  const opened = (name: DeskDialog) => ({ open: dialog === name, onOpen: (isOpen: boolean) => onDialog(isOpen ? name : null), onClosed });
  const { suggestions } = choices;
  const { secondsAt } = play;
  const compared = part &&
    secondsAt && {
      open: dialog === 'compare',
      part,
      range: passage,
      passageName: passage.name,
      secondsAt,
      onClosed,
      onOpen: (isOpen: boolean) => {
        if (!isOpen) play.stop();
        onDialog(isOpen ? 'compare' : null);
      },
      onTake: (index: number) => {
        play.stop();
        onDialog(null);
        onTakeCompared(index);
      },
    };
  return (
    <>
      <KeysDialog {...opened('keys')} />
      <GoToDialog {...opened('go to')} part={part} onGo={onGoTo} />
      {compared && suggestions?.kind === 'bowing' && (
        <CompareBowings {...compared} items={suggestions.items} onPlay={({ plan }) => void play.start({ ...shown, strokes: plan.strokes }, false)} />
      )}
      {compared && suggestions?.kind === 'fingering' && (
        <CompareFingerings
          {...compared}
          items={suggestions.items}
          instrument={instrument}
          onPlay={({ way }) => void play.start({ ...shown, notes: way.notes }, false)}
        />
      )}
      <HandDialog {...opened('hand')} {...hand} />
      <AboutPart {...opened('part')} {...about} />
    </>
  );
}
