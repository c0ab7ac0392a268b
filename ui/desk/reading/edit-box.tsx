'use client';

import { Select } from '@/ui/kit/select';
import { ToggleButton } from '@/ui/kit/button';
import { LIMITS } from '@/core/util/limits';
import { LimitHint } from '@/ui/kit/limit';
import { TextField } from '@/ui/kit/text-field';
import { useState } from 'react';
import { DYNAMIC_NAMES } from '@/core/score/dynamics';
import { clefValue, parseClef, STRING_CLEF_NAMES } from '@/core/score/clef';
import { parsePitch, pitchName } from '@/core/score/pitch';
import { WRITABLE_ARTICULATIONS, type Note, type Part } from '@/core/score/score';
import { noteById } from '@/core/score/find';
import type { Change } from '@/core/marking/change';
import { markAt } from '@/core/marking/mark';
import { STRUCK } from '@/core/marking/values';
import { parseTempo } from '@/core/marking/print-edits';
import { placeTarget } from '@/core/marking/target';
import { pitchSigns, placeLabel } from '@/ui/kit/music';
import { useTerms } from '@/ui/kit/terms';
import { BarRows } from './bar-rows';
import { Row } from './row';
import {
  accidentalChanges,
  articulationChanges,
  hairpinChanges,
  halfStep,
  pitchChanges,
  placeChanges,
  respelled,
  slurChanges,
  type EditContext,
} from './edit-changes';

interface Props {
  context: EditContext;
  /** Selected notes in order, as they are with the edits. */
  chosen: readonly Note[];
  /** Where the bars are written without a selection. */
  fromBar: number;
  onWhy(why: string): void;
  onChange(reason: string, changes: readonly Change[]): void;
}

const SIGN_NAMES: ReadonlyArray<[value: 'show' | 'bracket' | typeof STRUCK, label: string]> = [
  ['show', 'show'],
  ['bracket', 'in brackets'],
  [STRUCK, 'none'],
];

const DIVISI: ReadonlyArray<[value: string, label: string]> = [
  ['divided', 'divided'],
  ['together', 'for one'],
];

/** What the rows of the box know: the selection, its first note, and how a change is written. */
interface Editing {
  context: EditContext;
  chosen: readonly Note[];
  first: Note;
  /** The place of the first note. */
  at: string;
  change(what: string, changes: readonly Change[]): void;
}

/** Edits of the text at the selected notes; the bars can be written without any. */
export function EditBox({ context, chosen, fromBar, onWhy, onChange }: Props) {
  const first = chosen[0] ?? null;
  const { print, edited, why } = context;
  const where = first && (chosen.length > 1 ? `${chosen.length} notes from ${placeLabel(print, first).toLowerCase()}` : placeLabel(print, first));
  const editing: Editing | null = first && {
    context,
    chosen,
    first,
    at: placeTarget(first.barIndex, first.tick),
    change: (what, changes) => onChange(`${where}: ${what}`, changes),
  };
  return (
    <section aria-label="Edit the text" className="grid gap-2.5">
      {editing ? (
        <Heading where={where!} print={print} first={editing.first} />
      ) : (
        <p className="text-soft">Select notes to change what is printed: pitch, rhythm, sign, articulation, slur, clef, dynamic, hairpin, tempo or words.</p>
      )}
      {editing && <PitchRow {...editing} />}
      <BarRows edited={edited} first={first} fromBar={fromBar} why={why} />
      {editing && (
        <>
          <NoteRows {...editing} />
          <ClefRow {...editing} />
          <HairpinRow {...editing} />
          <ChordRow {...editing} />
          <PlaceRows {...editing} />
        </>
      )}
      <Row label="Why">
        <input
          className="field grow"
          aria-label="Why it is changed; kept with the next changes"
          placeholder="kept with the next changes"
          maxLength={LIMITS.why}
          value={why}
          onChange={(event) => onWhy(event.target.value)}
        />
        <LimitHint text={why} limit={LIMITS.why} />
      </Row>
    </section>
  );
}

