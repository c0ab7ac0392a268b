'use client';

import { Button } from '@/ui/kit/button';
import { chordPlan } from '@/core/bow-arm/chords';
import type { Stroke } from '@/core/bow-arm/describe';
import { timesAsFast } from '@/core/bow-arm/reasons';
import { soundRecipe } from '@/core/bow-arm/sound';
import { stringName } from '@/core/instruments/instrument';
import { CHORD_WAYS, type ChordWay } from '@/core/marking/values';
import { noteById } from '@/core/score/find';
import { NotAnswered } from '@/ui/kit/not-answered';
import { capital, costsAndGains } from '@/ui/kit/words';
import { deskDeeds } from '../model/deeds';
import { KeyHint } from '../key-hint';
import { useDesk } from '../model/desk';
import { useBowOfPassage, useBowPanel, type BowPanel } from '../model/use-bow-panel';
import { BowWishes } from './bow-wishes';
import { Card, Numbers } from './choice-card';
import { SoundPicture } from './sound-picture';

/** Everything the bow could do at the selected note, what is wished of it, and how it is made to sound. */
export function BowChoices() {
  const { choices, view } = useDesk();
  const { open } = view;
  const bow = useBowPanel();
  const items = choices.ofBow?.items ?? [];
  const stroke = bow.stroke;
  return (
    <section aria-label="Ways to bow this note" className="grid gap-2">
      {stroke ? <StrokeNow stroke={stroke} /> : <p className="text-soft">Nothing is bowed here.</p>}
      {bow.phrase && <PhraseQuestion {...bow} />}
      {stroke?.kind === 'chord' && open && (
        <Chord {...bow} stroke={stroke} notes={stroke.noteIds.filter((id) => noteById(open.part, id)?.onset === stroke.onset).length} />
      )}
      {items.map((choice, i) => (
        <Card key={choice.name} index={i} title={choice.name} taken={i === 0 && 'now'}>
          {i > 0 && (
            <p className="text-[13px] text-soft">
              {choice.aim && `${capital(choice.aim)}. `}
              {costsAndGains(choice.more, choice.less)}
              {Math.abs(choice.extra) < 0.15 ? ' Hardly any difference.' : ''}
              {choice.turned > 1 ? ` ${choice.turned} strokes go the other way.` : ''}
              {choice.feasible ? '' : ' Somewhere the bow or the time is too short then.'}
            </p>
          )}
        </Card>
      ))}
      <BowWishes {...bow} />
      <OfPassage onHemiola={bow.onHemiola} />
    </section>
  );
}

function StrokeNow({ stroke }: { stroke: Stroke }) {
  const { report } = useDesk();
  const open = new Set(report?.fingering?.notes.filter(({ place }) => place.finger === 0).map(({ id }) => id));
  const recipe = soundRecipe(
    stroke,
    stroke.noteIds.every((id) => open.has(id)),
  );
  const ratio = 10 ** (stroke.stepDb / 20);
  const step = ratio > 1.15 || ratio < 0.87 ? timesAsFast(ratio) : '';
  return (
    <div className="rounded-xl border border-line px-3 py-2">
      <Numbers
        rows={[
          [`${stroke.direction}-bow`, stroke.zone, `${Math.round(stroke.from * 100)} to ${Math.round(stroke.to * 100)} %`],
          ['length', `${stroke.cm.toFixed(0)} cm`, `wants ${stroke.preferredCm.toFixed(0)} cm`],
          ['speed', `${stroke.cmPerS.toFixed(0)} cm/s`, step],
          ['contact', recipe.lane, ''],
          ['weight', recipe.weightWords, ''],
          ['vibrato', recipe.vibrato.words, ''],
        ]}
      />
      <SoundPicture recipe={recipe} />
      {recipe.missingDb < 0 && (
        <p className="text-[13px] font-semibold text-plum">{stroke.level} is not to be had with this little bow, even as near the bridge as it goes.</p>
      )}
    </div>
  );
}

function PhraseQuestion({ phrase, onWish }: BowPanel) {
  return (
    <div className="rounded-xl border border-rosin bg-rosin-pale px-3 py-2 text-[13px]">
      <p>This slur is longer than any bow. It is taken for a phrase over {phrase!.bows} bows.</p>
      <span className="mt-1 flex gap-2">
        <Button onClick={() => onWish('slur-is', 'phrase', phrase!.from)}>A phrase</Button>
        <Button onClick={() => onWish('slur-is', 'bow', phrase!.from)}>One bow</Button>
      </span>
    </div>
  );
}

function Chord({ stroke, notes, chordWay, onWish }: Omit<BowPanel, 'stroke'> & { stroke: Stroke; notes: number }) {
  return (
    <fieldset className="rounded-xl border border-line px-3 py-2 text-[13px]">
      <legend className="px-1 font-bold">Chord</legend>
      {CHORD_WAYS.map((way: ChordWay) => {
        const plan = chordPlan(notes, stroke.seconds, stroke.cm, way);
        return (
          <label key={way} className="flex min-h-6 items-start gap-2">
            <input type="radio" name="chord" className="mt-1" checked={chordWay === way} onChange={() => onWish('chord-way', way)} />
            <span>
              <strong>{way}</strong>: {plan.words}
              {plan.delayCm > 0.5 ? `, ${plan.delayCm.toFixed(0)} cm of bow before the top` : ''}
            </span>
          </label>
        );
      })}
      <p className="mt-1 text-xs text-soft">Never forced: the weight of the arm, not pressure.</p>
    </fieldset>
  );
}

/** Figures about the whole passage: the strings alone, and three over two. */
function OfPassage({ onHemiola }: Pick<BowPanel, 'onHemiola'>) {
  const desk = useDesk();
  const { view, passage } = desk;
  const { open, instrument } = view;
  const { value, problem, retry } = useBowOfPassage();
  if (problem) return <NotAnswered problem={problem} onRetry={retry} />;
  if (!value) return null;
  const { hemiolas, openStrings } = value;
  const names = openStrings.map(({ strings }) => strings.map((string) => stringName(instrument, string)).join('+'));
  const label = (barIndex: number) => open?.part.bars[barIndex]?.label ?? '';
  return (
    <div className="grid gap-2 border-t border-line pt-2 text-[13px]">
      {hemiolas.map((hemiola) => {
        const note = open && noteById(open.part, hemiola.noteIds[0]);
        return (
          note && (
            <div key={hemiola.barIndex} className="rounded-xl border border-line px-3 py-2">
              <p>
                <strong>
                  Three over two in bars {label(hemiola.barIndex)}–{label(hemiola.barIndex + 1)}
                </strong>
                : {hemiola.because}.
              </p>
              <Button className="mt-1" onClick={() => onHemiola(hemiola)}>
                Down-bow, accents on every second beat
              </Button>
            </div>
          )
        );
      })}
      {names.length > 0 && (
        <details>
          <summary className="min-h-6 cursor-pointer font-semibold">{passage.name} on the open strings</summary>
          <p className="leading-6 break-words">{names.join(' ')}</p>
          <Button small className="my-1" onClick={deskDeeds(desk).openStrings}>
            {desk.onStrings ? 'Back to the fingers' : 'See and hear it'} <KeyHint name="o" />
          </Button>
          <p className="text-xs text-soft">The same strokes without the left hand: keep the elbow near the next string, rock instead of swinging.</p>
        </details>
      )}
    </div>
  );
}
