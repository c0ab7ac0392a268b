'use client';

import { noteById } from '@/core/score/find';
import { pitchLabel, placeLabel } from '@/ui/kit/music';
import type { PanelProps } from './panel';

const SEVERITY = ['', 'watch', 'risk', 'will fail'];

export function FindingsTab({ ready, findings, elsewhere, open, passageName, onGo }: PanelProps) {
  if (!ready)
    return (
      <p className="text-soft" role="status">
        Checking …
      </p>
    );
  return (
    <div className="grid gap-2">
      {findings.length === 0 && <p className="text-soft">Nothing in {passageName} passes a threshold for this player at this tempo.</p>}
      <ul className="grid gap-2">
        {findings.map((finding) => {
          const note = open && noteById(open.part, finding.noteIds[0]!);
          return (
            <li key={finding.id}>
              <article className="rounded-xl border border-line px-3 py-2" aria-label={`${finding.kind}, bar ${finding.bar}`}>
                <div className="flex items-baseline justify-between gap-2">
                  <button
                    type="button"
                    className="min-h-6 cursor-pointer text-left font-bold underline decoration-line underline-offset-4 hover:decoration-ink"
                    onClick={() => onGo(finding.noteIds[0]!)}
                  >
                    {note ? `${placeLabel(open.part, note)} · ${pitchLabel(note.pitch)}` : `Bar ${finding.bar}`}
                  </button>
                  <span className={`text-xs font-semibold ${finding.severity > 1 ? 'text-plum' : 'text-soft'}`}>
                    {'◆'.repeat(finding.severity)} {SEVERITY[finding.severity]}
                  </span>
                </div>
                <p className="text-[13px]">{finding.text}</p>
                {finding.hearIt && <p className="text-[13px] text-spruce">{finding.hearIt}</p>}
                {finding.remedies.map((remedy) => (
                  <p key={remedy.text} className="text-[13px] text-soft">
                    {remedy.text}
                  </p>
                ))}
                <details className="text-xs text-soft">
                  <summary className="cursor-pointer">the numbers</summary>
                  <dl>
                    {Object.entries(finding.numbers).map(([name, value]) => (
                      <div key={name} className="flex justify-between gap-2">
                        <dt>{name}</dt>
                        <dd>{String(value)}</dd>
                      </div>
                    ))}
                  </dl>
                </details>
              </article>
            </li>
          );
        })}
      </ul>
      {elsewhere > 0 && <p className="text-[13px] text-soft">{elsewhere} more in other passages; the list on the left says where.</p>}
      <p className="border-t border-line pt-2 text-xs text-soft">
        Figures are arithmetic, not medical advice: no pain, ever; rest at least five minutes in every half hour; numbness, tingling or lasting pain means stop,
        and see teacher and health professional.
      </p>
    </div>
  );
}
