import { mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Log } from './log';

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const ended = (log: Log) => new Promise<void>((resolve) => log.end(() => resolve()));

test('it goes on where it ended; what cannot be written is dropped and holds up nobody, and it is tried again', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'omaggio-log-'));
  const logs = path.join(folder, 'log');
  const file = path.join(logs, 'server.log');
  const first = new Log(logs, 'server');
  first.write('one\n');
  await ended(first);
  const second = new Log(logs, 'server');
  second.write('two\n');
  await ended(second);
  expect(readFileSync(file, 'utf8')).toBe('one\ntwo\n');

  const printed = jest.spyOn(console, 'log').mockImplementation(() => undefined);
  let now = 0;
  // In the place of the folder lies a file: nothing can be written there.
  renameSync(logs, `${logs}.away`);
  writeFileSync(logs, '');
  const third = new Log(logs, 'server', () => now);
  let taken = 0;
  for (let i = 0; i < 200; i++) third.write('x'.repeat(65_536), () => taken++);
  await wait(200);
  expect(taken).toBe(200);
  expect(printed).toHaveBeenCalledTimes(1);
  rmSync(logs);
  renameSync(`${logs}.away`, logs);
  now = 4_999;
  third.write('too early\n');
  now = 5_001;
  third.write('three\n');
  await ended(third);
  expect(readFileSync(file, 'utf8')).toBe('one\ntwo\nthree\n');
  printed.mockRestore();
  rmSync(folder, { recursive: true });
});
