'use client';

import { SOUNDS, type Sounds } from '@/core/instruments/as-told';
import { INSTRUMENT_KINDS } from '@/core/instruments/instrument';
import { orderInWords, playedOrder } from '@/core/score/played';
import type { InstrumentKind, Part } from '@/core/score/score';
import { Dialog, type Opened } from '@/ui/kit/dialog';
import { Select } from '@/ui/kit/select';
import { EditTyped } from '@/ui/typing/edit-typed';
import { Said, useTerms } from '@/ui/kit/terms';
import { useDesk } from '../model/desk';
import { DeskPlayedOn } from './desk-played-on';
import { Editions } from './editions';
import { MarksIn } from './marks-in';

const SOUND_WORDS: Readonly<Record<Sounds, string>> = {
  file: 'as the file says, or as is usual',
  written: 'as written',
  'octave-lower': 'an octave lower than written',
  'tone-higher': 'solo tuning, written for the fingers: an octave lower and a tone higher',
};

const halfSteps = (count: number): string => (count === 0 ? 'as written' : `${Math.abs(count)} half steps ${count < 0 ? 'lower' : 'higher'} than written`);

/** What the file says about the part, and what the coach says otherwise. */
export function AboutPart(opened: Opened) {
  const { data, opened: read } = useDesk();
  const part = read?.part ?? null;
  return (
    <Dialog {...opened} title={`About ${data.part.name}`}>
      {part && (
        <div className="grid gap-3">
          <DeskPlayedOn />
          <Told part={part} />
          <Order part={part} />
          {data.typed && <EditTyped partId={data.part.id} pieceId={data.pieceId} />}
          <Editions data={data} />
          <MarksIn part={part} />
          <Noticed />
        </div>
      )}
    </Dialog>
  );
}

/** Instrument, sounding pitch and how many play it: the file's word, or the coach's. */
function Told({ part }: { part: Part }) {
  const say = useTerms();
  const { settings, setting } = useDesk();
  const { instrument, sounds, section } = settings;
  const here = ` (here ${say(halfSteps(part.soundsHalfSteps))}${part.transposesItself ? ', says the file' : ''})`;
  const byFile = part.instrument ? `${part.instrument}, because ${part.instrumentBecause}` : `not known: ${part.instrumentBecause}`;
  return (
    <>
      <Select
        label="Instrument"
        value={instrument ?? ''}
        options={[['', byFile] as const, ...INSTRUMENT_KINDS.map((kind) => [kind, kind] as const)]}
        onValue={(kind) => setting({ instrument: (kind || null) as InstrumentKind | null, playerId: null })}
      />
      <Select
        label="It sounds"
        value={sounds}
        options={SOUNDS.map((each) => [each, SOUND_WORDS[each] + (each === 'file' ? here : '')] as const)}
        onValue={(next) => setting({ sounds: next })}
      />
      <Select
        label="Played by"
        value={section === null ? '' : section ? 'section' : 'one'}
        options={[
          ['', part.section ? 'a section, by its name' : 'one player, by its name'],
          ['section', 'a section: what no one can hold is divided'],
          ['one', 'one player: every chord is for one hand'],
        ]}
        onValue={(by) => setting({ section: by === '' ? null : by === 'section', line: 0 })}
      />
    </>
  );
}

function Order({ part }: { part: Part }) {
  const played = playedOrder(part.bars);
  return (
    <p>
      <span className="text-soft">Played in this order:</span> {orderInWords(part.bars, played.order)}
      {played.doubts.map((doubt) => (
        <span key={doubt.text} className="block text-plum">
          Bar {part.bars[doubt.barIndex]!.label}: <Said>{doubt.text}</Said>
        </span>
      ))}
    </p>
  );
}

function Noticed() {
  const { warnings } = useDesk().data;
  if (warnings.length === 0) return null;
  return (
    <details>
      <summary className="cursor-pointer">What was noticed when the file was read ({warnings.length})</summary>
      <ul className="mt-1 grid max-h-60 gap-1 overflow-y-auto text-[13px]">
        {warnings.map((warning, i) => (
          <li key={i}>
            <strong>{warning.place}:</strong> {warning.text}
          </li>
        ))}
      </ul>
    </details>
  );
}
