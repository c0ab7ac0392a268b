'use client';

import Link from 'next/link';
import type { Around, With } from '@/core/ensemble/around';
import type { Entry } from '@/core/ensemble/entries';
import type { Role } from '@/core/ensemble/roles';
import { noteById } from '@/core/score/find';
import { silenceInWords } from '@/core/score/silence';
import { PlaceButton, TextButton } from '@/ui/kit/button';
import { pitchSigns, placeLabel } from '@/ui/kit/music';
import { NotAnswered } from '@/ui/kit/not-answered';
import { ASIDE_MS, useAnalysed } from '@/ui/part/use-analyst';
import { Said } from '@/ui/kit/terms';
import { useDesk } from '../model/desk';

/** What the other parts do: at the selected note, and before every entry. */
export function OthersTab() {
  const { data, view, passage, focus } = useDesk();
  const bar = view.print?.bars[focus?.barIndex ?? passage.fromBar]?.label ?? '';
  if (data.siblings.length < 2)
    return (
      <p className="text-[13px] text-soft">
        This part is alone. Bring in the score with all its parts to see who has the tune, the chords, and what is heard before an entry.
      </p>
    );
  return (
    <div className="grid gap-4">
      <Here />
      <Entries />
      <TempoOfOthers />
      <Link className="text-[13px] underline" href={`/score/${data.pieceId}?bar=${encodeURIComponent(bar)}`}>
        All parts side by side from bar {bar}
      </Link>
    </div>
  );
}

const DOING: Readonly<Record<Role, string>> = {
  tune: 'You have the tune.',
  'second tune': 'You go along with the tune.',
  'moving figure': 'You have a moving figure.',
  held: 'You hold the chord.',
  'off-beats': 'You have the off-beats.',
  bass: 'You have the bass.',
  silent: 'You rest here.',
};
/** Less sure than this is said so (judgement). */
const SURE = 0.3;

