/** The engraver ships no types; these are the calls that we make. */
declare module 'verovio/wasm' {
  export default function createVerovioModule(): Promise<unknown>;
}
declare module 'verovio/esm' {
  export class VerovioToolkit {
    constructor(module: unknown);
    setOptions(options: Record<string, unknown>): void;
    loadData(data: string): boolean;
    getPageCount(): number;
    renderToSVG(page: number, xmlDeclaration: boolean): string;
    renderToTimemap(options?: Record<string, unknown>): Array<{ qstamp: number; on?: string[]; off?: string[] }>;
    getMIDIValuesForElement(id: string): { pitch?: number; time?: number; duration?: number };
    getTimesForElement(id: string): Record<string, number[]>;
    renderToMIDI(): string;
  }
}
