/** bin/backup, bin/restore and the doctor, as a person uses them. The build is there already. */
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { administrator, asked, newFolder, shelfOf } from '../support/data-folders';
import { command, freePort, start, stop } from '../support/omaggio';

describe('backup, restore, doctor', () => {
  test('the same studio in another folder, files byte for byte; what was there is kept', async () => {
    const [data, other] = [newFolder(), newFolder()];
    const file = path.join(path.dirname(data), 'studio.backup');
    const running = await start({ OMAGGIO_DATA: data, PORT: freePort() });
    const everything = async (url: string) => ({
      sources: await asked(url, "SELECT sha256, encode(sha256(bytes), 'hex') AS now, file_name FROM sources ORDER BY 1"),
      tables: await Promise.all(
        ['studios', 'players', 'pieces', 'parts', 'passages', 'markings', 'marks', 'change_sets', 'settings', 'editions'].map((table) =>
          asked(url, `SELECT count(*)::int AS n, md5(string_agg(md5(row::text), '' ORDER BY md5(row::text))) AS digest FROM ${table} AS row`),
        ),
      ),
    });
    const before = await everything(`${administrator(data)}/omaggio`);
    expect(command('restore', [file], { OMAGGIO_DATA: data }).text).toMatch(/cannot be read/);
    expect(command('backup', [file], { OMAGGIO_DATA: data })).toMatchObject({
      status: 0,
      text: expect.stringMatching(/saved in .*: 6 pieces, 10 parts, \d+ marks/),
    });
    expect(command('backup', [file], { OMAGGIO_DATA: data })).toMatchObject({ status: 1, text: expect.stringContaining('is there already') });
    expect(command('restore', [file], { OMAGGIO_DATA: data })).toMatchObject({ status: 1, text: expect.stringContaining('is in use') });
    expect(command('omaggio', ['doctor'], { OMAGGIO_DATA: data })).toMatchObject({
      status: 0,
      text: expect.stringMatching(/Omaggio runs, and its database answers[\s\S]*Nothing is wrong/),
    });
    await stop(running, 'SIGTERM');
    rmSync(data, { recursive: true });

    const cut = `${file}.cut`;
    writeFileSync(cut, readFileSync(file).subarray(0, 20_000));
    expect(command('restore', [cut], { OMAGGIO_DATA: other })).toMatchObject({ status: 1, text: expect.stringContaining('Nothing was changed') });
    expect(command('restore', [file], { OMAGGIO_DATA: other })).toMatchObject({ status: 0, text: expect.stringMatching(/6 pieces, 10 parts, \d+ marks/) });
    const again = await start({ OMAGGIO_DATA: other, PORT: freePort() });
    expect(again.printed()).not.toContain('demo: loaded');
    expect(await everything(`${administrator(other)}/omaggio`)).toEqual(before);
    const shelf = await shelfOf(again);
    expect(shelf).toContain('Mill Race Serenade');
    await stop(again, 'SIGTERM');
    expect(command('restore', [file], { OMAGGIO_DATA: other }).text).toMatch(/is kept as the database omaggio_before_\d{14}/);
    expect(command('omaggio', ['doctor'], { OMAGGIO_DATA: other })).toMatchObject({ status: 0, text: expect.stringContaining('kept from before a restore') });
  });
  test('the doctor says what is wrong and what to do', () => {
    expect(command('omaggio', ['doctor'], { OMAGGIO_DATA: newFolder() })).toMatchObject({
      status: 1,
      text: expect.stringMatching(/WRONG {3}there is no database yet[\s\S]*bin\/start makes one/),
    });
    expect(command('backup', [], { OMAGGIO_DATA: newFolder() })).toMatchObject({ status: 1, text: expect.stringContaining('name one file') });
    expect(command('backup', ['/tmp/x.backup'], { OMAGGIO_DATA: newFolder() })).toMatchObject({
      status: 1,
      text: expect.stringContaining('there are no data in'),
    });
  });
});
