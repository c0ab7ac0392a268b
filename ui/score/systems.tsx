'use client';

import { memo, useMemo, useRef } from 'react';
import type { Instrument } from '@/core/instruments/instrument';
import type { FingeredNote } from '@/core/left-hand/fingering';
import { linesOf } from '@/core/instruments/lines';
import { bowLevels, type BowLevel } from '@/core/bow-arm/crossings';
import type { Stroke } from '@/core/bow-arm/describe';
import { stringPatterns, type StringPattern } from '@/core/bow-arm/string-patterns';
import type { NoteRisk } from '@/core/checks/context';
import type { Finding } from '@/core/checks/finding';
import { noteById } from '@/core/score/find';
import type { Part } from '@/core/score/score';
import type { PlayerNote } from '@/core/marking/notes';
import { NoteSigns } from './note-signs';
import type { PlayingStore } from '@/ui/playing/playing';
import type { Marking } from '@/core/marking/mark';
import { FreshMarks } from './fresh-marks';
import { BowMoving } from './bow-moving';
import { BowTrack, type DraggedEnd, type DrawnStroke } from './bow-track';
import { HandMoving } from './hand-moving';
import { strokesBySystem } from './strokes-drawn';
import { LeftHandTrack } from './left-hand-track';
import { headsInOrder } from './layout';
import { PlannedBows } from './planned-bows';
import { RiskTrack } from './risk-track';
import { StringsTrack } from './strings-track';
import { usePicking } from './use-picking';
import type { Engraving, System } from '@/ui/score/engraving';

export interface Folded {
  hand: boolean;
  bow: boolean;
  strings: boolean;
  risk: boolean;
}

/** Which tracks are shown, and whether only the strings are played. */
export interface Shown extends Folded {
  open: boolean;
}

interface Props {
  picture: {
    engraving: Engraving;
    /** Index of the first bar that is engraved. */ fromBar: number;
    /** The marks that are in the picture, and those that are there now. */ engraved: Marking | null;
    marking: Marking;
  };
  music: {
    part: Part | null;
    instrument: Instrument | null;
    playerNotes: readonly PlayerNote[];
    /** Notes that differ from the print. */
    changed: ReadonlySet<string>;
    /** Which line of a divided part is bowed. */
    line: number;
  };
  plan: {
    notes: readonly FingeredNote[];
    strokes: readonly Stroke[];
    risks: readonly NoteRisk[];
    findings: readonly Finding[];
    fingersMarked: ReadonlySet<string>;
    bowsMarked: ReadonlySet<string>;
  };
  selection: { selected: ReadonlySet<string>; focus: string | null };
  folded: Shown;
  playing: { store: PlayingStore; secondsAt: ((tick: number) => number) | null };
  does: {
    pick(noteId: string, extend: boolean): void;
    dragBow(end: DraggedEnd | null): void;
    dropBow(end: DraggedEnd): void;
    openNote(note: PlayerNote): void;
  };
}

/** The engraved systems, each with its tracks under it on one time axis. */
export function Systems(props: Props) {
  const { picture, music, plan } = props;
  const { engraving, fromBar } = picture;
  const strokes = useMemo(() => strokesBySystem(engraving, fromBar, music.part, plan.strokes), [engraving, fromBar, music.part, plan.strokes]);
  const firstBars = useMemo(() => firstBarsOf(engraving, fromBar), [engraving, fromBar]);
  const crossings = useCrossings(music.part, music.line, plan);
  const area = useRef<HTMLDivElement>(null);
  const picking = usePicking(area, (x, y) => noteAt(engraving.systems, x, y), props.does.pick);
  return (
    <div ref={area} className="contents">
      {engraving.systems.map((system, i) => (
        <section key={i} className="rounded-xl border border-line bg-sheet px-2 pt-1 pb-2">
          <NoteSigns system={system} firstBar={firstBars[i]!} notes={music.playerNotes} onOpen={props.does.openNote} />
          {!props.folded.bow && <PlannedBows system={system} drawn={strokes[i] ?? []} marked={plan.bowsMarked} />}
          <Staff system={system} index={i} picking={picking} {...props} />
          <Tracks system={system} drawn={strokes[i] ?? []} crossings={crossings} {...props} />
        </section>
      ))}
    </div>
  );
}

