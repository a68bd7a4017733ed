/** What others make of our packets: another program's receiver, and tshark where it is installed. */
import { spawn, spawnSync } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { COMMAND, rdmPacket } from '../rdm/packet.ts';
import { PARAMETER } from '../rdm/parameters.ts';
import { artTimeCode } from '../timecode/art.ts';
import { timecodeOf } from '../timecode/rate.ts';
import { ART_STYLE, artAddress, artPoll, artPollReply, type ArtNode } from './art-poll.ts';
import { artRdm, artTodData, artTodFlush, artTodRequest } from './art-rdm.ts';
import { artnetFrame, artnetPacket } from './artnet.ts';
import { ARTNET_PORT, SACN_PORT, type SacnSource } from './bytes.ts';
import { sacnFrame, sacnPacket, sacnPriorities, sacnTerminated } from './sacn.ts';
import { artSync } from './sync.ts';

const SLOTS = Uint8Array.from({ length: 512 }, (_, i) => (i * 7 + 3) & 255);
const SOURCE: SacnSource = {
  cid: Uint8Array.from({ length: 16 }, (_, i) => i + 1),
  name: 'Tidewater',
};
const PORT_ADDRESS = 0x1a5;

test('a receiver of another program hears our ArtDmx at its port address, and no other', async () => {
  const free = createSocket('udp4');
  const port = await new Promise<number>((done) => free.bind(0, () => done(free.address().port)));
  free.close();
  // It binds at once and says nothing of it: packets go out again and again until it has answered. It answers to no network.
  const receiver = spawn(process.execPath, [
    '-e',
    `const { dmxnet } = require('dmxnet');
     const net = new dmxnet({ listen: ${port}, log: { level: 'error' }, hosts: ['nobody'] });
     const hears = (subnet, universe) =>
       net.newReceiver({ net: 1, subnet, universe }).on('data', (slots) => console.log(JSON.stringify({ subnet, universe, slots })));
     hears(0xa, 5);
     hears(0xa, 6);`,
  ]);
  const sender = createSocket('udp4');
  const packet = artnetPacket(PORT_ADDRESS);
  const sending = setInterval(
    () => sender.send(artnetFrame(packet, SLOTS, 0), port, '127.0.0.1'),
    50,
  );
  try {
    const heard = await new Promise<string>((done, failed) => {
      createInterface({ input: receiver.stdout }).once('line', done);
      let wrong = '';
      receiver.stderr.on('data', (d: Buffer) => (wrong += d.toString()));
      receiver.once('exit', () => failed(new Error(wrong)));
    });
    expect(JSON.parse(heard)).toEqual({ subnet: 0xa, universe: 5, slots: [...SLOTS] });
  } finally {
    clearInterval(sending);
    sender.close();
    receiver.kill();
  }
});

/** A capture file of UDP packets (pcap 2.4, raw IPv4), each from a port to the same port. */
function capture(packets: readonly { port: number; bytes: Uint8Array }[]): Buffer {
  const head = Buffer.alloc(24);
  head.writeUInt32LE(0xa1b2c3d4, 0);
  head.writeUInt16LE(2, 4);
  head.writeUInt16LE(4, 6);
  head.writeUInt32LE(65_535, 16);
  head.writeUInt32LE(101, 20);
  const frames = packets.map(({ port, bytes }, i) => {
    const frame = Buffer.alloc(16 + 28 + bytes.length);
    frame.writeUInt32LE(i, 0);
    frame.writeUInt32LE(28 + bytes.length, 8);
    frame.writeUInt32LE(28 + bytes.length, 12);
    frame.set([0x45, 0], 16);
    frame.writeUInt16BE(28 + bytes.length, 18);
    frame.set([64, 17], 24);
    frame.set([10, 20, 0, 5, 10, 20, 0, 9], 28);
    frame.writeUInt16BE(port, 36);
    frame.writeUInt16BE(port, 38);
    frame.writeUInt16BE(8 + bytes.length, 40);
    frame.set(bytes, 44);
    return frame;
  });
  return Buffer.concat([head, ...frames]);
}

