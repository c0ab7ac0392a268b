/** The cookie that a browser which was let in shows. */

/** Cookies belong to a machine, whatever the port: each Omaggio on it has one of its own. */
export function cookieName(host: string | null): string {
  const port = /:(\d+)$/.exec(host ?? '')?.[1];
  return port ? `session-${port}` : 'session';
}

export function sessionOf(request: Request): string | undefined {
  const name = cookieName(request.headers.get('host') ?? new URL(request.url).host);
  return new RegExp(`(?:^|;\\s*)${name}=([\\w-]{20,100})(?:;|$)`).exec(request.headers.get('cookie') ?? '')?.[1];
}

const isSecure = (): boolean => process.env.OMAGGIO_ORIGIN?.startsWith('https:') ?? false;

/** @param token null to take it away */
export function sessionCookie(request: Request, token: string | null, days: number): string {
  const name = cookieName(request.headers.get('host') ?? new URL(request.url).host);
  const age = token === null ? 0 : days * 86_400;
  return `${name}=${token ?? ''}; Path=/; Max-Age=${age}; HttpOnly; SameSite=Lax${isSecure() ? '; Secure' : ''}`;
}
