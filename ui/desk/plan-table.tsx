/** The tracks as a table, for those who cannot see them and for those who want the figures. */
import { beatOf } from '@/core/score/beat';
import { fingerName } from '@/core/instruments/player';
import { stringName, type Instrument } from '@/core/instruments/instrument';
import type { FingeredNote } from '@/core/left-hand/fingering';
import type { Stroke } from '@/core/bow-arm/describe';
import type { NoteRisk } from '@/core/checks/context';
import { noteById } from '@/core/score/find';
import type { BarRange } from '@/core/score/bars';
import type { OpenPart } from '@/workers/questions';
import { pitchLabel } from '@/ui/kit/music';

interface Props {
  open: OpenPart;
  /** Only these bars. */
  range: BarRange;
  instrument: Instrument;
  plan: {
    notes: readonly FingeredNote[];
    strokes: readonly Stroke[];
    risks: readonly NoteRisk[];
    fingersMarked: ReadonlySet<string>;
  };
}

export function PlanTable({ open: { part }, range, instrument, plan }: Props) {
  const { notes, strokes, risks, fingersMarked: marked } = plan;
  const inRange = ({ id }: FingeredNote) => {
    const bar = noteById(part, id)?.barIndex ?? -1;
    return bar >= range.fromBar && bar <= range.toBar;
  };
  const strokeAt = new Map(strokes.map((stroke) => [stroke.noteIds[0]!, stroke]));
  const riskAt = new Map(risks.map((risk) => [risk.noteId, risk]));
  return (
    <div className="overflow-x-auto rounded-xl border border-line bg-sheet p-3">
      <table className="w-full text-left text-[13px]">
        <caption className="sr-only">Fingering, bowing and risk of the passage, note by note</caption>
        <thead className="text-soft">
          <tr>
            {['bar', 'beat', 'note', 'finger', 'string', 'position', 'shift', 'bow', 'from–to', 'cm', 'out of tune'].map((name) => (
              <th key={name} scope="col" className="px-2 py-1 font-semibold">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {notes.filter(inRange).map((fingered) => {
            const note = noteById(part, fingered.id)!;
            const bar = part.bars[note.barIndex]!;
            const stroke = strokeAt.get(note.id);
            const risk = riskAt.get(note.id);
            const { place, shift } = fingered;
            return (
              <tr key={fingered.id} className="border-t border-line">
                <td className="px-2">{bar.label}</td>
                <td className="px-2">{Math.round(beatOf(bar, note.tick) * 100) / 100}</td>
                <td className="px-2">{pitchLabel(note.pitch)}</td>
                <td className="px-2 font-semibold">
                  {fingerName(place.finger)}
                  {marked.has(note.id) ? ' marked' : ''}
                </td>
                <td className="px-2">{stringName(instrument, place.string)}</td>
                <td className="px-2">{place.position ?? ''}</td>
                <td className="px-2">{shift && shift.mm >= 1 ? `${Math.round(shift.mm)} mm in ${(shift.gapMs / 1000).toFixed(2)} s` : ''}</td>
                <td className="px-2">{stroke ? `${stroke.direction}${stroke.retake ? ', retake' : ''}${stroke.hooked ? ', hook' : ''}` : ''}</td>
                <td className="px-2">{stroke ? `${stroke.from.toFixed(2)}–${stroke.to.toFixed(2)}` : ''}</td>
                <td className="px-2">{stroke ? stroke.cm.toFixed(0) : ''}</td>
                <td className="px-2">{risk && risk.chance >= 0.005 ? `${Math.round(risk.chance * 100)} %` : ''}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
