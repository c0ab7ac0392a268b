'use client';

import { Scissors } from 'lucide-react';
import { Button, buttonClass, PlaceButton } from '@/ui/kit/button';
import { SideSheet } from './side-sheet';
import type { StandModel } from './use-stand';

/** What changed since the hand-out before, bar by bar, to be copied into the paper part and ticked. */
export function Changes({ stand, onClose }: { stand: StandModel; onClose(): void }) {
  const { sheet, said, which, setWhich, goToBar } = stand;
  const { since, bars } = sheet.changes!;
  return (
    <SideSheet title={`Changed since Hand-out ${since}`} onClose={onClose}>
      {sheet.word && <p className="mb-3 break-words whitespace-pre-line">{sheet.word}</p>}
      {bars.length === 0 && <p className="text-soft">Nothing that you play or read.</p>}
      <ul className="grid gap-2">
        {bars.map(({ barIndex, at, texts }) => {
          const bar = barIndex ?? -1;
          return (
            <li key={bar} className="flex items-start gap-2">
              {said.isOwn && (
                <input
                  type="checkbox"
                  className="mt-1 size-4"
                  aria-label={`Copied: ${at}`}
                  checked={said.copied.has(bar)}
                  onChange={(event) => said.tick(bar, event.target.checked)}
                />
              )}
              <span className="min-w-0 grow">
                {barIndex === null ? <strong>{at}</strong> : <PlaceButton onClick={() => goToBar(barIndex)}>{at}</PlaceButton>}
                {texts.map((text) => (
                  <span key={text} className="block break-words">
                    {text}
                  </span>
                ))}
              </span>
            </li>
          );
        })}
      </ul>
      {bars.some(({ barIndex }) => barIndex !== null) && (
        <p className="mt-4">
          <a
            className={buttonClass({ small: true })}
            href={`/api/stand/parts/${sheet.partId}/paper?what=strips${sheet.as === null ? '' : `&as=${sheet.as}`}`}
            download
          >
            <Scissors size={14} aria-hidden /> Strips to paste in
          </a>
        </p>
      )}
      <Button small className="mt-2" aria-pressed={which === 'earlier'} onClick={() => setWhich(which === 'latest' ? 'earlier' : 'latest')}>
        {which === 'latest' ? `Show Hand-out ${since}` : `Back to Hand-out ${sheet.number}`}
      </Button>
    </SideSheet>
  );
}
