/** The player process: opens the show on air, keeps the clock, serves the live socket on loopback. No web in it. */
import { randomUUID } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { Worker } from 'node:worker_threads';
import { backOff } from 'exponential-backoff';
import pg from 'pg';
import { WebSocketServer, type WebSocket } from 'ws';
import { z } from 'zod';
import { sayFirst } from '../core/said-wrong.ts';
import { ARTNET_PORT, SACN_PORT } from '../core/output/bytes.ts';
import { SOCKET_LIMITS } from '../core/live/messages.ts';
import { LiveCommand } from '../core/live/commands.ts';
import { isRefusal, refuse, statusOf, type Refusal } from '../core/refusal.ts';
import { mayNotHere } from '../core/rights.ts';
import { ODD_TEXT, oddTextIn } from '../core/text.ts';
import { connect, databaseTrouble } from '../store/database.ts';
import { listen } from '../store/feed.ts';
import {
  BEAT_MS,
  beat,
  machineHere,
  OUTPUT_LOCK,
  register,
  sequencesNow,
  waitingPlayers,
} from '../store/players.ts';
import { standingOf, spendTicket, type WhoIsIt } from '../store/rights.ts';
import { guardConsole, makeLog, surviveDatabase } from '../store/survive.ts';
import { readTicket, type Ticket } from '../store/ticket.ts';
import { readWires } from '../store/wires.ts';
import { Client } from './client.ts';
import { Clock } from './clock-client.ts';
import type { ClockStats } from './clock-messages.ts';
import { makeNetwork } from './network/network.ts';
import { watchCards } from './network/machine-cards.ts';
import { failed } from './failed.ts';
import { makeHouse } from './house.ts';
import { Keeping } from './keeping.ts';
import type { LiveShow } from './live-show.ts';
import { nativeMidi, type MidiPorts } from './hands/native-midi.ts';
import type { FromSound, SoundProcess } from './sounds/messages.ts';
import { listenMidi, listenOsc, outside, type Ears, type Listening } from './outside.ts';

const environment = z
  .object({
    DATABASE_URL: z.string(),
    WINGMAN_DATA: z.string().optional(),
    WINGMAN_SECRET: z.string().min(16),
    WINGMAN_PLAYER_PORT: z.coerce.number(),
    /** Where other machines' web processes reach this player; loopback unless somebody opens it. */
    WINGMAN_PLAYER_HOST: z.string().default('127.0.0.1'),
    /** Where the simulated node is; lights are on the protocols' own ports. */
    WINGMAN_SACN_PORT: z.coerce.number().default(SACN_PORT),
    WINGMAN_ARTNET_PORT: z.coerce.number().default(ARTNET_PORT),
    WINGMAN_OSC_PORT: z.coerce.number().default(9440),
    /** What was asked for, where the launcher had to move. */
    WINGMAN_OSC_WANTED: z.coerce.number().optional(),
    /** Remote controls are heard on this address; loopback unless somebody opens it. */
    WINGMAN_OSC_HOST: z.string().default('127.0.0.1'),
    WINGMAN_PEER_PORT: z.coerce.number().default(9441),
    WINGMAN_MIDI_PORT: z.coerce.number().default(9442),
    /** Where a simulated device at this machine is played from, as raw bytes. */
    WINGMAN_MIDI_IN_PORT: z.coerce.number().optional(),
  })
  .parse(process.env);

const HTTP_BODY_LIMIT = SOCKET_LIMITS.messageBytes;

const log = makeLog('player');
guardConsole();
surviveDatabase(log);
const { db } = connect(environment.DATABASE_URL, 6);
/** Begun while the database is away, it waits for it: so often it looks again. */
const AGAIN_MS = 300;
const installation = await backOff(
  () => db.selectFrom('installation').select('cid').where('id', '=', 1).executeTakeFirstOrThrow(),
  {
    startingDelay: AGAIN_MS,
    maxDelay: AGAIN_MS,
    numOfAttempts: Infinity,
    retry: (error: unknown) => databaseTrouble(error) !== undefined,
  },
);

const network = {
  cid: installation.cid,
  sacnPort: SACN_PORT,
  artnetPort: ARTNET_PORT,
  nodeHost: '127.0.0.1',
  nodeSacnPort: environment.WINGMAN_SACN_PORT,
  nodeArtnetPort: environment.WINGMAN_ARTNET_PORT,
};
const playerId = randomUUID();
const address = `${environment.WINGMAN_PLAYER_HOST}:${environment.WINGMAN_PLAYER_PORT}`;
const keeping = new Keeping(db, environment.WINGMAN_DATA ?? null);
/** Heard by the player on air alone: a port has one listener. */
let osc: Listening | null = null;
const earsNow = (): Ears => osc?.ears() ?? { port: null, problem: null };

