import type { PaperName } from '@/workers/server/pdf';

/** `?paper=letter`, else A4. */
export const paperFrom = (request: Request): PaperName => (new URL(request.url).searchParams.get('paper') === 'letter' ? 'letter' : 'a4');
