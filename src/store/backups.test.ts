/** Back-ups of shows, and shows that are deleted. */
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type MutableShow, showName } from '../core/show/show.ts';
import { backUp, backupFolder, listBackups, readBackup } from './backups.ts';
import { openFile } from './files.ts';
import { listShows, loadShow, purgeDeleted, roleOf, setShowState } from './shows.ts';
import { DAY_MS, withCrew, mara, must, rowsOf, tam } from './simulated-crew.ts';

const crew = withCrew();
let data = '';
beforeEach(() => void (data = mkdtempSync(join(tmpdir(), 'backups-'))));
afterEach(() => rmSync(data, { recursive: true, force: true }));

describe('back-ups, archive and deletion', () => {
  test('one is written when something has changed, and opens as the show it was', async () => {
    const f = await crew.freshShow();
    await f.patched();
    const name = await backUp(f.store, data, f.id);
    expect(name).toMatch(/-1\.wingman$/);
    expect(await backUp(f.store, data, f.id)).toBeUndefined();
    const then = rowsOf(await f.show());
    await f.edit(mara, 'make-list', { name: 'Later' });
    const file = must(await readBackup(crew.db, data, f.id, name ?? ''));
    const { id } = must(await openFile(crew.db, mara.userId, file, 'Harbour lights, back-up'));
    const opened = (await loadShow(crew.db, id))?.show as MutableShow;
    expect(showName(opened)).toBe('Harbour lights, back-up');
    expect(rowsOf(opened).filter((r) => !r.startsWith('settings'))).toEqual(
      then.filter((r) => !r.startsWith('settings')),
    );
    expect(await listBackups(data, f.id)).toHaveLength(1);
    expect(await readBackup(crew.db, data, '../..', 'passwd')).toMatchObject({ code: 'invalid' });
  });

  test('older ones make room', async () => {
    const f = await crew.freshShow();
    await f.patched();
    await backUp(f.store, data, f.id, new Date('2026-01-01T00:00:00Z'));
    for (let i = 0; i < 30; i++)
      writeFileSync(
        join(
          backupFolder(data),
          f.id,
          `2026-11-24T10-00-${String(i).padStart(2, '0')}Z-${100 + i}.wingman`,
        ),
        'x',
      );
    await backUp(f.store, data, f.id, new Date('2026-11-24T19:00:00Z'));
    const left = readdirSync(join(backupFolder(data), f.id));
    expect([left.length, left.some((n) => n.startsWith('2026-01'))]).toEqual([24, false]);
  });

  test('a deleted show is gone for everybody but an owner, who has it back within a week', async () => {
    const f = await crew.freshShow();
    must(await setShowState(crew.db, f.id, 'deleted', 'Mara Kell'));
    expect(await roleOf(crew.db, f.id, mara.userId)).toBeUndefined();
    expect((await listShows(crew.db, tam.userId)).some((s) => s.id === f.id)).toBe(false);
    expect(
      (await listShows(crew.db, mara.userId)).find((s) => s.id === f.id)?.deletedAt,
    ).not.toBeNull();
    expect(await purgeDeleted(crew.db, new Date(Date.now() + 6 * DAY_MS))).not.toContain(
      'Harbour lights',
    );
    must(await setShowState(crew.db, f.id, 'kept', 'Mara Kell'));
    expect(await roleOf(crew.db, f.id, mara.userId)).toBe('owner');
    must(await setShowState(crew.db, f.id, 'deleted', 'Mara Kell'));
    await purgeDeleted(crew.db, new Date(Date.now() + 8 * DAY_MS));
    expect(await loadShow(crew.db, f.id)).toBeUndefined();
  });
});
