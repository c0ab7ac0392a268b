'use client';

import { Button } from '@/ui/kit/button';
import { Printer } from 'lucide-react';
import { useMemo, useState } from 'react';
import { toldOf } from '@/core/instruments/as-told';
import type { PlayerDescription } from '@/core/instruments/player';
import type { InstrumentKind, Part } from '@/core/score/score';
import type { Passage } from '@/core/score/passages';
import type { Marking } from '@/core/marking/mark';
import { noteLine, playerNotes } from '@/core/marking/notes';
import { isQuiet, type Finding } from '@/core/checks/finding';
import type { TriedRemedy } from '@/core/checks/remedies';
import { spotsFor, tempoVerdict, type SheetSpot, type TempoVerdict } from '@/core/checks/sheet';
import { inBeats, otherUnits, type BeatUnit } from '@/core/score/beat-unit';
import { PageHeader } from '@/ui/kit/page-header';
import { Select } from '@/ui/kit/select';
import { ProblemNote, type Problem } from '@/ui/kit/problem';
import { nameOf } from '@/ui/kit/queries';
import { useConditions } from '@/ui/part/use-part';
import { useAnalysed, useAnalyst, useOthers, useReport, type RemoteAnalyst } from '@/ui/part/use-analyst';
import { parted } from '@/ui/part/findings-shown';
import type { DeskSettings } from '@/ui/part/part-data';
import type { Conditions } from '@/workers/questions';
import { Said, useTerms } from '@/ui/kit/terms';
import { BarPicture } from './bar-picture';

export interface SheetData {
  studio: string;
  title: string;
  part: { id: string; name: string; instrument: InstrumentKind | null };
  musicVersion: string;
  /** Where on the Desk one came from. */
  back: string;
  /** Other parts belong to the piece. */
  severalParts: boolean;
  marking: Marking;
  passages: Passage[];
  player: PlayerDescription | null;
  settings: DeskSettings;
}

const NOT_CHECKED: Problem = { place: null, what: 'The check could not be made.', remedy: 'Nothing was changed; reload to try again.' };

/** What fits on a page. */
const COUNTS = [5, 10, 20] as const;
const SEVERITY = ['', 'watch', 'risk', 'will fail'];

/** One page before a lesson or rehearsal: the tempo, and the spots in bar order, each with its bar, how to hear it and what to do. */
export function CheckSheet({ data }: { data: SheetData }) {
  const { part: about, marking, settings, player } = data;
  const { analyst, open, failed } = useAnalyst(about.id, data.musicVersion, NOTHING);
  const { accepted } = settings;
  const told = useMemo(() => toldOf(settings), [settings]);
  const conditions = useConditions(marking, player, { ...settings, told });
  const others = useOthers(analyst, about.id, data.severalParts);
  const { report, tempi, failed: unchecked } = useReport(analyst, conditions, data.passages, others.known, null);
  const [count, setCount] = useState<(typeof COUNTS)[number]>(10);
  const spots = useMemo(() => (report ? spotsFor(parted(report.findings, accepted).open, count) : null), [report, accepted, count]);
  const verdict = report && tempi && open ? tempoVerdict(report.tempo, tempi.tempo, open.part) : null;
  const helps = useHelps(analyst, conditions, spots);
  const all = report ? spotsFor(parted(report.findings, accepted).open, Infinity).length : 0;
  return (
    <div className="min-h-screen">
      <PageHeader path={[data.title, { name: about.name, href: data.back }, 'Check sheet']}>
        <span className="chip">
          <span className="text-soft">spots</span>
          <Select<(typeof COUNTS)[number]>
            quiet
            label="How many spots"
            className="chip-field"
            value={count}
            options={COUNTS.map((each) => [each, String(each)] as const)}
            onValue={setCount}
          />
        </span>
        <Button look="spruce" disabled={!spots || helps === null} onClick={() => window.print()}>
          <Printer size={15} aria-hidden /> Print
        </Button>
      </PageHeader>
      <main className="sheet mx-auto max-w-[52rem] px-6 py-5">
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          <h1 className="text-xl">
            {data.title}, {about.name}
          </h1>
          <p className="text-soft">
            {data.studio} · for {player ? `${player.name}, ${player.size ?? 'usual size'}, ${player.level}` : 'a usual adult, advanced'}
          </p>
        </div>
        {failed && <ProblemNote problem={failed} />}
        {unchecked && <ProblemNote problem={NOT_CHECKED} />}
        {verdict ? (
          <Verdict verdict={verdict} />
        ) : (
          !failed && (
            <p role="status" className="mt-3 text-soft">
              Checking …
            </p>
          )
        )}
        {spots && spots.length === 0 && <p className="mt-4">Nothing passes a threshold for this player at this tempo. Check the music by ear all the same.</p>}
        <ol className="mt-3" aria-label="Spots">
          {spots?.map(({ finding, also }) => (
            <SpotRow
              key={finding.id}
              finding={finding}
              also={also}
              partId={about.id}
              marking={marking}
              part={open?.part ?? null}
              help={helps?.get(finding.id) ?? null}
            />
          ))}
        </ol>
        {spots && all > spots.length && <p className="mt-2 text-soft">{all - spots.length} milder ones are not on this page; the Desk has them all.</p>}
        {open && <ForThePlayer part={open.part} marking={marking} />}
        <p className="mt-3 border-t border-line pt-2 text-soft">
          Arithmetic, not medical advice: no pain, ever; rest at least five minutes in every half hour; numbness, tingling or lasting pain means stop, and see
          teacher and health professional.
        </p>
      </main>
    </div>
  );
}

