/** Several people at one show at the same moment: nobody’s work is written over unseen, and none is lost. */
import { randomUUID } from 'node:crypto';
import { isRefusal } from '../core/refusal.ts';
import { type MutableShow } from '../core/show/show.ts';
import { advance, ShowStore } from './commit.ts';
import { changesAfter, loadShow } from './shows.ts';
import { withCrew, iden, levelIn, mara, must, recorded, rowsOf, tam } from './simulated-crew.ts';

const crew = withCrew();

describe('unseen work', () => {
  test('an edit that would overwrite it is refused with both, and written as it was decided', async () => {
    const f = await crew.freshShow();
    const [one, two] = await f.patched();
    const seen = await f.edit(mara, 'record-cue', {
      ...recorded(one, 1, 0.5),
      values: [one, two].map((fixtureId) => ({ fixtureId, attribute: 'Dimmer', level: 0.5 })),
    });
    const cueId = (await f.show()).cuesOf('main')[0]?.id;
    const cells = (l: number) => ({
      cells: [one, two].map((fixtureId) => ({
        cueId,
        fixtureId,
        attribute: 'Dimmer',
        set: { level: l },
      })),
    });
    await f.edit(tam, 'set-values', {
      cells: [{ cueId, fixtureId: one, attribute: 'Dimmer', set: { level: 0.7 } }],
    });
    const ask = (decided?: Record<string, 'mine' | 'theirs'>) =>
      f.store.edit(f.id, mara, {
        edit: 'set-values',
        params: cells(0.9),
        editId: `e-${randomUUID()}`,
        seen,
        ...(decided ? { decided } : {}),
      });
    const first = await ask();
    expect(first).toMatchObject({
      code: 'unseen',
      unseen: [
        {
          title: 'intensity of fixture 1 in cue 1',
          seen: '50 %',
          now: '70 %',
          yours: '90 %',
          who: 'Tam Brevik',
        },
      ],
    });
    expect(levelIn(await f.show(), 1, two)).toBe(0.5);
    const key = isRefusal(first) ? (first.unseen?.[0]?.key ?? '') : '';
    must(await ask({ [key]: 'theirs' }));
    expect([levelIn(await f.show(), 1, one), levelIn(await f.show(), 1, two)]).toEqual([0.7, 0.9]);
    // What comes is told before anybody is asked; and whoever does not say what they saw is asked nothing.
    const last = { edit: 'set-values', params: cells(0.3) };
    const look = { ...last, editId: `e-${randomUUID()}`, seen, preview: true };
    expect(must(await f.store.edit(f.id, mara, look))).toHaveProperty('consequences');
    expect(levelIn(await f.show(), 1, one)).toBe(0.7);
    must(await f.store.edit(f.id, mara, { ...last, editId: `e-${randomUUID()}` }));
    expect([levelIn(await f.show(), 1, one), levelIn(await f.show(), 1, two)]).toEqual([0.3, 0.3]);
  });

  test('everything left as the others made it is nothing to write, and that is said', async () => {
    const f = await crew.freshShow();
    const [one] = await f.patched();
    const seen = await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const cueId = (await f.show()).cuesOf('main')[0]?.id;
    const to = (l: number) => ({
      cells: [{ cueId, fixtureId: one, attribute: 'Dimmer', set: { level: l } }],
    });
    await f.edit(tam, 'set-values', to(0.7));
    const key = `values/${cueId}:${one}:Dimmer`;
    const answer = await f.store.edit(f.id, mara, {
      edit: 'set-values',
      params: to(0.9),
      editId: `e-${randomUUID()}`,
      seen,
      decided: { [key]: 'theirs' },
    });
    expect(answer).toMatchObject({ code: 'nothing' });
    expect(levelIn(await f.show(), 1, one)).toBe(0.7);
  });

  test('every mix of mine and theirs ends as it was chosen, with the first number seen; a third change is asked again where mine would write over it', async () => {
    const f = await crew.freshShow();
    const ids = (await f.patched()).slice(0, 2);
    const [one, two] = ids;
    await f.edit(mara, 'record-cue', {
      ...recorded(one, 1, 0.5),
      values: ids.map((fixtureId) => ({ fixtureId, attribute: 'Dimmer', level: 0.5 })),
    });
    const cueId = (await f.show()).cuesOf('main')[0]?.id ?? '';
    const cell = (fixtureId: string | undefined, l: number) => ({
      cueId,
      fixtureId,
      attribute: 'Dimmer',
      set: { level: l },
    });
    const keyOf = (fixtureId: string | undefined): string => `values/${cueId}:${fixtureId}:Dimmer`;
    for (const [a, b] of [
      ['mine', 'mine'],
      ['mine', 'theirs'],
      ['theirs', 'mine'],
      ['theirs', 'theirs'],
    ] as const) {
      const seen = await f.edit(mara, 'set-values', { cells: ids.map((id) => cell(id, 0.1)) });
      await f.edit(tam, 'set-values', { cells: ids.map((id) => cell(id, 0.6)) });
      const ask = (more: object = {}) =>
        f.store.edit(f.id, mara, {
          edit: 'set-values',
          params: { cells: ids.map((id) => cell(id, 0.9)) },
          editId: `e-${randomUUID()}`,
          seen,
          ...more,
        });
      const first = await ask();
      if (!isRefusal(first) || first.seq === undefined) throw new Error('nothing was asked');
      expect(first.unseen).toHaveLength(2);
      // While the choice is made, a third change comes to the second.
      await f.edit(tam, 'set-values', { cells: [cell(two, 0.3)] });
      const decided = { [keyOf(one)]: a, [keyOf(two)]: b };
      const second = await ask({ decided, decidedAt: first.seq });
      if (b === 'mine') {
        if (!isRefusal(second)) throw new Error('the third change was written over');
        expect(second.unseen).toMatchObject([
          { key: keyOf(two), seen: '60 %', now: '30 %', yours: '90 %' },
        ]);
        must(await ask({ decided, decidedAt: second.seq }));
      } else if (a === 'mine') must(second);
      else expect(second).toMatchObject({ code: 'nothing' });
      expect([levelIn(await f.show(), 1, one), levelIn(await f.show(), 1, two)]).toEqual([
        a === 'mine' ? 0.9 : 0.6,
        b === 'mine' ? 0.9 : 0.3,
      ]);
    }
  });
});

