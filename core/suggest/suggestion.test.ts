import { firstLine, makeScore } from '../testing/make';
import { clockFor } from '../score/time';
import { usualPlayer } from '../instruments/player';
import { planFingering } from '../left-hand/fingering';
import { markKey } from '../marking/mark';
import { suggestedFingering } from './suggestion';

describe('fingers worth writing', () => {
  const row = (music: string, fingers: string) => {
    const { part } = makeScore('violin', music);
    const asked = { part, line: firstLine(part), player: usualPlayer('violin'), clock: clockFor(part, null) };
    const marking = Object.fromEntries(
      fingers.split(' ').flatMap((said, i) => {
        const [finger, string] = said.split('/') as [string, string];
        const { id } = asked.part.notes[i]!;
        return [
          [markKey(id, 'finger'), { value: finger, origin: 'coach' as const }],
          [markKey(id, 'string'), { value: string, origin: 'coach' as const }],
        ];
      }),
    );
    const way = planFingering({ ...asked, marking, alternatives: 1 }).alternatives[0]!;
    const written = suggestedFingering(way, { part: asked.part, instrument: asked.player.instrument });
    return asked.part.notes.map(({ id }) => written.flatMap((mark) => (mark.target === id ? [mark.mark.value] : [])).join('/')).join(' ');
  };
  test.each([
    ['one finger again for another note', 'B4 C5 C#5 D5', '1/2 2/2 2/2 3/2', '1  2 '],
    ['a fourth finger where the next string is open', 'D5 E5 D5', '3/2 4/2 3/2', '3 4 '],
    ['no fourth finger for an open string that there is not', 'A5 B5 A5', '3/1 4/1 3/1', '3  '],
    ['another string in third position', 'D5 E5 A5 B5', '1/2 2/2 1/1 2/1', '1  1 '],
    ['another string in first position goes without saying', 'B4 C5 F#5 G5', '1/2 2/2 1/1 2/1', '1   '],
    ['a string that is not the usual one has its numeral', 'A4 B4 C5', '2/3 3/3 4/3', '2/3  '],
    ['the fourth finger stretched out', 'B4 F5 B4', '1/2 4/2 1/2', '1 4 '],
    ['a finger that an accidental moves', 'A4 B4 Bb4', '0/2 1/2 1/2', '0  1'],
  ])('%s', (_, music, fingers, expected) => expect(row(music, fingers)).toBe(expected));
});
