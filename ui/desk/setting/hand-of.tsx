'use client';

import { asMeasured, HAND_SIZES, handOf, type HandSize } from '@/core/instruments/player';
import type { InstrumentKind } from '@/core/score/score';
import { Select } from '@/ui/kit/select';
import { capital } from '@/ui/kit/words';
import type { HandChange } from '@/ui/part/use-players';
import { useTerms } from '@/ui/kit/terms';
import { useDesk } from '../model/desk';
import { Measured } from './measured';

/** Half steps above the open string at which the thumb may come up. */
const THUMB_FROM = [5, 7, 9, 10, 12];
const THUMB_WORDS: Readonly<Record<number, string>> = { 10: ' (usual)', 12: ' (the octave)' };

function spread(size: HandSize, kind: InstrumentKind): string {
  const { comfortableMm, limitMm } = handOf(size, kind);
  return `${Math.round(comfortableMm[14])} mm, at most ${Math.round(limitMm[14])} mm`;
}

/** The hand of the player that the part is checked for. */
export function HandOf() {
  const { player, changeHand, view } = useDesk();
  const { person } = view;
  if (!player) {
    return (
      <section aria-label="The hand" className="grid content-start gap-2">
        <h2 className="text-base">The hand of a usual adult</h2>
        <p className="text-soft">
          First to fourth finger {Math.round(person.hand.comfortableMm[14])} mm, at most {Math.round(person.hand.limitMm[14])} mm. Choose a player at the top to
          measure a hand and to say how it was taught.
        </p>
      </section>
    );
  }
  const { measured } = player;
  const onHand = (change: HandChange) => changeHand(player.id, change);
  return (
    <section aria-label="The hand" className="grid content-start gap-3">
      <h2 className="text-base">
        The hand of {player.name} <span className="font-sans text-[13px] text-soft">(wherever {player.name} plays)</span>
      </h2>
      <Select<HandSize | 'measured'>
        label="Hand"
        value={measured ? 'measured' : player.hand}
        options={[
          ...HAND_SIZES.map((size) => [size, `${capital(size)}: ${spread(size, player.instrument)} from 1 to 4`] as const),
          ['measured', 'Measured'] as const,
        ]}
        onValue={(size) => onHand(size === 'measured' ? { measured: asMeasured(handOf(player.hand, player.instrument)) } : { hand: size, measured: null })}
      />
      {measured && <Measured key={player.id} measured={measured} lengthMm={person.instrument.lengthMm} onHand={onHand} />}
      <LowInstrument onHand={onHand} />
      <p className="rounded-lg border border-line bg-paper px-3 py-2 text-[13px]">
        Measure without force. No pain, ever: a smaller hand gets another fingering, not a bigger stretch. Numbness, tingling or lasting pain means stop, and
        see a teacher and a health professional.
      </p>
    </section>
  );
}

/** The thumb on cello and bass, and how many fingers the bass has in low positions. */
function LowInstrument({ onHand }: { onHand(change: HandChange): void }) {
  const say = useTerms();
  const { player, view } = useDesk();
  const { kind } = view.instrument;
  if (!player || (kind !== 'cello' && kind !== 'bass')) return null;
  const { technique, thumbPosition } = player;
  return (
    <>
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={thumbPosition} onChange={(event) => onHand({ thumbPosition: event.target.checked })} /> Plays with the thumb on the
        string
      </label>
      {thumbPosition && (
        <Select
          label="The thumb goes on from"
          value={technique?.thumbFrom ?? 10}
          options={THUMB_FROM.map((stop) => [stop, say(`${stop} half steps above the open string${THUMB_WORDS[stop] ?? ''}`)] as const)}
          onValue={(thumbFrom) => onHand({ technique: { thumbFrom } })}
        />
      )}
      {kind === 'bass' && (
        <Select
          label="Low positions"
          value={technique?.bassFingers ?? 'three'}
          options={[
            ['three', 'Three fingers: 1-2-4, a tone in the hand'],
            ['four', 'Four fingers: 1-2-3-4, a minor third in the hand'],
          ]}
          onValue={(bassFingers) => onHand({ technique: { bassFingers } })}
        />
      )}
    </>
  );
}
