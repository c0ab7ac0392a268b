'use client';

import { Printer } from 'lucide-react';
import Link from 'next/link';
import { isSpot, type Finding } from '@/core/checks/finding';
import { noteById } from '@/core/score/find';
import { TextButton } from '@/ui/kit/button';
import { placeLabel } from '@/ui/kit/music';
import { grouped, listed } from '@/ui/part/findings-shown';
import { KeyHint } from '../key-hint';
import { useDesk } from '../model/desk';
import { addressQuery } from '../model/passage-asked';
import { FindingCard } from './finding-card';
import { FindingsFilter } from './findings-filter';
import { FromPlayers } from './from-players';
import { InTune } from './in-tune';

export function FindingsTab() {
  const { data, report, drawn, spots, passage, view, selection } = useDesk();
  const { findings } = drawn;
  if (!report)
    return (
      <p className="text-soft" role="status">
        Checking …
      </p>
    );
  // The sheet leads back to this very place.
  const back = view.print ? `?${addressQuery(view.print, passage, selection.focus, 'findings')}` : '';
  const shown = listed(findings, spots.filter);
  const here = new Set(findings);
  const elsewhere = report.about ? null : elsewhereInWords(report.findings.filter((finding) => !here.has(finding)));
  return (
    <div className="grid gap-2">
      <Link href={`/desk/${data.part.id}/check${back}`} className="flex min-h-6 items-center gap-1.5 text-[13px] font-semibold underline">
        <Printer size={14} aria-hidden /> Check sheet for the lesson
      </Link>
      <FromPlayers />
      <FindingsFilter shown={shown.length} />
      <InTune />
      {findings.length === 0 && <p className="text-soft">Nothing in {passage.name} passes a threshold for this player at this tempo.</p>}
      <ul className="grid gap-2">
        {grouped(shown).map(({ first, all }) => (
          <li key={first.id}>
            <FindingCard all={all} />
          </li>
        ))}
      </ul>
      <Quiet />
      {elsewhere && (
        <p className="text-[13px] text-soft">
          {elsewhere} in other passages; <KeyHint name="f" /> goes on to the next{findings.length ? '' : ' one'}.
        </p>
      )}
      <p className="border-t border-line pt-2 text-xs text-soft">
        Figures are arithmetic, not medical advice: no pain, ever; rest at least five minutes in every half hour; numbness, tingling or lasting pain means stop,
        and see teacher and health professional.
      </p>
    </div>
  );
}

/** @example "5 more spots and 12 things for the eye"; null where there are none */
function elsewhereInWords(findings: readonly Finding[]): string | null {
  const spots = findings.filter(isSpot).length;
  const others = findings.length - spots;
  const said = [spots ? `${spots} more ${spots === 1 ? 'spot' : 'spots'}` : '', others ? `${others} ${others === 1 ? 'thing' : 'things'} to know` : ''].filter(
    Boolean,
  );
  return said.length ? said.join(' and ') : null;
}

/** Accepted findings, each with its reason and a way back. */
function Quiet() {
  const { spots, view, go } = useDesk();
  const { part } = view;
  if (spots.quiet.length === 0) return null;
  return (
    <details className="text-[13px]">
      <summary className="cursor-pointer text-soft">{spots.quiet.length} accepted in this part</summary>
      <ul className="mt-1 grid gap-1">
        {spots.quiet.map(({ finding, why }) => {
          const note = part && noteById(part, finding.noteIds[0]!);
          return (
            <li key={finding.id} className="flex items-baseline justify-between gap-2">
              <button type="button" className="min-h-6 cursor-pointer text-left" onClick={() => go(finding.noteIds[0]!)}>
                {note ? placeLabel(part, note) : `Bar ${finding.bar}`}, {finding.kind}
                {why && <span className="text-soft">: {why}</span>}
              </button>
              <TextButton className="shrink-0" onClick={() => spots.bringBack(finding)}>
                tell it again
              </TextButton>
            </li>
          );
        })}
      </ul>
    </details>
  );
}
