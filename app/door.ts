/** Who asks for a page, and where somebody is sent who may not see it. */
import { cookies, headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { cache } from 'react';
import { accessOf, may, type Access, type Need } from '@/server/access';
import { cookieName } from './session-cookie';

/** Once for a page, however many of its parts ask. */
const whoAsks = cache(async (): Promise<Access | null> => {
  const [jar, head] = await Promise.all([cookies(), headers()]);
  return accessOf(jar.get(cookieName(head.get('host')))?.value);
});

export const visitor = whoAsks;

/** Of the one who asks for this page; others are sent to the way in, and back from there. */
export async function pageAccess(need: Need = 'teach'): Promise<Access> {
  const access = await whoAsks();
  if (!access) {
    const to = (await headers()).get('x-asked');
    redirect(to && to !== '/' ? `/enter?to=${encodeURIComponent(to)}` : '/enter');
  }
  if (!may(access, need)) redirect(access.role === 'player' ? '/stand' : '/');
  return access;
}
