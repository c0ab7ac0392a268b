/**
 * Compressed scores (.mxl): a zip whose META-INF/container.xml names the score inside. Source: the MusicXML 4.0
 * documentation, "Compressed .MXL files". Everything is read in memory and counted while it is unpacked, so that a
 * small file cannot grow without bounds; no name inside is ever used as a path.
 */
import { Unzip, UnzipInflate, zipSync, type Zippable } from 'fflate';
import { bad, good, type Result } from '../../util/result';
import { child, decodeXmlBytes, LARGEST_FILE_BYTES, parseXml } from './xml';

export interface Container {
  /** Every file inside, in order, by its name. */
  files: Map<string, Uint8Array>;
  /** Name of the score among them. */
  root: string;
}

/** All files of a zip together, unpacked. */
const LARGEST_UNPACKED_BYTES = 2 * LARGEST_FILE_BYTES;
const MOST_FILES = 2000;
/** Bytes unpacked at a time: they can grow a thousandfold before they are counted. */
const CHUNK = 1 << 13;

const CONTAINER = 'META-INF/container.xml';
const REMEDY = 'Export the score again as .mxl or, uncompressed, as .musicxml.';

export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** Opens a zip and finds the score in it. */
export function openContainer(bytes: Uint8Array): Result<Container> {
  const files = unpacked(bytes);
  if (!files.ok) return files;
  const root = rootOf(files.value);
  return root.ok ? good({ files: files.value, root: root.value }) : root;
}

/** The same zip with another score in it; all other files stay as they are. */
export function packContainer({ files, root }: Container, score: Uint8Array): Uint8Array {
  const entries: Zippable = {};
  for (const [name, content] of files) entries[name] = [name === root ? score : content, { level: name === 'mimetype' ? 0 : 6, mtime: PACKED_AT }];
  return zipSync(entries);
}

/** A new zip around a score. */
export function newContainer(score: Uint8Array, name = 'score.musicxml'): Uint8Array {
  const text = (content: string) => new TextEncoder().encode(content);
  const container = `<?xml version="1.0" encoding="UTF-8"?>\n<container><rootfiles><rootfile full-path="${name}" media-type="${MEDIA_TYPE}"/></rootfiles></container>\n`;
  const files = new Map([
    ['mimetype', text('application/vnd.recordare.musicxml')],
    [CONTAINER, text(container)],
    [name, score],
  ]);
  return packContainer({ files, root: name }, score);
}

const MEDIA_TYPE = 'application/vnd.recordare.musicxml+xml';

/** Zips carry a date; a fixed one makes the same content the same bytes. */
const PACKED_AT = '2000-01-01T00:00:00Z';

function unpacked(bytes: Uint8Array): Result<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  let total = 0;
  let started = 0;
  let failed: string | null = null;
  const tooMuch = () => total > LARGEST_UNPACKED_BYTES || started > MOST_FILES;
  const unzip = new Unzip((file) => {
    if (file.name.endsWith('/')) return;
    started++;
    if (tooMuch()) return;
    const chunks: Uint8Array[] = [];
    file.ondata = (error, chunk, final) => {
      if (error) failed ??= file.name;
      if (error || tooMuch()) return;
      total += chunk.length;
      chunks.push(chunk);
      if (final) files.set(file.name, joined(chunks));
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    for (let at = 0; at < bytes.length && !tooMuch(); at += CHUNK) unzip.push(bytes.subarray(at, at + CHUNK), at + CHUNK >= bytes.length);
  } catch {
    failed ??= 'the archive';
  }
  if (tooMuch()) {
    return bad(
      null,
      `Unpacked, the file would have more than ${LARGEST_UNPACKED_BYTES / 1048576} MB or ${MOST_FILES} files.`,
      'Such a file is not opened, for safety. Export the score again, without embedded pictures or sounds.',
    );
  }
  if (failed !== null || started === 0 || files.size === 0) {
    const what = started === 0 ? 'The file begins like a zip, but there is no file in it.' : 'The zip is damaged or cut off, and cannot be unpacked.';
    return bad(failed === 'the archive' ? null : failed, what, REMEDY);
  }
  return good(files);
}

function joined(chunks: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(chunks.reduce((sum, chunk) => sum + chunk.length, 0));
  let at = 0;
  for (const chunk of chunks) {
    whole.set(chunk, at);
    at += chunk.length;
  }
  return whole;
}

/** The first score that the container names; without a container, the only score inside. */
function rootOf(files: ReadonlyMap<string, Uint8Array>): Result<string> {
  const container = files.get(CONTAINER);
  if (!container) {
    const scores = [...files.keys()].filter((name) => /\.(musicxml|xml)$/i.test(name) && !/(^|\/)(META-INF|__MACOSX)\//.test(name));
    if (scores.length === 1) return good(scores[0]!);
    return scores.length === 0
      ? bad(null, 'There is no score in the zip.', 'Choose a MusicXML file (.musicxml, .xml or .mxl).')
      : bad(scores.join(', '), 'The zip holds several scores and does not say which one is meant.', 'Unzip it and drop them one by one.');
  }
  const text = decodeXmlBytes(container);
  if (!text.ok) return bad(CONTAINER, text.problem.what, REMEDY);
  const parsed = parseXml(text.value);
  if (!parsed.ok) return bad(`${CONTAINER}, ${parsed.problem.place}`, parsed.problem.what, REMEDY);
  const named = (child(parsed.value.root, 'rootfiles')?.children ?? []).filter((element) => element.name === 'rootfile');
  const isScore = (type: string | undefined) => type === undefined || type === '' || /musicxml|^(text|application)\/xml$/.test(type);
  const root = named.find((element) => isScore(element.attributes['media-type']))?.attributes['full-path'];
  if (!root) return bad(CONTAINER, 'The container names no score.', REMEDY);
  if (files.has(root)) return good(root);
  return bad(CONTAINER, `The container names the score "${root}", which is not in the zip.`, REMEDY);
}
