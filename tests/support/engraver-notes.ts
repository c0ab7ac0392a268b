/**
 * Prints what the engraving library finds in the demo files, as JSON: for each file and part the onset in
 * quarters and the sounding MIDI pitch of every struck note, by note id. Run as a process of its own (ES modules).
 */
import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';
import { cutPassage } from '../../core/formats/musicxml/cut';
import { DEMO_NAMES, demoScore } from './demo';

async function main(): Promise<void> {
  const verovio = new VerovioToolkit(await createVerovioModule());
  const found: Record<string, Record<string, Array<[id: string, onset: number, midi: number]>>> = {};
  for (const name of DEMO_NAMES) {
    const { document, score } = demoScore(name);
    found[name] = {};
    for (const part of score.parts) {
      verovio.setOptions({ inputFrom: 'xml', breaks: 'none', transposeToSoundingPitch: true });
      if (!verovio.loadData(cutPassage(document, part, {}, { fromBar: 0, toBar: part.bars.length - 1 }))) throw new Error(name);
      verovio.renderToMIDI();
      found[name][part.id] = verovio
        .renderToTimemap({ includeMeasures: false })
        .flatMap((entry) => (entry.on ?? []).map((id): [string, number, number] => [id, entry.qstamp, verovio.getMIDIValuesForElement(id).pitch ?? NaN]));
    }
  }
  process.stdout.write(JSON.stringify(found));
}

void main();
