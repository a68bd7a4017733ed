/** A whole house for tests: a database of its own, a clock that renders when it is asked to, and no network. */
import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import type { LiveCommand } from '../core/live/commands.ts';
import { isRefusal } from '../core/refusal.ts';
import type { MutableShow, RowChange } from '../core/show/show.ts';
import { cue, exampleShow } from '../core/testing/example.ts';
import type { Database } from '../store/database.ts';
import { ownDatabase } from '../store/own-database.ts';
import { register } from '../store/players.ts';
import { createShow, setMember } from '../store/shows.ts';
import type { Actor } from './actor.ts';
import type { Answer } from './answer.ts';
import type { Client } from './client.ts';
import type { FromClock, ToClock } from './clock-messages.ts';
import { Conductor } from './conductor.ts';
import { makeHouse, type House, type HouseNeeds } from './house.ts';
import { Keeping } from './keeping.ts';
import type { NetworkHooks } from './network/network.ts';
import type { FromSound, ToSound } from './sounds/messages.ts';

/** Who owns the shows, and who may play them. */
export const yrsa: Actor = { userId: randomUUID(), name: 'Yrsa Oddny', role: 'owner' };
export const tam: Actor = { userId: randomUUID(), name: 'Tam Brevik', role: 'operator' };
/** Who may look. */
export const iden: Actor = { userId: 'iden', name: 'Iden Vale', role: 'viewer' };

async function makeShow(db: Database, make: (show: MutableShow) => void): Promise<string> {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  cue(show, 2, { 2: 50 });
  cue(show, 3, { 3: 50 });
  make(show);
  const rows = [...show.rows()].map(
    ({ table, row }) => ({ table, id: row.id, before: null, after: row }) as RowChange,
  );
  const made = await createShow(db, yrsa.userId, 'Harbour lights', '', rows);
  if (isRefusal(made)) throw new Error(made.message);
  await setMember(db, made.id, 'tam@tidewater.example', 'operator');
  return made.id;
}

/** A clock that renders when it is asked for a frame. */
function simulatedClock(told: ToClock[]) {
  let say: (message: FromClock) => void = () => undefined;
  // As from another thread: never while it is being told.
  const conductor = new Conductor((m) => void setImmediate(() => say(m)));
  let now_s = 0;
  return {
    start: (heard: (message: FromClock) => void) => {
      say = heard;
      const tell = (m: ToClock): void => {
        told.push(m);
        if ('showId' in m && m.do !== 'air') conductor.handle(m, 0);
      };
      return {
        tell,
        stats: () => Promise.resolve({ lines: [{ routeId: 'r', packets: 1 }] }),
        seconds: (after: number) =>
          Promise.resolve([1, 2, 3].filter((s) => s > after).map((second) => ({ second }))),
        copy: () => Promise.resolve(null),
      } as never;
    },
    says: (message: FromClock): void => say(message),
    frame: (): void => conductor.tick((now_s += 0.02)),
  };
}

/** A network of which a test says what comes. */
function simulatedNetwork() {
  const did = { began: 0, readAgain: 0, closed: 0, units: null as unknown };
  let hooks: NetworkHooks | undefined;
  return {
    did,
    comes: (): NetworkHooks => {
      if (!hooks) throw new Error('no network');
      return hooks;
    },
    watch: (given: NetworkHooks) => {
      hooks = given;
      return {
        begin: () => (did.began++, Promise.resolve()),
        readAgain: () => (did.readAgain++, Promise.resolve()),
        universes: () => null,
        cards: () => [],
        rdm: () => did.units,
        rename: () => false,
        state: () => ({ nodes: [] }),
        close: () => void did.closed++,
      } as never;
    },
  };
}

