import { STUDIO_LIMITS, readStudio } from '@/server/read-studio';
import { studioName } from '@/server/access';
import { studioFile } from '@/server/studio-file';
import { answer, attachment, problemResponse, readUpTo } from '../../respond';

/** The whole studio as one file. */
export async function GET(request: Request): Promise<Response> {
  return answer(
    request,
    'The studio',
    async (access) => {
      const day = new Date().toISOString().slice(0, 10);
      return new Response(studioFile(access), { headers: attachment(`${await studioName(access)}, ${day}.omaggio.zip`, 'application/zip') });
    },
    'own',
  );
}

/** Reads such a file in, beside what is here. */
export async function POST(request: Request): Promise<Response> {
  return answer(
    request,
    'The studio',
    async (access) => {
      const bytes = await readUpTo(request, STUDIO_LIMITS.packed);
      if (!bytes) {
        const what = `The file is larger than ${STUDIO_LIMITS.packed / 1_048_576} MB.`;
        return problemResponse({ place: null, what, remedy: 'Use bin/backup and bin/restore for studios of this size.' }, 413);
      }
      const read = await readStudio(access, bytes);
      return read.ok ? Response.json(read.value, { status: 201 }) : problemResponse(read.problem);
    },
    'own',
  );
}