function displaced(): void {
  log.warn('another player has the output; this one starts again and waits');
  process.exit(0);
}

const outsideOf = outside({
  osc: environment.WINGMAN_PEER_PORT,
  midi: environment.WINGMAN_MIDI_PORT,
});
/** Timecode to the simulated port, as it is: nobody waits for what the network says of it. */
const timeSocket = createSocket('udp4');
timeSocket.on('error', () => undefined);
timeSocket.bind(0, () => timeSocket.setBroadcast(true));
timeSocket.unref();
const sendMidi = (bytes: Uint8Array): void =>
  timeSocket.send(bytes, environment.WINGMAN_MIDI_PORT, '127.0.0.1', () => undefined);
/** ArtTimeCode goes to everybody: whoever wants it takes it. */
const shout = (packet: Uint8Array): void => {
  timeSocket.send(packet, ARTNET_PORT, '255.255.255.255', () => undefined);
  timeSocket.send(packet, environment.WINGMAN_ARTNET_PORT, '127.0.0.1', () => undefined);
};
/** What comes from the network never ends the player, whatever is wrong with it. */
const safely =
  <Args extends unknown[]>(heard: (...args: Args) => void) =>
  (...args: Args): void => {
    try {
      heard(...args);
    } catch (error) {
      log.error({ error: String(error) }, 'a message from outside could not be taken');
    }
  };

const house = makeHouse({
  db,
  log,
  playerId,
  address,
  keeping,
  outside: {
    osc: outsideOf.osc,
    // To the simulated port, and to every device that a hand at this machine is.
    midi: (bytes) => {
      house.hands.sendAll([...bytes]);
      return outsideOf.midi(bytes);
    },
  },
  startClock: (heard) =>
    new Clock(new URL('./clock.mjs', import.meta.url), network, heard, (error) => {
      log.fatal({ error: String(error) }, 'the clock stopped');
      process.exit(1);
    }),
  listen: (heard, missed) => listen(environment.DATABASE_URL, heard, missed),
  watch: (hooks) =>
    makeNetwork(
      {
        ...network,
        wires: () => readWires(db),
        cards: watchCards(),
        failed: (error) => log.warn({ error: String(error) }, 'the wires could not be read'),
      },
      {
        ...hooks,
        artnet: safely(hooks.artnet),
        moved: safely(hooks.moved),
        shows: safely(hooks.shows),
      },
    ),
  ears: earsNow,
  toRemote: (packet, to) => osc?.send(packet, to),
  giveTimecode: {
    midi: (bytes) => {
      house.hands.sendAll([...bytes]);
      sendMidi(bytes);
    },
    artnet: (packet) => shout(packet),
  },
  startSound: (heard, ended) => startSound(heard, ended),
  displaced,
});
const { clock } = house;

/** A process of its own: what goes wrong with a card or a file ends nothing that lights. */
function startSound(heard: (message: FromSound) => void, ended: () => void): SoundProcess {
  const child = fork(fileURLToPath(new URL('./sound.mjs', import.meta.url)), [], {
    // What its libraries say of missing cards is nobody’s business.
    stdio: ['ignore', 'inherit', 'ignore', 'ipc'],
  });
  child.on('message', (message) => heard(message as FromSound));
  child.on('error', () => undefined);
  child.once('close', ended);
  return {
    send: (message) => void (child.connected && child.send(message)),
    stop: () => void child.kill(),
  };
}

function hearRemotes(): void {
  osc ??= listenOsc(
    environment.WINGMAN_OSC_HOST,
    environment.WINGMAN_OSC_PORT,
    safely((to, args, from) => house.remote(to, args, from)),
    environment.WINGMAN_OSC_WANTED,
  );
}

/** As the simulated device is called among the ports of this machine. */
const SIMULATED = 'Simulated port';

