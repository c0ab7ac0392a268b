'use client';

import { memo, useMemo, type MouseEvent } from 'react';
import type { Instrument } from '@/core/instruments/instrument';
import type { FingeredNote } from '@/core/left-hand/fingering';
import type { Stroke } from '@/core/bow-arm/describe';
import type { NoteRisk } from '@/core/checks/context';
import type { Finding } from '@/core/checks/finding';
import { noteById } from '@/core/score/find';
import type { Part } from '@/core/score/score';
import type { PlayerNote } from '@/core/marking/notes';
import { NoteSigns } from './note-signs';
import type { PlayingStore } from '@/ui/playing/playing';
import { BowMoving } from './tracks/bow-moving';
import { BowTrack, type DraggedEnd, type DrawnStroke } from './tracks/bow-track';
import { HandMoving } from './tracks/hand-moving';
import { LeftHandTrack } from './tracks/left-hand-track';
import { headsInOrder } from './tracks/layout';
import { RiskTrack } from './tracks/risk-track';
import type { Engraving, System } from '@/ui/score/engraving';

export interface Folded {
  hand: boolean;
  bow: boolean;
  risk: boolean;
}

interface Props {
  engraving: Engraving;
  /** Index of the first bar that is engraved. */
  fromBar: number;
  part: Part | null;
  instrument: Instrument | null;
  notes: readonly FingeredNote[];
  strokes: readonly Stroke[];
  risks: readonly NoteRisk[];
  findings: readonly Finding[];
  fingersMarked: ReadonlySet<string>;
  bowsMarked: ReadonlySet<string>;
  selected: ReadonlySet<string>;
  focus: string | null;
  folded: Folded;
  playerNotes: readonly PlayerNote[];
  /** Notes that differ from the print. */
  changed: ReadonlySet<string>;
  playing: PlayingStore;
  secondsAt: ((tick: number) => number) | null;
  onPick(noteId: string, extend: boolean): void;
  onDragBow(end: DraggedEnd | null): void;
  onDropBow(end: DraggedEnd): void;
  onOpenNote(note: PlayerNote): void;
}

/** The engraved systems, each with its tracks under it on one time axis. */
export function Systems(props: Props) {
  const { engraving, part, fromBar } = props;
  const strokes = useMemo(() => strokesBySystem(engraving, fromBar, part, props.strokes), [engraving, fromBar, part, props.strokes]);
  const firstBars = useMemo(() => firstBarsOf(engraving, fromBar), [engraving, fromBar]);
  return (
    <>
      {engraving.systems.map((system, i) => (
        <OneSystem key={i} system={system} firstBar={firstBars[i]!} drawnStrokes={strokes[i] ?? []} {...props} />
      ))}
    </>
  );
}