/** Where it is, and what the print has there. */
function Heading({ where, print, first }: { where: string; print: Part; first: Note }) {
  const [was, now] = [(noteById(print, first.id) ?? first).written, first.written];
  const isOther = was.alter !== now.alter || was.step !== now.step || was.octave !== now.octave;
  return (
    <h2 className="text-base">
      {where}
      <span className="font-sans text-[13px] font-normal text-soft">
        {' '}
        · print {pitchSigns(pitchName(was))}
        {isOther ? `, now ${pitchSigns(pitchName(now))}` : ''}
      </span>
    </h2>
  );
}

function PitchRow({ context, chosen, first, change }: Editing) {
  const moved = (what: string, to: Parameters<typeof pitchChanges>[2]) => change(what, pitchChanges(context, chosen, to));
  return (
    <Row label="Pitch">
      <PitchField
        key={`${first.id} ${pitchName(first.written)}`}
        value={pitchName(first.written)}
        onPitch={(text) => {
          const wanted = parsePitch(text);
          if (wanted) moved(`pitch ${pitchSigns(text)}`, () => wanted);
          return wanted !== null;
        }}
      />
      <ToggleButton aria-label="Half a step lower" onClick={() => moved('half a step lower', (now) => halfStep(now, -1))}>
        ½ ↓
      </ToggleButton>
      <ToggleButton aria-label="Half a step higher" onClick={() => moved('half a step higher', (now) => halfStep(now, 1))}>
        ½ ↑
      </ToggleButton>
      <ToggleButton onClick={() => moved('respelled', respelled)}>respell</ToggleButton>
    </Row>
  );
}

/** What stands at the notes themselves: sign, articulation, slur. */
function NoteRows({ context, chosen, first, change }: Editing) {
  const sign = first.accidental === null ? STRUCK : first.accidental.courtesy ? 'bracket' : 'show';
  return (
    <>
      <Row label="Sign">
        {SIGN_NAMES.map(([value, label]) => (
          <ToggleButton key={value} pressed={sign === value} onClick={() => change(`sign ${label}`, accidentalChanges(context, chosen, value))}>
            {label}
          </ToggleButton>
        ))}
      </Row>
      <Row label="Play it">
        {WRITABLE_ARTICULATIONS.map((name) => (
          <ToggleButton
            key={name}
            pressed={chosen.every((note) => note.articulations.includes(name))}
            onClick={() => change(name, articulationChanges(context, chosen, name))}
          >
            {name.replace('-', ' ')}
          </ToggleButton>
        ))}
      </Row>
      <Row label="Slur">
        <ToggleButton disabled={chosen.length < 2} onClick={() => change('one slur', slurChanges(context, chosen, true))}>
          over the selection
        </ToggleButton>
        <ToggleButton onClick={() => change('no slur', slurChanges(context, chosen, false))}>none here</ToggleButton>
      </Row>
    </>
  );
}

function HairpinRow({ context, chosen, first, at, change }: Editing) {
  const { print, edited, marking } = context;
  const hairpin = edited.hairpins.find((each) => each.from === first.onset);
  const isPrinted = print.hairpins.some((each) => each.from === first.onset);
  return (
    <Row label="Hairpin">
      {(['crescendo', 'diminuendo'] as const).map((kind) => (
        <ToggleButton key={kind} pressed={hairpin?.kind === kind} onClick={() => change(kind, hairpinChanges(context, chosen, kind))}>
          {kind}
        </ToggleButton>
      ))}
      <ToggleButton
        disabled={!hairpin && markAt(marking, at, 'hairpin') === undefined}
        onClick={() => change('no hairpin', hairpinChanges(context, chosen, isPrinted ? STRUCK : null))}
      >
        none
      </ToggleButton>
    </Row>
  );
}

function ChordRow({ context, first, at, change }: Editing) {
  if (!context.edited.notes.some((note) => note.inChord)) return null;
  const now = markAt(context.marking, at, 'divisi')?.value;
  return (
    <Row label="Chords">
      {DIVISI.map(([value, label]) => (
        <ToggleButton key={value} pressed={now === value} onClick={() => change(label, placeChanges(context, first, 'divisi', now === value ? null : value))}>
          {label} from here
        </ToggleButton>
      ))}
    </Row>
  );
}

