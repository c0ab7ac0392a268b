'use client';

import Link from 'next/link';
import { FINDINGS } from '@/core/checks/kinds';
import type { SpotToMend } from '@/core/rehearsal/opening';
import type { SectionTempo } from '@/core/rehearsal/page';
import { TEMPO_LIMITS } from '@/core/score/time';
import { TextButton } from '@/ui/kit/button';
import { NumberField } from '@/ui/kit/number-field';
import { useCrossreadModel } from './model/use-crossread';
import { SeatedTempo } from './seated-tempo';

/** More spots than these are folded away. */
const SHOWN_SPOTS = 10;

/** At which tempo everybody can play, stretch by stretch, who decides it, and what would open it. */
export function TempoTab() {
  const { shown, tempi, want } = useCrossreadModel();
  const { tempo, lanes } = shown!;
  if (!tempo) return <p className="text-[13px] text-soft">Known once every part is bowed.</p>;
  const { wanted, departing, sections, against, opening } = tempo;
  const strings = lanes.filter(({ instrument }) => instrument !== null);
  const isSaid = strings.some(({ partId }) => tempi[partId] !== null && tempi[partId] !== undefined);
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 text-[13px]">
        <label className="flex items-center gap-2">
          Wanted, quarters a minute
          <NumberField
            label="Wanted tempo of the piece in quarters per minute"
            className="w-16"
            range={{ least: TEMPO_LIMITS.least, most: TEMPO_LIMITS.most, step: 0.1 }}
            value={Math.round(wanted * 10) / 10}
            onValue={want}
          />
        </label>
        {isSaid && (
          <TextButton className="text-xs" onClick={() => want(null)}>
            all as printed
          </TextButton>
        )}
      </div>
      {departing.map(({ partId, name, tempo: own }) => (
        <p key={partId} className="text-[13px]">
          <Link className="underline" href={`/desk/${partId}`}>
            {name}
          </Link>{' '}
          departs from it: {Math.round(own)}.
        </p>
      ))}
      <ul aria-label="Tempo by stretch" className="grid gap-1.5">
        {sections.map((section) => (
          <li key={section.fromBar}>
            <Stretch section={section} wanted={wanted} />
          </li>
        ))}
      </ul>
      <SeatedTempo />
      <section aria-label="In the way" className="grid gap-1 border-t border-line pt-3 text-[13px]">
        {against.length === 0 ? (
          <p>Nothing stands in the way of {Math.round(wanted)}.</p>
        ) : (
          <>
            <h2 className="text-[15px]">In the way of {Math.round(wanted)}</h2>
            <Spots spots={against} />
            {opening && opening.spots.length < against.length && (
              <p>
                At {Math.round(opening.tempo)} {opening.spots.length === 0 ? 'nothing is in the way' : `only ${opening.spots.length} are left`}.
              </p>
            )}
          </>
        )}
      </section>
    </>
  );
}

/** The lane of a stretch goes from half to twice the wanted tempo. */
const share = (tempo: number, wanted: number): number => Math.min(1, Math.max(0, Math.log2((2 * tempo) / wanted) / 2));

function Stretch({ section, wanted }: { section: SectionTempo; wanted: number }) {
  const { lookAt } = useCrossreadModel();
  const { name, bars, fromBar, tempo } = section;
  const [from, to] = [tempo.floor === null ? 0 : share(tempo.floor, wanted), tempo.ceiling === null ? 1 : share(tempo.ceiling, wanted)];
  const works = !tempo.none && (tempo.ceiling === null || tempo.ceiling >= wanted) && (tempo.floor === null || tempo.floor <= wanted);
  return (
    <button
      type="button"
      className="grid w-full cursor-pointer gap-0.5 rounded-lg border border-line bg-sheet px-3 py-1.5 text-left text-[13px]"
      onClick={() => lookAt(fromBar)}
    >
      <span className="flex items-baseline justify-between gap-2">
        <strong>{name === bars ? bars : `${name} · ${bars}`}</strong>
        <span className={works ? 'text-soft' : 'text-plum'}>{works ? 'works' : 'does not work'}</span>
      </span>
      <span aria-hidden className="relative h-1.5 rounded bg-line">
        {!tempo.none && (
          <span className="absolute inset-y-0 rounded bg-spruce" style={{ left: `${from * 100}%`, width: `${Math.max(2, (to - from) * 100)}%` }} />
        )}
        <span className="absolute -inset-y-0.5 left-1/2 w-0.5 bg-ink" />
      </span>
      <span className="text-soft">{tempo.text}</span>
    </button>
  );
}

function Spots({ spots }: { spots: readonly SpotToMend[] }) {
  const { shown } = useCrossreadModel();
  return (
    <>
      <ul className="grid gap-0.5">
        {spots.slice(0, SHOWN_SPOTS).map(({ partId, name, barIndex, beat, kind, tempo, noteIds }) => (
          <li key={`${partId} ${kind} ${noteIds[0]}`}>
            <Link className="underline" href={`/desk/${partId}?bars=${shown!.bars[barIndex]!.label}`}>
              {name}, {shown!.bars[barIndex]!.label}/{Math.round(beat * 100) / 100}
            </Link>
            : {kind}, {FINDINGS[kind].limits === 'below' ? 'from' : 'up to'} {Math.floor(tempo)}
          </li>
        ))}
      </ul>
      {spots.length > SHOWN_SPOTS && <p className="text-soft">{spots.length - SHOWN_SPOTS} more.</p>}
    </>
  );
}
