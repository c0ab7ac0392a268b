/**
 * Which frame of a take belongs to which note: the best way through the score (Viterbi 1967). A note may sound, be silent behind, or have
 * another pitch in its place; it may be left out; and one may go back to the beginning of a bar.
 */
import { FOLLOWING } from './tables';

export interface Expected {
  /** Which of the pitches; several for a double stop. */
  pitches: readonly number[];
  /** Frames that it should last, at the tempo of the take. */
  frames: number;
  /** Frames of rest behind it. */
  rest: number;
  barIndex: number;
  /** The same pitch as the note before. */
  again: boolean;
  /** Under the bow of the note before. */
  slurred: boolean;
}

export interface Observed {
  count: number;
  /** By pitch and frame, 0 to 1. */
  saliences: readonly Float64Array[];
  /** Whether anything sounds. */
  sounds: Uint8Array;
  /** How much of an attack is there, 0 to 1. */
  attacks: Float64Array;
}

/** Of each frame the note, and what it is of it; -1 before the first. */
export interface Followed {
  note: Int32Array;
  what: Uint8Array;
}

export const SOUND = 0;
export const SILENCE = 1;
export const OTHER = 2;
const STATES = 3;

/** @returns null where there is nothing to follow */
export function follow(notes: readonly Expected[], observed: Observed): Followed | null {
  const { count, saliences, sounds, attacks } = observed;
  const n = notes.length;
  if (n === 0 || count === 0) return null;
  const size = n * STATES;
  const back = new Int32Array(count * size);
  let now = new Float64Array(size).fill(-Infinity);
  let next = new Float64Array(size);
  const stays = notes.map(({ frames }) => Math.log(1 - 1 / Math.max(2, frames)));
  const leaves = notes.map(({ frames }) => Math.log(1 / Math.max(2, frames)));
  // A silence that is longer than the rest that stands there is likelier behind a note that has one.
  const rests = notes.map(({ rest }) => Math.log(1 - 1 / Math.max(FOLLOWING.gap, rest)));
  const jumps = new Jumps(notes);
  const fits = new Float64Array(n);
  for (let frame = 0; frame < count; frame++) {
    for (let i = 0; i < n; i++) {
      let worst = 1;
      for (const pitch of notes[i]!.pitches) worst = Math.min(worst, saliences[pitch]![frame]!);
      fits[i] = worst;
    }
    const isSounding = sounds[frame] === 1;
    const attack = attacks[frame]!;
    if (frame > 0) jumps.look(now);
    for (let i = 0; i < n; i++) {
      const sound = isSounding ? -FOLLOWING.wrong * Math.min(1, (1 - fits[i]!) / FOLLOWING.far) : -FOLLOWING.silent;
      const silence = isSounding ? -FOLLOWING.silent : 0;
      const other = isSounding ? -FOLLOWING.wrong * FOLLOWING.otherShare : -FOLLOWING.silent;
      let best = -Infinity;
      let from = -1;
      const offer = (value: number, state: number) => {
        if (value > best) [best, from] = [value, state];
      };
      const at = i * STATES;
      if (frame === 0) {
        // A take may begin anywhere; where the music begins is likeliest.
        best = i === 0 ? 0 : -FOLLOWING.jump;
        next[at + SOUND] = best + sound;
        next[at + SILENCE] = (i === 0 ? 0 : -Infinity) + silence;
        next[at + OTHER] = -Infinity;
        back[at] = back[at + 1] = back[at + 2] = -1;
        continue;
      }
      const enter = notes[i]!.again ? (notes[i]!.slurred ? 0 : FOLLOWING.attack * attack - FOLLOWING.noAttack * (1 - attack)) : notes[i]!.slurred ? 0 : attack;
      offer(now[at + SOUND]! + stays[i]!, at + SOUND);
      if (i > 0) {
        const before = at - STATES;
        offer(now[before + SOUND]! + leaves[i - 1]! + enter, before + SOUND);
        offer(now[before + SILENCE]! + leaves[i - 1]!, before + SILENCE);
        offer(now[before + OTHER]! + leaves[i - 1]!, before + OTHER);
      } else offer(now[SILENCE]!, SILENCE);
      if (i > 1) {
        const two = at - 2 * STATES;
        offer(now[two + SOUND]! + leaves[i - 2]! - FOLLOWING.skip, two + SOUND);
        offer(now[two + SILENCE]! + leaves[i - 2]! - FOLLOWING.skip, two + SILENCE);
      }
      const jumped = jumps.into(i);
      if (jumped) offer(jumped.value, jumped.state);
      next[at + SOUND] = best + sound;
      back[frame * size + at + SOUND] = from;

      const [still, stopped] = [now[at + SILENCE]! + rests[i]!, now[at + SOUND]! + leaves[i]!];
      next[at + SILENCE] = Math.max(still, stopped) + silence;
      back[frame * size + at + SILENCE] = still >= stopped ? at + SILENCE : at + SOUND;

      best = now[at + OTHER]! + stays[i]!;
      from = at + OTHER;
      if (i > 0) {
        offer(now[at - STATES + SOUND]! + leaves[i - 1]! - FOLLOWING.other, at - STATES + SOUND);
        offer(now[at - STATES + SILENCE]! + leaves[i - 1]! - FOLLOWING.other, at - STATES + SILENCE);
        offer(now[at - STATES + OTHER]! + leaves[i - 1]! - FOLLOWING.other, at - STATES + OTHER);
      }
      next[at + OTHER] = best + other;
      back[frame * size + at + OTHER] = from;
    }
    [now, next] = [next, now];
  }
  return backwards(now, back, count, size);
}