/** Hands at this machine are those of the player that plays. */
async function hearHands(): Promise<void> {
  const { hands } = house;
  const heard = {
    heard: safely((port: string, bytes: readonly number[]) => hands.bytes(port, bytes)),
    gone: safely((port: string) => hands.gone(port)),
  };
  const port = environment.WINGMAN_MIDI_IN_PORT;
  const sendSimulated = outsideOf.midi;
  if (port !== undefined) listenMidi(port, (bytes) => heard.heard(SIMULATED, bytes));
  const simulated: MidiPorts = {
    look: () => undefined,
    names: () => (port === undefined ? [] : [SIMULATED]),
    problem: () => null,
    send: (_, bytes) => void sendSimulated(Uint8Array.from(bytes)),
    close: () => undefined,
  };
  const desks = house.network.universes();
  if (!desks) return;
  hands.use({ midi: [await nativeMidi(heard), simulated], desks });
  setInterval(() => hands.look(), 1000).unref();
}

let stopping = false;
/** Since this player has said that it is on air. */
let registered = false;
let releasing: (() => void) | null = null;
/** So long the player that has lost its lock with the database is let have it again. */
const OTHERS_MS = 1000;
const PING_MS = 300;
/** Whether the player that was on air still plays: after the database was away its lock is gone, and it is not. */
async function othersPlay(): Promise<boolean> {
  const row = await db
    .selectFrom('installation')
    .select(['player', 'player_id'])
    .where('id', '=', 1)
    .executeTakeFirst();
  if (!row?.player || row.player_id === playerId || row.player === address) return false;
  return fetch(`http://${row.player}/health`, { signal: AbortSignal.timeout(PING_MS) }).then(
    async (r) => ((await r.json()) as { onAir?: boolean }).onAir === true,
    () => false,
  );
}

/** Waits for the right to send. A killed player's connection ends with it, and its lock with the connection. */
async function holdOutput(): Promise<void> {
  for (;;) {
    const client = new pg.Client({ connectionString: environment.DATABASE_URL, keepAlive: true });
    const lost = new Promise<void>((resolve) => {
      client.on('error', () => resolve());
      client.on('end', () => resolve());
    });
    try {
      await client.connect();
      await client.query('select pg_advisory_lock($1)', [OUTPUT_LOCK]);
      if (!house.onAir && (await othersPlay())) {
        await client.end();
        await new Promise((resolve) => setTimeout(resolve, OTHERS_MS));
        continue;
      }
      if (!house.onAir) {
        clock.tell({ do: 'sequences', from: await sequencesNow(db) });
        await house.takeOutput();
        hearRemotes();
        void hearHands();
      }
      await register(db, { id: playerId, address, machine: machineHere() });
      registered = true;
      releasing = () => void client.end().catch(() => undefined);
      // When the database goes, sending goes on; the lock is taken again when it is back.
      await lost;
      releasing = null;
    } catch (error) {
      log.warn({ error: String(error) }, 'no right to send yet');
      await client.end().catch(() => undefined);
    }
    if (stopping) return;
    // Whoever sends already asks again at once; whoever waits lets it.
    await new Promise((resolve) => setTimeout(resolve, house.onAir ? 200 : 1500));
  }
}

/** Gives the output to the player that waits, in the middle of whatever plays. The supervisor starts this one again, to wait. */
async function handOver(): Promise<{ ok: true } | Refusal> {
  if ((await waitingPlayers(db)) === 0)
    return refuse('nothing', 'No other player is waiting; there is nobody to hand over to.');
  stopping = true;
  await house.saveAll();
  await beat(db, playerId, (await clock.stats()).sequences);
  // Quietly: receivers hold the last look until the other goes on, and are not told that the stream has ended.
  setTimeout(() => {
    releasing?.();
    setTimeout(() => process.exit(0), 20);
  }, 50);
  return { ok: true };
}

const json = (response: ServerResponse, status: number, body: unknown): void => {
  response.writeHead(status, { 'content-type': 'application/json' });
  response.end(JSON.stringify(body));
};
const refused = (response: ServerResponse, refusal: Refusal): void =>
  json(response, statusOf(refusal), {
    error: {
      code: refusal.code,
      message: refusal.message,
      ...(refusal.fields ? { fields: refusal.fields } : {}),
    },
  });

async function body(request: IncomingMessage): Promise<unknown> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > HTTP_BODY_LIMIT) return undefined;
    parts.push(part);
  }
  try {
    return JSON.parse(Buffer.concat(parts).toString('utf8'));
  } catch {
    return undefined;
  }
}

