/**
 * What most files write into one part only and all players need: letters, tempi, words about the tempo (`core/score/time-line.ts`).
 * A part that lies alone on the stand has them engraved.
 */
import { beatUnitOf } from '../../score/beat-unit';
import { barIndexAt, type Part } from '../../score/score';
import { TICKS_PER_QUARTER } from '../../score/ticks';
import { rounded } from '../../util/round';
import { child, childText, escapeXml, type XmlElement } from '../raw/xml';
import type { TextEdit } from './edits';

/** Directions that other parts of the score print, by the bar in front of whose first note they are put. */
export function saidOnce(measures: readonly XmlElement[], part: Part): Map<number, TextEdit> {
  const found = new Map<number, TextEdit>();
  let divisions = 1;
  measures.forEach((measure, i) => {
    divisions = divisionsIn(measure) ?? divisions;
    const text = ofBar(measure, part, i, divisions);
    const note = measure.children.find(({ name }) => name === 'note');
    if (text !== '' && note) found.set(i, { start: note.start, end: note.start, text });
  });
  return found;
}

function divisionsIn(measure: XmlElement): number | null {
  const said = measure.children.filter(({ name }) => name === 'attributes').map((attributes) => Number(childText(attributes, 'divisions')));
  return said.findLast((value) => value > 0) ?? null;
}

function ofBar(measure: XmlElement, part: Part, index: number, divisions: number): string {
  const bar = part.bars[index];
  if (!bar) return '';
  const isHere = ({ tick }: { tick: number }): boolean => barIndexAt(part.bars, tick) === index && tick >= bar.onset;
  const words = part.words.filter((mark) => mark.source === undefined && isHere(mark));
  const tempi = part.tempi.filter((mark) => mark.source === undefined && !mark.carried && mark.printed !== null && isHere(mark));
  const ticks = [...new Set([...words, ...tempi].map(({ tick }) => tick))].sort((a, b) => a - b);
  const unit = beatUnitOf(bar);
  const said = ticks.map((tick) => {
    const types = [
      ...words.filter((mark) => mark.tick === tick).map(({ text }) => `<words font-weight="bold">${escapeXml(text)}</words>`),
      ...tempi
        .filter((mark) => mark.tick === tick)
        .map(
          ({ quartersPerMinute }) =>
            `<metronome><beat-unit>${escapeXml(unit.name.replace('dotted ', '').replace('sixteenth', '16th'))}</beat-unit>${unit.name.startsWith('dotted') ? '<beat-unit-dot/>' : ''}<per-minute>${rounded(quartersPerMinute / unit.quarters, 0)}</per-minute></metronome>`,
        ),
    ];
    const offset = Math.round(((tick - bar.onset) / TICKS_PER_QUARTER) * divisions);
    return direction(types, offset);
  });
  const ownLetter = measure.children.some((element) => element.name === 'direction' && element.children.some((type) => child(type, 'rehearsal')));
  const letter = bar.rehearsal !== null && !ownLetter ? direction([`<rehearsal>${escapeXml(bar.rehearsal)}</rehearsal>`], 0) : '';
  return letter + said.join('');
}

const direction = (types: readonly string[], offset: number): string =>
  `<direction placement="above">${types.map((type) => `<direction-type>${type}</direction-type>`).join('')}${offset > 0 ? `<offset>${offset}</offset>` : ''}</direction>`;
