/** Where remote controls are heard when the port is somebody else's. */
import { createSocket, type Socket } from 'node:dgram';
import { oscMessage } from '../core/output/osc.ts';
import { listenOsc } from './outside.ts';
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

test('an address that is not this machine’s is said in words, and nothing is tried over and over', async () => {
  const listening = listenOsc('203.0.113.9', 9440, () => undefined);
  open.push(listening.close);
  await until(() => listening.ears().problem !== null);
  expect(listening.ears()).toMatchObject({
    port: null,
    problem: expect.stringContaining('Remote controls are not heard'),
  });
});
