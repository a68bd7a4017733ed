/** The store against the real PostgreSQL; the launcher starts one for the tests. */
import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { isRefusal } from '../core/refusal.ts';
import { newShowRows } from '../core/rig/defaults.ts';
import { ShowStore } from './commit.ts';
import { connect } from './database.ts';
import { listen, type Feed } from './feed.ts';
import { migrate, sheetsFromPages } from './migrate.ts';
import { copyShow } from './copies.ts';
import { packedTables } from './packs.ts';
import { changesAfter, createShow, listShows, loadShow, setMember, writeRows } from './shows.ts';
import { email, withCrew, iden, mara, must, tam } from './simulated-crew.ts';
import { issueTicket, readTicket } from './ticket.ts';
import { until } from '../core/testing/until.ts';

const crew = withCrew();

const freshShow = async (): Promise<string> => (await crew.freshShow()).id;
const patch = (first: number, quantity = 2) => ({
  edit: 'patch-fixtures',
  params: { typeId: 'generic-dimmer', mode: '8 bit', quantity, first },
  editId: `e-${randomUUID()}`,
});

test('migrating twice changes nothing', async () => {
  await expect(migrate(crew.db)).resolves.toBeUndefined();
});

test('an edit is written, logged, and read back row by row', async () => {
  const id = await freshShow();
  const store = new ShowStore(crew.db);
  const done = must(await store.edit(id, mara, patch(1)));
  expect(done).toMatchObject({ seq: 1, summary: expect.stringContaining('Patched 2 fixtures') });
  const copy = await store.open(id);
  const loaded = await loadShow(crew.db, id);
  expect(loaded?.seq).toBe(1);
  expect(
    [...(loaded?.show.rows() ?? [])].map((r) => r.row).sort((a, b) => a.id.localeCompare(b.id)),
  ).toEqual(
    [...(copy?.show.rows() ?? [])].map((r) => r.row).sort((a, b) => a.id.localeCompare(b.id)),
  );
  expect((await changesAfter(crew.db, id, 0)).map((c) => [c.seq, c.userName, c.edit])).toEqual([
    [1, 'Mara Kell', 'patch-fixtures'],
  ]);
});

test.each([500, 501, 1000])('a copy that is %s changes behind has all of them', async (count) => {
  const id = await freshShow();
  const store = new ShowStore(crew.db);
  await store.open(id);
  // Another web process has written meanwhile.
  const numbers = Array.from({ length: count }, (_, i) => i + 1);
  await crew.db
    .insertInto('changes')
    .values(
      numbers.map((seq) => ({
        show_id: id,
        seq,
        edit_id: randomUUID(),
        user_id: tam.userId,
        user_name: tam.name,
        edit: 'record-group',
        summary: `Recorded group ${seq}`,
        reverts: null,
        rows: JSON.stringify([
          {
            table: 'groups',
            id: `g${seq}`,
            before: null,
            after: { id: `g${seq}`, number: seq, name: `Lamps ${seq}`, fixtures: [] },
          },
        ]),
      })),
    )
    .execute();
  const copy = await store.open(id);
  expect([copy?.seq, copy?.show.groups.size]).toEqual([count, count]);
});

test('the same edit id twice is one edit', async () => {
  const id = await freshShow();
  const store = new ShowStore(crew.db);
  const request = patch(1);
  const first = must(await store.edit(id, mara, request));
  const second = must(await store.edit(id, mara, request));
  expect(second.seq).toBe(first.seq);
  expect((await changesAfter(crew.db, id, 0)).length).toBe(1);
  expect(await store.edit(id, tam, request)).toMatchObject({
    refused: true,
    code: 'conflict',
  });
});

test('the same edit id at the same moment, from two processes, is one edit and the same answer', async () => {
  const id = await freshShow();
  const [a, b] = [new ShowStore(crew.db), new ShowStore(crew.db)];
  for (let round = 0; round < 5; round++) {
    const request = patch(1 + round * 10);
    const answers = (
      await Promise.all([a, b, a, b].map((store) => store.edit(id, mara, request)))
    ).map(must);
    expect(
      new Set(answers.map((r) => JSON.stringify([r.seq, r.summary, r.changes.length]))).size,
    ).toBe(1);
    expect((await changesAfter(crew.db, id, 0)).length).toBe(round + 1);
  }
});

