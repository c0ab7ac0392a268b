import { personChangeShape } from '@/core/util/person-shape';
import { changePerson, removePerson } from '@/server/doors/people';
import { answer, body, problemResponse } from '../../../respond';

interface Where {
  params: Promise<{ id: string }>;
}

/** What the owner says anew about somebody. */
export async function PUT(request: Request, { params }: Where): Promise<Response> {
  return answer(
    request,
    'This person',
    async (access) => {
      const sent = await body(request, personChangeShape);
      if (!sent.ok) return sent.response;
      const done = await changePerson(access, (await params).id, sent.value);
      return done && (done.ok ? Response.json({ ok: true }) : problemResponse(done.problem));
    },
    'own',
  );
}

/** Takes them out of the studio. */
export async function DELETE(request: Request, { params }: Where): Promise<Response> {
  return answer(
    request,
    'This person',
    async (access) => {
      const done = await removePerson(access, (await params).id);
      return done && (done.ok ? Response.json({ ok: true }) : problemResponse(done.problem));
    },
    'own',
  );
}
