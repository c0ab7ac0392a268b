/** Every route: who may, what stands in its address, what is sent, and what it comes to. `tests/database/doors.test.ts` tries each of them as everybody. */
import { randomUUID } from 'node:crypto';
import { demoText } from './demo';

export type Who = 'nobody' | 'player' | 'coach' | 'owner';

export interface Known {
  piece: string;
  part: string;
  marking: string;
  edition: string;
  paper: string;
  player: string;
  person: string;
  owner: string;
  browser: string;
  handout: string;
  answer: string;
}

interface Entry {
  /** The least role that may; open to everybody, or reached by what one holds in one's hand. */
  least: Who;
  /** What stands in the address. */
  params?: (known: Known) => Record<string, string>;
  body?: unknown;
  query?: string;
  /** What it comes to for who may, where that is not done (200 to 299). */
  comesTo?: number[];
  /** Takes away what others still need: tried last, and by the owner alone. */
  takesAway?: boolean;
}

const piece = ({ piece: id }: Known) => ({ id });
const part = ({ part: id }: Known) => ({ id });
const edition = ({ part: id, edition: editionId }: Known) => ({ id, editionId });
export const PNG = Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 0]);
const view = { fromBar: 0, toBar: 1, widthPx: 700 };
const set = () => [
  {
    id: randomUUID(),
    at: new Date().toISOString(),
    reason: 'Words',
    undoes: null,
    version: 2,
    changes: [{ target: 'at-0-0', kind: 'text', from: null, to: { value: randomUUID().slice(0, 8), origin: 'coach' } }],
  },
];