describe('many at once', () => {
  test('six people on two servers edit, undo and lose connections at random: all copies equal the database, and no change is lost', async () => {
    const f = await crew.freshShow();
    const ids = await f.patched();
    const stores = [new ShowStore(crew.db), new ShowStore(crew.db)];
    let seed = 20261124;
    const random = (n: number): number => {
      seed = (seed * 1103515245 + 12345) % 2 ** 31;
      return Math.floor((seed / 2 ** 31) * n);
    };
    const done = new Map<number, string>();
    /** One person's screen: a copy that follows the log, with holes while the connection is away. */
    const screens = await Promise.all(
      Array.from({ length: 6 }, async (_, i) => {
        const copy = await loadShow(crew.db, f.id);
        if (!copy) throw new Error('no show');
        return { copy, who: i % 2 === 0 ? mara : tam, away: false };
      }),
    );
    const follow = async (s: (typeof screens)[number]): Promise<void> => {
      for (const change of await changesAfter(crew.db, f.id, s.copy.seq)) advance(s.copy, change);
    };
    const act = async (s: (typeof screens)[number], step: number): Promise<void> => {
      const store = stores[random(2)] as ShowStore;
      const editId = `m-${step}-${randomUUID()}`;
      if (random(8) === 0) s.away = !s.away;
      if (!s.away) await follow(s);
      const kind = random(10);
      const result =
        kind === 0
          ? await store.reverse(f.id, s.who, random(2) === 0 ? 'undo' : 'redo', editId)
          : await store.edit(f.id, s.who, {
              edit: 'record-cue',
              params: recorded(ids[random(6)], 1 + random(5), random(100) / 100),
              editId,
              seen: s.copy.seq,
            });
      if (!isRefusal(result)) done.set(result.seq, result.summary);
      else expect(['nothing', 'conflict', 'unseen', 'not-found']).toContain(result.code);
    };
    for (let step = 0; step < 40; step++) await Promise.all(screens.map((s) => act(s, step)));
    for (const s of screens) await follow(s);
    const truth = rowsOf((await loadShow(crew.db, f.id))?.show as MutableShow);
    for (const s of screens) expect(rowsOf(s.copy.show)).toEqual(truth);
    for (const store of stores)
      expect(rowsOf((await store.open(f.id))?.show as MutableShow)).toEqual(truth);
    const log = await changesAfter(crew.db, f.id, 1, 10_000);
    expect(log.map((c) => [c.seq, c.summary])).toEqual([...done].sort(([a], [b]) => a - b));
    expect(done.size).toBeGreaterThan(80);
  }, 60_000);
});

