/** Findings of ornaments: trills, turns and mordents that do not fit in their time at this level. */
import { rounded } from '../util/round';
import { slurLinks } from '../marking/links';
import type { Note } from '../score/score';
import type { LineEvent } from '../instruments/lines';
import { fingerName } from '../instruments/player';
import type { Fingering } from '../left-hand/fingering';
import { momentsOf } from '../left-hand/moments';
import { figureCeiling, figurePlan, TRILL_NOTES_PER_S, trillCeiling, trillFingers, trillPlan, type OrnamentFigure } from '../left-hand/ornaments';
import { isTrilled, upperStep } from '../left-hand/trill';
import { USUAL_PREFERENCES } from '../left-hand/preferences';
import type { LineContext } from './context';
import type { Finding, TempoLimit } from './finding';
import { severityOf, TRILL_LOAD_FROM } from './tables';
import { inTime, shorterTrill, simplerFigure } from './remedy-words';
import { trillText, turnText } from './words';

interface Found {
  findings: Finding[];
  limits: TempoLimit[];
}

export function ornamentFindings(fingering: Fingering | null, context: LineContext): Found {
  const { part, line, clock, marking } = context;
  const moments = momentsOf(part, line, clock, slurLinks(part, line, marking));
  const found: Found = { findings: [], limits: [] };
  const fingers = new Map(fingering?.notes.map(({ id, place }) => [id, place.finger]));
  line.events.forEach((event, i) => {
    const trilled = event.notes.find(isTrilled);
    if (trilled && context.isNew(trilled.id)) {
      // Two notes written out before the next one are the ending, and take their time from the trill as well.
      const after = line.events.slice(i + 1, i + 3);
      const ending = after.length === 2 && after.every((next) => next.grace);
      const seconds = (ending ? moments[i + 2]!.endS : moments[i]!.endS) - moments[i]!.onsetS;
      trillFinding(trilled, fingers.get(trilled.id) ?? null, seconds, ending, context, found);
    }
    const turned = figureOf(event);
    if (turned && context.isNew(turned.note.id)) figureFinding(turned.note, turned.figure, turned.name, moments[i]!.endS - moments[i]!.onsetS, context, found);
  });
  return found;
}

function trillFinding(note: Note, finger: number | null, seconds: number, ending: boolean, context: LineContext, { findings, limits }: Found): void {
  const { part, player, clock, preferences = USUAL_PREFERENCES } = context;
  const notesPerS = TRILL_NOTES_PER_S[player.level];
  const question = { seconds, notesPerS, begins: preferences.trillBegins, ending };
  const plan = trillPlan(question);
  const ceiling = trillCeiling(clock.tempo, question);
  const place = context.place(note);
  limits.push({ tempo: ceiling, kind: 'trill too quick', barIndex: place.barIndex, beat: place.beat, noteIds: [note.id] });
  const severity = plan.fits ? 0 : severityOf(plan.perS / notesPerS, TRILL_LOAD_FROM);
  if (!severity) return;
  const pair = finger === null ? null : trillFingers(finger, upperStep(note, part.bars[note.barIndex]!), preferences.halfStepTrill);
  findings.push({
    id: `trill too quick ${note.id}`,
    kind: 'trill too quick',
    ...place,
    noteIds: [note.id],
    severity,
    numbers: {
      seconds: round(seconds),
      notes: plan.notes,
      notesPerS: round(plan.perS),
      playerNotesPerS: notesPerS,
      written: plan.written,
      ...(pair ? { fingers: `${fingerName(pair.main)}-${fingerName(pair.upper)}` } : {}),
    },
    judged: { by: round(plan.perS / notesPerS), from: TRILL_LOAD_FROM },
    text: trillText(plan.notes, seconds, plan.perS, notesPerS),
    hearIt: null,
    remedies: [
      slower(clock.tempo, ceiling),
      {
        text: shorterTrill(ending),
        before: plan.notes,
        after: ending ? 3 : 1,
      },
    ],
  });
}

function figureOf(event: LineEvent): { note: Note; figure: OrnamentFigure; name: string } | null {
  for (const note of event.notes) {
    for (const { kind } of note.ornaments) {
      if (kind.includes('turn')) return { note, figure: 'turn', name: 'turn' };
      if (kind.includes('mordent')) return { note, figure: 'mordent', name: 'mordent' };
    }
  }
  return null;
}

function figureFinding(note: Note, figure: OrnamentFigure, name: string, seconds: number, context: LineContext, { findings, limits }: Found): void {
  const { player, clock } = context;
  const notesPerS = TRILL_NOTES_PER_S[player.level];
  const plan = figurePlan(figure, seconds, notesPerS);
  const ceiling = figureCeiling(figure, clock.tempo, seconds, notesPerS);
  const place = context.place(note);
  limits.push({ tempo: ceiling, kind: 'ornament too quick', barIndex: place.barIndex, beat: place.beat, noteIds: [note.id] });
  const severity = plan.fits ? 0 : severityOf(plan.needed / plan.figure, TRILL_LOAD_FROM);
  if (!severity) return;
  findings.push({
    id: `ornament too quick ${note.id}`,
    kind: 'ornament too quick',
    ...place,
    noteIds: [note.id],
    severity,
    numbers: { ornament: name, seconds: round(seconds), neededS: round(plan.needed), mainS: round(plan.main), playerNotesPerS: notesPerS },
    judged: { by: round(plan.needed / plan.figure), from: TRILL_LOAD_FROM },
    text: turnText(name, seconds, plan.needed),
    hearIt: null,
    remedies: [slower(clock.tempo, ceiling), { text: simplerFigure(figure === 'turn'), before: 4, after: figure === 'turn' ? 2 : 0 }],
  });
}

const slower = (tempo: number, ceiling: number) => ({
  text: inTime(ceiling),
  before: Math.round(tempo),
  after: Math.floor(ceiling),
  tempo: Math.floor(ceiling),
});

const round = (value: number): number => rounded(value, 2);