function backwards(last: Float64Array, back: Int32Array, count: number, size: number): Followed {
  let state = 0;
  for (let s = 1; s < size; s++) if (last[s]! > last[state]!) state = s;
  const note = new Int32Array(count);
  const what = new Uint8Array(count);
  for (let frame = count - 1; frame >= 0; frame--) {
    note[frame] = Math.floor(state / STATES);
    what[frame] = state % STATES;
    const from = back[frame * size + state]!;
    if (from < 0) {
      // Silence before the first note belongs to none.
      for (let earlier = frame; earlier >= 0 && what[earlier] === SILENCE; earlier--) note[earlier] = -1;
      break;
    }
    state = from;
  }
  let frame = 0;
  while (frame < count && what[frame] === SILENCE && note[frame] === 0) note[frame++] = -1;
  return { note, what };
}

/** From anywhere to the beginning of a bar, dearer the farther. */
class Jumps {
  private readonly bars: number[];
  private readonly firstOf = new Map<number, number>();
  private readonly barOf: number[];
  private readonly best: Float64Array;
  private readonly state: Int32Array;

  constructor(notes: readonly Expected[]) {
    this.bars = [...new Set(notes.map(({ barIndex }) => barIndex))].sort((a, b) => a - b);
    this.barOf = notes.map(({ barIndex }) => this.bars.indexOf(barIndex));
    notes.forEach((_, i) => {
      if (i === 0 || this.barOf[i] !== this.barOf[i - 1]) this.firstOf.set(i, this.barOf[i]!);
    });
    this.best = new Float64Array(this.bars.length);
    this.state = new Int32Array(this.bars.length);
  }

  look(now: Float64Array): void {
    this.best.fill(-Infinity);
    for (let i = 0; i < this.barOf.length; i++)
      for (const what of [SOUND, SILENCE, OTHER]) {
        const bar = this.barOf[i]!;
        const value = now[i * STATES + what]!;
        if (value > this.best[bar]!) [this.best[bar], this.state[bar]] = [value, i * STATES + what];
      }
    const spread = (to: number, from: number) => {
      const value = this.best[from]! - FOLLOWING.jumpBar;
      if (value > this.best[to]!) [this.best[to], this.state[to]] = [value, this.state[from]!];
    };
    for (let bar = 1; bar < this.bars.length; bar++) spread(bar, bar - 1);
    for (let bar = this.bars.length - 2; bar >= 0; bar--) spread(bar, bar + 1);
  }

  into(note: number): { value: number; state: number } | null {
    const bar = this.firstOf.get(note);
    return bar === undefined ? null : { value: this.best[bar]! - FOLLOWING.jump, state: this.state[bar]! };
  }
}