let rehearsing = false;
/** Longer than this nobody waits. */
const REHEARSAL_MS = 55_000;
function rehearsal(show: LiveShow, listId: string): Promise<unknown> {
  rehearsing = true;
  const worker = new Worker(new URL('./rehearse.mjs', import.meta.url), {
    workerData: { rows: [...show.show.rows()], listId },
  });
  return new Promise<unknown>((resolve, reject) => {
    const late = setTimeout(
      () => void worker.terminate().then(() => reject(new Error('The rehearsal took too long.'))),
      REHEARSAL_MS,
    );
    worker.once('message', (message) => {
      clearTimeout(late);
      resolve(message);
    });
    worker.once('error', reject);
  }).finally(() => {
    rehearsing = false;
  });
}

const header = (request: IncomingMessage, name: string): string | undefined => {
  const value = request.headers[name];
  return Array.isArray(value) ? value[0] : value;
};

async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const path = new URL(request.url ?? '/', 'http://player').pathname;
  if (path === '/health') {
    const stats = await clock.stats();
    const air = house.air();
    json(response, 200, {
      pid: process.pid,
      onAir: house.onAir && !stopping,
      notKept: house.notKept,
      show: air.showName,
      showId: air.showId,
      frames: stats.frames,
      packets: stats.packets,
      screens: house.clients.size,
      feed: house.feedIsUp,
      osc: earsNow(),
      memory_MB: Math.round(process.memoryUsage().rss / 1048576),
    });
    return;
  }
  if (path === '/stats' && header(request, 'x-wingman-secret') === environment.WINGMAN_SECRET) {
    json(response, 200, await clock.stats());
    return;
  }
  if (
    path === '/hand-over' &&
    request.method === 'POST' &&
    header(request, 'x-wingman-secret') === environment.WINGMAN_SECRET
  ) {
    const done = house.onAir
      ? await handOver()
      : refuse('standby', 'This player waits; it has nothing to hand over.');
    json(
      response,
      isRefusal(done) ? 409 : 200,
      isRefusal(done) ? { error: { code: done.code, message: done.message } } : done,
    );
    return;
  }
  if (!house.onAir) {
    refused(response, refuse('standby', 'This player waits while another plays.'));
    return;
  }
  const ticket = readTicket(
    environment.WINGMAN_SECRET,
    header(request, 'x-wingman-ticket'),
    'request',
  );
  if (!ticket) {
    refused(response, refuse('unauthorized', 'No valid ticket.'));
    return;
  }
  const show = await house.open(ticket.showId);
  if (!show) {
    refused(response, refuse('not-found', 'This show does not exist.'));
    return;
  }
  if (path === '/stage') {
    // Never before there is a frame, and never one from before what was told last.
    await clock.frame(show.id);
    json(response, 200, show.stage(house.air()));
    return;
  }
  if (path === '/rehearse' && request.method === 'POST') {
    const listId = new URL(request.url ?? '/', 'http://player').searchParams.get('list') ?? '';
    if (ticket.role === 'viewer' || ticket.role === 'volunteer')
      refused(
        response,
        refuse('forbidden', 'A viewer can look at this show, but not have it played through.'),
      );
    else if (!show.show.lists.has(listId))
      refused(response, refuse('not-found', 'There is no such cue list.'));
    else if (rehearsing)
      refused(response, refuse('conflict', 'A rehearsal is being played already; wait for it.'));
    else json(response, 200, await rehearsal(show, listId));
    return;
  }
  if (path === '/live' && request.method === 'POST') {
    const asked = await body(request);
    if (oddTextIn(asked) !== undefined) return refused(response, refuse('invalid', ODD_TEXT));
    const command = LiveCommand.safeParse(asked);
    if (!command.success) {
      const issue = command.error.issues[0];
      const field = issue?.path.join('.') || 'command';
      const message = sayFirst(command.error);
      refused(response, refuse('invalid', message, { [field]: message }));
      return;
    }
    const result = await house.command(
      ticket.showId,
      {
        userId: ticket.userId,
        name: ticket.name,
        role: ticket.role,
        pages: ticket.pages,
        via: 'a program',
      },
      command.data,
    );
    if (isRefusal(result)) refused(response, result);
    else json(response, 200, result);
    return;
  }
  refused(response, refuse('not-found', 'Unknown.'));
}

const server = createServer((request, response) => {
  answer(request, response).catch((error: unknown) => {
    const refusal = failed(error, log);
    if (!response.headersSent) refused(response, refusal);
  });
});

const sockets = new WebSocketServer({ noServer: true, maxPayload: SOCKET_LIMITS.messageBytes });

