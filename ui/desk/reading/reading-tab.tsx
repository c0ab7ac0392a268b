'use client';

import { PlaceButton, TextButton } from '@/ui/kit/button';
import { LIMITS } from '@/core/util/limits';
import { TextField } from '@/ui/kit/text-field';
import { useMemo, useState } from 'react';
import { againstPrint, type AgainstPrint } from '@/core/marking/against-print';
import { barTextOf } from '@/core/marking/bar-correction';
import { changeTo } from '@/core/marking/change';
import { lostTarget } from '@/core/editions/anchor';
import { splitKey } from '@/core/marking/mark';
import { PLACE_EDIT_KINDS } from '@/core/marking/kinds';
import { placeOfTarget } from '@/core/marking/notes';
import { placeTarget } from '@/core/marking/target';
import type { ReadingAid } from '@/core/reading/aid';
import { sayBar } from '@/core/score/address';
import { noteById } from '@/core/score/find';
import type { Part } from '@/core/score/score';
import { pitchSigns, placeLabel } from '@/ui/kit/music';
import { NotAnswered } from '@/ui/kit/not-answered';
import { ASIDE_MS, useAnalysed } from '@/ui/part/use-analyst';
import { useDesk } from '../model/desk';
import { EditBox } from './edit-box';
import { useCorrecting } from './use-correcting';

