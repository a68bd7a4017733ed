import { createSocket, type Socket } from 'node:dgram';
import { connect } from 'node:net';
import { freePort, holdPort, udpPort } from './ports.ts';

const open: Socket[] = [];
afterEach(() => {
  for (const socket of open.splice(0)) socket.close();
  jest.restoreAllMocks();
});
const bound = (address: string, port = 0): Promise<number> =>
  new Promise((done, failed) => {
    const socket = createSocket({ type: 'udp4', reuseAddr: true });
    open.push(socket);
    socket.once('error', failed);
    socket.bind(port, address, () => done(socket.address().port));
  });

test('a port of the simulated node is taken by another node alone: a listener of all addresses, as players are, takes nothing away', async () => {
  const said = jest.spyOn(console, 'log').mockImplementation(() => undefined);
  const port = await bound('0.0.0.0');
  expect(await udpPort(port, 'sACN at the simulated node')).toBe(port);
  expect(said).not.toHaveBeenCalled();
  await bound('127.0.0.1', port);
  const next = await udpPort(port, 'sACN at the simulated node');
  expect(next).toBeGreaterThan(port);
  expect(said).toHaveBeenCalledWith(
    `UDP port ${port} (sACN at the simulated node) is taken; using ${next}.`,
  );
});

test('a port is kept from the first moment: a second Wingman is refused while the first gets ready, and it is free once let go', async () => {
  const port = await freePort();
  const held = await holdPort(port, '0.0.0.0');
  expect(held).not.toBeNull();
  expect(await holdPort(port, '0.0.0.0')).toBeNull();
  expect(await holdPort(port, '127.0.0.1')).toBeNull();
  // Whoever comes too early is hung up on, and does not keep the port from being let go.
  const early = connect(port, '127.0.0.1');
  await new Promise((done) => early.once('close', done));
  await held?.release();
  const next = await holdPort(port, '127.0.0.1');
  expect(next).not.toBeNull();
  await next?.release();
});