/** What stands at the place: dynamic, tempo, words. */
function PlaceRows({ context, first, at, change }: Editing) {
  const say = useTerms();
  const { print, marking } = context;
  const here = (kind: 'dynamic' | 'tempo' | 'text') => markAt(marking, at, kind)?.value ?? '';
  const printedDynamic = print.dynamics.find((mark) => mark.tick === first.onset)?.text;
  const asPrinted: ReadonlyArray<readonly [string, string]> = [
    ['', `as printed${printedDynamic ? ` (${printedDynamic})` : ''}`],
    ...(printedDynamic ? [[STRUCK, 'struck out'] as const] : []),
  ];
  return (
    <>
      <Row label="Dynamic">
        <Select
          quiet
          label="Dynamic from here"
          value={here('dynamic')}
          options={[...asPrinted, ...DYNAMIC_NAMES.map((name) => [name, name] as const)]}
          onValue={(value) => change(`dynamic ${value}`, placeChanges(context, first, 'dynamic', value || null))}
        />
      </Row>
      <Row label="Tempo">
        <TextField
          key={`tempo ${at} ${here('tempo')}`}
          label={say('Tempo from here, such as Andante, quarter = 72')}
          limit={LIMITS.printedWords}
          placeholder={say('Andante, quarter = 72')}
          value={here('tempo')}
          problem={(text) => (/=/.test(text) && parseTempo(text).perMinute === null ? say('Say it as: quarter = 72') : null)}
          onValue={(text) => change(`tempo ${text}`, placeChanges(context, first, 'tempo', text || null))}
        />
      </Row>
      <Row label="Words">
        <TextField
          key={`text ${at} ${here('text')}`}
          label="Words over this note"
          limit={LIMITS.printedWords}
          placeholder="dolce"
          value={here('text')}
          onValue={(text) => change(text ? `“${text.slice(0, 40)}”` : 'words taken back', placeChanges(context, first, 'text', text || null))}
        />
      </Row>
      <PrintedWords {...{ context, first, at, change }} />
    </>
  );
}

/** The clef from the note on; what is printed elsewhere goes on from there. */
function ClefRow({ context, first, at, change }: Editing) {
  const asked = parseClef(markAt(context.marking, at, 'clef')?.value ?? '');
  const several = context.print.notes.some(({ staff }) => staff > 1);
  return (
    <Row label="Clef">
      <Select
        quiet
        label="Clef from here"
        value={asked?.name ?? ''}
        options={[['', 'as printed'] as const, ...STRING_CLEF_NAMES.map((name) => [name, name] as const)]}
        onValue={(name) => {
          const known = parseClef(name);
          change(`clef ${name || 'as printed'}`, placeChanges(context, first, 'clef', known && clefValue({ ...known, staff: several ? first.staff : 1 })));
        }}
      />
    </Row>
  );
}

function PrintedWords({ context, first, at, change }: Omit<Editing, 'chosen'>) {
  const words = context.print.words.filter((word) => word.tick === first.onset).map((word) => word.text);
  if (words.length === 0) return null;
  const struck = markAt(context.marking, at, 'printed-text') !== undefined;
  return (
    <label className="flex min-h-6 items-center gap-2 text-[13px]">
      <input type="checkbox" checked={struck} onChange={() => change('printed words', placeChanges(context, first, 'printed-text', struck ? null : STRUCK))} />
      strike out the printed “{words.join('”, “')}”
    </label>
  );
}

function PitchField({ value, onPitch }: { value: string; onPitch(text: string): boolean }) {
  const [text, setText] = useState(value);
  const [wrong, setWrong] = useState(false);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        setWrong(!onPitch(text));
      }}
    >
      <input
        aria-label="Written pitch, such as F#4"
        data-takes-keys
        aria-invalid={wrong}
        aria-describedby={wrong ? 'pitch-problem' : undefined}
        className="field w-14"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {wrong && (
        <span id="pitch-problem" role="alert" className="block text-xs text-plum">
          Say it as F#4 or Bb3
        </span>
      )}
    </form>
  );
}
