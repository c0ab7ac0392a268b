/** What bin/start runs once packages and build are there. */
import { Omaggio } from './run/omaggio';
import { run, say, Trouble } from './run/trouble';

const root = process.cwd();

function wantedPort(): number | null {
  const text = process.env.PORT;
  if (text === undefined || text === '') return null;
  const port = Number(text);
  if (!/^\d+$/.test(text) || port < 1 || port > 65_535) throw new Trouble(`PORT is "${text}".`, 'Set it to a number from 1 to 65535.');
  return port;
}

await run(async () => {
  const port = wantedPort();
  const omaggio = new Omaggio(root);
  let signals = 0;
  const stopped = new Promise<number>((resolve) => {
    for (const [signal, code] of [
      ['SIGINT', 130],
      ['SIGTERM', 143],
      ['SIGHUP', 129],
    ] as const) {
      process.on(signal, () => {
        if (++signals > 1) return;
        void omaggio.stop().then(() => resolve(code));
      });
    }
  });
  try {
    const url = await omaggio.start(port);
    if (url) say(`Omaggio is ready: ${url}\n         The address lets in one browser, once; bin/key makes another one. Ctrl-C stops Omaggio.`);
  } catch (error) {
    // What fails because we are being stopped is no trouble.
    if (signals === 0) {
      await omaggio.stop();
      throw error;
    }
  }
  process.exitCode = await stopped;
  process.exit();
});
// Pipes to children that are gone would keep us here.
process.exit();
