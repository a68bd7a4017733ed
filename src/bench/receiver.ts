/** Receives on a loopback port as fast as it can and tells its parent when bytes changed; a process of its own, so that sender and receiver do not share a thread. */
import { createSocket } from 'node:dgram';
import { hr } from './numbers.ts';

const port = Number(process.argv[2]);
const host = process.argv[3] ?? '127.0.0.1';
/** Address 1 in an sACN packet. */
const WATCHED = 126;
const socket = createSocket('udp4');
let packets = 0;
let last = -1;
/** Since the last question: the longest time without a packet, and how many said that the stream ends (E1.31, 6.2.6). */
let [heard_ms, gap_ms, terminated] = [0, 0, 0];
const OPTIONS = 112;
const TERMINATED = 0x40;
/** Root vector and start code: levels, and neither who sends what nor what addresses are worth. */
const isLevels = (packet: Uint8Array): boolean => packet[21] === 4 && packet[125] === 0;
socket.on('message', (packet) => {
  if (!isLevels(packet)) return;
  packets++;
  const now = hr();
  if (heard_ms > 0) gap_ms = Math.max(gap_ms, now - heard_ms);
  heard_ms = now;
  if ((packet[OPTIONS] ?? 0) & TERMINATED) terminated++;
  const byte = packet[WATCHED] ?? 0;
  if (byte === last) return;
  last = byte;
  process.send?.({ changed: byte, at: now });
});
socket.bind(port, host, () => {
  socket.setRecvBufferSize(16 * 1024 * 1024);
  process.send?.({ ready: true });
});
process.on('message', () => {
  process.send?.({ packets, gap_ms, terminated });
  [gap_ms, terminated] = [0, 0];
});
process.on('disconnect', () => process.exit(0));
