/** Coming in by an address with a key, as bin/start prints it. */
export interface Inside {
  /** Without the key. */
  url: string;
  /** Of the browser that was let in: name and value. */
  cookie: string;
}

/** Uses a key up, or opens a link. Without one in the address, or where it was used, the first browser of a new studio comes in. */
export async function comeIn(address: string): Promise<Inside> {
  const { origin, pathname } = new URL(address);
  for (const way of [...(/^\/(key|link)\//.test(pathname) ? [pathname] : []), '/first']) {
    const answer = await fetch(`${origin}${way}`, { redirect: 'manual' });
    const cookie = answer.headers.get('set-cookie')?.split(';')[0];
    if (cookie) return { url: origin, cookie };
  }
  throw new Error(`${address} lets nobody in: make a key with bin/key`);
}

/** As Playwright wants to have it. */
export function browserCookie({ url, cookie }: Inside): { name: string; value: string; url: string } {
  const [name, value] = cookie.split('=') as [string, string];
  return { name, value, url };
}
