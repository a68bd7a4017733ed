/** Many people in one show for minutes, and two shows of 2,000 cues that went apart coming together again. */
import { randomUUID } from 'node:crypto';
import type { WebSocket } from 'ws';
import type { CueRow } from '../core/cues/rows.ts';
import type { FixtureRow } from '../core/fixtures/rows.ts';
import { Visitor } from './house.ts';
import { hr, quantile, type Row, sleep } from './numbers.ts';
import { routeTo, startReceiver } from './receivers.ts';

const CLIENTS = 40;
const SECONDS = Number(process.env.WINGMAN_BENCH_CREW_S ?? 300);
/** Each client holds something new so often, and one in every so many times changes the show. */
const STEP_MS = 250;
const EDIT_EVERY = 8;
const APART_CUES = 1000;

interface Health {
  player: { memory_MB: number };
  web: { memory_MB: number };
}

/** Forty clients on the Ferry for five minutes: everybody sets levels and goes about, those who may also edit, with their hands in fields. */
export async function measurePeople(url: string): Promise<Row[]> {
  const owner = await Visitor.signIn(url, 'owner');
  const { shows } = await owner.ask<{ shows: { id: string; name: string }[] }>('/api/shows');
  const id = shows.find((s) => s.name === 'The Night Ferry')?.id ?? '';
  const { tables } = await owner.ask<{ tables: { cues: CueRow[]; fixtures: FixtureRow[] } }>(
    `/api/shows/${id}`,
  );
  const before = await owner.ask<Health>('/api/health');
  const visitors = [
    owner,
    await Visitor.signIn(url, 'programmer'),
    await Visitor.signIn(url, 'operator'),
  ];
  const sent = new Map<string, number>();
  const arrivals: number[] = [];
  const answers: number[] = [];
  const commands: number[] = [];
  const asked = new Map<string, number>();
  const sockets: WebSocket[] = [];
  let presences = 0;
  for (let i = 0; i < CLIENTS; i++) {
    const visitor = visitors[i % visitors.length] as Visitor;
    sockets.push(
      await visitor.socket(id, (m) => {
        if (m.type === 'change') {
          const at = sent.get(m.change.editId);
          if (at !== undefined) arrivals.push(hr() - at);
        } else if (m.type === 'presence') presences++;
        else if (m.type === 'reply' && m.id !== null) {
          const at = asked.get(`${i}/${m.id}`);
          if (at !== undefined) commands.push(hr() - at);
          asked.delete(`${i}/${m.id}`);
        }
      }),
    );
  }
  await sleep(1000);
  const opened = await owner.ask<Health>('/api/health');
  const until = hr() + SECONDS * 1000;
  let failed = 0;
  await Promise.all(
    sockets.map(async (socket, i) => {
      const visitor = visitors[i % visitors.length] as Visitor;
      await sleep((i * STEP_MS) / CLIENTS);
      for (let n = 0; hr() < until; n++) {
        const fixture = tables.fixtures[(i * 3 + n) % tables.fixtures.length];
        asked.set(`${i}/${n}`, hr());
        socket.send(
          JSON.stringify({
            type: 'command',
            id: n,
            command: {
              command: 'set',
              fixtures: [fixture?.number],
              attribute: 'Dimmer',
              level: ((i * 7 + n) % 100) / 100,
            },
          }),
        );
        if (i % 3 !== 2 && n % EDIT_EVERY === i % EDIT_EVERY) {
          const editId = randomUUID();
          const at = hr();
          sent.set(editId, at);
          await visitor
            .ask(`/api/shows/${id}/edits`, {
              edit: 'change-cue',
              params: {
                id: tables.cues[(i * 5 + n) % tables.cues.length]?.id,
                set: { note: `note ${i}/${n}` },
              },
              editId,
            })
            .then(
              () => answers.push(hr() - at),
              () => failed++,
            );
        }
        // Where somebody is, and what they write in, changes every second.
        if (n % 4 === 0)
          socket.send(
            JSON.stringify({
              type: 'presence',
              place: ['rig', 'stage', 'book', 'run'][(i + n) % 4],
              cue: tables.cues[(i + n) % tables.cues.length]?.id ?? null,
              device: 'a computer',
              hand:
                n % 8 === 0 ? `cues/${tables.cues[(i + n) % tables.cues.length]?.id}/Name` : null,
              doing: n % 8 === 0 ? 'Name of a cue' : '',
            }),
          );
        await sleep(STEP_MS);
      }
    }),
  );
  const after = await owner.ask<Health>('/api/health');
  for (const socket of sockets) socket.close();
  const perSocket = ((opened.player.memory_MB - before.player.memory_MB) * 1024) / CLIENTS;
  return [
    {
      what: `${CLIENTS} clients for ${SECONDS} s: an edit, asked to answered`,
      median: quantile(answers, 0.5),
      p99: quantile(answers, 0.99),
      unit: 'ms',
      wanted: '',
      note: `${answers.length} edits, ${failed} failed`,
    },
    {
      what: '… to its arrival on every client',
      median: quantile(arrivals, 0.5),
      p99: quantile(arrivals, 0.99),
      unit: 'ms',
      wanted: 'p99 < 150',
      note: `${arrivals.length} arrivals of ${answers.length * CLIENTS}`,
    },
    {
      what: '… a level set on the socket, sent to answered',
      median: quantile(commands, 0.5),
      p99: quantile(commands, 0.99),
      unit: 'ms',
      wanted: '',
      note: `${commands.length} commands`,
    },
    {
      what: '… memory of the player for each socket, at its opening',
      median: perSocket,
      p99: perSocket,
      unit: 'kB',
      wanted: '',
    },
    {
      what: '… who is where, told to each screen a second',
      median: presences / CLIENTS / SECONDS,
      p99: presences / CLIENTS / SECONDS,
      unit: '/s',
      wanted: '< 7',
    },
    {
      what: '… memory of the player after it, over before',
      median: after.player.memory_MB - before.player.memory_MB,
      p99: after.player.memory_MB - before.player.memory_MB,
      unit: 'MB',
      wanted: '',
    },
  ];
}

