/** Findings of ornaments: trills that do not fit in their time at this level. */
import { slurLinks } from '../marking/links';
import { momentsOf } from '../left-hand/moments';
import { TRILL_NOTES_PER_S, trillCeiling, trillPlan } from '../left-hand/ornaments';
import type { LineContext } from './check';
import type { Finding, TempoLimit } from './finding';
import { severityOf, TRILL_LOAD_FROM } from './tables';
import { trillText } from './words';

export function ornamentFindings(context: LineContext): { findings: Finding[]; limits: TempoLimit[] } {
  const { part, line, player, clock, marking } = context;
  const moments = momentsOf(line, clock, slurLinks(part, line, marking));
  const notesPerS = TRILL_NOTES_PER_S[player.level];
  const findings: Finding[] = [];
  const limits: TempoLimit[] = [];
  line.events.forEach((event, i) => {
    const note = event.notes.find((each) => each.trill || each.ornaments.some((ornament) => ornament.kind === 'trill'));
    if (!note || !context.isNew(note.id)) return;
    const moment = moments[i]!;
    // Two notes written out before the next one are the ending, and take their time from the trill as well.
    const after = line.events.slice(i + 1, i + 3);
    const ending = after.length === 2 && after.every((next) => next.grace);
    const seconds = (ending ? moments[i + 2]!.endS : moment.endS) - moment.onsetS;
    const question = { seconds, notesPerS, begins: 'main' as const, ending };
    const plan = trillPlan(question);
    const ceiling = trillCeiling(clock.tempo, question);
    const place = context.place(note);
    limits.push({ tempo: ceiling, kind: 'trill too quick', barIndex: place.barIndex, beat: place.beat, noteIds: [note.id] });
    const severity = plan.fits ? 0 : severityOf(plan.perS / notesPerS, TRILL_LOAD_FROM);
    if (!severity) return;
    findings.push({
      id: `trill too quick ${note.id}`,
      kind: 'trill too quick',
      ...place,
      noteIds: [note.id],
      severity,
      numbers: { seconds: round(seconds), notes: plan.notes, notesPerS: round(plan.perS), playerNotesPerS: notesPerS, written: plan.written },
      text: trillText(plan.notes, seconds, plan.perS, notesPerS),
      hearIt: null,
      remedies: [
        { text: `In time at quarter = ${Math.floor(ceiling)} or slower.`, before: Math.round(clock.tempo), after: Math.floor(ceiling) },
        {
          text: ending ? 'Leave the ending out, or play a mordent of three notes.' : 'Play it as an appoggiatura, or leave it out.',
          before: plan.notes,
          after: ending ? 3 : 1,
        },
      ],
    });
  });
  return { findings, limits };
}

const round = (value: number): number => Math.round(value * 100) / 100;
