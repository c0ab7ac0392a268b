/**
 * Prints what the engraving library finds in the test scores, as JSON: for each file and part the onset and the
 * length in quarters and the sounding MIDI pitch of every note, by note id. Run as a process of its own (ES modules).
 */
import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';
import { cutPassage } from '../../core/formats/musicxml/cut';
import { readMusicXml } from '../../core/formats/musicxml/read';
import { testScores } from './everything';

async function main(): Promise<void> {
  const verovio = new VerovioToolkit(await createVerovioModule());
  const found: Record<string, Record<string, Array<[id: string, onset: number, duration: number, midi: number]>>> = {};
  for (const [name, text] of Object.entries(testScores())) {
    const read = readMusicXml(text);
    if (!read.ok) throw new Error(`${name}: ${read.problem.what}`);
    const { document, score } = read.value;
    found[name] = {};
    for (const part of score.parts) {
      verovio.setOptions({ inputFrom: 'xml', breaks: 'none', transposeToSoundingPitch: true });
      if (!verovio.loadData(cutPassage(document, part, {}, { fromBar: 0, toBar: part.bars.length - 1 }))) throw new Error(name);
      verovio.renderToMIDI();
      const timemap = verovio.renderToTimemap({ includeMeasures: false });
      const ends = new Map(timemap.flatMap((entry) => (entry.off ?? []).map((id) => [id, entry.qstamp] as const)));
      found[name][part.id] = timemap.flatMap((entry) =>
        (entry.on ?? []).map((id): [string, number, number, number] => [
          id,
          entry.qstamp,
          (ends.get(id) ?? NaN) - entry.qstamp,
          verovio.getMIDIValuesForElement(id).pitch ?? NaN,
        ]),
      );
    }
  }
  process.stdout.write(JSON.stringify(found));
}

void main();
