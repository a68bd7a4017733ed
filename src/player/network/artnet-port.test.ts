/** Ports of the network that something else has for itself: said while it has them, and heard on from then on. */
import { createSocket, type Socket } from 'node:dgram';
import { until } from '../../core/testing/until.ts';
import { artnetPort, type ArtnetPort } from './artnet-port.ts';
import { freeUdp, listen, type Ear } from './udp.ts';

const closing: { close: () => void }[] = [];
afterEach(() => {
  for (const each of closing.splice(0)) each.close();
});
const bound = (port: number): Promise<Socket> =>
  new Promise((done) => {
    const socket = createSocket('udp4');
    socket.bind(port, () => done(socket));
  });
function heardBy(port: ArtnetPort): string[] {
  closing.push(port);
  const heard: string[] = [];
  port.hear((packet) => heard.push(Buffer.from(packet).toString()));
  return heard;
}
async function mouth(): Promise<Socket> {
  const socket = await bound(0);
  closing.push(socket);
  return socket;
}

test('Art-Net that another program has for itself is said, and heard as soon as that has ended', async () => {
  const number = await freeUdp();
  const other = await bound(number);
  const port = artnetPort(number);
  const heard = heardBy(port);
  await until(() => port.problem() !== null);
  expect(port.problem()).toMatch(/^Art-Net is not heard: .*EADDRINUSE.*\.$/);
  // Nothing is sent from a port that is not ours, and nothing goes wrong by trying.
  port.send(Buffer.from('to nobody'), '10.20.0.9');
  other.close();
  await until(() => port.problem() === null);
  const from = await mouth();
  from.send('a node', number, '127.0.0.1');
  await until(() => heard.length > 0);
  expect(heard).toEqual(['a node']);
});

test('two programs that share the port both have it', async () => {
  const number = await freeUdp();
  const [one, two] = [artnetPort(number), artnetPort(number)];
  closing.push(one, two);
  await new Promise((done) => setTimeout(done, 50));
  expect([one.problem(), two.problem()]).toEqual([null, null]);
});

test('what is asked of a device on this machine is answered to a port of our own, since it has the port itself', async () => {
  const number = await freeUdp();
  const port = artnetPort(number);
  const heard = heardBy(port);
  const device = await mouth();
  const asked: number[] = [];
  device.on('message', (_, from) => {
    asked.push(from.port);
    device.send('here', from.port, from.address);
  });
  port.send(Buffer.from('who is there'), '127.0.0.1', device.address().port);
  await until(() => heard.length > 0);
  expect(heard).toEqual(['here']);
  expect(asked).not.toContain(number);
});

test('what is closed is not opened again', async () => {
  const number = await freeUdp();
  const other = await bound(number);
  const ear: Ear = listen({ port: number }, () => undefined);
  await until(() => ear.problem() !== null);
  ear.close();
  other.close();
  await new Promise((done) => setTimeout(done, 1300));
  expect(ear.socket()).toBeNull();
  // Nobody has it.
  (await bound(number)).close();
});
