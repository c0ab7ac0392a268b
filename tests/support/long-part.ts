/** A part of any length, made of the demo's first violin over and over, for measuring. */
import { demoText } from './demo';

export function longPart(bars: number, title = 'Long Part'): string {
  const text = demoText('mill-race-serenade');
  const part = /<part id="P1">([\s\S]*?)<\/part>/.exec(text)![1]!;
  const measures = part.match(/<measure[\s\S]*?<\/measure>/g)!.slice(1);
  const attributes = /<attributes>[\s\S]*?<\/attributes>/.exec(part)![0];
  const rows = Array.from({ length: bars }, (_, i) => {
    const measure = measures[i % measures.length]!.replace(/<measure number="\d+"/, `<measure number="${i + 1}"`);
    const letters = measure.replace(
      /<rehearsal>(\w)<\/rehearsal>/,
      (_all, letter: string) => `<rehearsal>${letter}${Math.floor(i / measures.length) || ''}</rehearsal>`,
    );
    const restart = i % measures.length === 0 ? letters.replace(/(<measure[^>]*>)/, `$1${attributes}`) : letters;
    // Plucked once, it would be plucked for good.
    return restart
      .replace(/>pizz\.</, '>arco<')
      .replace(/<tie type="(stop|start)"\/>|<tied type="(stop|start)"\/>/g, '')
      .replace(/light-heavy/g, 'light-light');
  });
  return `<?xml version="1.0" encoding="UTF-8"?>
<score-partwise version="3.0">
  <work><work-title>${title}</work-title></work>
  <part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list>
  <part id="P1">
    ${rows.join('\n    ')}
  </part>
</score-partwise>
`;
}

/** Five parts of that length, for measuring how a whole score is read. */
export function fivePartScore(bars: number): string {
  const text = longPart(bars);
  const part = /<part id="P1">([\s\S]*?)<\/part>/.exec(text)![1]!;
  const ids = [1, 2, 3, 4, 5];
  const list = ids.map((id) => `<score-part id="P${id}"><part-name>Violin ${id}</part-name></score-part>`).join('');
  return `<score-partwise version="3.0"><part-list>${list}</part-list>${ids.map((id) => `<part id="P${id}">${part}</part>`).join('')}</score-partwise>`;
}