/** More notes would need a page of their own. */
const NOTES = 8;

/** What the coach has written for the player. */
function ForThePlayer({ part, marking }: { part: Part; marking: Marking }) {
  const notes = useMemo(() => playerNotes(part, marking), [part, marking]);
  if (notes.length === 0) return null;
  return (
    <section aria-label="For the player" className="mt-3 border-t border-line pt-2">
      <h2 className="text-base">For the player</h2>
      <ul>
        {notes.slice(0, NOTES).map((note) => (
          <li key={note.target + note.kind}>{noteLine(note)}</li>
        ))}
      </ul>
      {notes.length > NOTES && <p className="text-soft">{notes.length - NOTES} more are in the part.</p>}
    </section>
  );
}

const NOTHING = () => undefined;

const bpm = (quarters: number, unit: BeatUnit): string => String(Math.round(inBeats(quarters, unit)));

function Verdict({ verdict }: { verdict: TempoVerdict }) {
  const { wanted, unit, floor, ceiling, none, works, otherwise, limitedBy, next, practise } = verdict;
  const others = otherUnits(unit);
  const say = useTerms();
  return (
    <section aria-label="Tempo" className="mt-2 rounded-lg border border-line px-3 py-2">
      <p>
        <strong>
          <Said>{unit.name}</Said> = {bpm(wanted, unit)}{' '}
          {works ? 'works' : none ? 'does not work, nor does any other tempo' : otherwise ? 'does not work as it is planned here' : 'does not work yet'}
        </strong>{' '}
        <span className="text-soft">({others.map((each) => `${say(each.name)} ${bpm(wanted, each)}`).join(', ')})</span>
        {none === 'unplayable' && '; something cannot be played'}
        {none === null && ceiling !== null && `; ${otherwise ? 'with other fingers or bows ' : ''}everything goes up to ${bpm(ceiling, unit)}`}
        {otherwise && ceiling === null && '; with other fingers or bows it does'}
        {none === null && floor !== null && `; the slurs need ${bpm(floor, unit)} at least`}
        {none === 'too slow and too quick' && `; a slur needs ${bpm(floor!, unit)} at least, and something else goes up to ${bpm(ceiling!, unit)} only`}.
        {limitedBy && ` Bar ${limitedBy.bar} decides (${limitedBy.kind}).`}
        {next && ` That solved, bar ${next.bar} would be next at ${bpm(next.tempo, unit)} (${next.kind}).`}
        {practise && ` Practise from ${bpm(practise.from, unit)} to ${bpm(practise.to, unit)}, and climb.`}
      </p>
    </section>
  );
}

function SpotRow({
  finding,
  also,
  partId,
  marking,
  part,
  help,
}: {
  finding: Finding;
  also: SheetSpot['also'];
  partId: string;
  marking: Marking;
  part: Part | null;
  help: TriedRemedy | null;
}) {
  const hear = finding.hear?.[0]?.text ?? finding.hearIt;
  return (
    <li className="spot grid grid-cols-[13rem_1fr] items-center gap-x-4 border-t border-line py-1.5">
      <BarPicture partId={partId} barIndex={finding.barIndex} label={part?.bars[finding.barIndex]?.label ?? finding.bar} marking={marking} />
      <div>
        <p>
          <strong>
            Bar {finding.bar}/{finding.beat}, {finding.kind}
          </strong>{' '}
          <span className={finding.severity > 1 ? 'text-plum' : 'text-soft'}>
            {'◆'.repeat(finding.severity)} {isQuiet(finding) ? 'for the eye' : SEVERITY[finding.severity]}
            {also.length > 0 && `; also ${also.join(', ')}`}
          </span>
        </p>
        <p>
          <Said>{finding.text}</Said>
        </p>
        {hear && (
          <p className="text-spruce">
            <Said>{hear}</Said>
          </p>
        )}
        {help && (
          <p>
            <strong className="font-semibold">Try:</strong> <Said>{help.text}</Said>
            {help.before !== null &&
              help.after !== null &&
              help.kind !== 'marks' &&
              help.kind !== 'tempo' &&
              (help.solved ? ' Solves it.' : ` ${help.before} → ${help.after}.`)}
          </p>
        )}
      </div>
    </li>
  );
}

/** The first remedy of each spot, worst first, one after the other; null until all have been tried. */
function useHelps(analyst: RemoteAnalyst | null, conditions: Conditions, spots: readonly SheetSpot[] | null): ReadonlyMap<string, TriedRemedy> | null {
  const { value } = useAnalysed({
    analyst,
    conditions,
    of: ['helps', spots ? nameOf(spots) : 0],
    wanted: spots !== null,
    ask: async (of, signal) => {
      const helps = new Map<string, TriedRemedy>();
      for (const { finding } of [...spots!].sort((a, b) => b.finding.severity - a.finding.severity)) {
        const [first] = await of.remedies(conditions, finding);
        signal.throwIfAborted();
        if (first) helps.set(finding.id, first);
      }
      return helps;
    },
  });
  return value;
}