/** The engraving itself: notes are chosen here, and what is chosen or differs from the print is shown. */
function Staff({ system, index, picking, picture, music, selection }: Props & { system: System; index: number; picking: ReturnType<typeof usePicking> }) {
  return (
    <div className="engraving relative cursor-pointer touch-pan-y select-none" data-system={index} {...picking}>
      <Picture svg={system.svg} />
      {picture.engraved && <FreshMarks system={system} engraved={picture.engraved} marking={picture.marking} />}
      {Object.entries(system.heads)
        .filter(([id]) => music.changed.has(id))
        .map(([id, head]) => (
          <span
            key={`changed ${id}`}
            title="Differs from the print"
            className="pointer-events-none absolute border-b-2 border-dotted border-ink"
            style={{ left: head.x - 9, top: head.y + 8, width: 18 }}
          />
        ))}
      {[...selection.selected].map((id) => {
        const head = system.heads[id];
        return (
          head && (
            <span
              key={id}
              aria-hidden
              className={`pointer-events-none absolute rounded-full border-2 ${id === selection.focus ? 'border-ink' : 'border-soft'}`}
              style={{ left: head.x - 11, top: head.y - 11, width: 22, height: 22 }}
            />
          )
        );
      })}
    </div>
  );
}

/** Left hand, bow and risk under a system, as far as they are not folded away. */
function Tracks({
  system,
  drawn,
  crossings,
  music,
  plan,
  selection,
  folded,
  playing,
  does,
}: Props & { system: System; drawn: DrawnStroke[]; crossings: Crossings }) {
  const { part, instrument } = music;
  const { store, secondsAt } = playing;
  const own = useMemo(() => plan.notes.filter((note) => system.heads[note.id]), [plan.notes, system]);
  return (
    <>
      {instrument && !folded.hand && (
        <div className="relative">
          <LeftHandTrack system={system} notes={own} instrument={instrument} marked={plan.fingersMarked} selected={selection.focus} />
          {secondsAt && part && <HandMoving playing={store} system={system} notes={own} instrument={instrument} part={part} secondsAt={secondsAt} />}
        </div>
      )}
      {!folded.bow && (
        <div className="relative">
          <BowTrack system={system} strokes={drawn} marked={plan.bowsMarked} focus={selection.focus} onDrag={does.dragBow} onDrop={does.dropBow} />
          {secondsAt && <BowMoving playing={store} strokes={drawn} secondsAt={secondsAt} />}
        </div>
      )}
      {instrument && !folded.strings && <StringsTrack system={system} instrument={instrument} {...crossings} open={folded.open} />}
      {part && !folded.risk && <RiskTrack system={system} risks={plan.risks} findings={plan.findings} barOf={(id) => noteById(part, id)?.barIndex ?? -1} />}
    </>
  );
}

/** Where the bow changes strings, through the whole part. */
interface Crossings {
  levels: BowLevel[];
  patterns: StringPattern[];
}

function useCrossings(part: Part | null, lineIndex: number, { notes, strokes }: Pick<Props['plan'], 'notes' | 'strokes'>): Crossings {
  return useMemo(() => {
    if (!part) return { levels: [], patterns: [] };
    const strings = new Map(notes.map(({ id, place }) => [id, place.string]));
    const stringOf = (id: string) => strings.get(id) ?? null;
    const lines = linesOf(part);
    const line = lines[Math.min(lineIndex, lines.length - 1)]!;
    return { levels: bowLevels(strokes, line, stringOf), patterns: stringPatterns(strokes, line, stringOf) };
  }, [part, lineIndex, notes, strokes]);
}

/** Index of the first bar of each system. */
function firstBarsOf(engraving: Engraving, fromBar: number): number[] {
  let next = fromBar;
  return engraving.systems.map((system) => {
    const first = next;
    next += system.bars.length;
    return first;
  });
}

/** The engraver's picture; set once per engraving, so that selecting does not touch it. */
const Picture = memo(function Picture({ svg }: { svg: string }) {
  return <div dangerouslySetInnerHTML={{ __html: svg }} />;
});

/** The note under a point of the window, or next to it on its system; null elsewhere. */
function noteAt(systems: readonly System[], x: number, y: number): string | null {
  const under = document.elementFromPoint(x, y);
  const staff = under?.closest<HTMLElement>('[data-system]');
  const system = staff && systems[Number(staff.dataset.system)];
  if (!system) return null;
  return under!.closest('g.note')?.id ?? nearest(system, x - staff.getBoundingClientRect().left);
}

function nearest(system: System, x: number): string | null {
  let best: { id: string; distance: number } | null = null;
  for (const { id, x: headX } of headsInOrder(system)) {
    const distance = Math.abs(headX - x);
    if (!best || distance < best.distance) best = { id, distance };
  }
  return best && best.distance < 60 ? best.id : null;
}