/** A house on a database, of which everything that it tells can be read. */
function openOn(db: Database, playerId: string, more: Partial<HouseNeeds>) {
  const told: ToClock[] = [];
  const clock = simulatedClock(told);
  const network = simulatedNetwork();
  const displaced = { times: 0 };
  const sound: ToSound[] = [];
  let heardSound: Parameters<HouseNeeds['startSound']>[0] = () => undefined;
  const osc: { to: number; text: string }[] = [];
  const timecode = { midi: 0, artnet: 0 };
  const warned: string[] = [];
  let news: (channel: string, payload: unknown) => void = () => undefined;
  let missed: () => void = () => undefined;
  const house = makeHouse({
    db,
    log: {
      warn: (_: unknown, text: string) => warned.push(text),
      info: () => undefined,
      error: () => undefined,
    } as unknown as Logger,
    playerId,
    address: 'here:1',
    keeping: new Keeping(db, null),
    outside: { osc: () => Promise.resolve(undefined), midi: () => Promise.resolve(undefined) },
    startClock: clock.start,
    listen: (heard, again) => {
      news = heard;
      missed = again;
      return { connected: () => true, stop: () => Promise.resolve() };
    },
    watch: network.watch,
    ears: () => ({ port: 9440, problem: null }),
    giveTimecode: { midi: () => void timecode.midi++, artnet: () => void timecode.artnet++ },
    startSound: (heard) => {
      heardSound = heard;
      return { send: (m) => sound.push(m), stop: () => undefined };
    },
    toRemote: (packet, to) => osc.push({ to: to.port, text: Buffer.from(packet).toString() }),
    displaced: () => void displaced.times++,
    ...more,
  });
  return {
    house,
    told,
    displaced,
    sound,
    osc,
    timecode,
    warned,
    network: network.did,
    comes: network.comes,
    clockSays: clock.says,
    soundSays: (message: FromSound) => heardSound(message),
    frame: clock.frame,
    news: (channel: string, payload: unknown) => news(channel, payload),
    missed: () => missed(),
  };
}

/** A database with people in it, and houses on it. */
export async function houses() {
  const own = await ownDatabase();
  const { db } = own;
  const playerId = randomUUID();
  const opened: House[] = [];
  for (const { userId: id, name } of [yrsa, tam]) {
    const email = `${name.split(' ')[0]?.toLowerCase()}@tidewater.example`;
    await db.insertInto('user').values({ id, name, email }).execute();
  }
  await register(db, { id: playerId, address: 'here:1', machine: 'here' });

  const newShow = (make: (show: MutableShow) => void = () => undefined): Promise<string> =>
    makeShow(db, make);
  const open = (more: Partial<HouseNeeds> = {}) => {
    const made = openOn(db, playerId, more);
    opened.push(made.house);
    return made;
  };
  /** A house with a show that is on air. */
  const onAir = async (make?: (show: MutableShow) => void, more?: Partial<HouseNeeds>) => {
    const id = await newShow(make);
    await db.updateTable('installation').set({ air_show_id: id }).where('id', '=', 1).execute();
    const made = open(more);
    const { house } = made;
    await house.takeOutput();
    const show = await house.open(id);
    if (!show) throw new Error('no show');
    return {
      ...made,
      id,
      show,
      say: (actor: Actor, command: LiveCommand): Promise<Answer> =>
        house.command(id, actor, command),
      cueNow: () => show.playback().lists[0]?.cueNumber ?? null,
    };
  };
  const end = async (): Promise<void> => {
    for (const house of opened) await house.saveAll();
    await own.drop();
  };
  return { db, newShow, open, onAir, end };
}

/** A screen that writes down what it is told. */
export function screen(showId: string, actor: Actor, watching: object = {}) {
  const heard: { type: string; [more: string]: unknown }[] = [];
  const counts = { levels: 0, sources: 0, shownOut: 0, looks: 0 };
  const client = {
    showId,
    actor,
    why: 'away',
    followedBy: '',
    watching: { outputs: false, follows: null, sound: false, ...watching },
    secondsTold: -1,
    send: (m: { type: string }) => void heard.push(m),
    sendLevels: () => void counts.levels++,
    sendSources: () => void counts.sources++,
    sendInputs: () => undefined,
    sendUnits: () => undefined,
    sendPlayback: () => undefined,
    sendProgrammer: () => undefined,
    sendOthers: () => undefined,
    sendSlots: () => undefined,
    sendOver: () => undefined,
    look: () => void counts.looks++,
  };
  return {
    client: client as unknown as Client,
    heard,
    counts,
    of: (type: string) => heard.filter((m) => m.type === type),
  };
}
