/** Runs once when the server starts: the engraver is loaded before the first page asks for it. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { inWorker, OURSELVES } = await import('./server/workers');
  inWorker('warmUp', null, OURSELVES).catch((error) => console.error('the engraver could not be loaded:', error));
}
