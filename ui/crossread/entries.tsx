'use client';

import Link from 'next/link';
import { silenceInWords } from '@/core/score/silence';
import { PlaceButton, TextButton } from '@/ui/kit/button';
import { pitchSigns } from '@/ui/kit/music';
import type { EntryShown } from '@/workers/score-questions';
import { useCrossreadModel } from './model/use-crossread';

/** Entries of all string parts after a bar of rest or more, in the order of the score. */
export function Entries() {
  const { shown } = useCrossreadModel();
  const { entries } = shown!;
  const open = entries.filter(({ printed }) => !printed).length;
  if (entries.length === 0) return <p className="text-[13px] text-soft">Nobody rests for a whole bar.</p>;
  return (
    <>
      <p className="text-[13px] text-soft">
        {entries.length} {entries.length === 1 ? 'entry' : 'entries'} after a bar of rest or more,{' '}
        {open === 0 ? 'all with a cue' : `${open} without a printed cue`}.
      </p>
      <ul className="grid gap-2">
        {entries.map((entry) => (
          <li key={`${entry.partId} ${entry.noteId}`}>
            <EntryCard entry={entry} />
          </li>
        ))}
      </ul>
    </>
  );
}

function EntryCard({ entry }: { entry: EntryShown }) {
  const { lookAt, printCue, takeCue, notSaid } = useCrossreadModel();
  const { partId, name, at, cues, printed, silence, barIndex, noteId } = entry;
  return (
    <article aria-label={`${name} at ${at}`} className="rounded-lg border border-line bg-sheet px-3 py-1.5 text-[13px]">
      <div className="flex items-baseline justify-between gap-2">
        <PlaceButton onClick={() => lookAt(barIndex)}>
          {at} {name}
        </PlaceButton>
        <span className="text-xs text-soft">{silenceInWords(silence)}</span>
      </div>
      {cues.length === 0 && <p className="text-soft">Nobody plays in the two bars before.</p>}
      {cues.map((cue, i) => (
        <p key={cue.partId} className="flex items-baseline justify-between gap-2">
          <span>
            {i === 0 ? 'after' : 'or'} {cue.name}, {cue.bar}/{Math.round(cue.beat * 100) / 100} {pitchSigns(cue.pitch)}
          </span>
          {!printed && (
            <TextButton className="shrink-0 text-xs" aria-label={`Print the cue of ${cue.name} for ${name} at ${at}`} onClick={() => void printCue(entry, i)}>
              print small
            </TextButton>
          )}
        </p>
      ))}
      {notSaid === noteId && <p className="text-plum">Its rhythm is beyond note values: it cannot be printed small.</p>}
      {printed && (
        <p className="flex items-baseline justify-between gap-2">
          <Link className="underline" href={`/desk/${partId}?bars=${at.split('/')[0]!}`}>
            printed in the part
          </Link>
          <TextButton className="text-xs" onClick={() => void takeCue(entry)} aria-label={`Take the cue for ${name} at ${at} away`}>
            take it away
          </TextButton>
        </p>
      )}
    </article>
  );
}