describe('nobody overwritten', () => {
  test.each([1, 2, 3])(
    'whatever people set, choose and lose their connection over, every value is one that somebody chose over what they had seen (seed %i)',
    async (first) => {
      const f = await crew.freshShow({ tam: 'programmer', iden: 'programmer' });
      const ids = await f.patched();
      for (const n of [1, 2, 3])
        await f.edit(mara, 'record-cue', {
          listId: 'main',
          number: n * 1000,
          values: ids.map((fixtureId) => ({ fixtureId, attribute: 'Dimmer', level: 0 })),
        });
      const cues = (await f.show()).cuesOf('main').map((c) => c.id);
      let seed = first * 7919;
      const random = (n: number): number => {
        seed = (seed * 1103515245 + 12345) % 2 ** 31;
        return Math.floor((seed / 2 ** 31) * n);
      };
      const stores = [new ShowStore(crew.db), new ShowStore(crew.db)];
      const start = (await f.store.open(f.id))?.seq ?? 0;
      const people = [mara, tam, iden].map((who) => ({ who, seen: start, away: false }));
      /** By edit id: what its author meant for each value, what they had seen, and what they chose when asked. */
      const meant = new Map<
        string,
        {
          values: Map<string, number>;
          seen: number;
          decided: Record<string, 'mine' | 'theirs'>;
          decidedAt: number;
        }
      >();
      let level = 0;
      const now = async (): Promise<number> => (await f.store.open(f.id))?.seq ?? 0;
      const act = async (p: (typeof people)[number]): Promise<void> => {
        if (random(6) === 0) p.away = !p.away;
        if (!p.away) p.seen = await now();
        const { seen } = p;
        const editId = `n-${randomUUID()}`;
        const cells = Array.from({ length: 1 + random(3) }, () => ({
          cueId: cues[random(cues.length)] ?? '',
          fixtureId: ids[random(ids.length)] ?? '',
        })).filter(
          (c, i, all) =>
            all.findIndex((x) => x.cueId === c.cueId && x.fixtureId === c.fixtureId) === i,
        );
        const values = new Map(
          cells.map((c) => [`values/${c.cueId}:${c.fixtureId}:Dimmer`, ++level / 10_000] as const),
        );
        const params = {
          cells: cells.map((c) => ({
            ...c,
            attribute: 'Dimmer',
            set: { level: values.get(`values/${c.cueId}:${c.fixtureId}:Dimmer`) },
          })),
        };
        let decided: Record<string, 'mine' | 'theirs'> = {};
        let decidedAt = seen;
        for (let turn = 0; turn < 6; turn++) {
          meant.set(editId, { values, seen, decided, decidedAt });
          const request = {
            edit: 'set-values',
            params,
            editId,
            seen,
            ...(turn > 0 ? { decided, decidedAt } : {}),
          };
          // Whoever loses the connection sends it again; both may arrive, on two servers.
          const [answer] = await Promise.all([
            stores[random(2)]?.edit(f.id, p.who, request),
            ...(random(4) === 0 ? [stores[random(2)]?.edit(f.id, p.who, request)] : []),
          ]);
          if (!answer || !isRefusal(answer)) return;
          expect(['unseen', 'nothing']).toContain(answer.code);
          if (answer.code !== 'unseen' || random(5) === 0) return;
          // They think about it, and others go on meanwhile.
          await new Promise((done) => setTimeout(done, random(4)));
          decided = {
            ...decided,
            ...Object.fromEntries(
              (answer.unseen ?? []).map((u) => [
                u.key,
                random(2) === 0 ? ('mine' as const) : ('theirs' as const),
              ]),
            ),
          };
          decidedAt = answer.seq ?? decidedAt;
        }
      };
      for (let step = 0; step < 25; step++) await Promise.all(people.map(act));
      const log = await changesAfter(crew.db, f.id, start, 10_000);
      expect(log.length).toBeGreaterThan(30);
      let over = 0;
      for (const change of log) {
        const m = meant.get(change.editId);
        for (const row of change.rows) {
          const key = `${row.table}/${row.id}`;
          const after = row.table === 'values' ? row.after?.level : undefined;
          expect(after).toBe(m?.values.get(key));
          expect(m?.decided[key]).not.toBe('theirs');
          // Others' work on it that its author had not seen: chosen over, in the state that it had when they chose.
          const others = log.filter(
            (c) =>
              c.seq < change.seq &&
              c.seq > (m?.seen ?? 0) &&
              c.userId !== change.userId &&
              c.rows.some((r) => r.id === row.id),
          );
          if (others.length === 0) continue;
          over++;
          expect(m?.decided[key]).toBe('mine');
          expect(others.filter((c) => c.seq > (m?.decidedAt ?? 0))).toEqual([]);
        }
      }
      expect(over).toBeGreaterThan(0);
      expect(new Set(log.map((c) => c.editId)).size).toBe(log.length);
    },
    60_000,
  );
});