test('a viewer’s edit, a stranger’s, and one on a show that is not there are refused and change nothing', async () => {
  const id = await freshShow();
  const store = new ShowStore(crew.db);
  expect(await store.edit(id, iden, patch(1))).toMatchObject({
    refused: true,
    code: 'forbidden',
  });
  await setMember(crew.db, id, email(iden), null);
  expect(await store.edit(id, iden, patch(1))).toMatchObject({
    refused: true,
    code: 'not-found',
  });
  expect(await store.edit(randomUUID(), mara, patch(1))).toMatchObject({
    refused: true,
    code: 'not-found',
  });
  expect(await changesAfter(crew.db, id, 0)).toEqual([]);
});

test('a preview answers with consequences and writes nothing', async () => {
  const id = await freshShow();
  const store = new ShowStore(crew.db);
  must(await store.edit(id, mara, patch(1)));
  const fixtureId = [...((await store.open(id))?.show.fixtures.keys() ?? [])][0];
  const record = (number: number, level: number, preview = false) =>
    store.edit(id, mara, {
      edit: 'record-cue',
      params: { listId: 'main', number, values: [{ fixtureId, attribute: 'Dimmer', level }] },
      editId: `e-${randomUUID()}`,
      preview,
    });
  must(await record(1000, 0.2));
  must(
    await store.edit(id, mara, {
      edit: 'record-cue',
      params: { listId: 'main', number: 3000, values: [] },
      editId: `e-${randomUUID()}`,
    }),
  );
  const preview = must(await record(2000, 0.9, true));
  expect(preview.consequences?.map((c) => c.number)).toEqual([3000]);
  expect((await loadShow(crew.db, id))?.show.cuesOf('main').length).toBe(2);
});

test('two processes editing at once lose nothing and agree', async () => {
  const id = await freshShow();
  const a = new ShowStore(crew.db);
  const b = new ShowStore(connect(crew.url, 4).db);
  const results = await Promise.all(
    Array.from({ length: 20 }, (_, i) =>
      (i % 2 ? a : b).edit(id, i % 2 ? mara : tam, patch(100 + i * 10)),
    ),
  );
  expect(results.every((r) => !isRefusal(r))).toBe(true);
  const [fromA, fromB, fromRows] = [
    await a.open(id),
    await b.open(id),
    await loadShow(crew.db, id),
  ];
  expect([fromA?.seq, fromB?.seq, fromRows?.seq]).toEqual([20, 20, 20]);
  for (const copy of [fromA, fromB, fromRows]) expect(copy?.show.fixtures.size).toBe(40);
  await b.db.destroy();
});

test('of two that want the same number, one gets it and the other is told', async () => {
  const id = await freshShow();
  const store = new ShowStore(crew.db);
  const results = await Promise.all([
    store.edit(id, mara, patch(1)),
    store.edit(id, tam, patch(1)),
  ]);
  expect(results.filter((r) => isRefusal(r))).toMatchObject([{ code: 'clash' }]);
});

test('undo is per person, is logged, and can be redone', async () => {
  const id = await freshShow();
  const store = new ShowStore(crew.db);
  must(await store.edit(id, mara, patch(1)));
  must(await store.edit(id, tam, patch(10)));
  expect(must(await store.reverse(id, mara, 'undo', 'undo-1')).summary).toMatch(/^Undid: Patched/);
  expect(
    [...((await loadShow(crew.db, id))?.show.fixtures.values() ?? [])].map((f) => f.number).sort(),
  ).toEqual([10, 11]);
  must(await store.reverse(id, mara, 'redo', 'redo-1'));
  expect((await loadShow(crew.db, id))?.show.fixtures.size).toBe(4);
  expect(await store.reverse(id, mara, 'redo', 'redo-2')).toMatchObject({
    refused: true,
    code: 'nothing',
  });
});

test('undo is refused where somebody has built on it', async () => {
  const id = await freshShow();
  const store = new ShowStore(crew.db);
  must(await store.edit(id, mara, patch(1)));
  const fixture = [...((await store.open(id))?.show.fixtures.values() ?? [])][0];
  must(
    await store.edit(id, tam, {
      edit: 'change-fixtures',
      params: { fixtures: [{ id: fixture?.id, set: { label: 'Bow rail' } }] },
      editId: `e-${randomUUID()}`,
    }),
  );
  expect(await store.reverse(id, mara, 'undo', 'undo-9')).toMatchObject({
    refused: true,
    message: expect.stringContaining('by Tam Brevik'),
  });
});

