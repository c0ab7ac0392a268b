/** What can be taken out of a part besides the marked file: its sound, and its marks alone. */
import type { Access } from './access';
import { toldOf } from '../core/instruments/as-told';
import type { MarkedDownload } from './marked';
import { markingOfPart } from './markings';
import { musicOf, partById, partSettings } from './parts';
import { inWorker, type Asker } from './workers';

async function known(access: Access, partId: string) {
  const part = await partById(access, partId);
  if (!part) return null;
  const [music, marking, settings] = await Promise.all([musicOf(access, part.id), markingOfPart(access, part.id), partSettings(access, part.id)]);
  return { part, input: { music: music!.text, marking: marking.marking, told: toldOf(settings) } };
}

export async function midiOfPart(access: Access, partId: string, asker: Asker): Promise<MarkedDownload | null> {
  const found = await known(access, partId);
  if (!found) return null;
  const { part, input } = found;
  return { fileName: `${part.title} (${part.name}).mid`, bytes: await inWorker('midi', { title: part.title, ...input }, asker), type: 'audio/midi' };
}

export async function marksOfPart(access: Access, partId: string, asker: Asker): Promise<MarkedDownload | null> {
  const found = await known(access, partId);
  if (!found) return null;
  const { part, input } = found;
  const text = await inWorker('marksAlone', input, asker);
  return { fileName: `${part.title} (${part.name}) marks.json`, bytes: new TextEncoder().encode(text), type: 'application/json' };
}
