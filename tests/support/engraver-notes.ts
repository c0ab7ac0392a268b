/**
 * Prints what the engraving library finds in the test scores and in the real ones, as JSON: for each file the onset and the length
 * in quarters and the sounding MIDI pitch of every note of every part, by part and note id, all parts together on its own time map,
 * and the onsets of the measures in the order of playing. Run as a process of its own (ES modules).
 */
import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';
import { cutPassage } from '../../core/formats/musicxml/cut';
import { readScoreBytes } from '../../core/formats/read';
import { realScores } from './real-scores';
import { testScores } from './everything';

export interface EngraverFound {
  parts: Record<string, Array<[id: string, onset: number, duration: number, midi: number]>>;
  measures: number[];
}

/** Every part with the ids of its notes, as one document. */
function together(bytes: Uint8Array): { xml: string; partIds: string[] } {
  const read = readScoreBytes(bytes);
  if (!read.ok) throw new Error(read.problem.what);
  const { document, score } = read.value;
  const bodies = score.parts.map((part, i) => {
    const cut = cutPassage(document, part, {}, { fromBar: 0, toBar: part.bars.length - 1 });
    const body = /<part id="[^"]*">([\s\S]*)<\/part>/.exec(cut)![1]!;
    return `<part id="P${i}">${body.replaceAll(' id="n-', ` id="part${i}.n-`)}</part>`;
  });
  const list = score.parts.map((_, i) => `<score-part id="P${i}"><part-name></part-name></score-part>`).join('');
  return {
    xml: `<?xml version="1.0" encoding="UTF-8"?>\n<score-partwise version="3.1"><part-list>${list}</part-list>${bodies.join('')}</score-partwise>`,
    partIds: score.parts.map(({ id }) => id),
  };
}

async function main(): Promise<void> {
  const verovio = new VerovioToolkit(await createVerovioModule());
  const found: Record<string, EngraverFound> = {};
  const all = [...Object.entries(testScores()).map(([name, text]) => [name, new TextEncoder().encode(text)] as const), ...realScores()];
  for (const [name, bytes] of all) {
    const { xml, partIds } = together(bytes);
    verovio.setOptions({ inputFrom: 'xml', breaks: 'none', transposeToSoundingPitch: true });
    if (!verovio.loadData(xml)) throw new Error(name);
    verovio.renderToMIDI();
    const timemap = verovio.renderToTimemap({ includeMeasures: true, includeRests: true });
    const ends = new Map(timemap.flatMap((entry) => (entry.off ?? []).map((id) => [id, entry.qstamp] as const)));
    const parts: EngraverFound['parts'] = Object.fromEntries(partIds.map((id) => [id, []]));
    for (const entry of timemap)
      for (const full of entry.on ?? []) {
        const [, part, id] = /^part(\d+)\.(n-.*)$/.exec(full) ?? [];
        if (id)
          parts[partIds[Number(part)]!]!.push([id, entry.qstamp, (ends.get(full) ?? NaN) - entry.qstamp, verovio.getMIDIValuesForElement(full).pitch ?? NaN]);
      }
    found[name] = { parts, measures: timemap.flatMap((entry) => ('measureOn' in entry ? [entry.qstamp] : [])) };
  }
  process.stdout.write(JSON.stringify(found));
}

void main();