test('listeners hear of every change, and of having been away', async () => {
  const id = await freshShow();
  const store = new ShowStore(crew.db);
  const heard: number[] = [];
  let connections = 0;
  let feed: Feed | undefined;
  await new Promise<void>((resolve) => {
    feed = listen(
      crew.url,
      (_channel, payload) =>
        (payload as { show: string; seq: number }).show === id &&
        heard.push((payload as { seq: number }).seq),
      () => (connections++, resolve()),
    );
  });
  must(await store.edit(id, mara, patch(1)));
  must(await store.edit(id, mara, patch(10)));
  await until(() => heard.length === 2);
  expect(heard).toEqual([1, 2]);
  // The server ends the connection, as a restart of it would.
  const admin = connect(crew.url, 1);
  await admin.pool.query(
    "select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen wingman_air%' and pid <> pg_backend_pid()",
  );
  await until(() => connections === 2);
  must(await store.edit(id, mara, patch(20)));
  await until(() => heard.includes(3));
  await feed?.stop();
  await admin.db.destroy();
});

test('a show keeps an owner; the renamed show is renamed in the list', async () => {
  const id = await freshShow();
  expect(await setMember(crew.db, id, email(mara), 'viewer')).toMatchObject({
    refused: true,
    code: 'conflict',
  });
  expect(await setMember(crew.db, id, 'nobody@tidewater.example', 'viewer')).toMatchObject({
    refused: true,
    code: 'not-found',
  });
  must(
    await new ShowStore(crew.db).edit(id, mara, {
      edit: 'change-show',
      params: { set: { name: 'Harbour, again' } },
      editId: `e-${randomUUID()}`,
    }),
  );
  expect((await listShows(crew.db, mara.userId)).find((s) => s.id === id)?.name).toBe(
    'Harbour, again',
  );
});

test('300 rows more than a statement takes go in', async () => {
  const rows = newShowRows('Many');
  const big = Array.from({ length: 10_300 }, (_, i) => ({
    table: 'groups' as const,
    id: `g${i}`,
    before: null,
    after: { id: `g${i}`, number: i + 1, name: 'G', fixtures: [] },
  }));
  const made = must(await createShow(crew.db, mara.userId, 'Many', '', [...rows, ...big]));
  expect((await loadShow(crew.db, made.id))?.show.groups.size).toBe(10_300);
});

const ODD_NAME = 'tab\there, back\\slash \\n, line\nend\r\n, “quotes” \\. and \u{1f3ad}';
const manyNotes = (count: number) => [
  ...newShowRows('Many'),
  ...Array.from({ length: count }, (_, i) => ({
    table: 'groups' as const,
    id: `many-${i}\\t`,
    before: null,
    after: { id: `many-${i}\\t`, number: i + 1, name: `${ODD_NAME} ${i}`, fixtures: [] },
  })),
];

test('a large table of a new show is packed, and read as it was, whatever stands in it', async () => {
  const rows = manyNotes(3000);
  const made = must(await createShow(crew.db, mara.userId, 'Many', '', rows));
  const read = await loadShow(crew.db, made.id);
  const groups = [...(read?.show.groups.values() ?? [])].sort((x, y) => x.number - y.number);
  expect(groups).toHaveLength(3000);
  expect(groups[7]).toEqual(rows.find((r) => r.id === 'many-7\\t')?.after);
  // Row by row lies what is small, and what statements ask for.
  expect(await rowByRow(made.id)).toBe(rows.length - 3000);
});
const rowByRow = async (id: string): Promise<number> =>
  (await crew.db.selectFrom('show_rows').select('id').where('show_id', '=', id).execute()).length;

test('what is changed, deleted and made again over packed rows is there as row by row it would be; so in a copy', async () => {
  const made = must(await createShow(crew.db, mara.userId, 'Many', '', manyNotes(3000)));
  const known = new Map<string, unknown>(
    manyNotes(3000).flatMap((r) => (r.table === 'groups' ? [[r.id, r.after]] : [])),
  );
  let chance = 7;
  const next = (below: number): number => (chance = (chance * 48_271) % 2_147_483_647) % below;
  const groupsIn = async (id: string): Promise<Map<string, unknown>> =>
    new Map((await loadShow(crew.db, id))?.show.groups ?? []);
  for (let step = 0; step < 40; step++) {
    const changes = new Map<string, unknown>();
    for (let i = 0; i < 20; i++) {
      const id = next(8) === 0 ? `new-${next(30)}` : `many-${next(60)}\\t`;
      changes.set(id, next(3) === 0 ? null : { id, number: step + 1, name: `${i}`, fixtures: [] });
    }
    await writeRows(
      crew.db,
      made.id,
      [...changes].map(([id, after]) => ({
        table: 'groups' as const,
        id,
        before: null,
        after: after as never,
      })),
    );
    for (const [id, after] of changes)
      if (after === null) known.delete(id);
      else known.set(id, after);
  }
  expect(await groupsIn(made.id)).toEqual(known);
  const copy = must(
    await copyShow(new ShowStore(crew.db), made.id, mara.userId, 'Many, once more'),
  );
  expect(await groupsIn(copy.id)).toEqual(known);
});

