/** bin/omaggio listen: a take against the part. */
import { linesOf } from '../core/instruments/lines';
import { listen } from '../core/listening/listen';
import { readWav } from '../core/listening/wav';
import { slurLinks } from '../core/marking/links';
import { beatOf } from '../core/score/beat';
import { noteById } from '../core/score/find';
import { pitchName } from '../core/score/pitch';
import { clockFor } from '../core/score/time';
import { rounded } from '../core/util/round';
import { bad, good, type Result } from '../core/util/result';
import type { Asked, Outcome } from './commands';

export function listened({ options, range, marking, player }: Asked, edited: Asked['part'], take: Uint8Array | null): Result<Outcome> {
  if (!take) return bad('command line', 'There is no take to listen to.', 'Give it after the part: bin/omaggio listen part.musicxml take.wav');
  const sound = readWav(take);
  if (!sound.ok) return bad(options.take, sound.problem.what, sound.problem.remedy);
  const lines = linesOf(edited);
  const line = lines[Math.min(options.line ?? 0, lines.length - 1)]!;
  const links = slurLinks(edited, line, marking);
  const chosen = line.events
    .map((event, i) => ({ event, slurred: links[i]! }))
    .filter(({ event: { grace, notes } }) => !grace && (range === null || (notes[0]!.barIndex >= range.fromBar && notes[0]!.barIndex <= range.toBar)));
  const heard = listen({
    sound: sound.value,
    events: chosen.map(({ event }) => event),
    slurred: chosen.map(({ slurred }) => slurred),
    kind: player.instrument.kind,
    clock: clockFor(edited, options.tempo),
  });
  if (!heard.ok) return bad(options.take, heard.problem.what, heard.problem.remedy);
  const { notes, tuning, snrDb, matched, restarts } = heard.value;
  const place = (id: string) => {
    const note = noteById(edited, id)!;
    const bar = edited.bars[note.barIndex]!;
    return { bar: bar.label, barIndex: note.barIndex, beat: beatOf(bar, note.tick) };
  };
  return good({
    value: {
      tuning: rounded(tuning, 1),
      snrDb: rounded(snrDb, 1),
      matched: rounded(matched, 3),
      restarts: restarts.map(({ event, atS }) => ({ ...place(notes[event]!.noteIds[0]!), atS: rounded(atS, 2) })),
      notes: notes.map(({ event, noteIds, state, onsetS, endS, cents, isHint, unmeasured }) => ({
        id: noteIds[0]!,
        ...place(noteIds[0]!),
        pitch: chosen[event]!.event.notes.map(({ pitch }) => pitchName(pitch)).join('+'),
        state,
        onsetS: onsetS === null ? null : rounded(onsetS, 3),
        endS: endS === null ? null : rounded(endS, 3),
        cents: cents === null ? null : rounded(cents, 1),
        isHint,
        unmeasured,
      })),
    },
    marked: null,
  });
}
