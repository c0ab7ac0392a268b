/** What changed as strips to cut out and paste over: the changed bars out of the same engraving as the whole part, so that they have its size. */
import { changedLine, type ChangedBar } from '../../core/handout/in-words';
import type { Sheet } from './paper';
import { openPdf, PAPERS, POINTS_PER_MM, STAFF_PX, type PaperName } from './pdf';
import { engraveStand, type StandSystem } from './stand';
import { drawSvg, musicFont } from './svg-on-paper';

export interface StripsTask {
  sheet: Sheet;
  paper: PaperName;
  /** Height of the staff in mm. */
  staffMm: number;
}

/** Points. */
const MARGIN = { x: 40, top: 38, foot: 40 };
const TEXT = 10.5;
const SMALL = 9;
const GAP = 16;

interface Strip {
  system: StandSystem;
  /** px of the engraving. */
  from: number;
  to: number;
  changes: ChangedBar[];
}

/** Runs of changed bars on each system; a long rest is told by its first bar. */
function stripsOf(systems: readonly StandSystem[], changes: readonly ChangedBar[]): Strip[] {
  const strips: Strip[] = [];
  for (const system of systems) {
    let open: (Strip & { last: number }) | null = null;
    system.barIndices.forEach((bar, i) => {
      const next = system.barIndices[i + 1] ?? system.lastBar + 1;
      const here = changes.filter(({ barIndex }) => barIndex !== null && barIndex >= bar && barIndex < next);
      const box = system.bars[i];
      if (here.length === 0 || !box) return;
      if (open && open.last === i - 1) {
        open.to = box.to;
        open.last = i;
        open.changes.push(...here);
      } else {
        open = { system, from: box.from, to: box.to, last: i, changes: here };
        strips.push(open);
      }
    });
  }
  return strips;
}

export async function printStrips({ sheet, paper, staffMm }: StripsTask): Promise<Uint8Array> {
  const { title, part, label, changes, music, marking, told, tempo, line } = sheet;
  const [width, height] = PAPERS[paper];
  const scale = (staffMm * POINTS_PER_MM) / STAFF_PX;
  const inner = width - 2 * MARGIN.x;
  const { systems } = await engraveStand({ music, marking, told, tempo, line, widthPx: Math.round(inner / scale) });
  const { doc, finished } = openPdf(paper, `${title}, ${part}: strips`);
  const fonts = new Set<string>();
  let y = 0;
  const newPage = () => {
    doc.addPage();
    doc
      .font('Serif bold')
      .fontSize(TEXT + 2)
      .fillColor('black');
    doc.text(`${title} · ${part}`, MARGIN.x, MARGIN.top, { width: inner, height: 16, ellipsis: true, lineBreak: false });
    doc.font('Serif').fontSize(SMALL);
    doc.text(`${label}: what changed since Hand-out ${changes?.since ?? ''}, to be cut out along the lines and pasted in`, MARGIN.x, MARGIN.top + 18, {
      width: inner,
    });
    y = MARGIN.top + 48;
  };
  newPage();
  for (const text of changes?.bars.filter(({ barIndex }) => barIndex === null).map(changedLine) ?? []) {
    doc.font('Serif').fontSize(TEXT).text(text, MARGIN.x, y, { width: inner });
    y += doc.heightOfString(text, { width: inner }) + 4;
  }
  for (const { system, from, to, changes: said } of stripsOf(systems, changes?.bars ?? [])) {
    await musicFont(doc, system.svg, fonts);
    const words = said.map(changedLine).join('   ');
    doc.font('Serif').fontSize(SMALL);
    const caption = doc.heightOfString(words, { width: inner }) + 3;
    const [stripWidth, stripHeight] = [(to - from) * scale, system.heightPx * scale];
    if (y + caption + stripHeight > height - MARGIN.foot) newPage();
    doc.font('Serif').fontSize(SMALL).text(words, MARGIN.x, y, { width: inner });
    y += caption;
    doc.save();
    doc.rect(MARGIN.x, y, stripWidth, stripHeight).clip();
    drawSvg(doc, system.svg, MARGIN.x - from * scale, y, inner);
    doc.restore();
    doc.save().lineWidth(0.4).strokeColor('black').dash(3, { space: 3 }).rect(MARGIN.x, y, stripWidth, stripHeight).stroke().undash().restore();
    y += stripHeight + GAP;
  }
  return finished();
}
