'use client';

import { positionNames, positionSign } from '@/core/instruments/positions';
import { articulationKind, valueProblem, type MarkKind } from '@/core/marking/kinds';
import { PACES } from '@/core/score/pace';
import { LIMITS } from '@/core/util/limits';
import { Select } from '@/ui/kit/select';
import { TextField } from '@/ui/kit/text-field';
import { inForce } from '@/ui/part/mark-changes';
import { MarkButtons, type MarkItem } from '../mark-buttons';
import { useDesk } from '../model/desk';
import { obeying } from '../model/deeds';

const YES = 'yes';
const SIGNS: readonly MarkItem[] = [
  { kind: 'covered', value: YES, text: 'covered' },
  { kind: 'extension', value: YES, text: 'extension' },
  { kind: 'stay', value: YES, text: 'stay' },
  { kind: 'slide', value: YES, text: 'slide' },
  { kind: articulationKind('breath'), value: YES, text: 'breath' },
  { kind: 'look-up', value: YES, text: 'look up' },
];
const PACE_ITEMS: readonly MarkItem[] = PACES.map((value) => ({ kind: 'pace', value, text: value }));
/** Of a section that is broader or quicker than the rest. */
const STRETCHES = [70, 75, 80, 85, 90, 95, 105, 110, 115, 120].map((percent) => `at ${percent} %`);
const OTHER_FINGERS: readonly MarkItem[] = ['0', '1', '2', '3', '4', 'T'].map((value) => ({
  kind: 'other-finger',
  value,
  text: `(${value})`,
  name: `Other finger ${value}`,
}));

/** What is pencilled over a note besides fingers and bows. */
export function PencilSigns() {
  const desk = useDesk();
  const { marking, focus, chosen, view } = desk;
  if (!focus || !view.instrument) return null;
  const mark = (kind: MarkKind, value: string) => obeying(desk)({ do: 'mark', kind, value });
  const position = inForce(focus, marking, 'position') ?? '';
  const own = inForce(focus, marking, 'sign') ?? '';
  const pace = inForce(focus, marking, 'pace') ?? '';
  return (
    <details className="rounded-xl border border-line px-3 py-2 text-[13px]">
      <summary className="min-h-6 cursor-pointer font-semibold">Pencil in</summary>
      <div className="mt-1.5 grid gap-2">
        <MarkButtons name="Signs" items={SIGNS.slice(0, 3)} />
        <MarkButtons name="More signs" items={SIGNS.slice(3)} />
        <MarkButtons name="Other finger" items={OTHER_FINGERS} />
        <MarkButtons name="Tempo as it is meant" items={PACE_ITEMS} />
        <Select
          label="From here on"
          value={pace.startsWith('at ') ? pace : ''}
          options={[['', 'at the tempo above'], ...STRETCHES.map((value) => [value, `${value} of it, until in time`] as const)]}
          onValue={(value) => mark('pace', value || pace)}
        />
        <Select
          label="Position"
          value={position}
          options={[['', 'as planned'], ...positionNames(view.instrument.kind).map((name) => [name, `${name} (${positionSign(name)})`] as const)]}
          onValue={(value) => mark('position', value || position)}
        />
        <TextField
          key={focus.id}
          label="Words over the note"
          value={own}
          limit={LIMITS.sign}
          placeholder="elbow, count, with V2"
          problem={(text) => (text === '' ? null : valueProblem('sign', text))}
          onValue={(text) => mark('sign', text || own)}
        />
        {chosen.length > 1 && <p className="text-xs text-soft">For all {chosen.length} selected notes.</p>}
      </div>
    </details>
  );
}
