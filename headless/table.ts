/** The values of bin/omaggio as tables for people. */
import type { z } from 'zod';
import type { bowShape, checkShape, drillShape, fingerShape, listenShape, notesShape, partsShape, planShape, scoreShape } from './shapes';
import type { Answering } from './options';

type Row = ReadonlyArray<string | number>;

export function table(rows: readonly Row[]): string {
  const text = rows.map((row) => row.map(String));
  const widths = (text[0] ?? []).map((_, column) => Math.max(...text.map((row) => row[column]?.length ?? 0)));
  return text
    .map((row) =>
      row
        .map((cell, i) => (i === row.length - 1 ? cell : cell.padEnd(widths[i]!)))
        .join('  ')
        .trimEnd(),
    )
    .join('\n');
}

export function forPeople(command: Answering, value: unknown): string {
  switch (command) {
    case 'parts': {
      const { parts, warnings } = value as z.infer<typeof partsShape>;
      const rows: Row[] = [
        ['id', 'part', 'instrument', 'bars', 'notes', 'voices'],
        ...parts.map((p) => [p.id, p.name, p.instrument ?? '–', p.bars, p.notes, p.voices]),
      ];
      return [table(rows), ...warnings.map((w) => `note: ${w.place}: ${w.text}`)].join('\n');
    }
    case 'notes': {
      const { notes } = value as z.infer<typeof notesShape>;
      return table([['bar', 'beat', 'pitch', 'quarters', 'id'], ...notes.map((n) => [n.bar, n.beat, n.pitch, Math.round(n.duration * 1000) / 1000, n.id])]);
    }
    case 'score':
      return scoreForPeople(value as z.infer<typeof scoreShape>);
    case 'finger': {
      const { alternatives, advice, against, unplayable } = value as z.infer<typeof fingerShape>;
      const ways = alternatives.map(
        (way) =>
          `${way.strategy}: ${way.aim} (${way.total})\n${table([['bar', 'beat', 'pitch', 'string', 'finger', 'position', 'shift'], ...way.notes.map((n) => [n.bar, n.beat, n.pitch, n.string, n.finger, n.position ?? '–', n.shift ? `${n.shift.mm} mm in ${n.shift.gapMs} ms, ${n.shift.heard}` : ''])])}`,
      );
      const said = advice.length ? [advice.map((each) => `bar ${each.bar}, ${each.kind}: ${each.text}`).join('\n')] : [];
      const other = against
        ? [
            [
              `${against.differing.length} notes are fingered otherwise by the other player.`,
              ...against.decisive.map((each) => `bar ${each.bar}: ${each.text}`),
              against.caution,
            ].join('\n'),
          ]
        : [];
      return [...ways, ...said, ...other, ...unplayable.map((u) => `bar ${u.bar}, beat ${u.beat}: ${u.reason}`)].join('\n\n');
    }
    case 'bow': {
      const { alternatives } = value as z.infer<typeof bowShape>;
      return alternatives
        .map(
          (plan) =>
            `${plan.strategy}: ${plan.aim} (${plan.total})\n${table([['bar', 'beat', 'bow', 'from', 'to', 'cm', 'cm/s', ''], ...plan.strokes.map((s) => [s.bar, s.beat, s.direction, s.from.toFixed(2), s.to.toFixed(2), s.cm.toFixed(0), s.cmPerS.toFixed(0), [s.zone, s.retake ? 'retake' : '', s.hooked ? 'hook' : ''].filter(Boolean).join(', ')])])}${plan.changes.map((c) => `\nbar ${c.bar}, beat ${c.beat}: ${c.kind}, ${c.why}`).join('')}`,
        )
        .join('\n\n');
    }
    case 'drill':
      return drillsForPeople(value as z.infer<typeof drillShape>);
    case 'listen':
      return takeForPeople(value as z.infer<typeof listenShape>);
    case 'plan':
      return planForPeople(value as z.infer<typeof planShape>);
    case 'check': {
      const { tempo, passages, findings } = value as z.infer<typeof checkShape>;
      const limit = tempo.limitedBy ? `, limited by ${tempo.limitedBy.kind} in bar ${tempo.limitedBy.bar}` : '';
      const works = tempo.none ? `works at no tempo (${tempo.none})` : `works from ${tempo.floor ?? 'any slow tempo'} to ${tempo.ceiling ?? 'any quick tempo'}`;
      const range = `quarter = ${Math.round(tempo.wanted)} wanted; ${works}${limit}`;
      return [
        range,
        table([['passage', 'bars', 'ceiling'], ...passages.map((p) => [p.name, p.bars, p.tempo.none ?? p.tempo.ceiling ?? '–'])]),
        ...findings.map(
          (f) =>
            `${'!'.repeat(f.severity).padEnd(3)} bar ${f.bar}, beat ${f.beat}: ${f.text}${f.hearIt ? `\n      hear: ${f.hearIt}` : ''}${f.remedies.map((r) => `\n      ${r.solved ? 'solves' : r.kind === 'advice' ? 'advice' : 'eases'}: ${r.text}${r.before !== null && r.after !== null ? ` (${r.before} → ${r.after})` : ''}`).join('')}`,
        ),
      ].join('\n');
    }
  }
}

