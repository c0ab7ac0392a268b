'use client';

import { DENSITIES, type Density } from '@/core/left-hand/worth-writing';
import { SideSheet } from './side-sheet';
import type { StandModel } from './use-stand';

const FINGERS: Readonly<Record<Density, string>> = {
  'every note': 'all that are written',
  usual: 'where one would think about it',
  sparse: 'only where the hand moves',
};

/** What this browser shows of the part, and how it turns: the part itself stays as it was handed out. */
export function Layout({ look, onClose }: { look: StandModel['look']; onClose(): void }) {
  return (
    <SideSheet title="How it is laid out" onClose={onClose}>
      <fieldset className="grid gap-1">
        <legend className="mb-1 font-bold">Fingers</legend>
        {[...DENSITIES].reverse().map((each) => (
          <label key={each} className="flex min-h-8 cursor-pointer items-center gap-2">
            <input type="radio" name="fingers" checked={look.fingers === each} onChange={() => look.setFingers(each)} /> {FINGERS[each]}
          </label>
        ))}
      </fieldset>
      <fieldset className="mt-4 grid gap-1">
        <legend className="mb-1 font-bold">Also</legend>
        <label className="flex min-h-8 cursor-pointer items-center gap-2">
          <input type="checkbox" checked={look.shifts} onChange={(event) => look.setShifts(event.target.checked)} /> shift lines with their guide notes
        </label>
        <label className="flex min-h-8 cursor-pointer items-center gap-2">
          <input type="checkbox" checked={look.halfTurns} onChange={(event) => look.setHalfTurns(event.target.checked)} /> turn half a page at a time
        </label>
      </fieldset>
      <p className="mt-4 text-soft">
        Shifts are worked out for your hand and instrument, with the fingers that are written. A guide note is heard only while you practise.
      </p>
    </SideSheet>
  );
}
