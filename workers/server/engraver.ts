/** The engraver (Verovio) on the server: a passage in, one SVG per system out, with the place of every note head. */
import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';

export interface NoteHead {
  /** Centre of the note head in px of the system's picture. */
  x: number;
  y: number;
}

export interface System {
  svg: string;
  widthPx: number;
  heightPx: number;
  heads: Record<string, NoteHead>;
  /** Where the bars of this system begin and end in px, in order. */
  bars: Array<{ from: number; to: number }>;
}

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

export async function engrave(musicXml: string, widthPx: number): Promise<Engraving> {
  const verovio = await toolkit();
  verovio.setOptions({
    inputFrom: 'xml', scale: SCALE, pageWidth: Math.round((widthPx * 100) / SCALE), pageHeight: 100, adjustPageHeight: true, breaks: 'auto',
    header: 'none', footer: 'none', pageMarginLeft: LEFT_MARGIN, pageMarginRight: 10, pageMarginTop: 12, pageMarginBottom: 6,
    svgRemoveXlink: true, svgViewBox: false, mnumInterval: 0, justifyVertically: false, xmlIdSeed: 1, minLastJustification: 0.75,
  });
  if (!verovio.loadData(musicXml)) throw new Error('the engraver refused the passage');
  const systems: System[] = [];
  for (let page = 1; page <= verovio.getPageCount(); page++) systems.push(readSystem(verovio.renderToSVG(page, false)));
  return { systems };
}

/** Half a note head's width in the engraver's units, from the outline of its font. */
const HALF_HEAD = 113;

/** Sizes, note heads and bars from the picture itself. */
export function readSystem(svg: string): System {
  const size = /<svg width="([\d.]+)px" height="([\d.]+)px"/.exec(svg);
  const box = /class="definition-scale"[^>]*viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg);
  const margin = /class="page-margin" transform="translate\(([-\d.]+), ([-\d.]+)\)"/.exec(svg);
  if (!size || !box || !margin) throw new Error('the engraver drew something unknown');
  const [widthPx, heightPx] = [Number(size[1]), Number(size[2])];
  const scale = widthPx / Number(box[1]);
  const toX = (x: string) => (Number(x) + Number(margin[1])) * scale;
  const toY = (y: string) => (Number(y) + Number(margin[2])) * scale;
  const heads: Record<string, NoteHead> = {};
  const note = /<g id="(n-[^"]+)" class="note">[\s\S]*?<use [^>]*transform="translate\(([-\d.]+), ([-\d.]+)\)/g;
  for (let match = note.exec(svg); match; match = note.exec(svg)) {
    heads[match[1]!] = { x: round(toX(match[2]!) + HALF_HEAD * scale), y: round(toY(match[3]!)) };
  }
  const bars: System['bars'] = [];
  const staff = /class="staff">\s*<path d="M([-\d.]+) ([-\d.]+) L([-\d.]+) /g;
  for (let match = staff.exec(svg); match; match = staff.exec(svg)) {
    const bar = { from: round(toX(match[1]!)), to: round(toX(match[3]!)) };
    if (bars.at(-1)?.from !== bar.from) bars.push(bar);
  }
  return { svg: svg.replace(/<desc>.*?<\/desc>/, ''), widthPx, heightPx, heads, bars };
}

const round = (value: number): number => Math.round(value * 10) / 10;