function scoreForPeople({ groups, tempo, roles, chords, entries, rehearsal }: z.infer<typeof scoreShape>): string {
  const rows = groups.flatMap(({ bars, parts, agreement, left, differences }): Row[] => [
    [bars, left === null ? agreement : `left apart: ${left}`, parts.join(', ')],
    ...differences.map(({ at, text }): Row => ['', at, text]),
  ]);
  const opening = tempo.opening
    ? ` ${tempo.against.length} spots are in the way of ${Math.round(tempo.wanted)}, ${tempo.opening.spots} of ${Math.round(tempo.opening.tempo)}.`
    : '';
  return [
    table([['bars', 'together', ''], ...rows]),
    table([['part', 'bars', 'role', 'sure'], ...roles.map(({ part, bars, role, sure }): Row => [part, bars, role, sure])]),
    table([['at', 'chord'], ...chords.map(({ at, chord }): Row => [at, chord])]),
    table([['at', 'entry', 'silence', 'cue'], ...entries.map(({ at, who, silent, cue }): Row => [at, who, silent, cue])]),
    table([['bars', 'tempo'], ...tempo.sections.map(({ bars, text }): Row => [bars, text])]),
    table([['at', 'who', 'spot', ''], ...rehearsal.spots.map(({ places, who, kind, text }): Row => [places.join(', '), who.join(', '), kind, text])]),
    tempo.text + opening,
  ].join('\n\n');
}

const drillsForPeople = ({ drills }: z.infer<typeof drillShape>): string =>
  drills
    .map(({ kind, name, listenFor, caution, steps }) =>
      [`${name} (${kind}): ${listenFor}`, ...(caution ? [caution] : []), ...steps.map((step) => `  ${step}`)].join('\n'),
    )
    .join('\n\n');

function planForPeople({ days, shortfalls, capped, wanted, caution }: z.infer<typeof planShape>): string {
  const rows = days.flatMap(({ day, warmUp, rests, playThrough, blocks, wholeRuns }): Row[] => [
    [day, ...(warmUp ? ['scale', '', warmUp, ''] : ['', '', '', ''])],
    ...blocks.map(({ passage, bars, minutes, why }): Row => ['', passage, bars, minutes, why]),
    ...(wholeRuns.length ? [['', 'whole runs', '', '', wholeRuns.join(', ')]] : []),
    ...(rests ? [['', 'rest', '', rests, '']] : []),
    ...(playThrough ? [['', 'to play through', '', playThrough, '']] : []),
  ]);
  return [
    `quarter = ${Math.round(wanted)} wanted`,
    ...(caution ? [caution] : []),
    table([['day', 'what', 'bars', 'minutes', 'why'], ...rows]),
    ...capped.map(
      ({ passage, bars, ceiling }) => `${passage}, bars ${bars}: more than ${Math.round(ceiling)} is not in the marking; practice will not mend that.`,
    ),
    ...shortfalls.map(({ passage, bars, text }) => `${passage}, bars ${bars}: ${text}`),
  ].join('\n');
}

/** Worst spots that are told one by one. */
const TOLD = 12;

function takeForPeople({ tuning, snrDb, matched, restarts, notes }: z.infer<typeof listenShape>): string {
  const off = notes.filter(({ cents }) => cents !== null).sort((a, b) => Math.abs(b.cents!) - Math.abs(a.cents!));
  const spots = notes.filter(({ state }) => state !== 'heard');
  return [
    `${notes.length} notes, ${Math.round(matched * 100)} % found; tuned ${tuning} cents from 440 Hz; ${Math.round(snrDb)} dB over the room`,
    ...restarts.map(({ bar, atS }) => `began again at bar ${bar} after ${atS} s`),
    ...spots.map(({ bar, beat, pitch, state, unmeasured }) => `bar ${bar}, beat ${beat}: ${pitch} ${state === 'missed' ? 'not heard' : (unmeasured ?? state)}`),
    table([
      ['bar', 'beat', 'pitch', 'cents', ''],
      ...off.slice(0, TOLD).map((note): Row => [note.bar, note.beat, note.pitch, note.cents!.toFixed(1), note.isHint ? 'not sure' : '']),
    ]),
  ].join('\n');
}
