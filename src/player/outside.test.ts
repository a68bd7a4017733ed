/** Where remote controls are heard when the port is somebody else's. */
import { createSocket, type Socket } from 'node:dgram';
import { oscMessage } from '../core/output/osc.ts';
import { listenMidi, listenOsc, outside } from './outside.ts';
import { until } from '../core/testing/until.ts';

const open: (() => void)[] = [];
afterEach(() => {
  for (const close of open.splice(0)) close();
});
const taken = (): Promise<{ port: number; socket: Socket }> =>
  new Promise((done) => {
    const socket = createSocket('udp4');
    socket.bind(0, '127.0.0.1', () => done({ port: socket.address().port, socket }));
    open.push(() => socket.close());
  });
test('a port that is taken: the next one is used, and both are said; what is sent there is heard', async () => {
  const { port } = await taken();
  const heard: string[] = [];
  const listening = listenOsc('127.0.0.1', port, (address) => heard.push(address));
  open.push(listening.close);
  await until(() => listening.ears().port !== null);
  const ears = listening.ears();
  expect(ears.port).toBeGreaterThan(port);
  expect(ears.problem).toBe(
    `UDP port ${port} is taken on this machine: remote controls are heard on ${ears.port} instead.`,
  );
  const sender = createSocket('udp4');
  open.push(() => sender.close());
  sender.send(oscMessage('/wingman/go', []), ears.port ?? 0, '127.0.0.1');
  await until(() => heard.length > 0);
  expect(heard).toEqual(['/wingman/go']);
});

test('a free port is used as it is, and nothing is said', async () => {
  const { port, socket } = await taken();
  open.splice(0);
  await new Promise<void>((done) => socket.close(() => done()));
  const listening = listenOsc('127.0.0.1', port, () => undefined);
  open.push(listening.close);
  await until(() => listening.ears().port !== null);
  expect(listening.ears()).toEqual({ port, problem: null });
});

test('an address that is not this machine’s is said in words', async () => {
  const listening = listenOsc('203.0.113.9', 9440, () => undefined);
  open.push(listening.close);
  await until(() => listening.ears().problem !== null);
  expect(listening.ears()).toMatchObject({
    port: null,
    problem: expect.stringContaining('Remote controls are not heard'),
  });
});

test('where no port is free, above the highest there is none: it is said, and taken up when one is', async () => {
  // An address of this machine that is of this run alone: nothing beside it has the port there.
  const host = `127.${1 + (process.pid % 200)}.${(process.pid >> 8) & 255}.7`;
  const last = createSocket('udp4');
  await new Promise<void>((done) => last.bind(65_535, host, done));
  const listening = listenOsc(host, 65_535, () => undefined);
  open.push(listening.close);
  await until(() => listening.ears().problem !== null);
  expect(listening.ears()).toEqual({
    port: null,
    problem: 'No UDP port from 65535 to 65535 is free: remote controls are not heard.',
  });
  last.close();
  await until(() => listening.ears().port === 65_535);
  expect(listening.ears().problem).toBeNull();
});

/** A peer that hears what comes. */
async function peer(): Promise<{
  port: number;
  heard: number[][];
  from: number[];
  socket: Socket;
}> {
  const { port, socket } = await taken();
  const heard: number[][] = [];
  const from: number[] = [];
  socket.on('message', (packet, { port: of }) => {
    heard.push([...packet]);
    from.push(of);
  });
  return { port, heard, from, socket };
}

