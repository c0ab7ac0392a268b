'use client';

import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { isSpot } from '@/core/checks/finding';
import type { Passage } from '@/core/score/passages';
import { LIMITS } from '@/core/util/limits';
import { Button } from '@/ui/kit/button';
import { Menu, MenuItem } from '@/ui/kit/menu';
import { feltUnitOf } from '@/core/score/beat-unit';
import { barsLabel } from '@/ui/kit/music';
import { beatsPerMinute, signOf, upTo } from '@/ui/kit/tempo';
import { TextField } from '@/ui/kit/text-field';
import { copyToWhereItComesBack } from './model/copy-again';
import { deskDeeds } from './model/deeds';
import { useDesk } from './model/desk';

/** The passages in bar order: ceiling against wanted tempo, and what is open. */
export function Rail() {
  const desk = useDesk();
  const { passages, view, chosen } = desk;
  const selectionBars = chosen.length > 1 ? desk.selectionBars : null;
  return (
    <nav
      aria-label="Passages"
      className="flex h-full w-52 shrink-0 flex-col border-r border-line max-lg:h-auto max-lg:w-full max-lg:border-r-0 max-lg:border-b"
    >
      <p className="px-4 pt-3 pb-1 text-xs text-soft max-lg:pt-1">Passage · works up to / wanted{view.part ? `, ${signOf(feltUnitOf(view.part))}` : ''}</p>
      <ol className="grow overflow-y-auto px-2 pb-2 max-lg:flex max-lg:overflow-x-auto">
        {passages.list.map((passage, i) => (
          <li
            key={`${passage.fromBar}-${passage.toBar}-${passage.name}`}
            className={`group relative mb-1 rounded-xl border max-lg:w-48 max-lg:shrink-0 ${i === passages.current ? 'border-ink bg-sheet' : 'border-transparent hover:border-line'}`}
          >
            <PassageEntry passage={passage} index={i} />
          </li>
        ))}
      </ol>
      <div className={`border-t border-line p-2 ${selectionBars ? '' : 'max-lg:hidden'}`}>
        <Button className="w-full" disabled={!selectionBars} onClick={deskDeeds(desk).newPassage}>
          {selectionBars ? `New passage: ${barsLabel(view.part, selectionBars.fromBar, selectionBars.toBar)}` : 'Select bars for a passage'}
        </Button>
      </div>
    </nav>
  );
}

function PassageEntry({ passage, index }: { passage: Passage; index: number }) {
  const { passages, openPassage, view } = useDesk();
  const [renaming, setRenaming] = useState(false);
  const bars = barsLabel(view.part, passage.fromBar, passage.toBar);
  const put = (change: Partial<Passage>, what: string) =>
    passages.change(
      passages.list.map((each, k) => (k === index ? { ...each, ...change } : each)),
      what,
    );
  return (
    <>
      {renaming ? (
        <div className="p-2">
          <TextField
            autoFocus
            label="Name of the passage"
            value={passage.name}
            limit={LIMITS.name}
            onLeave={() => setRenaming(false)}
            onValue={(name) => {
              setRenaming(false);
              if (name) put({ name }, `Renamed to ${name}`);
            }}
          />
        </div>
      ) : (
        <button
          type="button"
          aria-current={index === passages.current ? 'true' : undefined}
          className="block w-full cursor-pointer px-2.5 py-2 text-left"
          onClick={() => openPassage(index)}
        >
          <span className="flex items-baseline justify-between gap-2 pr-5">
            <strong className="truncate">{passage.name}</strong>
            {!passage.name.endsWith(bars) && <span className="shrink-0 text-xs font-semibold">{bars}</span>}
          </span>
          <Outlook passage={passage} index={index} />
        </button>
      )}
      <PassageMenu passage={passage} index={index} onRename={() => setRenaming(true)} onPut={put} />
    </>
  );
}

/** Why there is no tempo, in the room of a figure. */
const NO_TEMPO = { unplayable: 'unplayable', 'too slow and too quick': 'no tempo' } as const;