/** Whoever comes in by a ticket as they are at this moment, or why they do not: a ticket opens one socket, once. */
async function admit(text: string | null): Promise<{ ticket: Ticket; who: WhoIsIt } | string> {
  const ticket = readTicket(environment.WINGMAN_SECRET, text, 'socket');
  if (!ticket) return '401 Unauthorized';
  if (!house.onAir) return '503 Service Unavailable';
  if (!(await spendTicket(db, ticket.id))) return '401 Unauthorized';
  const who = await standingOf(db, ticket.sessionId, ticket.showId);
  if (mayNotHere(who, 'come in') || !who?.of) return who ? '403 Forbidden' : '401 Unauthorized';
  return { ticket, who };
}

server.on('upgrade', (request, socket, head) => {
  const url = new URL(request.url ?? '/', 'http://player');
  const turnAway = (status: string): void =>
    void socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\n\r\n`);
  socket.on('error', () => socket.destroy());
  if (url.pathname !== '/live') return turnAway('404 Not Found');
  admit(url.searchParams.get('ticket'))
    .then((admitted) => {
      if (typeof admitted === 'string') turnAway(admitted);
      else
        sockets.handleUpgrade(request, socket, head, (ws) =>
          comeIn(ws, admitted.ticket.showId, admitted.who),
        );
    })
    .catch((error: unknown) => {
      log.warn({ error: String(error) }, 'a screen could not be let in');
      turnAway('503 Service Unavailable');
    });
});

function comeIn(ws: WebSocket, showId: string, who: WhoIsIt): void {
  ws.pause();
  house
    .open(showId)
    .then((show) => {
      if (!show || !who.of) {
        ws.close(4404, 'no such show');
        return;
      }
      const client = new Client(
        ws,
        showId,
        { userId: who.userId, name: who.name, role: who.of.role, pages: who.of.pages },
        house,
        log,
        { sessionId: who.sessionId, leaves: who.of.until, locked: who.isLocked },
      );
      ws.resume();
      client.start(show);
      house.joined(client);
    })
    .catch(() => ws.close(1013, 'the show cannot be opened right now'));
}

const lookingIn = setInterval(() => house.lookAtInputs(), 100);
/** A quarter of a frame is 8.3 ms at the least. */
const giving = setInterval(() => house.giveTimecode(), 5);
/** Hands, and remote controls that asked: often enough for a finger on a fader. */
const told = setInterval(() => house.tellHands(), 50);
const sounding = setInterval(() => house.giveSound(), 60);
const levels = setInterval(() => house.sendLevels(), 1000 / SOCKET_LIMITS.levelsPerSecond);
/** For reading, not for following: where bytes come from, packet counters, nodes. */
const slow = setInterval(() => void house.sendOutputs(), 500);

/** Whether there is room to keep anything. */
const room = setInterval(() => void keeping.look(), 2000);

/** Boards of those who are away, people whose time is over. */
const people = setInterval(() => house.lookAtPeople(), 1000);
/** Sessions end in time as well, and news of people may be lost. */
const sessions = setInterval(() => void house.lookAtSessions(), 15_000);

/** The word that another has the output may be missed while the database is away; here it is noticed. */
async function keepBeat({ sequences }: ClockStats): Promise<void> {
  if (registered && !(await beat(db, playerId, sequences)) && house.onAir) displaced();
}

/** Where packet sequences are, for a player that may have to go on; and while waiting, the show that plays. */
const beats = setInterval(() => {
  const done = house.onAir ? clock.stats().then(keepBeat) : house.follow();
  done.catch((error: unknown) =>
    log.warn({ error: String(error) }, 'the database cannot be reached'),
  );
}, BEAT_MS);
void house.follow().catch(() => undefined);

/** Cues that go at a time of day. */
const timeOfDay = setInterval(() => house.lookAtClock(), 200);

async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  clearInterval(levels);
  clearInterval(slow);
  clearInterval(lookingIn);
  clearInterval(told);
  clearInterval(giving);
  clearInterval(sounding);
  clearInterval(beats);
  clearInterval(people);
  clearInterval(room);
  clearInterval(sessions);
  house.endLooking();
  osc?.close();
  clearInterval(timeOfDay);
  for (const client of house.clients) client.close();
  if (house.onAir) for (const text of await house.saveAll()) process.send?.(text);
  await clock.stop();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());

server.listen(environment.WINGMAN_PLAYER_PORT, environment.WINGMAN_PLAYER_HOST);
void holdOutput();