/** The text: edits at the selection, traps for the reader, and the list of changes against the print. */
export function ReadingTab() {
  const { view, marking, chosen, passage, showPrint, setShowPrint, change } = useDesk();
  const { print, part: edited } = view;
  const [why, setWhy] = useState('');
  const changes = useMemo(() => (print ? againstPrint(print, marking, view.file ?? print).filter(({ at }) => at !== null) : []), [print, marking, view.file]);
  if (!print || !edited)
    return (
      <p className="text-soft" role="status">
        Reading …
      </p>
    );
  return (
    <div className="grid gap-4">
      {showPrint ? (
        <p className="rounded-xl border border-line px-3 py-2 text-[13px]">
          You see the print as it came. <TextButton onClick={() => setShowPrint(false)}>Show your changes</TextButton> to edit.
        </p>
      ) : (
        <EditBox context={{ print, edited, marking, why }} chosen={chosen} fromBar={passage.fromBar} onWhy={setWhy} onChange={change} />
      )}
      <Traps />
      <LostMarks print={print} />
      <section aria-label="Changes against the print" className="grid gap-2 border-t border-line pt-3">
        <div className="flex items-baseline justify-between gap-2">
          <h2 className="text-[15px]">Changes against the print</h2>
          {changes.length > 0 && (
            <TextButton className="shrink-0 text-xs text-soft" onClick={() => setShowPrint(!showPrint)}>
              {showPrint ? 'show your changes' : 'show the print'}
            </TextButton>
          )}
        </div>
        {changes.length === 0 && (
          <p className="text-[13px] text-soft">None. What you change is listed here with its reason; the file you send on has it as real notation.</p>
        )}
        <ul className="grid gap-2">
          {changes.map((each) => (
            <li key={`${each.target}|${each.kind}`}>
              <ChangeCard change={each} />
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}

const KIND_WORDS: Readonly<Record<string, string>> = { 'printed-text': 'printed words', text: 'words', bar: 'notes' };

function ChangeCard({ change }: { change: AgainstPrint }) {
  const { marking, change: onChange, goToBar, view } = useDesk();
  const correct = useCorrecting();
  const { target, kind, mark, at, print, now } = change;
  const name = KIND_WORDS[kind] ?? kind.replace('articulation:', '').replace('-', ' ');
  const set = (reason: string, to: typeof mark | null) =>
    onChange(
      `${at ?? 'no place'}: ${reason}`,
      [changeTo(marking, target, kind, to)].filter((each) => each !== null),
    );
  const { off, ...inForce } = mark;
  /** Notes of a bar go back with what is marked at them. */
  const takeBack = () => {
    const printed = kind === 'bar' && !off && view.file ? barTextOf(view.file, change.barIndex) : null;
    if (printed === null) set('as printed', null);
    else void correct(change.barIndex, printed, '');
  };
  return (
    <article
      aria-label={`${name} at ${at ?? 'no place'}`}
      className={`rounded-xl border px-3 py-2 text-[13px] ${off ? 'border-dashed border-line text-soft' : 'border-line'}`}
    >
      <div className="flex items-baseline justify-between gap-2">
        {at === null ? <span className="font-bold">without a place</span> : <PlaceButton onClick={() => goToBar(change.barIndex)}>{at}</PlaceButton>}
        <span className="text-xs text-soft">
          {name}
          {mark.by ? ` · ${mark.by}` : ''}
        </span>
      </div>
      <p className={off ? 'line-through' : ''}>
        {pitchSigns(print)} <span aria-label="becomes">→</span> <strong>{kind === 'pitch' ? pitchSigns(now) : now}</strong>
      </p>
      <TextField
        key={mark.why ?? ''}
        label="Why"
        placeholder="why"
        className="my-1 text-xs"
        limit={LIMITS.why}
        value={mark.why ?? ''}
        onValue={(why) => set('reason', why ? { ...mark, why } : without(mark, 'why'))}
      />
      <div className="flex gap-3 text-xs">
        <TextButton onClick={() => set(off ? 'back in force' : 'set aside', off ? inForce : { ...mark, off: true })}>
          {off ? 'put back in force' : 'set aside'}
        </TextButton>
        <TextButton onClick={takeBack}>take back</TextButton>
      </div>
    </article>
  );
}

function without<T extends object, K extends keyof T>(value: T, key: K): Omit<T, K> {
  const { [key]: _, ...rest } = value;
  return rest;
}

/** More traps than this in one passage are folded away. */
const SHOWN_TRAPS = 12;

function Traps() {
  const { analyst, conditions, passage, view, marking, showPrint, change, go } = useDesk();
  const { print, part: edited } = view;
  const answer = useAnalysed({ analyst, conditions, of: ['reading'], keep: true, restMs: ASIDE_MS, ask: (of) => of.reading(conditions) });
  const aids = answer.value;
  const [all, setAll] = useState(false);
  const own = aids?.filter((aid) => aid.barIndex >= passage.fromBar && aid.barIndex <= passage.toBar) ?? [];
  const shown = all ? own : own.slice(0, SHOWN_TRAPS);
  const elsewhere = (aids?.length ?? 0) - own.length;
  const reminders = own.filter((aid) => aid.remedy);
  const remind = (which: readonly ReadingAid[]) =>
    change(
      which.length === 1 ? which[0]!.remedy!.text : `${which.length} reminders in ${passage.name}`,
      which.flatMap(({ remedy }) => changeTo(marking, remedy!.target, remedy!.kind, { value: remedy!.value, origin: 'coach', why: 'easily misread' }) ?? []),
    );
  return (
    <section aria-label="Traps for the reader" className="grid gap-2 border-t border-line pt-3">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="text-base">Traps for the reader</h2>
        {reminders.length > 1 && !showPrint && (
          <TextButton className="text-xs text-soft" onClick={() => remind(reminders)}>
            put all {reminders.length} reminders
          </TextButton>
        )}
      </div>
      {answer.problem ? (
        <NotAnswered problem={answer.problem} onRetry={answer.retry} />
      ) : aids === null ? (
        <p role="status" className="text-[13px] text-soft">
          Looking for them …
        </p>
      ) : (
        own.length === 0 && <p className="text-[13px] text-soft">Nothing in {passage.name} reads other than it looks.</p>
      )}
      <ul className="grid gap-2">
        {shown.map((aid) => {
          const note = edited && noteById(edited, aid.noteIds[0]!);
          return (
            <li key={aid.id} className="rounded-xl border border-line px-3 py-2 text-[13px]">
              <div className="flex items-baseline justify-between gap-2">
                <PlaceButton onClick={() => go(aid.noteIds[0]!)}>
                  {note && edited ? placeLabel(edited, note) : `Bar ${print ? sayBar(print.bars, aid.barIndex) : ''}`}
                </PlaceButton>
                <span className="text-xs text-soft">{aid.kind}</span>
              </div>
              <p>{aid.text}</p>
              {aid.count && (
                <p className="font-semibold">
                  <span className="font-normal text-soft">count</span> {aid.count}
                </p>
              )}
              {aid.remedy && !showPrint && (
                <TextButton className="text-xs" onClick={() => remind([aid])}>
                  {aid.remedy.text.charAt(0).toLowerCase() + aid.remedy.text.slice(1)}
                </TextButton>
              )}
            </li>
          );
        })}
      </ul>
      {own.length > SHOWN_TRAPS && (
        <button type="button" className="min-h-6 cursor-pointer text-left text-xs text-soft underline" onClick={() => setAll(!all)}>
          {all ? 'show fewer' : `${own.length - SHOWN_TRAPS} more in this passage`}
        </button>
      )}
      {elsewhere > 0 && <p className="text-xs text-soft">{elsewhere} more in other passages.</p>}
    </section>
  );
}

/** Marks that found no place when the file was replaced: kept until the coach says where they belong. */
function LostMarks({ print }: { print: Part }) {
  const { marking, chosen, change: onChange } = useDesk();
  const lost = Object.entries(marking).flatMap(([key, mark]) => {
    const { target, kind } = splitKey(key);
    return placeOfTarget(print, target) === null ? [{ target, kind, mark, was: lostTarget(target)?.at ?? 'an earlier file' }] : [];
  });
  if (lost.length === 0) return null;
  const focus = chosen[0];
  return (
    <section aria-label="Marks without a place" className="grid gap-2 border-t border-line pt-3">
      <h2 className="text-[15px]">Marks without a place: {lost.length}</h2>
      <p className="text-[13px] text-soft">They stood in an earlier file of this part and found no note here. Nothing of them is lost.</p>
      <ul className="grid gap-2">
        {lost.map(({ target, kind, mark, was }) => (
          <li key={`${target}|${kind}`} className="rounded-xl border border-dashed border-line px-3 py-2 text-[13px]">
            <p>
              <strong>
                {kind.replace('articulation:', '')} {mark.value}
              </strong>{' '}
              <span className="text-soft">stood at {was}</span>
            </p>
            <div className="flex gap-3 text-xs">
              {focus && (
                <TextButton
                  onClick={() =>
                    onChange(`${kind} put at ${placeLabel(print, focus)}`, [
                      { target, kind, from: mark, to: null },
                      ...[changeTo(marking, PLACED.has(kind) ? placeTarget(focus.barIndex, focus.tick) : focus.id, kind, mark)].filter(
                        (change) => change !== null,
                      ),
                    ])
                  }
                >
                  put at the selected note
                </TextButton>
              )}
              <TextButton onClick={() => onChange(`${kind} taken away`, [{ target, kind, from: mark, to: null }])}>take away</TextButton>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

const PLACED: ReadonlySet<string> = new Set(PLACE_EDIT_KINDS);