/** A file is opened so often. */
const OPENED = 5;

/** A copy of the large show, both changed in half of their cues, merged through the web process. */
export async function measureMerge(url: string, name: string): Promise<Row[]> {
  const owner = await Visitor.signIn(url, 'owner');
  const { shows } = await owner.ask<{ shows: { id: string; name: string }[] }>('/api/shows');
  const id = shows.find((s) => s.name === name)?.id ?? '';
  let start = hr();
  const timed = (): number => {
    const took = hr() - start;
    start = hr();
    return took;
  };
  const copy = await owner.ask<{ id: string }>(`/api/shows/${id}/copy`, {
    name: 'Two thousand cues, apart',
  });
  const copied = timed();
  const apart = async (show: string, level: number, from: number): Promise<void> => {
    const cells = Array.from({ length: APART_CUES }, (_, i) => ({
      cueId: `c${from + i}`,
      fixtureId: `f${(from + i) % 1000}`,
      attribute: 'Dimmer',
      set: { level },
    }));
    await owner.ask(`/api/shows/${show}/edits`, { edit: 'set-values', params: { cells } });
  };
  await apart(id, 0.123, 0);
  await apart(copy.id, 0.456, APART_CUES / 2);
  timed();
  const previews: number[] = [];
  let said = { conflictCount: 0, itemCount: 0 };
  for (let n = 0; n < 5; n++) {
    said = await owner.ask(`/api/shows/${id}/merge`, { from: { show: copy.id }, preview: true });
    previews.push(timed());
  }
  await owner.ask(`/api/shows/${id}/merge`, {
    from: { show: copy.id },
    rules: [{ side: 'theirs' }],
  });
  const merged = timed();
  const file = await owner.bytes(`/api/shows/${id}/export/show.wingman`);
  const exported = timed();
  const imported: number[] = [];
  for (let i = 0; i < OPENED; i++) {
    await owner.post('/api/shows/import', file);
    imported.push(timed());
  }
  const row = (what: string, ms: number, note?: string): Row => ({
    what,
    median: ms,
    p99: ms,
    unit: 'ms',
    wanted: '',
    ...(note ? { note } : {}),
  });
  return [
    row('a show of 2,000 cues and 300,000 values copied', copied),
    {
      ...row(
        '… a merge of both shown before it is made',
        quantile(previews, 0.5),
        `${said.conflictCount} conflicts, ${said.itemCount} things come in`,
      ),
      p99: quantile(previews, 0.99),
    },
    row('… made, by rule, all or nothing', merged),
    row('… written as a file', exported, `${(file.byteLength / 1024 / 1024).toFixed(1)} MB`),
    {
      ...row('… and opened as a new show, every row checked', quantile(imported, 0.5)),
      p99: quantile(imported, 0.99),
      wanted: '< 4000',
    },
  ];
}

