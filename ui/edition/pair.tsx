'use client';

import { useRef } from 'react';
import type { Difference } from '@/core/editions/differences';
import type { Marking } from '@/core/marking/mark';
import { NotAnswered } from '@/ui/kit/not-answered';
import { nameOf, useAnswer } from '@/ui/kit/queries';
import { askEngraving } from '@/ui/score/ask-engraving';

interface Props {
  partId: string;
  editionId: string;
  marking: Marking;
  bars: { ours: number; theirs: number };
  difference: Difference;
  all: readonly Difference[];
}

/** Bars shown before and after the one that differs. */
const AROUND = 3;

/** The bars around a difference in both editions, one over the other. */
export function Pair({ partId, editionId, marking, bars, difference, all }: Props) {
  const { ourBar, theirBar, look } = difference;
  return (
    <div className="grid gap-3">
      <Side
        title="Yours, with your changes"
        url={`/api/parts/${partId}/engraving`}
        bar={look.ours}
        missing={ourBar === null}
        count={bars.ours}
        marking={marking}
        differing={new Set(all.flatMap((each) => each.ourNotes))}
        focused={new Set(difference.ourNotes)}
      />
      <Side
        title="The other edition"
        url={`/api/parts/${partId}/editions/${editionId}/engraving`}
        bar={look.theirs}
        missing={theirBar === null}
        count={bars.theirs}
        marking={null}
        differing={new Set(all.flatMap((each) => each.theirNotes))}
        focused={new Set(difference.theirNotes)}
      />
    </div>
  );
}

interface SideProps {
  title: string;
  url: string;
  /** Bar to look at; `missing` where the one that differs is not there, after this one. */
  bar: number;
  missing: boolean;
  count: number;
  marking: Marking | null;
  differing: ReadonlySet<string>;
  focused: ReadonlySet<string>;
}

/** The bars around the place, wide enough for the column. */
function Side({ title, url, bar, missing, count, marking, differing, focused }: SideProps) {
  const box = useRef<HTMLDivElement>(null);
  const { value, problem, retry } = useAnswer({
    key: ['edition bars', url, bar, count, marking ? nameOf(marking) : 0],
    keep: true,
    ask: (signal) => {
      const widthPx = Math.max(240, Math.min(1200, Math.floor((box.current?.clientWidth ?? 760) - 24)));
      const range = { fromBar: Math.max(0, bar - AROUND), toBar: Math.min(count - 1, bar + AROUND), widthPx };
      return askEngraving(url, marking ? { ...range, marking } : range, signal);
    },
  });
  return (
    <section aria-label={title} className="rounded-xl border border-line bg-sheet p-3">
      <h2 className="text-[15px]">{title}</h2>
      <div ref={box}>
        {missing && <p className="text-soft">It has no such bar; these are the ones around the place.</p>}
        {problem ? (
          <NotAnswered problem={problem} onRetry={retry} />
        ) : value ? (
          value.systems.map((system, i) => (
            <div key={i} className="engraving relative">
              <div dangerouslySetInnerHTML={{ __html: system.svg }} />
              {Object.entries(system.heads)
                .filter(([id]) => differing.has(id))
                .map(([id, head]) => (
                  <span
                    key={id}
                    aria-hidden
                    className={`pointer-events-none absolute rounded-full border-2 ${focused.has(id) ? 'border-ink' : 'border-dotted border-soft'}`}
                    style={{ left: head.x - 11, top: head.y - 11, width: 22, height: 22 }}
                  />
                ))}
            </div>
          ))
        ) : (
          <p role="status" className="py-6 text-center text-soft">
            Engraving …
          </p>
        )}
      </div>
    </section>
  );
}
