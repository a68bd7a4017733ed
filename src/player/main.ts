/** The player process: opens the show on air, keeps the clock, serves the live socket on loopback. No web in it. */
import { randomUUID } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { backOff } from 'exponential-backoff';
import { z } from 'zod';
import { ARTNET_PORT, SACN_PORT } from '../core/output/bytes.ts';
import { SOCKET_LIMITS } from '../core/live/messages.ts';
import { connect, databaseTrouble } from '../store/database.ts';
import { listen } from '../store/feed.ts';
import {
  BEAT_MS,
  beat,
  machineHere,
  register,
  sequencesNow,
  waitingPlayers,
} from '../store/players.ts';
import { standingOf, spendTicket } from '../store/rights.ts';
import { guardConsole, makeLog, surviveDatabase } from '../store/survive.ts';
import { readWires } from '../store/wires.ts';
import { Clock } from './clock-client.ts';
import type { ClockStats } from './clock-messages.ts';
import { makeNetwork } from './network/network.ts';
import { watchCards } from './network/machine-cards.ts';
import { makeDoor } from './door.ts';
import { makeEntrance } from './entrance.ts';
import { makeHouse } from './house.ts';
import { Keeping } from './keeping.ts';
import type { LiveShow } from './live-show.ts';
import { nativeMidi, type MidiPorts } from './hands/native-midi.ts';
import type { FromSound, SoundProcess } from './sounds/messages.ts';
import { anotherPlays, lockConnection, makeOutputRight } from './output-right.ts';
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

/** Since this player has said that it is on air. */
let registered = false;
const right = makeOutputRight({
  log,
  connection: () => lockConnection(environment.DATABASE_URL),
  isSending: () => house.onAir,
  othersPlay: () => anotherPlays(db, { id: playerId, address }),
  take: async () => {
    clock.tell({ do: 'sequences', from: await sequencesNow(db) });
    await house.takeOutput();
    hearRemotes();
    void hearHands();
  },
  held: async () => {
    await register(db, { id: playerId, address, machine: machineHere() });
    registered = true;
  },
  waiting: () => waitingPlayers(db),
  keep: async () => {
    await house.saveAll();
    await beat(db, playerId, (await clock.stats()).sequences);
  },
  exit: () => process.exit(0),
});

/** Longer than this nobody waits. */
const REHEARSAL_MS = 55_000;
function rehearse(show: LiveShow, listId: string): Promise<unknown> {
  const worker = new Worker(new URL('./rehearse.mjs', import.meta.url), {
    workerData: { rows: [...show.show.rows()], listId },
  });
  return new Promise<unknown>((resolve, reject) => {
    const late = setTimeout(() => {
      reject(new Error('The rehearsal took too long.'));
      void worker.terminate();
    }, REHEARSAL_MS);
    worker.once('message', resolve);
    worker.once('error', reject);
    worker.once('exit', () => {
      clearTimeout(late);
      reject(new Error('The rehearsal ended without an answer.'));
    });
  });
}

const secret = environment.WINGMAN_SECRET;
const server = makeDoor({
  house,
  clock,
  secret,
  log,
  ears: earsNow,
  isStopping: right.isStopping,
  handOver: right.handOver,
  rehearse,
});
server.on(
  'upgrade',
  makeEntrance({
    house,
    secret,
    log,
    spend: (ticketId) => spendTicket(db, ticketId),
    standing: (sessionId, showId) => standingOf(db, sessionId, showId),
  }),
);

/** The word that another has the output may be missed while the database is away; here it is noticed. */
async function keepBeat({ sequences }: ClockStats): Promise<void> {
  if (registered && !(await beat(db, playerId, sequences)) && house.onAir) displaced();
}

/** Where packet sequences are, for a player that may have to go on; and while waiting, the show that plays. */
function lookAround(): void {
  const done = house.onAir ? clock.stats().then(keepBeat) : house.follow();
  done.catch((error: unknown) =>
    log.warn({ error: String(error) }, 'the database cannot be reached'),
  );
}

/** What is done again and again, and how often. */
const ROUNDS: readonly (readonly [ms: number, done: () => unknown])[] = [
  // A quarter of a frame is 8.3 ms at the least.
  [5, () => house.giveTimecode()],
  [1000 / SOCKET_LIMITS.levelsPerSecond, () => house.sendLevels()],
  // Hands, and remote controls that asked: often enough for a finger on a fader.
  [50, () => house.tellHands()],
  [60, () => house.giveSound()],
  [100, () => house.lookAtInputs()],
  // Cues that go at a time of day.
  [200, () => house.lookAtClock()],
  // For reading, not for following: where bytes come from, packet counters, nodes.
  [500, () => house.sendOutputs()],
  // Boards of those who are away, people whose time is over.
  [1000, () => house.lookAtPeople()],
  // Whether there is room to keep anything.
  [2000, () => keeping.look()],
  [BEAT_MS, lookAround],
  // Sessions end in time as well, and news of people may be lost.
  [15_000, () => house.lookAtSessions()],
];
const rounds = ROUNDS.map(([ms, done]) => setInterval(() => void done(), ms));
void house.follow().catch(() => undefined);

async function stop(): Promise<void> {
  if (right.isStopping()) return;
  right.stop();
  for (const round of rounds) clearInterval(round);
  house.endLooking();
  osc?.close();
  for (const client of house.clients) client.close();
  if (house.onAir) for (const text of await house.saveAll()) process.send?.(text);
  await clock.stop();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());

server.listen(environment.WINGMAN_PLAYER_PORT, environment.WINGMAN_PLAYER_HOST);
void right.hold();