/** What an earlier run on the same folder has left is as wanted. */
const unless =
  (words: string) =>
  (error: Error): void => {
    if (!error.message.includes(words)) throw error;
  };

const KILLS = 20;
/** Until the next player waits with the show at hand. */
const SETTLED_MS = 4500;
const FADE_S = 20;
/** The player on air killed in the middle of a fade, over and over: the longest silence at a receiver of its own, and when the next one answers. */
export async function measureTakeover(url: string): Promise<Row[]> {
  const owner = await Visitor.signIn(url, 'owner');
  const { shows } = await owner.ask<{ shows: { id: string; name: string }[] }>('/api/shows');
  const id = shows.find((s) => s.name === 'The Night Ferry')?.id ?? '';
  const live = (command: unknown): Promise<unknown> => owner.ask(`/api/shows/${id}/live`, command);
  const pidNow = async (): Promise<number> =>
    (await owner.ask<{ player: { pid: number } | null }>('/api/health').catch(() => null))?.player
      ?.pid ?? 0;
  const receiver = await startReceiver();
  const heard = (): Promise<{ packets: number; gap_ms: number; terminated: number }> =>
    new Promise((resolve) => {
      const listen = (m: { packets?: number; gap_ms?: number; terminated?: number }): void => {
        if (m.packets === undefined) return;
        receiver.off('message', listen);
        resolve(m as { packets: number; gap_ms: number; terminated: number });
      };
      receiver.on('message', listen);
      receiver.send('?');
    });
  await owner
    .ask(`/api/shows/${id}/edits`, {
      edit: 'set-route',
      params: routeTo(),
    })
    .catch(unless('goes there already'));
  await live({ command: 'air', on: true }).catch(unless('on air already'));
  await sleep(4000);
  const gaps: number[] = [];
  const answers: number[] = [];
  let ends = 0;
  for (let n = 0; n < KILLS; n++) {
    await sleep(SETTLED_MS);
    await live({ command: 'goto', cue: n % 2 ? '3' : '12', time: FADE_S });
    await sleep(800);
    const pid = await pidNow();
    await heard();
    process.kill(pid, 'SIGKILL');
    const start = hr();
    while ([0, pid].includes(await pidNow())) await sleep(10);
    answers.push(hr() - start);
    await sleep(2500);
    const { gap_ms, terminated } = await heard();
    gaps.push(gap_ms);
    ends += terminated;
  }
  receiver.disconnect();
  return [
    {
      what: `the player killed in a fade, ${KILLS} times: silence at a receiver`,
      median: quantile(gaps, 0.5),
      p99: Math.max(...gaps),
      unit: 'ms',
      wanted: '< 500, 1500',
      note: `in the second column the longest; ${ends} packets said that a stream ended`,
    },
    {
      what: '… until the next player is the one that answers',
      median: quantile(answers, 0.5),
      p99: Math.max(...answers),
      unit: 'ms',
      wanted: '',
    },
  ];
}
