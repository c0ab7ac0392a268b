'use client';

import { useEffect, useRef, useState } from 'react';
import type { Difference } from '@/core/editions/differences';
import type { Marking } from '@/core/marking/mark';
import { problemOf, sendJson, whileWanted } from '@/ui/kit/problem';
import type { Engraving } from '@/workers/server/engraver';

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

function Side({ title, url, bar, missing, count, marking, differing, focused }: SideProps) {
  const box = useRef<HTMLDivElement>(null);
  const [shown, setShown] = useState<{ engraving: Engraving; key: string } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const key = `${bar}`;
  useEffect(() => {
    const abort = new AbortController();
    void whileWanted(abort.signal, async () => {
      const widthPx = Math.max(240, Math.min(1200, Math.floor((box.current?.clientWidth ?? 760) - 24)));
      const range = { fromBar: Math.max(0, bar - AROUND), toBar: Math.min(count - 1, bar + AROUND), widthPx };
      const response = await sendJson('POST', url, marking ? { ...range, marking } : range, abort.signal);
      if (abort.signal.aborted) return;
      if (!response?.ok) {
        const { what, remedy } = await problemOf(response);
        return setProblem(`${what} ${remedy}`);
      }
      const engraving = (await response.json()) as Engraving;
      if (abort.signal.aborted) return;
      setProblem(null);
      setShown({ engraving, key });
    });
    return () => abort.abort();
  }, [url, bar, count, marking, key]);
  return (
    <section aria-label={title} className="rounded-xl border border-line bg-sheet p-3">
      <h2 className="text-[15px]">{title}</h2>
      <div ref={box}>
        {missing && <p className="text-soft">It has no such bar; these are the ones around the place.</p>}
        {problem ? (
          <p role="alert" className="text-plum">
            {problem}
          </p>
        ) : shown ? (
          shown.engraving.systems.map((system, i) => (
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
