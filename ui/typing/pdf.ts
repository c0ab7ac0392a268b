/** PDF pages as pictures, made in the browser. The reader is loaded when the first PDF is looked at. */
import type { PDFDocumentProxy, PDFWorker as Reader } from 'pdfjs-dist';

export interface Pdf {
  pages: number;
  /** Draws a page, counted from 1. @param widthPx of the picture, in pixels */
  draw(page: number, canvas: HTMLCanvasElement, widthPx: number): Promise<void>;
  close(): void;
}

/** Of a picture; a page that would be larger is drawn smaller. */
const MOST_PIXELS = 16_000_000;

/** One for all documents: a reader of a document's own, on a shared worker, cannot be made while the one before is being closed. */
let reader: Reader | null = null;

/** @throws where it is no PDF that can be shown; the name of the error says why (`PasswordException`) */
export async function openPdf(bytes: ArrayBuffer): Promise<Pdf> {
  const { getDocument, PDFWorker } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  reader ??= PDFWorker.create({ port: new Worker(new URL('pdfjs-dist/legacy/build/pdf.worker.min.mjs', import.meta.url), { type: 'module' }) });
  const tools = `${window.location.origin}/pdf-tools`;
  const task = getDocument({
    data: bytes,
    worker: reader,
    wasmUrl: `${tools}/wasm/`,
    standardFontDataUrl: `${tools}/standard_fonts/`,
    cMapUrl: `${tools}/cmaps/`,
    iccUrl: `${tools}/iccs/`,
    cMapPacked: true,
    enableXfa: false,
  });
  const pdf: PDFDocumentProxy = await task.promise;
  return {
    pages: pdf.numPages,
    async draw(number, canvas, widthPx) {
      const page = await pdf.getPage(number);
      const natural = page.getViewport({ scale: 1 });
      const scale = Math.min(widthPx / natural.width, Math.sqrt(MOST_PIXELS / (natural.width * natural.height)));
      const viewport = page.getViewport({ scale });
      canvas.width = Math.ceil(viewport.width);
      canvas.height = Math.ceil(viewport.height);
      await page.render({ canvas, viewport }).promise;
    },
    close: () => void task.destroy(),
  };
}