function OneSystem({
  system,
  drawnStrokes,
  part,
  instrument,
  notes,
  risks,
  findings,
  fingersMarked,
  bowsMarked,
  selected,
  focus,
  folded,
  playerNotes,
  changed,
  firstBar,
  playing,
  secondsAt,
  onPick,
  onDragBow,
  onDropBow,
  onOpenNote,
}: Props & { system: System; firstBar: number; drawnStrokes: DrawnStroke[] }) {
  const own = useMemo(() => notes.filter((note) => system.heads[note.id]), [notes, system]);
  const pick = (event: MouseEvent<HTMLDivElement>) => {
    const inNote = (event.target as Element).closest('g.note')?.id;
    const box = event.currentTarget.getBoundingClientRect();
    const noteId = inNote ?? nearest(system, event.clientX - box.left);
    if (noteId) onPick(noteId, event.shiftKey);
  };
  return (
    <section className="rounded-xl border border-line bg-sheet px-2 pt-1 pb-2">
      <NoteSigns system={system} firstBar={firstBar} notes={playerNotes} onOpen={onOpenNote} />
      <div className="engraving relative cursor-pointer" onClick={pick}>
        <Picture svg={system.svg} />
        {Object.entries(system.heads)
          .filter(([id]) => changed.has(id))
          .map(([id, head]) => (
            <span
              key={`changed ${id}`}
              title="Differs from the print"
              className="pointer-events-none absolute border-b-2 border-dotted border-ink"
              style={{ left: head.x - 9, top: head.y + 8, width: 18 }}
            />
          ))}
        {[...selected].map((id) => {
          const head = system.heads[id];
          return (
            head && (
              <span
                key={id}
                aria-hidden
                className={`pointer-events-none absolute rounded-full border-2 ${id === focus ? 'border-ink' : 'border-soft'}`}
                style={{ left: head.x - 11, top: head.y - 11, width: 22, height: 22 }}
              />
            )
          );
        })}
      </div>
      {instrument && !folded.hand && (
        <div className="relative">
          <LeftHandTrack system={system} notes={own} instrument={instrument} marked={fingersMarked} selected={focus} />
          {secondsAt && part && <HandMoving playing={playing} system={system} notes={own} instrument={instrument} part={part} secondsAt={secondsAt} />}
        </div>
      )}
      {!folded.bow && (
        <div className="relative">
          <BowTrack system={system} strokes={drawnStrokes} marked={bowsMarked} focus={focus} onDrag={onDragBow} onDrop={onDropBow} />
          {secondsAt && <BowMoving playing={playing} strokes={drawnStrokes} secondsAt={secondsAt} />}
        </div>
      )}
      {part && !folded.risk && <RiskTrack system={system} risks={risks} findings={findings} barOf={(id) => noteById(part, id)?.barIndex ?? -1} />}
    </section>
  );
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

function nearest(system: System, x: number): string | null {
  let best: { id: string; distance: number } | null = null;
  for (const { id, x: headX } of headsInOrder(system)) {
    const distance = Math.abs(headX - x);
    if (!best || distance < best.distance) best = { id, distance };
  }
  return best && best.distance < 60 ? best.id : null;
}

/** Where each stroke begins and ends on the page: at its first head, and at the next head after its last note. */
function strokesBySystem(engraving: Engraving, fromBar: number, part: Part | null, strokes: readonly Stroke[]): DrawnStroke[][] {
  let nextBar = fromBar;
  return engraving.systems.map((system) => {
    const firstBar = nextBar;
    nextBar += system.bars.length;
    if (!part) return [];
    const heads = headsInOrder(system);
    const end = system.widthPx - 10;
    const drawn: DrawnStroke[] = [];
    for (const stroke of strokes) {
      const ids = stroke.noteIds.filter((id) => system.heads[id]);
      if (ids.length === 0) continue;
      const first = system.heads[ids[0]!]!.x;
      const lastId = ids.reduce((a, b) => (system.heads[b]!.x > system.heads[a]!.x ? b : a));
      const last = system.heads[lastId]!.x;
      const note = noteById(part, lastId);
      const next = heads.find((head) => head.x > last + 1 && !stroke.noteIds.includes(head.id));
      const nextNote = next && noteById(part, next.id);
      const bar = note && part.bars[note.barIndex]!;
      const barBox = note ? system.bars[note.barIndex - firstBar] : undefined;
      const borders = [
        next && nextNote ? { x: next.x, tick: nextNote.onset } : null,
        bar && barBox ? { x: barBox.to, tick: bar.onset + bar.ticks } : null,
      ].filter((border) => border !== null && border.x > last);
      const border = borders.sort((a, b) => a!.tick - b!.tick)[0];
      const share = note && border ? Math.min(1, note.duration / Math.max(1, border.tick - note.onset)) : 1;
      const sounding = border ? last + (border.x - last) * share : end;
      drawn.push({ stroke, from: first, to: Math.max(first + 4, Math.min(end, sounding) - (border?.x === next?.x ? 0 : 2)) });
    }
    return drawn;
  });
}
