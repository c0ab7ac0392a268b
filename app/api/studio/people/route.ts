import { newPersonShape } from '@/core/util/person-shape';
import { addPerson } from '@/server/doors/people';
import { answer, body } from '../../respond';

/** Somebody else who teaches here. They come in by a key, or with a pass phrase once they have one. */
export async function POST(request: Request): Promise<Response> {
  return answer(
    request,
    'The studio',
    async (access) => {
      const sent = await body(request, newPersonShape);
      if (!sent.ok) return sent.response;
      return Response.json({ id: await addPerson(access, sent.value) }, { status: 201 });
    },
    'own',
  );
}
