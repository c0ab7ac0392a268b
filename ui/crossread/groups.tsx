'use client';

import Link from 'next/link';
import { useState } from 'react';
import { CARRIED, type Carried } from '@/core/ensemble/carry';
import type { Compared, RhythmGroup } from '@/core/ensemble/groups';
import { LIMITS } from '@/core/util/limits';
import { Button, TextButton, ToggleButton } from '@/ui/kit/button';
import { Select } from '@/ui/kit/select';
import { TextField } from '@/ui/kit/text-field';
import { AGREEMENT, AgreementSign } from './agreement';
import { barsText } from './model/bars-text';
import { isListed, useCrossreadModel, type Shown } from './model/use-crossread';

const FILTERS: ReadonlyArray<[which: Shown, name: string]> = [
  ['differing', 'differing'],
  ['opposite', 'opposite bows'],
  ['all', 'all'],
  ['left', 'left apart'],
];

/** Who plays together, one by one. */
export function Groups() {
  const { shown, which, setWhich, listed, group, select } = useCrossreadModel();
  const { groups, bars } = shown!;
  const count = (wanted: Shown) => groups.filter((each) => isListed(each, wanted)).length;
  return (
    <>
      <div role="group" aria-label="Which groups" className="flex flex-wrap gap-1">
        {FILTERS.filter(([each]) => each !== 'left' || count(each) > 0).map(([each, name]) => (
          <ToggleButton key={each} pressed={which === each} onClick={() => setWhich(each)}>
            {name} {count(each)}
          </ToggleButton>
        ))}
      </div>
      {listed.length === 0 && (
        <p className="text-[13px] text-soft">
          {groups.length === 0 ? 'No two parts play the same rhythm at the same time.' : 'Nothing differs where parts play the same rhythm.'}
        </p>
      )}
      <ul className="grid gap-2">
        {listed.map((each) => (
          <li key={each.id}>
            {each.id === group?.id ? (
              <GroupCard group={each} />
            ) : (
              <button
                type="button"
                className="flex w-full cursor-pointer items-baseline gap-2 rounded-lg border border-line bg-sheet px-3 py-1.5 text-left text-[13px]"
                onClick={() => select(each)}
              >
                <AgreementSign agreement={each.agreement} />
                <span className="min-w-0 grow">
                  <strong>{barsText(bars, each)}</strong> {each.members.map(({ name }) => name).join(', ')}
                </span>
                {each.differences.length > 0 && <span className="text-xs text-soft">{each.differences.length}</span>}
              </button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

/** What each way of carrying makes an end of. */
const ABOUT: Readonly<Record<Carried, readonly Compared[]>> = {
  bows: ['bow'],
  slurs: ['slurs'],
  articulation: ['articulation'],
  dynamics: ['dynamic', 'hairpin'],
};
/** More differences than these are folded away. */
const SHOWN_DIFFERENCES = 8;

function GroupCard({ group }: { group: RhythmGroup }) {
  const { shown, carry } = useCrossreadModel();
  const [modelId, setModel] = useState(group.members[0]!.partId);
  const [all, setAll] = useState(false);
  const model = group.members.find(({ partId }) => partId === modelId) ?? group.members[0]!;
  const { bars } = shown!;
  const differing = CARRIED.filter((what) => group.differences.some((each) => ABOUT[what].includes(each.what)));
  const list = all ? group.differences : group.differences.slice(0, SHOWN_DIFFERENCES);
  return (
    <article
      aria-label={`${barsText(bars, group)}, ${AGREEMENT[group.agreement].words}`}
      className="grid gap-2 rounded-xl border border-ink bg-sheet px-3 py-2 text-[13px]"
    >
      <h2 className="flex items-center gap-2 text-[15px]">
        <AgreementSign agreement={group.agreement} /> {barsText(bars, group)}
      </h2>
      <p>
        {group.members.map(({ partId, name }, i) => (
          <span key={partId}>
            {i > 0 && ', '}
            <Link className="underline" href={`/desk/${partId}?bars=${bars[group.fromBar]!.label}-${bars[group.toBar]!.label}`}>
              {name}
            </Link>
          </span>
        ))}
        <span className="text-soft"> · {AGREEMENT[group.agreement].words}</span>
      </p>
      {group.differences.length === 0 && <p className="text-soft">Nothing differs.</p>}
      <ul className="grid gap-1">
        {list.map(({ what, at, text }) => (
          <li key={`${what} ${at}`}>
            <strong>{at}</strong> {text}
          </li>
        ))}
      </ul>
      {group.differences.length > SHOWN_DIFFERENCES && (
        <Button small className="w-fit" onClick={() => setAll(!all)}>
          {all ? 'Show fewer' : `${group.differences.length - SHOWN_DIFFERENCES} more`}
        </Button>
      )}
      {group.agreement === 'opposite bows' && group.left === null && <Together group={group} />}
      {differing.length > 0 && (
        <div className="grid gap-1.5 border-t border-line pt-2">
          <label className="flex items-center gap-2">
            as
            <Select<string>
              quiet
              label="Whom the others follow"
              value={model.partId}
              options={group.members.map(({ partId, name }) => [partId, name] as const)}
              onValue={setModel}
            />
          </label>
          <div className="flex flex-wrap gap-1">
            {differing.map((what) => (
              <Button key={what} small onClick={() => void carry([what], group, model)}>
                Carry {what}
              </Button>
            ))}
            {differing.length > 1 && (
              <Button small look="rosin" onClick={() => void carry(CARRIED, group, model)}>
                Carry all
              </Button>
            )}
          </div>
        </div>
      )}
      {group.differences.length > 0 && <Leave key={group.left ?? ''} group={group} />}
    </article>
  );
}

/** The field that `l` leads to. */
export const LEAVE = 'Leave it as it is, because';

/** Apart on purpose: the reason stands in every member's part. */
function Leave({ group }: { group: RhythmGroup }) {
  const { leave } = useCrossreadModel();
  if (group.left !== null)
    return (
      <p className="flex items-baseline justify-between gap-2 border-t border-line pt-2">
        <span>
          Left apart: <strong>{group.left}</strong>
        </span>
        <TextButton className="shrink-0 text-xs" onClick={() => void leave(group, null)}>
          look at it again
        </TextButton>
      </p>
    );
  return (
    <div className="border-t border-line pt-2">
      <TextField
        label={LEAVE}
        placeholder="leave it, because …"
        className="w-full"
        limit={LIMITS.note}
        value=""
        onValue={(because) => because && void leave(group, because)}
      />
    </div>
  );
}

/** One bowing for all: asked for, looked at, taken. */
function Together({ group }: { group: RhythmGroup }) {
  const { agreed, propose, takeAgreed, forgetAgreed, shown } = useCrossreadModel();
  const ready = group.members.every(({ partId }) => shown!.lanes.find((lane) => lane.partId === partId)?.planned);
  if (!agreed)
    return (
      <Button small look="rosin" className="w-fit" disabled={!ready} onClick={() => void propose(group)}>
        Bow together
      </Button>
    );
  return (
    <div role="group" aria-label="Bowed together" className="grid gap-1 rounded-lg border border-line bg-paper px-2 py-1.5">
      <p>
        {agreed.model ? (
          <>
            As <strong>{agreed.model.name}</strong> bows it: what suits all of them best.
          </>
        ) : (
          'A bowing that is nobody’s own: what suits all of them best.'
        )}
      </p>
      <ul className="list-disc pl-4">
        {agreed.perPart.map(({ name, text }) => (
          <li key={name}>{text}</li>
        ))}
      </ul>
      {agreed.against.length > 0 && <p className="text-plum">The marks of {agreed.against.join(' and ')} forbid it in places.</p>}
      <span className="flex gap-1">
        <Button small look="rosin" onClick={() => takeAgreed(group)}>
          Take it
        </Button>
        <Button small onClick={forgetAgreed}>
          Leave it
        </Button>
      </span>
    </div>
  );
}