export const TABLE: Readonly<Record<string, Entry>> = {
  'GET /api/health': { least: 'nobody' },
  'GET /pdf-tools/[folder]/[file]': { least: 'nobody', params: () => ({ folder: 'wasm', file: 'none.wasm' }), comesTo: [404] },
  'GET /stand/worker': { least: 'nobody' },
  'GET /stand/manifest': { least: 'nobody' },
  'GET /stand/icon': { least: 'nobody' },
  'GET /first': { least: 'nobody', comesTo: [303] },
  'GET /key/[key]': { least: 'nobody', params: () => ({ key: 'wrong' }), comesTo: [303] },
  'GET /link/[token]': { least: 'nobody', params: () => ({ token: 'wrong' }), comesTo: [303] },
  'POST /api/session': { least: 'nobody', body: { name: 'nobody', phrase: 'wrong' }, comesTo: [401] },
  'DELETE /api/session': { least: 'player', takesAway: true },

  'GET /api/shelf/check': { least: 'coach' },
  'POST /api/shelf/check': { least: 'coach', body: {} },
  'DELETE /api/shelf/check': { least: 'coach', takesAway: true },

  'POST /api/typed': { least: 'coach', body: { abc: 'X:1\nK:D\nD|]\n', widthPx: 600 } },
  'POST /api/pieces': { least: 'coach', query: '?name=again.musicxml', body: demoText('low-tide') },
  'PATCH /api/pieces/[id]': { least: 'coach', params: piece, body: { onShelf: true } },
  'DELETE /api/pieces/[id]': { least: 'owner', params: piece, comesTo: [404] },
  'PUT /api/pieces/[id]/names': { least: 'coach', params: piece, body: { title: 'Named', composer: null, parts: [] } },
  'GET /api/pieces/[id]/marked': { least: 'coach', params: piece, query: '?without=yes' },
  'GET /api/pieces/[id]/score': { least: 'coach', params: piece },
  'GET /api/pieces/[id]/papers': { least: 'coach', params: piece },
  'POST /api/pieces/[id]/papers': { least: 'coach', params: piece, query: '?name=sheet.png', body: PNG },
  'GET /api/papers/[id]': { least: 'coach', params: ({ paper: id }) => ({ id }) },
  'DELETE /api/papers/[id]': { least: 'coach', params: ({ paper: id }) => ({ id }), takesAway: true },
  'GET /api/parts/[id]/music': { least: 'coach', params: part },
  'GET /api/parts/[id]/marks': { least: 'coach', params: part },
  'GET /api/parts/[id]/midi': { least: 'coach', params: part },
  'GET /api/parts/[id]/others': { least: 'coach', params: part },
  'GET /api/parts/[id]/live': { least: 'coach', params: part, query: '?since=0.0&page=of-the-tests&once=yes' },
  'GET /api/parts/[id]/answers': { least: 'coach', params: part },
  'GET /api/pieces/[id]/hand-outs': { least: 'coach', params: piece },
  'GET /api/pieces/[id]/hand-outs/paper': { least: 'coach', params: piece, comesTo: [404] },
  'GET /api/pieces/[id]/hand-outs/printing': { least: 'coach', params: piece },
  'POST /api/pieces/[id]/hand-outs/printing': { least: 'coach', params: piece, body: { paper: 'a4' } },
  'DELETE /api/pieces/[id]/hand-outs/printing': { least: 'coach', params: piece, comesTo: [200, 404] },
  'GET /api/stand/parts/[id]/paper': { least: 'player', params: part, comesTo: [200, 404] },
  'POST /api/hand-outs': { least: 'coach', body: { word: '', parts: [{ partId: randomUUID(), players: [] }] }, comesTo: [422] },
  'PUT /api/answers/[id]': { least: 'coach', params: ({ answer: id }) => ({ id }), body: { settled: true } },
  'GET /api/stand/parts/[id]/music': { least: 'player', params: part, query: '?width=600', comesTo: [200, 404] },
  // Players say something of their own hand-outs; who teaches has none.
  'POST /api/stand/hand-outs/[id]/said': { least: 'player', params: ({ handout: id }) => ({ id }), body: { opened: true }, comesTo: [200, 404] },
  'GET /api/parts/[id]/typed': { least: 'coach', params: part, comesTo: [422] },
  'POST /api/parts/[id]/engraving': { least: 'coach', params: part, body: { ...view, marking: {} } },
  'PUT /api/parts/[id]/passages': { least: 'coach', params: part, body: { from: null, to: [{ name: 'A', fromBar: 0, toBar: 1 }] } },
  'PUT /api/parts/[id]/settings': { least: 'coach', params: part, body: { tempo: 72 } },
  'POST /api/parts/[id]/editions': { least: 'coach', params: part, query: '?name=other.musicxml', body: demoText('low-tide') },
  'PUT /api/parts/[id]/variants/[playerId]': { least: 'coach', params: ({ part: id, player: playerId }) => ({ id, playerId }), body: {} },
  'POST /api/parts/[id]/editions/[editionId]/engraving': { least: 'coach', params: edition, body: view },
  'PUT /api/parts/[id]/editions/[editionId]/left': { least: 'coach', params: edition, body: [] },
  'POST /api/parts/[id]/editions/[editionId]/replace': { least: 'coach', params: edition, body: {}, comesTo: [200, 422] },
  'POST /api/markings/[id]/changes': { least: 'coach', params: ({ marking: id }) => ({ id }), body: set() },
  'POST /api/players': {
    least: 'coach',
    body: {
      name: 'Fern',
      instrument: 'violin',
      size: '4/4',
      tuning: 'orchestral',
      hand: 'medium',
      measured: null,
      technique: {},
      level: 'advanced',
      thumbPosition: false,
    },
  },
  'PUT /api/players/[id]': { least: 'coach', params: ({ player: id }) => ({ id }), body: { level: 'advanced' } },
  'DELETE /api/players/[id]': { least: 'owner', params: ({ player: id }) => ({ id }), comesTo: [404] },
  'GET /api/players/[id]/everything': { least: 'coach', params: ({ player: id }) => ({ id }) },
  'POST /api/players/[id]/link': { least: 'coach', params: ({ player: id }) => ({ id }), body: { days: null }, takesAway: true },
  'DELETE /api/players/[id]/link': { least: 'coach', params: ({ player: id }) => ({ id }), takesAway: true },

  'PUT /api/studio/me': { least: 'coach', body: {} },
  'POST /api/studio/people': { least: 'owner', body: { name: 'Else', role: 'coach' } },
  'PUT /api/studio/people/[id]': { least: 'owner', params: ({ person: id }) => ({ id }), body: { name: 'Corin' } },
  'POST /api/studio/people/[id]/key': { least: 'owner', params: ({ owner: id }) => ({ id }) },
  'DELETE /api/studio/people/[id]': { least: 'owner', params: ({ person: id }) => ({ id }), takesAway: true },
  'DELETE /api/studio/browsers/[id]': { least: 'owner', params: ({ browser: id }) => ({ id }), takesAway: true },
  'GET /api/studio/everything': { least: 'owner' },
  'POST /api/studio/everything': { least: 'owner', body: 'no file of a studio', comesTo: [422] },
};
