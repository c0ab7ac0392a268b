import { readFile } from 'node:fs/promises';
import path from 'node:path';

/** What the PDF reader in the browser loads when a file needs it: decoders of scans, fonts that are not in the file. */
const FOLDERS = new Set(['wasm', 'standard_fonts', 'cmaps', 'iccs']);
const TYPES: Readonly<Record<string, string>> = { '.wasm': 'application/wasm', '.js': 'text/javascript' };

export async function GET(_: Request, { params }: { params: Promise<{ folder: string; file: string }> }): Promise<Response> {
  const { folder, file } = await params;
  if (!FOLDERS.has(folder) || !/^[\w-]+\.\w+$/.test(file)) return new Response(null, { status: 404 });
  const bytes = await readFile(path.join(process.cwd(), 'node_modules', 'pdfjs-dist', folder, file)).catch(() => null);
  if (!bytes) return new Response(null, { status: 404 });
  const type = TYPES[path.extname(file)] ?? 'application/octet-stream';
  return new Response(new Uint8Array(bytes), { headers: { 'content-type': type, 'cache-control': 'public, max-age=86400' } });
}
