'use client';

import type { TempoForAll } from '@/core/ensemble/tempo-for-all';
import type { SectionFit } from '@/core/rehearsal/section-fit';
import type { BeatUnit } from '@/core/score/beat-unit';
import type { Passage } from '@/core/score/passages';
import { upTo } from '@/ui/kit/tempo';

interface RowProps {
  section: SectionFit;
  /** Quarters per minute. */
  wanted: number;
  unit: BeatUnit;
}

/** The section as it sits, in one line: up to which tempo all of it can play, and who decides. */
export function SectionRow({ section, wanted, unit }: RowProps) {
  return (
    <tr>
      <th scope="row" className="border-b-2 border-ink py-1 pr-3 font-semibold whitespace-nowrap">
        The section
        {section.unknown.length > 0 && <span className="block text-xs font-normal text-plum">without {section.unknown.join(', ')}</span>}
      </th>
      {[section.whole, ...section.passages].map((tempo, i) => (
        <Cell key={i} tempo={tempo} wanted={wanted} unit={unit} />
      ))}
    </tr>
  );
}

function Cell({ tempo, wanted, unit }: { tempo: TempoForAll; wanted: number; unit: BeatUnit }) {
  const { floor, ceiling, ceilingBy, floorBy, none, never } = tempo;
  const short = none || (ceiling !== null && ceiling < wanted) || (floor !== null && floor > wanted);
  const deciding = none ? (never.length ? never : [floorBy!, ceilingBy!]) : ceilingBy === null ? [] : [ceilingBy];
  return (
    <td className="border-b-2 border-ink px-2 py-1 align-top" title={tempo.text}>
      <strong className={`whitespace-nowrap ${short ? 'text-plum' : ''}`}>{none ? 'no tempo' : ceiling === null ? 'any' : upTo(ceiling, unit)}</strong>
      {deciding.length > 0 && (
        <span className={`block max-w-36 text-xs ${short ? 'text-plum' : 'text-soft'}`}>
          <span className="block truncate">{deciding.join(', ')}</span> {deciding.length === 1 ? 'decides' : 'decide'}
        </span>
      )}
    </td>
  );
}

/** Who cannot play what at the wanted tempo: what they leave out, and what all can do then. */
export function LeavingOut({ section, passages, wanted, unit }: RowProps & { passages: readonly Passage[] }) {
  const { leavesOut, without } = section;
  const at = upTo(wanted, unit);
  if (leavesOut.length === 0) return <p className="text-[13px]">At {at} everybody who sits here plays everything.</p>;
  return (
    <section aria-label="Who leaves out what" className="grid grid-cols-1 gap-0.5 text-[13px] wrap-anywhere">
      <h3 className="text-base">Who leaves out what at {at}</h3>
      <ul className="list-disc pl-5">
        {leavesOut.map(({ name, seat, passages: out }) => (
          <li key={seat}>
            <strong>{name}</strong> <span className="text-soft">({seat})</span>:{' '}
            {out
              .map(({ passage, ceiling, floor, none }) => {
                const till = none ? 'at no tempo' : ceiling !== null && ceiling < wanted ? `up to ${upTo(ceiling, unit)}` : `from ${upTo(floor!, unit)} on`;
                return `${passages[passage]!.name} (${till})`;
              })
              .join(', ')}
          </li>
        ))}
      </ul>
      <p>Or plays something easier there, or is given marks of their own below. What is left: {without.text.charAt(0).toLowerCase() + without.text.slice(1)}</p>
    </section>
  );
}
