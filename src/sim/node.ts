/** The simulated node: receives sACN and Art-Net on loopback and says over HTTP what arrived. It believes only packets. */
import { createSocket, type RemoteInfo } from 'node:dgram';
import { writeSync } from 'node:fs';
import { createServer, type IncomingMessage } from 'node:http';
import { z } from 'zod';
import { readArtDmx } from '../core/output/artnet.ts';
import { ARTNET_PORT, SACN_PORT } from '../core/output/bytes.ts';
import { isArtPoll, readArtAddress } from '../core/output/art-poll.ts';
import { readSacnDiscovery } from '../core/output/sacn-discovery.ts';
import { isArtSync, readSacnSync } from '../core/output/sync.ts';
import { readMidi } from '../core/output/midi.ts';
import { readOsc } from '../core/output/osc.ts';
import { readArtTimeCode } from '../core/timecode/art.ts';
import { freshMtc, readMtc } from '../core/timecode/mtc.ts';
import { formatTimecode } from '../core/timecode/rate.ts';
import { readSacn } from '../core/output/sacn.ts';
import { Faults, NO_FAULTS } from '../core/wires/faults.ts';
import { faultyWay } from './faults.ts';
import { hangingUnits } from './hanging.ts';
import { makeRack } from './rack.ts';
import { makeRival } from './rival.ts';
import { GAP_SPAN_MS, LOST_MS, Sources, type Heard } from './sources.ts';

const environment = z
  .object({
    WINGMAN_SIM_PORT: z.coerce.number(),
    WINGMAN_SECRET: z.string().min(16),
    WINGMAN_SACN_PORT: z.coerce.number().default(SACN_PORT),
    WINGMAN_ARTNET_PORT: z.coerce.number().default(ARTNET_PORT),
    WINGMAN_PEER_PORT: z.coerce.number().default(9441),
    WINGMAN_MIDI_PORT: z.coerce.number().default(9442),
    WINGMAN_MIDI_IN_PORT: z.coerce.number().optional(),
    WINGMAN_OSC_PORT: z.coerce.number().default(9440),
  })
  .parse(process.env);

/** A full disk takes no log, and ends nothing. */
function complain(text: string): void {
  try {
    writeSync(2, `${text}\n`);
  } catch {
    // Nothing to be done about it.
  }
}

const sources = new Sources();
const { heard, announced } = sources;

// The port is shared with the player, which listens on other addresses of it for real nodes and sources.
const sacn = createSocket({ type: 'udp4', reuseAddr: true });
const syncs = { sacn: 0, artnet: 0 };
let faults = NO_FAULTS;
const rack = makeRack();
const hanging = hangingUnits();
const rival = makeRival(environment.WINGMAN_SACN_PORT, SACN_PORT);
const faultsNow = (): Faults => faults;
const hearSacn = faultyWay<RemoteInfo>(faultsNow, (packet, from) => {
  if (readSacnSync(packet)) {
    syncs.sacn++;
    return;
  }
  const page = readSacnDiscovery(packet);
  if (page) {
    sources.announce(page.cid, page.name, page.page, page.universes, performance.now());
    return;
  }
  const data = readSacn(packet);
  if (!data || data.preview) return;
  sources.note(
    `sacn/${data.universe}/${data.cid}`,
    {
      protocol: 'sacn',
      universe: data.universe,
      source: data.name || from.address,
      priority: data.priority,
      sequence: data.sequence,
      slots: data.slots,
      terminated: data.terminated,
    },
    performance.now(),
  );
});
/** Timecode that is given, by where it came: a hundred messages a second are one line. */
const timecode: { midi: string | null; artnet: string | null } = { midi: null, artnet: null };
const quarters = freshMtc();
const artnet = createSocket({ type: 'udp4', reuseAddr: true });

function answerPoll(port: number, address: string): void {
  for (const reply of rack.replies(heard.values(), faults, performance.now()))
    artnet.send(reply, port, address);
}

const hearArtnet = faultyWay<RemoteInfo>(faultsNow, (packet, from) => {
  if (isArtPoll(packet)) {
    answerPoll(from.port, from.address);
    return;
  }
  const names = readArtAddress(packet);
  if (names) {
    rack.rename(names);
    answerPoll(from.port, from.address);
    return;
  }
  const answers = hanging.answers(packet);
  for (const answer of answers) artnet.send(answer, from.port, from.address);
  if (answers.length > 0) return;
  if (isArtSync(packet)) {
    syncs.artnet++;
    return;
  }
  const time = readArtTimeCode(packet);
  if (time) timecode.artnet = formatTimecode(time);
  const data = readArtDmx(packet);
  if (!data) return;
  sources.note(
    `artnet/${data.portAddress}/${from.address}`,
    {
      protocol: 'artnet',
      universe: data.portAddress,
      source: from.address,
      priority: null,
      sequence: data.sequence,
      slots: data.slots,
      terminated: false,
    },
    performance.now(),
  );
});
sacn.on('message', hearSacn);
artnet.on('message', hearArtnet);
for (const socket of [sacn, artnet])
  socket.on('error', (error) => complain(`The simulated node cannot receive: ${error.message}`));