test('rows go with their show, and those of others stay', async () => {
  const [gone, stays] = [await freshShow(), await freshShow()];
  const packed = must(await createShow(crew.db, mara.userId, 'Many', '', manyNotes(3000))).id;
  const before = await rowByRow(stays);
  expect(await rowByRow(gone)).toBeGreaterThan(0);
  await crew.db.deleteFrom('shows').where('id', 'in', [gone, packed]).execute();
  expect([await rowByRow(gone), await rowByRow(stays)]).toEqual([0, before]);
  expect(await packedTables(crew.db, packed)).toEqual(new Set());
});

test('packed rows are part of their transaction: what fails later leaves none of them', async () => {
  const lying = () =>
    sql`select (select count(*) from show_rows) as rows, (select count(*) from show_packs) as packs`
      .execute(crew.db)
      .then((r) => r.rows);
  const before = await lying();
  const failed = crew.db.transaction().execute(async (trx) => {
    await createShow(trx, mara.userId, 'Many', '', manyNotes(3000));
    throw new Error('later');
  });
  await expect(failed).rejects.toThrow('later');
  expect(await lying()).toEqual(before);
});

test('tickets: good for some seconds, for what they say and what they are for, and not forgeable', () => {
  const who = {
    userId: 'u',
    name: 'Mara',
    showId: 's',
    role: 'operator' as const,
    use: 'socket' as const,
  };
  const ticket = issueTicket('a secret of the house', who, 1000);
  expect(readTicket('a secret of the house', ticket, 'socket', 2000)).toMatchObject(who);
  expect(readTicket('a secret of the house', ticket, 'request', 2000)).toBeUndefined();
  expect(readTicket('a secret of the house', ticket, 'socket', 17_000)).toBeUndefined();
  expect(readTicket('another secret', ticket, 'socket', 2000)).toBeUndefined();
  expect(
    readTicket(
      'a secret of the house',
      issueTicket('a secret of the house', who, 1000),
      'socket',
      2000,
    )?.id,
  ).not.toBe(readTicket('a secret of the house', ticket, 'socket', 2000)?.id);
  const [body, signature] = ticket.split('.');
  const forged = Buffer.from(
    Buffer.from(body ?? '', 'base64url')
      .toString()
      .replace('operator', 'owner'),
  ).toString('base64url');
  expect(
    readTicket('a secret of the house', `${forged}.${signature}`, 'socket', 2000),
  ).toBeUndefined();
  for (const bad of [null, '', 'x', 'x.y', '.'])
    expect(readTicket('a secret of the house', bad, 'socket')).toBeUndefined();
});

test('control pages of an earlier version become sheets: as rows, and in the log, so that an undo goes on', async () => {
  const id = await freshShow();
  const page = {
    id: 'page-1',
    number: 1,
    name: 'The service',
    buttons: [{ label: 'Next', act: { do: 'go', list: 'main' } }],
    faders: [],
  };
  // As that version wrote them.
  await sql`insert into show_rows (show_id, tbl, id, data)
    values (${id}, 'pages', 'page-1', ${JSON.stringify(page)})`.execute(crew.db);
  await sql`insert into changes (show_id, seq, edit_id, user_id, user_name, edit, summary, rows)
    values (${id}, 1, 'e-page', ${mara.userId}, 'Mara Kell', 'set-page', 'Made page “The service”: 1 button',
      ${JSON.stringify([{ table: 'pages', id: 'page-1', before: null, after: page }])})`.execute(
    crew.db,
  );
  await crew.db.updateTable('shows').set({ seq: 1 }).where('id', '=', id).execute();
  await sheetsFromPages(crew.db as never);
  const loaded = await loadShow(crew.db, id);
  expect([...(loaded?.show.sheets.values() ?? [])]).toMatchObject([{ id: 'page-1', number: 1 }]);
  expect([...(loaded?.show.sheetpieces.values() ?? [])]).toMatchObject([
    { sheet: 'page-1', label: 'Next', is: { kind: 'list', list: 'main', press: 'go' } },
  ]);
  const [told] = await changesAfter(crew.db, id, 0);
  expect(told?.rows.map((r) => r.table)).toEqual(['sheets', 'sheetpieces']);
  // What was done to the page can be undone as what was done to its sheet.
  const undone = must(await new ShowStore(crew.db).reverse(id, mara, 'undo', `e-${randomUUID()}`));
  expect(undone.summary).toContain('Undid');
  expect((await loadShow(crew.db, id))?.show.sheets.size).toBe(0);
});
