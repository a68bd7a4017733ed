/** Receives on a loopback port as fast as it can and tells its parent when bytes changed; a process of its own, so that sender and receiver do not share a thread. */
import { createSocket } from 'node:dgram';

const port = Number(process.argv[2]);
const host = process.argv[3] ?? '127.0.0.1';
/** Address 1 in an sACN packet. */
const WATCHED = 126;
const socket = createSocket('udp4');
let packets = 0;
let last = -1;
socket.on('message', (packet) => {
  packets++;
  const byte = packet[WATCHED] ?? 0;
  if (byte === last) return;
  last = byte;
  process.send?.({ changed: byte, at: Number(process.hrtime.bigint()) / 1e6 });
});
socket.bind(port, host, () => {
  socket.setRecvBufferSize(16 * 1024 * 1024);
  process.send?.({ ready: true });
});
process.on('message', () => process.send?.({ packets }));
process.on('disconnect', () => process.exit(0));
