/** Another sACN source on this machine, for trying who wins: it sends a universe, and says so. */
import { UNIVERSE_SLOTS } from '../core/dmx.ts';
import { createSocket } from 'node:dgram';
import { sacnFrame, sacnMulticast, sacnPacket, sacnTerminated } from '../core/output/sacn.ts';
import { SACN_DISCOVERY_GROUP, sacnDiscovery } from '../core/output/sacn-discovery.ts';
import type { Faults } from '../core/wires/faults.ts';

const SOURCE = {
  cid: Uint8Array.from({ length: 16 }, (_, i) => 0xd0 + i),
  name: 'Simulated rival',
};
const EVERY_MS = 200;
const ANNOUNCE_MS = 2000;
const TERMINATIONS = 3;

/** Another source on a universe of ours. */
export interface Rival {
  set: (rival: Faults['rival']) => void;
}

/** @param node the port of the simulated node @param lights that of the protocol */
export function makeRival(node: number, lights: number): Rival {
  const socket = createSocket('udp4');
  socket.on('error', () => undefined);
  socket.bind(0, '127.0.0.1', () => {
    try {
      // It stays in this machine.
      socket.setMulticastInterface('127.0.0.1');
      socket.setMulticastTTL(0);
    } catch {
      // Then only the node hears it.
    }
  });
  let packet: Uint8Array | null = null;
  let universe = 0;
  let levels = new Uint8Array(UNIVERSE_SLOTS);
  const send = (bytes: Uint8Array): void => {
    socket.send(bytes, node, '127.0.0.1', () => undefined);
    socket.send(bytes, lights, sacnMulticast(universe), () => undefined);
  };
  const announce = (): void => {
    for (const page of sacnDiscovery(SOURCE, packet ? [universe] : []))
      socket.send(page, lights, SACN_DISCOVERY_GROUP, () => undefined);
  };
  setInterval(() => {
    if (packet) send(sacnFrame(packet, levels, 0));
  }, EVERY_MS).unref();
  setInterval(() => {
    if (packet) announce();
  }, ANNOUNCE_MS).unref();
  return {
    set: (rival) => {
      if (packet) {
        for (let i = 0; i < TERMINATIONS; i++) send(sacnTerminated(packet));
        packet = null;
        announce();
      }
      if (!rival) return;
      universe = rival.universe;
      levels = new Uint8Array(UNIVERSE_SLOTS).fill(rival.level);
      packet = sacnPacket(SOURCE, rival.universe, rival.priority);
      announce();
    },
  };
}