test('messages go to the peer of their kind; where nobody listens that is said, and sent again it arrives', async () => {
  const [osc, midi] = [await peer(), await peer()];
  const lines = outside({ osc: osc.port, midi: midi.port });
  expect(await lines.osc(Uint8Array.of(1, 2))).toBeUndefined();
  expect(await lines.midi(Uint8Array.of(0x90, 60, 1))).toBeUndefined();
  expect(await lines.midi(Uint8Array.of(0x80, 60, 0))).toBeUndefined();
  await until(() => midi.heard.length === 2);
  expect([osc.heard, midi.heard]).toEqual([
    [[1, 2]],
    [
      [0x90, 60, 1],
      [0x80, 60, 0],
    ],
  ]);
  // One socket for each.
  expect(new Set(midi.from).size).toBe(1);
  const gone = await peer();
  const alone = outside({ osc: gone.port, midi: gone.port });
  open.pop();
  await new Promise<void>((done) => gone.socket.close(() => done()));
  const says = `nobody listens for OSC at 127.0.0.1:${gone.port}`;
  // What the network says of it may come after the answer on a slow machine.
  await until(async () => (await alone.osc(Uint8Array.of(1))) === says);
  const back = createSocket('udp4');
  open.push(() => back.close());
  const heard: number[][] = [];
  back.on('message', (packet) => heard.push([...packet]));
  await new Promise<void>((done) => back.bind(gone.port, '127.0.0.1', () => done()));
  expect(await alone.osc(Uint8Array.of(7))).toBeUndefined();
  await until(() => heard.length > 0);
  expect(heard).toEqual([[7]]);
});

test('bytes of a device in its place are heard as they come; nothing and too much are passed over', async () => {
  const { port, socket } = await taken();
  open.splice(0);
  await new Promise<void>((done) => socket.close(() => done()));
  const heard: (readonly number[])[] = [];
  const close = listenMidi(port, (bytes) => heard.push(bytes));
  open.push(close);
  const sender = createSocket('udp4');
  open.push(() => sender.close());
  const send = (bytes: Uint8Array): void => sender.send(bytes, port, '127.0.0.1');
  await until(() => {
    send(Uint8Array.of(0xfe));
    return heard.length > 0;
  });
  heard.length = 0;
  send(new Uint8Array(257).fill(1));
  send(new Uint8Array(0));
  send(new Uint8Array(256).fill(2));
  await until(() => heard.some((b) => b[0] === 2));
  expect(heard.filter((b) => b[0] !== 0xfe).map((b) => b.length)).toEqual([256]);
  close();
});

test('a port that another program has is no device, and ends nothing', async () => {
  const { port } = await taken();
  const heard: unknown[] = [];
  const close = listenMidi(port, (bytes) => heard.push(bytes));
  const sender = createSocket('udp4');
  open.push(() => sender.close());
  sender.send(Uint8Array.of(0x90, 1, 1), port, '127.0.0.1');
  await new Promise((done) => setTimeout(done, 50));
  expect(heard).toEqual([]);
  close();
  close();
});

test('remote controls that flood are heard two hundred times in a second, and answered from where they are heard', async () => {
  const { port, socket } = await taken();
  open.splice(0);
  await new Promise<void>((done) => socket.close(() => done()));
  let heard = 0;
  let from = { address: '', port: 0 };
  const listening = listenOsc('127.0.0.1', port, (_, __, where) => {
    heard++;
    from = where;
  });
  open.push(listening.close);
  await until(() => listening.ears().port !== null);
  const sender = createSocket('udp4');
  open.push(() => sender.close());
  const answers: number[] = [];
  sender.on('message', (_, { port: of }) => answers.push(of));
  const message = oscMessage('/wingman/go', []);
  const began = performance.now();
  for (let i = 0; i < 1500; i++) {
    await new Promise<void>((done) => sender.send(message, port, '127.0.0.1', () => done()));
    // A socket that nobody reads drops what it has no room for.
    await new Promise((done) => setImmediate(done));
  }
  await until(() => heard >= 200);
  await new Promise((done) => setTimeout(done, 50));
  // As many seconds as have begun meanwhile, also on a slow machine.
  expect(heard).toBeLessThanOrEqual(200 * (2 + Math.floor((performance.now() - began) / 1000)));
  listening.send(oscMessage('/wingman/cue', []), from);
  await until(() => answers.length > 0);
  expect(answers).toEqual([port]);
});
