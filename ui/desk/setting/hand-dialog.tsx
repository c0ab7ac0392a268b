'use client';

import { Dialog, type Opened } from '@/ui/kit/dialog';
import { HandOf } from './hand-of';
import { Preferences } from './hand-preferences';

/** How this part is fingered, and the hand that it is fingered for. */
export function HandDialog(opened: Opened) {
  return (
    <Dialog {...opened} size="wide" title="Fingering: how, and for which hand">
      <div className="grid gap-6 md:grid-cols-2">
        <Preferences />
        <HandOf />
      </div>
    </Dialog>
  );
}
