'use client';

import { LIMITS } from '@/core/util/limits';
import { LimitHint } from '@/ui/kit/limit';
import { Ellipsis } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import type { Report } from '@/core/checks/check';
import { isQuiet } from '@/core/checks/finding';
import type { Passage } from '@/core/score/passages';
import type { Part } from '@/core/score/score';
import { barsLabel } from '@/ui/kit/music';

interface Props {
  passages: readonly Passage[];
  current: number;
  report: Report | null;
  part: Part | null;
  selectionBars: { fromBar: number; toBar: number } | null;
  onOpen(index: number): void;
  onChange(passages: Passage[], what: string): void;
  onNew(): void;
}

/** The passages in bar order: ceiling against wanted tempo, and what is open. */
export function Rail({ passages, current, report, part, selectionBars, onOpen, onChange, onNew }: Props) {
  const [renaming, setRenaming] = useState<number | null>(null);
  const wanted = report ? Math.round(report.tempo.wanted) : null;
  return (
    <nav
      aria-label="Passages"
      className="flex h-full w-52 shrink-0 flex-col border-r border-line max-lg:h-auto max-lg:w-full max-lg:border-r-0 max-lg:border-b"
    >
      <p className="px-4 pt-3 pb-1 text-xs text-soft">Passage · works up to / wanted</p>
      <ol className="grow overflow-y-auto px-2 pb-2 max-lg:flex max-lg:overflow-x-auto">
        {passages.map((passage, i) => {
          const tempo = report?.passages[i];
          const findings =
            report?.findings.filter((finding) => !isQuiet(finding) && finding.barIndex >= passage.fromBar && finding.barIndex <= passage.toBar) ?? [];
          return (
            <li
              key={`${passage.fromBar}-${passage.toBar}-${passage.name}`}
              className={`group relative mb-1 rounded-xl border max-lg:w-48 max-lg:shrink-0 ${i === current ? 'border-ink bg-sheet' : 'border-transparent hover:border-line'}`}
            >
              {renaming === i ? (
                <RenameForm
                  name={passage.name}
                  onCancel={() => setRenaming(null)}
                  onDone={(name) => {
                    setRenaming(null);
                    onChange(
                      passages.map((each, k) => (k === i ? { ...each, name } : each)),
                      `Renamed to ${name}`,
                    );
                  }}
                />
              ) : (
                <button
                  type="button"
                  aria-current={i === current ? 'true' : undefined}
                  className="block w-full cursor-pointer px-2.5 py-2 text-left"
                  onClick={() => onOpen(i)}
                >
                  <span className="flex items-baseline justify-between gap-2 pr-5">
                    <strong className="truncate">{passage.name}</strong>
                    {!passage.name.endsWith(barsLabel(part, passage.fromBar, passage.toBar)) && (
                      <span className="shrink-0 text-xs font-semibold">{barsLabel(part, passage.fromBar, passage.toBar)}</span>
                    )}
                  </span>
                  <span className="flex items-baseline justify-between text-xs text-soft">
                    <FindingCount count={findings.length} worst={Math.max(0, ...findings.map((finding) => finding.severity))} ready={report !== null} />
                    <span>{tempo && wanted !== null ? `${tempo.ceiling ?? 'any'} / ${wanted}` : '…'}</span>
                  </span>
                  <TempoBar ceiling={tempo?.ceiling ?? null} wanted={wanted} />
                </button>
              )}
              <PassageMenu
                name={passage.name}
                selectionLabel={selectionBars && barsLabel(part, selectionBars.fromBar, selectionBars.toBar)}
                onRename={() => setRenaming(i)}
                onRange={() =>
                  selectionBars &&
                  onChange(
                    passages.map((each, k) => (k === i ? { ...each, ...selectionBars } : each)),
                    `${passage.name} is now ${barsLabel(part, selectionBars.fromBar, selectionBars.toBar)}`,
                  )
                }
                onRemove={() =>
                  onChange(
                    passages.filter((_, k) => k !== i),
                    `${passage.name} removed`,
                  )
                }
              />
            </li>
          );
        })}
      </ol>
      <div className="border-t border-line p-2">
        <button type="button" className="button w-full" disabled={!selectionBars} onClick={onNew}>
          {selectionBars ? `New passage: ${barsLabel(part, selectionBars.fromBar, selectionBars.toBar)}` : 'Select bars for a passage'}
        </button>
      </div>
    </nav>
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

function PassageMenu({
  name,
  selectionLabel,
  onRename,
  onRange,
  onRemove,
}: {
  name: string;
  selectionLabel: string | null;
  onRename(): void;
  onRange(): void;
  onRemove(): void;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className="absolute top-1.5 right-1 grid size-6 cursor-pointer place-items-center rounded opacity-60 hover:opacity-100"
        aria-label={`Change passage ${name}`}
      >
        <Ellipsis size={15} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="start">
          <DropdownMenu.Item className="menu-item" onSelect={onRename}>
            Rename
          </DropdownMenu.Item>
          <DropdownMenu.Item className="menu-item data-disabled:text-soft" disabled={!selectionLabel} onSelect={onRange}>
            {selectionLabel ? `Set to the selected bars (${selectionLabel})` : 'Set to the selected bars'}
          </DropdownMenu.Item>
          <DropdownMenu.Item className="menu-item" onSelect={onRemove}>
            Remove (the marks stay)
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function RenameForm({ name, onDone, onCancel }: { name: string; onDone(name: string): void; onCancel(): void }) {
  const [text, setText] = useState(name);
  return (
    <form
      className="p-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onDone(text.trim());
      }}
    >
      <input
        autoFocus
        value={text}
        maxLength={LIMITS.name}
        aria-label="Name of the passage"
        className="w-full rounded-md border border-line bg-sheet px-2 py-1"
        onChange={(event) => setText(event.target.value)}
        onBlur={() => (text.trim() && text.trim() !== name ? onDone(text.trim()) : onCancel())}
        onKeyDown={(event) => event.key === 'Escape' && onCancel()}
      />
      <LimitHint text={text} limit={LIMITS.name} />
    </form>
  );
}
