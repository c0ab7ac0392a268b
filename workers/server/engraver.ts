/** The engraver (Verovio) on the server: a passage in, one SVG per system out, with the place of every note head. */
import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';
import { withinBounds } from '../../core/formats/musicxml/bounds';
import { readSystem, type System } from './picture';

/** How a part is drawn that is played on another instrument than it is written for. */
export interface Moved {
  concert: boolean;
  octaves: number;
}

const AS_WRITTEN: Moved = { concert: false, octaves: 0 };

export interface Engraving {
  systems: System[];
}

/** Staff size in percent of the engraver's default: note heads of about 10 px. */
const SCALE = 42;

/** Room for the bar number, in tenths of the engraver's unit. */
const LEFT_MARGIN = 50;

let ready: Promise<VerovioToolkit> | null = null;

async function toolkit(): Promise<VerovioToolkit> {
  ready ??= createVerovioModule().then((module: unknown) => new VerovioToolkit(module));
  return ready;
}

/** After a failure the engraver is loaded anew: what it left in its memory may be broken. */
export async function engrave(musicXml: string, widthPx: number, moved: Moved = AS_WRITTEN): Promise<Engraving> {
  try {
    return draw(await toolkit(), withinBounds(musicXml), widthPx, moved);
  } catch (error) {
    ready = null;
    throw new Error('the passage could not be engraved', { cause: error });
  }
}

function draw(verovio: VerovioToolkit, musicXml: string, widthPx: number, { concert, octaves }: Moved): Engraving {
  verovio.setOptions({
    inputFrom: 'xml',
    scale: SCALE,
    pageWidth: Math.round((widthPx * 100) / SCALE),
    pageHeight: 100,
    adjustPageHeight: true,
    breaks: 'auto',
    header: 'none',
    footer: 'none',
    pageMarginLeft: LEFT_MARGIN,
    pageMarginRight: 10,
    pageMarginTop: 12,
    pageMarginBottom: 6,
    svgRemoveXlink: true,
    svgViewBox: false,
    mnumInterval: 0,
    justifyVertically: false,
    xmlIdSeed: 1,
    minLastJustification: 0.75,
    transposeToSoundingPitch: concert,
    // A perfect octave for each; nothing where the part stays where it is.
    transpose: octaves === 0 ? '' : `${octaves < 0 ? '-' : ''}P${7 * Math.abs(octaves) + 1}`,
  });
  if (!verovio.loadData(musicXml)) throw new Error('the engraver refused the passage');
  const systems: System[] = [];
  for (let page = 1; page <= verovio.getPageCount(); page++) systems.push(readSystem(verovio.renderToSVG(page, false)));
  return { systems };
}