const bind = (socket: typeof sacn, port: number): void => {
  socket.bind(port, '127.0.0.1', () => {
    try {
      socket.setRecvBufferSize(8 * 1024 * 1024);
    } catch {
      // A smaller buffer than wished for still receives.
    }
  });
};
bind(sacn, environment.WINGMAN_SACN_PORT);
bind(artnet, environment.WINGMAN_ARTNET_PORT);

/** What the OSC peer and the MIDI port received, newest last. */
const MESSAGES_KEPT = 60;
const messages: { kind: 'osc' | 'midi'; text: string; at_ms: number }[] = [];
function received(kind: 'osc' | 'midi', text: string): void {
  messages.push({ kind, text, at_ms: performance.now() });
  if (messages.length > MESSAGES_KEPT) messages.shift();
}
const peer = createSocket('udp4');
peer.on('message', (packet) => {
  const message = readOsc(packet);
  received('osc', message ? [message.address, ...message.args].join(' ') : 'not an OSC message');
});
const midi = createSocket('udp4');
midi.on('message', (packet) => {
  const time = readMtc(quarters, packet);
  if (time) timecode.midi = formatTimecode(time.time);
  if (time || packet[0] === 0xf1) return;
  const message = readMidi(packet);
  received(
    'midi',
    message
      ? `${message.kind} channel ${message.channel} number ${message.number}${message.kind === 'program' ? '' : ` value ${message.value}`}`
      : 'not a MIDI message',
  );
});
for (const socket of [peer, midi])
  socket.on('error', (error) => complain(`A simulated peer cannot receive: ${error.message}`));
bind(peer, environment.WINGMAN_PEER_PORT);
bind(midi, environment.WINGMAN_MIDI_PORT);

const isLive = (h: Heard, now: number): boolean => !h.terminated && now - h.last_ms <= LOST_MS;

function stateOf(h: Heard, now: number): 'terminated' | 'lost' | 'receiving' {
  if (h.terminated) return 'terminated';
  return now - h.last_ms > LOST_MS ? 'lost' : 'receiving';
}

/** Whether a receiver would show this one: nobody who sends the universe now has a higher priority. */
function winnerOf(of: Heard, now: number): boolean {
  if (!isLive(of, now)) return false;
  return [...heard.values()].every(
    (h) =>
      h.protocol !== of.protocol ||
      h.universe !== of.universe ||
      !isLive(h, now) ||
      (h.priority ?? 0) <= (of.priority ?? 0),
  );
}

function report(): unknown {
  const now = performance.now();
  const universes = [...heard.values()]
    .filter((h) => h.protocol === 'sacn' || h.universe !== faults.deadPort)
    .sort((a, b) => a.protocol.localeCompare(b.protocol) * -1 || a.universe - b.universe)
    .map((h) => ({
      protocol: h.protocol,
      universe: h.universe,
      source: h.source,
      priority: h.priority,
      packets: h.packets,
      outOfOrder: h.outOfOrder,
      sequence: h.sequence,
      lastPacket_ms: Math.round(now - h.last_ms),
      largestGap_ms: Math.round(
        Math.max(0, ...h.gaps.filter((g) => now - g.at < GAP_SPAN_MS).map((g) => g.ms)),
      ),
      wins: winnerOf(h, now),
      state: stateOf(h, now),
      slots: [...h.slots],
    }));
  return {
    pid: process.pid,
    oscPort: environment.WINGMAN_OSC_PORT,
    peerPort: environment.WINGMAN_PEER_PORT,
    midiPort: environment.WINGMAN_MIDI_PORT,
    midiInPort: environment.WINGMAN_MIDI_IN_PORT ?? null,
    messages: messages.map((m) => ({
      kind: m.kind,
      text: m.text,
      ago_s: Math.round((now - m.at_ms) / 100) / 10,
    })),
    timecode,
    syncs,
    faults,
    names: rack.names,
    identifying: hanging.identifying(),
    sacnPort: environment.WINGMAN_SACN_PORT,
    artnetPort: environment.WINGMAN_ARTNET_PORT,
    announced: [...announced.values()].map((a) => ({
      name: a.name,
      universes: a.universes,
      last_s: Math.round((now - a.at_ms) / 1000),
    })),
    universes,
  };
}

const BODY_BYTES = 4096;
async function bodyOf(request: IncomingMessage): Promise<unknown> {
  let text = '';
  for await (const part of request as AsyncIterable<Buffer>) {
    text += part.toString();
    if (text.length > BODY_BYTES) return undefined;
  }
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** Faults are switched by the web process alone, which has asked who may. */
async function setFaults(request: IncomingMessage): Promise<number> {
  if (request.headers['x-wingman-secret'] !== environment.WINGMAN_SECRET) return 401;
  const asked = Faults.safeParse(await bodyOf(request));
  if (!asked.success) return 400;
  faults = asked.data;
  rival.set(faults.rival);
  return 200;
}

const server = createServer((request, response) => {
  const done = request.method === 'POST' ? setFaults(request) : Promise.resolve(200);
  void done.then((status) => {
    response.writeHead(status, {
      'content-type': 'application/json',
      'cache-control': 'no-store',
    });
    response.end(JSON.stringify(report()));
  });
});
server.listen(environment.WINGMAN_SIM_PORT, '127.0.0.1');
process.on('SIGTERM', () => process.exit(0));
process.on('SIGINT', () => process.exit(0));