const NODE: ArtNode = {
  address: '10.20.0.5',
  shortName: 'Bridge',
  longName: 'Bridge, stage left',
  report: '#0001 [0003] all well',
  style: ART_STYLE.node,
  mac: '0a1b2c3d4e5f',
  bindIndex: 1,
  rdm: true,
  ports: [{ way: 'out', portAddress: PORT_ADDRESS, active: true, merges: false, fault: '' }],
};
const UID = '7ff0:00000001';
const sacn = (bytes: Uint8Array) => ({ port: SACN_PORT, bytes });
const art = (bytes: Uint8Array) => ({ port: ARTNET_PORT, bytes });
/** What we send, and what an analyser has to find in it. Synchronisation and discovery of sACN are unknown to it. */
const READ: Record<string, { packet: { port: number; bytes: Uint8Array }; found: string[] }> = {
  'sACN data': {
    packet: sacn(sacnFrame(sacnPacket(SOURCE, 301, 110, 7), SLOTS, 0)),
    found: [
      'acn.protocol_id: 4',
      'acn.dmx.source_name: Tidewater',
      'acn.dmx.priority: 110',
      'acn.dmx.seq_number: 1',
      'acn.dmx.universe: 301',
      'acn.dmx.count: 513',
      'acn.dmx.start_code2: 0',
    ],
  },
  'the end of a stream': {
    packet: sacn(sacnTerminated(sacnPacket(SOURCE, 301, 110))),
    found: ['acn.dmx.option_s: 1'],
  },
  'priorities by address': {
    packet: sacn(
      sacnPriorities(
        SOURCE,
        301,
        110,
        SLOTS.map((b) => b % 201),
      ),
    ),
    found: ['acn.dmx.start_code2: 221'],
  },
  ArtPoll: { packet: art(artPoll()), found: ['artnet.header.opcode: 0x2000'] },
  ArtPollReply: {
    packet: art(artPollReply(NODE)),
    found: [
      'artnet.poll_reply.ip_address: 10.20.0.5',
      'artnet.poll_reply.port_nr: 6454',
      'artnet.poll_reply.short_name: Bridge',
      'artnet.poll_reply.long_name: Bridge, stage left',
      'artnet.poll_reply.num_ports: 1',
      'artnet.poll_reply.mac: 0a:1b:2c:3d:4e:5f',
    ],
  },
  ArtDmx: {
    packet: art(artnetFrame(artnetPacket(PORT_ADDRESS), SLOTS, 0)),
    found: [
      'artnet.output.sequence: 1',
      'artnet.output.universe: 421',
      'artnet.output.length: 512',
    ],
  },
  ArtSync: { packet: art(artSync()), found: ['artnet.header.opcode: 0x5200'] },
  ArtTimeCode: {
    packet: art(artTimeCode(timecodeOf(90_061, '25'))),
    found: ['artnet.header.opcode: 0x9700'],
  },
  ArtAddress: {
    packet: art(artAddress({ shortName: 'Bridge', longName: 'Bridge, stage left' }, 1)),
    found: ['artnet.address.short_name: Bridge', 'artnet.address.command: 0x00'],
  },
  ArtTodRequest: {
    packet: art(artTodRequest(PORT_ADDRESS)),
    found: ['artnet.tod_request.net: 0x01', 'artnet.tod_request.ad_count: 1'],
  },
  ArtTodControl: {
    packet: art(artTodFlush(PORT_ADDRESS)),
    found: ['artnet.tod_control.command: 0x01', 'artnet.tod_control.universe: 421'],
  },
  ArtTodData: {
    packet: art(artTodData(PORT_ADDRESS, 1, [UID])[0] ?? artPoll()),
    found: ['artnet.tod_data.uid_total: 1', 'artnet.tod_data.tod: 7f:f0:00:00:00:01'],
  },
  ArtRdm: {
    packet: art(
      artRdm(
        PORT_ADDRESS,
        rdmPacket({
          to: UID,
          from: '7ff0:000000ff',
          transaction: 9,
          port: 1,
          command: COMMAND.set,
          parameter: PARAMETER.address,
          data: Uint8Array.of(1, 44),
        }),
      ),
    ),
    found: ['rdm.tn: 9', 'rdm.pd.dmx_start_address: 300', 'rdm.checksum.status: 1'],
  },
};
/** Every field that it found, as `name: value`. */
const said = (layers: object): string[] =>
  Object.entries(layers).flatMap(([name, value]) =>
    typeof value === 'string' ? [`${name}: ${value}`] : [`${name}:`, ...said(value as object)],
  );

test('a protocol analyser finds nothing wrong in any packet that we send', () => {
  const folder = mkdtempSync(join(tmpdir(), 'wingman-capture-'));
  try {
    const file = join(folder, 'all.pcap');
    writeFileSync(file, capture(Object.values(READ).map((r) => r.packet)));
    const asked = [
      '-n',
      '--enable-heuristic',
      'acn',
      '-o',
      'acn.dmx_enable:TRUE',
      '-r',
      file,
      '-T',
      'json',
    ];
    const ran = spawnSync('tshark', asked, { encoding: 'utf8', maxBuffer: 1e8 });
    if (ran.error) {
      console.warn('Skipped: tshark is not installed on this machine.');
      return;
    }
    const read = (JSON.parse(ran.stdout) as { _source: { layers: object } }[]).map((frame) =>
      said(frame._source.layers),
    );
    const wanted = Object.entries(READ);
    expect(read).toHaveLength(wanted.length);
    wanted.forEach(([name, { found }], i) => {
      const fields = read[i] ?? [];
      expect([name, fields.filter((f) => /malformed|expert/.test(f))]).toEqual([name, []]);
      expect([name, fields]).toEqual([name, expect.arrayContaining(found)]);
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
