/** Which way of playing is in force at a tick, by the words over the staff (English, German, French, Italian, Spanish). */
import type { Part } from './score';

type Turn = { tick: number; on: boolean };
type Worded = Pick<Part, 'words' | 'plucked'>;

/** A switch that words turn on and off. */
function turnsOf(words: Part['words'], on: RegExp, off: RegExp): Turn[] {
  return words.flatMap(({ tick, text }): Turn[] => (off.test(text) ? [{ tick, on: false }] : on.test(text) ? [{ tick, on: true }] : []));
}

function switchAt(turns: readonly Turn[]): (tick: number) => boolean {
  const inOrder = [...turns].sort((a, b) => a.tick - b.tick);
  return (tick) => {
    let state = false;
    for (const turn of inOrder) {
      if (turn.tick > tick) break;
      state = turn.on;
    }
    return state;
  };
}

/** Plucked: by the words, and by what the file says for sound only. */
export function pizzicatoAt(part: Worded): (tick: number) => boolean {
  return switchAt([...turnsOf(part.words, /\bpizz|\bgezupft|\bpincé/i, /\b(c\.|col) ?arco|\barco\b|\bm\. ?bogen|\bgestrichen|\barchet/i), ...part.plucked]);
}

export function spiccatoAt(part: Worded): (tick: number) => boolean {
  return switchAt(turnsOf(part.words, /\b(spicc|saltando|sautill|springbogen)/i, /\b(legato|sost|cantabile|ord\.|détaché|arco|pizz|sul)/i));
}

/** With the mute on. */
export function mutedAt(part: Worded): (tick: number) => boolean {
  return switchAt(
    turnsOf(
      part.words,
      /\bcon sord|\bmit dämpfer|\b(avec|mettez les?) (la )?sourdines?|\bmute[sd]? ?on\b|\bmuted\b/i,
      /\b(senza|via|sans|ohne) (la )?(sord|dämpfer|sourdine)|\bsord[^ ]* via|\bmutes? off\b|\bdämpfer (ab|weg)|(?:^|\s)(ôtez|enlevez) les? sourdines?/i,
    ),
  );
}
