/** Parts on paper: vector PDF with its fonts inside, out of the same engraving as on the screen, black on white. */
import { changedLine, type ChangedBar } from '../../core/handout/in-words';
import { NOTE_LABELS } from '../../core/marking/notes';
import { paged, turnsPlayed, type Paper } from '../../core/stand/pages';
import { openPdf, PAPERS, POINTS_PER_MM, STAFF_PX, type PaperName } from './pdf';
import { engraveStand, type ReadAs, type StandPart, type StandSystem } from './stand';
import { drawSvg, musicFont, type MusicFonts } from './svg-on-paper';

/** A part as it goes onto paper. */
export interface Sheet extends ReadAs {
  title: string;
  composer: string | null;
  part: string;
  /** Stands at the foot of each page: "Hand-out 3, 12 May 2026". */
  label: string;
  word: string;
  /** Against the hand-out before; null where there is none. */
  changes: { since: number; bars: ChangedBar[] } | null;
}

export interface PrintTask {
  sheets: readonly Sheet[];
  paper: PaperName;
  /** Height of the staff in mm. */
  staffMm: number;
}

/** Points. */
const MARGIN = { x: 40, top: 38, foot: 40 };
const HEADING = 66;
const GAP = 5;
/** Systems are spread over a page that is nearly full, up to so much more between two. */
const MOST_SPREAD = 22;
const ROW = 13;
const SMALL = 8.5;
const TEXT = 10.5;

/** All sheets one after the other, each from a page of its own. */
export async function printParts({ sheets, paper, staffMm }: PrintTask): Promise<Uint8Array> {
  const { doc, finished } = openPdf(paper, titleOf(sheets));
  const fonts: MusicFonts = new Set();
  for (const sheet of sheets) await new OnPaper(doc, sheet, paper, staffMm, fonts).print();
  return finished();
}

const titleOf = (sheets: readonly Sheet[]): string =>
  [...new Set(sheets.map(({ title }) => title))].join(', ') + (sheets.length === 1 ? `, ${sheets[0]!.part}` : '');

class OnPaper {
  private readonly width: number;
  private readonly height: number;
  /** Points for a px of the engraving. */
  private readonly scale: number;
  private pages = 0;

  constructor(
    private readonly doc: PDFKit.PDFDocument,
    private readonly sheet: Sheet,
    paper: PaperName,
    staffMm: number,
    private readonly fonts: MusicFonts,
  ) {
    [this.width, this.height] = PAPERS[paper];
    this.scale = (staffMm * POINTS_PER_MM) / STAFF_PX;
  }

  async print(): Promise<void> {
    const { music, marking, told, tempo, line } = this.sheet;
    const stand = await engraveStand({ music, marking, told, tempo, line, widthPx: Math.round((this.width - 2 * MARGIN.x) / this.scale) });
    for (const { svg } of stand.systems) await musicFont(this.doc, svg, this.fonts);
    const laid = stand.systems.map((system) => ({ heightPx: system.heightPx + this.rowOf(stand, system) / this.scale, lastBar: system.lastBar }));
    const { pages } = paged(laid, stand.passings, this.paper());
    let y = 0;
    const hurried = new Set(turnsPlayed({ pages }, laid, stand.passings, this.paper()).flatMap((turn) => (turn.hurried ? [turn.page] : [])));
    pages.forEach(({ from, to }, page) => {
      this.newPage(hurried.has(page));
      if (page === 0) this.heading();
      y = this.systems(stand, stand.systems.slice(from, to + 1), page === 0 ? MARGIN.top + HEADING : MARGIN.top);
    });
    this.words(stand, y + 14);
  }

  private paper(): Paper {
    const heightPx = (this.height - MARGIN.top - MARGIN.foot) / this.scale;
    // Two sheets side by side on the stand.
    return { heightPx, firstHeightPx: heightPx - HEADING / this.scale, gapPx: GAP / this.scale, atOnce: 2, firstIsRight: false };
  }

  /** @param isHurried there is less time to turn it than a turn takes */
  private newPage(isHurried = false): void {
    const { title, part, label } = this.sheet;
    this.doc.addPage();
    this.pages++;
    const y = this.height - MARGIN.foot + 16;
    const room = this.width - 2 * MARGIN.x - 40;
    this.doc.font('Serif').fontSize(SMALL).fillColor('black');
    this.doc.text([title, part, label].filter(Boolean).join(' · '), MARGIN.x, y, { width: room, height: SMALL * 1.4, ellipsis: true, lineBreak: false });
    this.doc.text(String(this.pages), this.width - MARGIN.x - 30, y, { width: 30, align: 'right', lineBreak: false });
    // "Volti subito", as players write it themselves.
    if (isHurried) this.doc.font('Serif italic').text('V. S.', this.width - MARGIN.x - 64, y, { width: 30, align: 'right', lineBreak: false });
  }

