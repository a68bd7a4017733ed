/** Which show is on air: one at a time, whoever changes it, and everybody is told. */
import { randomUUID } from 'node:crypto';
import type { AirState } from '../core/live/messages.ts';
import { exampleShow } from '../core/testing/example.ts';
import type { Database } from '../store/database.ts';
import type { Happened } from '../store/journal.ts';
import { ownDatabase } from '../store/own-database.ts';
import { airShow, createShow, setMember } from '../store/shows.ts';
import { isRefusal } from '../core/refusal.ts';
import type { Actor } from './actor.ts';
import type { ToClock } from './clock-messages.ts';
import type { LiveShow } from './live-show.ts';
import { OnAir } from './on-air.ts';

let own: Awaited<ReturnType<typeof ownDatabase>>;
let db: Database;
const mara: Actor = { userId: randomUUID(), name: 'Mara Kell', role: 'owner' };
const tam: Actor = { userId: randomUUID(), name: 'Tam Brevik', role: 'owner' };
beforeAll(async () => {
  own = await ownDatabase();
  ({ db } = own);
  for (const { userId, name } of [mara, tam])
    await db
      .insertInto('user')
      .values({ id: userId, name, email: `${userId}@tidewater.example` })
      .execute();
});
afterAll(() => own.drop());

type Sent = { universe: number; destination: string }[];
async function house(sends = true) {
  await db.updateTable('installation').set({ air_show_id: null }).where('id', '=', 1).execute();
  const told: AirState[] = [];
  const clock: ToClock[] = [];
  const noted: [string, string][] = [];
  const opened: string[] = [];
  const shows = new Map<string, LiveShow>();
  const air = new OnAir({
    db,
    clock: { tell: (m) => void clock.push(m) },
    shows,
    open: (id) => {
      opened.push(id);
      return Promise.resolve(shows.get(id));
    },
    tell: (state) => void told.push(state),
    note: (id: string, { text }: Happened) => void noted.push([id, text]),
  });
  const show = async (name: string, by = mara, sent: Sent = []) => {
    const made = await createShow(db, by.userId, name);
    if (isRefusal(made)) throw new Error(made.message);
    const live = {
      id: made.id,
      name,
      holder: null,
      show: exampleShow(),
      sent: () => sent,
      playback: () => ({ lists: [] }),
      lit: () => [],
    } as unknown as LiveShow;
    shows.set(made.id, live);
    return live;
  };
  if (sends) await air.take();
  told.length = clock.length = opened.length = 0;
  return { air, told, clock, noted, opened, shows, show };
}
const ok = { ok: true as const };

test('put on air and taken off: the clock fades, the house remembers, everybody is told, and it is written down', async () => {
  const { air, told, clock, noted, show } = await house();
  const ferry = await show('Ferry', mara, [
    { universe: 1, destination: '10.0.0.5' },
    { universe: 1, destination: 'node' },
    { universe: 2, destination: 'node' },
  ]);
  expect(await air.set(ferry, mara, true, true)).toMatchObject({
    ok: true,
    message: expect.stringContaining('“Ferry”'),
  });
  expect([told.length, clock.length, noted.length, await airShow(db)]).toEqual([0, 0, 0, null]);
  expect(await air.set(ferry, mara, true, false)).toEqual({ ok: true, message: 'Ferry is on air' });
  expect(clock).toEqual([{ do: 'air', showId: ferry.id, fade_s: 2 }]);
  expect(await airShow(db)).toBe(ferry.id);
  expect(told).toEqual([
    {
      showId: ferry.id,
      showName: 'Ferry',
      universes: 2,
      onlyNode: false,
      nowhere: null,
      problem: null,
    },
  ]);
  expect([air.is(ferry.id), air.show]).toEqual([true, ferry]);
  expect(await air.set(ferry, mara, true, false)).toMatchObject({
    code: 'nothing',
    message: '“Ferry” is on air already.',
  });
  expect(await air.set(ferry, mara, false, false)).toEqual({
    ok: true,
    message: 'Ferry is in rehearsal',
  });
  expect([await airShow(db), air.show, told.at(-1)?.showId]).toEqual([null, undefined, null]);
  expect(noted.map(([, text]) => text)).toEqual(['Put the show on air', 'Took the show off air']);
  expect(await air.set(ferry, mara, false, false)).toMatchObject({
    code: 'nothing',
    message: '“Ferry” is not on air.',
  });
});

