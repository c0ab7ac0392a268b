/**
 * A question by HTTP that is answered or fails in time, body and all. The timer here is held by the event loop: that of
 * `AbortSignal.timeout` is not, and a question whose socket died with its server was seen to wait for ever (Node 20).
 */
export interface Asked extends Omit<RequestInit, 'signal'> {
  /** Milliseconds until it has failed. */
  within: number;
}

export async function ask(url: string, { within, ...request }: Asked): Promise<{ ok: boolean; status: number; text: string }> {
  const controller = new AbortController();
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => {
      reject(new Error(`No answer from ${url} in ${within} ms.`));
      controller.abort();
    }, within);
  });
  const answered = (async () => {
    const response = await fetch(url, { ...request, signal: controller.signal });
    return { ok: response.ok, status: response.status, text: await response.text() };
  })();
  // Whichever is second has nobody to tell.
  answered.catch(() => undefined);
  try {
    return await Promise.race([answered, late]);
  } finally {
    clearTimeout(timer);
  }
}