  private heading(): void {
    const { title, part, composer, label } = this.sheet;
    const width = this.width - 2 * MARGIN.x;
    const line = (text: string, x: number, y: number, options: PDFKit.Mixins.TextOptions) =>
      this.doc.text(text, x, y, { lineBreak: false, ellipsis: true, ...options });
    this.doc.font('Serif bold').fontSize(19);
    line(title, MARGIN.x, MARGIN.top, { width, height: 24, align: 'center' });
    this.doc.font('Serif').fontSize(12);
    line(part, MARGIN.x, MARGIN.top + 30, { width: width / 2 - 6, height: 16 });
    this.doc.fontSize(TEXT);
    line(composer ?? '', MARGIN.x + width / 2, MARGIN.top + 30, { width: width / 2, height: 14, align: 'right' });
    this.doc.font('Serif italic').fontSize(SMALL);
    line(label, MARGIN.x + width / 2, MARGIN.top + 45, { width: width / 2, height: 12, align: 'right' });
  }

  /** Room for the numbers of notes over a system that has any. */
  private rowOf(stand: StandPart, { firstBar, lastBar }: StandSystem): number {
    return stand.notes.some(({ barIndex }) => barIndex >= firstBar && barIndex <= lastBar) ? ROW : 0;
  }

  /** @returns where the last of them ends */
  private systems(stand: StandPart, systems: readonly StandSystem[], top: number): number {
    const heights = systems.map((system) => system.heightPx * this.scale + this.rowOf(stand, system));
    const used = heights.reduce((sum, height) => sum + height, 0) + GAP * (systems.length - 1);
    const left = this.height - MARGIN.foot - top - used;
    const more = systems.length > 1 ? Math.max(0, left / (systems.length - 1)) : 0;
    const gap = GAP + (more <= MOST_SPREAD ? more : 0);
    let y = top;
    systems.forEach((system, i) => {
      const row = this.rowOf(stand, system);
      if (row) this.numbers(stand, system, y);
      drawSvg(this.doc, system.svg, MARGIN.x, y + row, this.width - 2 * MARGIN.x);
      y += heights[i]! + gap;
    });
    return y - gap;
  }

  private numbers(stand: StandPart, { barIndices, bars, lastBar }: StandSystem, y: number): void {
    this.doc.font('Serif bold').fontSize(SMALL).fillColor('black').strokeColor('black').lineWidth(0.6);
    barIndices.forEach((bar, i) => {
      const next = barIndices[i + 1] ?? lastBar + 1;
      let x = MARGIN.x + (bars[i]?.from ?? 0) * this.scale + 2;
      stand.notes.forEach(({ barIndex }, number) => {
        if (barIndex < bar || barIndex >= next) return;
        // Round: letters and bar numbers stand in boxes.
        const text = String(number + 1);
        const radius = Math.max(ROW - 2, this.doc.widthOfString(text) + 4) / 2;
        this.doc.circle(x + radius, y + ROW / 2, radius).stroke();
        this.doc.text(text, x, y + 1.2, { width: 2 * radius, align: 'center', lineBreak: false });
        x += 2 * radius + 2;
      });
    });
  }

  /** The coach's word, the notes by their numbers and what changed, under the music or on a page of their own. */
  private words(stand: StandPart, from: number): void {
    const { word, changes } = this.sheet;
    const blocks: Array<{ title: string; lines: string[] }> = [
      { title: 'From your coach', lines: word ? [word] : [] },
      { title: `Changed since Hand-out ${changes?.since ?? ''}`, lines: changes?.bars.map(changedLine) ?? [] },
      { title: 'Notes', lines: stand.notes.map(({ at, kind, text }, i) => `${i + 1}   ${at}${NOTE_LABELS[kind] && ` ${NOTE_LABELS[kind]}`}: ${text}`) },
    ].filter(({ lines }) => lines.length > 0);
    const width = this.width - 2 * MARGIN.x;
    const end = this.height - MARGIN.foot;
    let y = from;
    const put = (font: string, text: string, before: number): void => {
      for (const piece of this.pieces(font, text, width, end - MARGIN.top)) {
        const height = this.doc.heightOfString(piece, { width });
        if (y + before + height > end) {
          this.newPage();
          this.doc.font(font).fontSize(TEXT);
          y = MARGIN.top;
        } else y += before;
        this.doc.text(piece, MARGIN.x, y, { width });
        y += height;
      }
    };
    for (const { title, lines } of blocks) {
      put('Serif bold', title, y === from ? 0 : 10);
      for (const line of lines) put('Serif', line, 3);
    }
  }

  /** A text that is longer than a page goes on over the next ones. */
  private pieces(font: string, text: string, width: number, height: number): string[] {
    this.doc.font(font).fontSize(TEXT);
    if (this.doc.heightOfString(text, { width }) <= height) return [text];
    const pieces = [''];
    for (const word of text.split(/(?<=\s)/)) {
      if (this.doc.heightOfString(pieces.at(-1)! + word, { width }) > height) pieces.push('');
      pieces[pieces.length - 1] += word;
    }
    return pieces;
  }
}
