'use client';

import { Dialog } from 'radix-ui';
import { SOUNDS, type Sounds } from '@/core/instruments/as-told';
import { INSTRUMENT_KINDS } from '@/core/instruments/instrument';
import { orderInWords, playedOrder } from '@/core/score/played';
import type { InstrumentKind, Part } from '@/core/score/score';
import { CONTENT, giveBack, OVERLAY } from './dialogs';
import type { DeskData, DeskSettings } from './types';

interface Props {
  open: boolean;
  data: DeskData;
  /** As read, before anything was told about it. */
  part: Part | null;
  told: Pick<DeskSettings, 'instrument' | 'sounds' | 'section'>;
  onOpen(open: boolean): void;
  onClosed(): void;
  onTold(change: Partial<DeskSettings>): void;
}

const SOUND_WORDS: Readonly<Record<Sounds, string>> = {
  file: 'as the file says, or as is usual',
  written: 'as written',
  'octave-lower': 'an octave lower than written',
  'tone-higher': 'solo tuning, written for the fingers: an octave lower and a tone higher',
};

const halfSteps = (count: number): string => (count === 0 ? 'as written' : `${Math.abs(count)} half steps ${count < 0 ? 'lower' : 'higher'} than written`);

/** What the file says about the part, and what the coach says otherwise. */
export function AboutPart({ open, data, part, told, onOpen, onClosed, onTold }: Props) {
  const played = part && playedOrder(part.bars);
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content className={CONTENT} aria-describedby={undefined} onCloseAutoFocus={giveBack(onClosed)}>
          <Dialog.Title className="text-lg">About {data.part.name}</Dialog.Title>
          {part && (
            <div className="mt-3 grid gap-3">
              <label className="grid gap-1">
                <span>Instrument</span>
                <select
                  className="field"
                  value={told.instrument ?? ''}
                  onChange={(event) => onTold({ instrument: (event.target.value || null) as InstrumentKind | null, playerId: null })}
                >
                  <option value="">{part.instrument ? `${part.instrument}, because ${part.instrumentBecause}` : `not known: ${part.instrumentBecause}`}</option>
                  {INSTRUMENT_KINDS.map((kind) => (
                    <option key={kind} value={kind}>
                      {kind}
                    </option>
                  ))}
                </select>
              </label>
              <label className="grid gap-1">
                <span>It sounds</span>
                <select className="field" value={told.sounds} onChange={(event) => onTold({ sounds: event.target.value as Sounds })}>
                  {SOUNDS.map((sounds) => (
                    <option key={sounds} value={sounds}>
                      {SOUND_WORDS[sounds]}
                      {sounds === 'file' ? ` (here ${halfSteps(part.soundsHalfSteps)}${part.transposesItself ? ', says the file' : ''})` : ''}
                    </option>
                  ))}
                </select>
              </label>
              <label className="grid gap-1">
                <span>Played by</span>
                <select
                  className="field"
                  value={told.section === null ? '' : told.section ? 'section' : 'one'}
                  onChange={(event) => onTold({ section: event.target.value === '' ? null : event.target.value === 'section', line: 0 })}
                >
                  <option value="">{part.section ? 'a section, by its name' : 'one player, by its name'}</option>
                  <option value="section">a section: what no one can hold is divided</option>
                  <option value="one">one player: every chord is for one hand</option>
                </select>
              </label>
              {played && (
                <p>
                  <span className="text-soft">Played in this order:</span> {orderInWords(part.bars, played.order)}
                  {played.doubts.map((doubt) => (
                    <span key={doubt.text} className="block text-plum">
                      Bar {part.bars[doubt.barIndex]!.label}: {doubt.text}
                    </span>
                  ))}
                </p>
              )}
              {data.warnings.length > 0 && (
                <details>
                  <summary className="cursor-pointer">What was noticed when the file was read ({data.warnings.length})</summary>
                  <ul className="mt-1 grid max-h-60 gap-1 overflow-y-auto text-[13px]">
                    {data.warnings.map((warning, i) => (
                      <li key={i}>
                        <strong>{warning.place}:</strong> {warning.text}
                      </li>
                    ))}
                  </ul>
                </details>
              )}
            </div>
          )}
          <Dialog.Close className="button mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
