import { readFile } from 'node:fs/promises';
import path from 'node:path';

/** The program that keeps the Stand usable without a network. The same for everybody. */
export async function GET(): Promise<Response> {
  const text = await readFile(path.join(process.cwd(), 'workers', 'stand-worker.js'), 'utf8');
  return new Response(text, { headers: { 'content-type': 'text/javascript; charset=utf-8', 'service-worker-allowed': '/stand', 'cache-control': 'no-cache' } });
}