const listed = (names: readonly string[]): string => (names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`);

/** In one sentence or two. */
function doing({ role, tune }: Around): string {
  const own = role ? DOING[role.role] : '';
  const unsure = role && role.role !== 'tune' && role.sure < SURE ? ' (not sure)' : '';
  const theirs = tune.length ? `${role?.role === 'tune' ? ' Also' : ' The tune is in'} ${listed(tune)}.` : '';
  return `${own.replace(/\.$/, `${unsure}.`)}${theirs}`;
}

function Here() {
  const { analyst, conditions, focus, view, known } = useDesk();
  const answer = useAnalysed({
    analyst,
    conditions,
    of: ['around', focus?.id ?? '', known],
    keep: true,
    restMs: ASIDE_MS / 2,
    wanted: focus !== null && known > 0,
    ask: (of) => of.around(conditions, focus!.id),
  });
  if (!focus || !view.part)
    return <p className="text-[13px] text-soft">Select a note to see who has the tune, what the note is in the chord, and whom to tune to.</p>;
  const here = answer.value;
  return (
    <section aria-label="Around the note" className="grid gap-1.5 text-[13px]">
      <h2 className="text-base">{placeLabel(view.part, focus)}</h2>
      {answer.problem ? (
        <NotAnswered problem={answer.problem} onRetry={answer.retry} />
      ) : here === null ? (
        <p role="status" className="text-soft">
          Listening to the others …
        </p>
      ) : (
        <>
          <p>{doing(here)}</p>
          <p>
            {here.chord ? (
              <>
                <strong>{here.chord}</strong>
                {here.inChord && <>: {here.inChord}.</>}
              </>
            ) : (
              <span className="text-soft">No chord that is sure.</span>
            )}
          </p>
          <Rows label="Tune to" rows={here.tuneTo} none="Nobody has this note." />
          <Rows label="Rubs against" rows={here.rubs} none="Nothing." />
        </>
      )}
    </section>
  );
}

function Rows({ label, rows, none }: { label: string; rows: readonly With[]; none: string }) {
  return (
    <dl className="grid grid-cols-[84px_1fr] gap-x-2">
      <dt className="text-soft">{label}</dt>
      <dd>
        {rows.length === 0 && <span className="text-soft">{none}</span>}
        {rows.map(({ name, pitch, interval }) => (
          <span key={`${name} ${pitch}`} className="block">
            {name} {pitchSigns(pitch)}{' '}
            <span className="text-soft">
              <Said>{interval}</Said>
            </span>
          </span>
        ))}
      </dd>
    </dl>
  );
}

function Entries() {
  const { analyst, conditions, known } = useDesk();
  const answer = useAnalysed({
    analyst,
    conditions,
    of: ['entries', known],
    keep: true,
    restMs: ASIDE_MS,
    wanted: known > 0,
    ask: (of) => of.entries(conditions),
  });
  const entries = answer.value;
  return (
    <section aria-label="Entries" className="grid gap-2 border-t border-line pt-3">
      <h2 className="text-base">Entries</h2>
      {answer.problem ? (
        <NotAnswered problem={answer.problem} onRetry={answer.retry} />
      ) : entries === null ? (
        <p role="status" className="text-[13px] text-soft">
          Looking for them …
        </p>
      ) : (
        entries.length === 0 && <p className="text-[13px] text-soft">No rest of a whole bar.</p>
      )}
      <ul className="grid gap-2">
        {entries?.map((entry) => (
          <li key={entry.noteId}>
            <EntryCard entry={entry} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The piece has one tempo; a part that departs from it says so. */
function TempoOfOthers() {
  const { analyst, conditions, known, setting } = useDesk();
  const { value } = useAnalysed({
    analyst,
    conditions,
    of: ['tempi of others', known],
    keep: true,
    restMs: ASIDE_MS,
    wanted: known > 0,
    ask: (of) => of.wantedTempi(conditions),
  });
  if (!value) return null;
  const { own, others, departing } = value;
  const whole = (tempo: number) => Math.round(tempo * 10) / 10;
  return (
    <section aria-label="Tempo of the piece" className="grid gap-1 border-t border-line pt-3 text-[13px]">
      <h2 className="text-base">Tempo of the piece</h2>
      <p>
        {own === others
          ? `All at ${whole(own)} quarters a minute.`
          : `The others are at ${whole(others)} quarters a minute; this part departs from it: ${whole(own)}.`}
        {departing.length > 0 && ` ${departing.map(({ name, tempo }) => `${name} is at ${whole(tempo)}`).join(', ')}.`}
      </p>
      {own !== others && (
        <TextButton className="w-fit text-xs" onClick={() => setting({ tempo: others })}>
          take theirs
        </TextButton>
      )}
    </section>
  );
}

function EntryCard({ entry }: { entry: Entry }) {
  const { view, go, cues } = useDesk();
  const note = view.part && noteById(view.part, entry.noteId);
  if (!view.part || !note) return null;
  const printed = cues.isPrinted(entry);
  const where = placeLabel(view.part, note);
  return (
    <article aria-label={`Entry at ${where}`} className="rounded-xl border border-line px-3 py-2 text-[13px]">
      <div className="flex items-baseline justify-between gap-2">
        <PlaceButton onClick={() => go(entry.noteId)}>{where}</PlaceButton>
        <span className="text-xs text-soft">{silenceInWords(entry.silence)}</span>
      </div>
      {entry.cues.length === 0 && <p className="text-soft">Nobody plays in the two bars before.</p>}
      {entry.cues.map((cue, i) => (
        <p key={cue.partId} className="flex items-baseline justify-between gap-2">
          <span>
            {i === 0 ? 'listen for' : 'or'} <strong>{cue.name}</strong>, bar {cue.bar}/{Math.round(cue.beat * 100) / 100} {pitchSigns(cue.pitch)}
          </span>
          {!printed && (
            <TextButton
              className="shrink-0 text-xs"
              onClick={() => void cues.print(entry, i, cue.name)}
              aria-label={`Print the cue of ${cue.name} at ${where}`}
            >
              print small
            </TextButton>
          )}
        </p>
      ))}
      {printed && (
        <p className="flex items-baseline justify-between gap-2">
          <span className="text-soft">A cue is printed.</span>
          <TextButton className="text-xs" onClick={() => cues.takeAway(entry)}>
            take it away
          </TextButton>
        </p>
      )}
    </article>
  );
}