test('one show takes the place of another, and both know; nobody who does not play the one on air may', async () => {
  const { air, noted, show } = await house();
  const ferry = await show('Ferry');
  const service = await show('Service', tam);
  await air.set(ferry, mara, true, false);
  expect(await air.set(service, tam, true, false)).toMatchObject({ code: 'forbidden' });
  expect(air.is(ferry.id)).toBe(true);
  await setMember(db, ferry.id, `${tam.userId}@tidewater.example`, 'operator');
  expect(await air.set(service, tam, true, false)).toMatchObject({ ok: true });
  expect(noted.slice(1)).toEqual([
    [ferry.id, '“Service” was put on air in its place'],
    [service.id, 'Put the show on air, in place of “Ferry”'],
  ]);
});

test('whoever plays a show that is not on air is told, where another is or it was before', async () => {
  const { air, show } = await house();
  const [ferry, service] = [await show('Ferry'), await show('Service')];
  expect(air.warned(ferry, ok)).toEqual(ok);
  await air.set(ferry, mara, true, false);
  expect(air.warned(ferry, ok)).toEqual(ok);
  expect(air.warned(service, ok)).toEqual({
    ok: true,
    warning: '“Service” is not on air: nobody sees this on stage. “Ferry” is on air.',
  });
  const no = { refused: true as const, code: 'nothing' as const, message: 'No.' };
  expect(air.warned(service, no)).toBe(no);
  await air.set(ferry, mara, false, false);
  expect(air.warned(ferry, ok)).toMatchObject({
    warning: '“Ferry” is not on air: nobody sees this on stage. Nothing is on air.',
  });
  expect(air.warned(service, ok)).toEqual(ok);
});

test('a player that waits sends nothing and says so; it hears nothing; taking over, it goes on at once', async () => {
  const { air, told, clock, opened, show } = await house(false);
  const ferry = await show('Ferry');
  expect([air.sends, air.state().problem]).toEqual([false, 'another player has the output']);
  await air.heard(ferry.id);
  expect([air.is(ferry.id), told, clock]).toEqual([false, [], []]);
  await db.updateTable('installation').set({ air_show_id: ferry.id }).where('id', '=', 1).execute();
  await air.take();
  expect([air.sends, air.is(ferry.id), opened]).toEqual([true, true, [ferry.id]]);
  expect(clock).toEqual([{ do: 'air', showId: ferry.id, fade_s: 0 }]);
  expect(told.at(-1)).toMatchObject({ showId: ferry.id, problem: null });
});

test('what another process says counts, once', async () => {
  const { air, told, clock, opened, show } = await house();
  const ferry = await show('Ferry');
  await air.heard(ferry.id);
  await air.heard(ferry.id);
  expect([told.length, opened]).toEqual([1, [ferry.id]]);
  expect(clock).toEqual([{ do: 'air', showId: ferry.id, fade_s: 2 }]);
  await air.heard(null);
  expect([air.show, opened.length, clock.at(-1)]).toEqual([
    undefined,
    1,
    { do: 'air', showId: null, fade_s: 2 },
  ]);
});

test('trouble with sending is told with what leads nowhere; of no show on air nothing leads anywhere', async () => {
  const { air, told, show } = await house();
  const nowhere = { universes: [4], of: 2, why: 'no card' };
  air.trouble('The network is down.', nowhere);
  expect(told.at(-1)).toMatchObject({ problem: 'The network is down.', nowhere: null });
  const sent: Sent = [{ universe: 1, destination: 'node' }];
  const ferry = await show('Ferry', mara, sent);
  await air.set(ferry, mara, true, false);
  expect(told.at(-1)).toMatchObject({ nowhere, onlyNode: true, universes: 1 });
  const before = told.length;
  air.lookAgain(ferry.id);
  air.lookAgain('other');
  expect(told).toHaveLength(before);
  sent.push({ universe: 2, destination: 'node' });
  air.lookAgain('other');
  expect(told).toHaveLength(before);
  air.lookAgain(ferry.id);
  expect(told.at(-1)).toMatchObject({ universes: 2 });
});