/** What was found in a passage, and up to which tempo it works. */
function Outlook({ passage, index }: { passage: Passage; index: number }) {
  const { report, tempi, view } = useDesk();
  const unit = view.part ? feltUnitOf(view.part) : null;
  const wanted = report?.tempo.wanted ?? null;
  const isKnown = report !== null && (!report.about || (passage.fromBar >= report.about.fromBar && passage.toBar <= report.about.toBar));
  const tempo = isKnown ? tempi?.passages[index] : undefined;
  const findings = report?.findings.filter((finding) => isSpot(finding) && finding.barIndex >= passage.fromBar && finding.barIndex <= passage.toBar) ?? [];
  return (
    <>
      <span className="flex items-baseline justify-between text-xs text-soft">
        <FindingCount count={findings.length} worst={Math.max(0, ...findings.map((finding) => finding.severity))} ready={isKnown} />
        <span>
          {tempo && unit && wanted !== null
            ? `${tempo.none ? NO_TEMPO[tempo.none] : tempo.ceiling === null ? 'any' : upTo(tempo.ceiling, unit)} / ${Math.round(beatsPerMinute(wanted, unit))}`
            : '…'}
        </span>
      </span>
      <TempoBar ceiling={tempo?.none ? 0 : (tempo?.ceiling ?? null)} wanted={wanted} />
    </>
  );
}

function FindingCount({ count, worst, ready }: { count: number; worst: number; ready: boolean }) {
  if (!ready) return <span>checking</span>;
  if (count === 0) return <span>○ nothing found</span>;
  return (
    <span className={worst > 1 ? 'font-semibold text-plum' : ''}>
      {worst > 1 ? '◆' : '◇'} {count} {count === 1 ? 'spot' : 'spots'}
    </span>
  );
}

/** The bar reaches as far as the tempo does; the stroke is the wanted tempo. */
function TempoBar({ ceiling, wanted }: { ceiling: number | null; wanted: number | null }) {
  const scale = (wanted ?? 100) * 1.5;
  const share = ceiling === null ? 1 : Math.min(1, ceiling / scale);
  const short = ceiling !== null && wanted !== null && ceiling < wanted;
  return (
    <span className="relative mt-1 block h-1.5 rounded-full bg-line" aria-hidden>
      <span className={`absolute inset-y-0 left-0 rounded-full ${short ? 'bg-plum' : 'bg-soft'}`} style={{ width: `${share * 100}%` }} />
      <span className="absolute -inset-y-0.5 w-0.5 bg-ink" style={{ left: `${100 / 1.5}%` }} />
    </span>
  );
}

interface MenuProps {
  passage: Passage;
  index: number;
  onRename(): void;
  onPut(change: Partial<Passage>, what: string): void;
}

function PassageMenu({ passage, index, onRename, onPut }: MenuProps) {
  const desk = useDesk();
  const { passages, view, chosen, selectionBars } = desk;
  const bars = chosen.length > 1 ? selectionBars : null;
  const label = bars && barsLabel(view.part, bars.fromBar, bars.toBar);
  return (
    <Menu
      className="absolute top-1.5 right-1 grid size-6 cursor-pointer place-items-center rounded opacity-60 hover:opacity-100"
      label={`Change passage ${passage.name}`}
      trigger={<Ellipsis size={15} aria-hidden />}
    >
      <MenuItem onSelect={onRename}>Rename</MenuItem>
      <MenuItem disabled={!bars} onSelect={() => bars && onPut(bars, `${passage.name} is now ${label}`)}>
        {label ? `Set to the selected bars (${label})` : 'Set to the selected bars'}
      </MenuItem>
      <MenuItem onSelect={() => copyToWhereItComesBack(desk, index)}>Copy its marks to where it comes back</MenuItem>
      <MenuItem
        onSelect={() =>
          passages.change(
            passages.list.filter((_, k) => k !== index),
            `${passage.name} removed`,
          )
        }
      >
        Remove (the marks stay)
      </MenuItem>
    </Menu>
  );
}
