/** What the engraver's picture of one system says: its size, note heads and bars. */
import { rounded } from '../../core/util/round';

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
  /** The staff's first line in px from the top. */
  staffTop: number;
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
  let staffTop = heightPx;
  for (let match = staff.exec(svg); match; match = staff.exec(svg)) {
    staffTop = Math.min(staffTop, round(toY(match[2]!)));
    const bar = { from: round(toX(match[1]!)), to: round(toX(match[3]!)) };
    if (bars.at(-1)?.from !== bar.from) bars.push(bar);
  }
  return { svg: svg.replace(/<desc>.*?<\/desc>/, ''), widthPx, heightPx, heads, bars, staffTop };
}

const round = (value: number): number => rounded(value, 1);
