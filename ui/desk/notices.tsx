'use client';

import { Button } from '@/ui/kit/button';
import { Notice } from '@/ui/kit/notice';
import { NO_ANSWER, ProblemNote, type Problem } from '@/ui/kit/problem';
import { ClashNotice, PassagesClash } from '@/ui/part/clash-notice';
import { useUnsent } from '@/ui/unsent/browser';
import { UnsentNotices } from '@/ui/unsent/notices';
import { whyNot } from '@/ui/unsent/state';
import { useDesk } from './model/desk';
import { DeskPlayedOn } from './setting/desk-played-on';

const NOT_CHECKED: Problem = {
  place: null,
  what: 'The check could not be made with these marks.',
  remedy: 'The marks are saved; what is shown is the last check. Undo the last mark or reload.',
};

/** What the coach must know, above the score. */
export function Notices() {
  const { data, live, failed, checkFailed, engraved, problem, setProblem, view, own, passages } = useDesk();
  const { way } = useUnsent();
  // That nobody answers is said once.
  const notDrawn = engraved.problem === NO_ANSWER && whyNot(way) ? null : engraved.problem;
  return (
    <div className="grid gap-2 px-3 pt-2 empty:hidden">
      {[failed, checkFailed ? NOT_CHECKED : null, notDrawn].map((each) => each && <ProblemNote key={each.what} problem={each} />)}
      {problem && <ProblemNote problem={problem} onClose={() => setProblem(null)} />}
      {live.isReplaced && (
        <Notice actions={<Button onClick={() => window.location.reload()}>Load it anew</Button>}>
          The file of this part was replaced by another edition. What you see is the earlier one; your marks are carried over.
        </Notice>
      )}
      {live.isOffShelf && <Notice>This piece was taken off the shelf. It lies in the bin (Studio), with its marks; what you mark is still stored.</Notice>}
      {view.playedOn && !view.playedOn.told && <DeskPlayedOn />}
      {view.askSounds && <SoloTuning />}
      {own.clash && <ClashNotice key={own.clash.map(({ key }) => key).join()} marks={own.clash} part={view.part} onSettle={own.settle} />}
      {passages.clash && <PassagesClash theirs={passages.clash} onSettle={passages.settle} />}
      <UnsentNotices partId={data.part.id} />
      <PassagesChanged />
      <JustDone />
    </div>
  );
}

/** Asked where a bass is tuned for solo pieces. */
function SoloTuning() {
  const { setting } = useDesk();
  return (
    <div role="group" aria-label="Solo tuning" className="flex flex-wrap items-center gap-2 rounded-lg border border-line bg-sheet px-3 py-2">
      <p className="grow">This bass is tuned a tone higher. Is the part written for the fingers (it sounds a tone higher than usual) or for the ear?</p>
      <Button onClick={() => setting({ sounds: 'tone-higher' })}>For the fingers</Button>
      <Button onClick={() => setting({ sounds: 'octave-lower' })}>For the ear</Button>
    </div>
  );
}

/** What was just done to the passages, with the way back at hand. */
function PassagesChanged() {
  const { passages, undo } = useDesk();
  if (!passages.changed || undo?.what !== passages.changed) return null;
  return (
    <p role="status" className="flex items-center gap-3 rounded-lg border border-line bg-sheet px-3 py-1">
      <span className="grow">{passages.changed}.</span>
      <Button
        small
        onClick={() => {
          undo.act();
          passages.dismiss();
        }}
      >
        Undo
      </Button>
      <Button small onClick={passages.dismiss}>
        Fine
      </Button>
    </p>
  );
}

/** What was just done by a menu, in words. */
function JustDone() {
  const { said, setSaid } = useDesk();
  if (!said) return null;
  return (
    <Notice
      actions={
        <Button small onClick={() => setSaid(null)}>
          Fine
        </Button>
      }
    >
      {said}
    </Notice>
  );
}
