/** What hangs at the simulated node: the demo's units, as RDM sees them. One has a wrong address and one a wrong mode. */
import { nightFerryRig } from '../../demo/night-ferry.ts';
import { footprintOf } from '../core/rig/attributes.ts';
import type { Responder } from '../core/rdm/responder.ts';
import { answerTo } from '../core/rdm/responder.ts';
import {
  artRdm,
  artTodData,
  readArtRdm,
  readArtTodFlush,
  readArtTodRequest,
} from '../core/output/art-rdm.ts';

interface Hanging {
  portAddress: number;
  unit: Responder;
}

/** A maker's number for experiments (E1.20 clause 5.1). */
const MAKER = '7ff1';
/** Of the units of a kind these are not as they are patched. */
const MOVED = 2;
const OTHER_MODE = 5;
const ELSEWHERE = 480;

/** Units with electronics of their own; dimmers hang at racks that are one device. */
function demoUnits(): Hanging[] {
  const show = nightFerryRig();
  const electronic = [...show.fixtures.values()].filter((f) => {
    const type = show.types.get(f.typeId);
    return f.patch.length > 0 && (type?.modes ?? []).some((m) => m.channels.length > 1);
  });
  return electronic.map((fixture, i): Hanging => {
    const type = show.types.get(fixture.typeId);
    const [point] = fixture.patch;
    const modes = (type?.modes ?? []).map((m) => ({ name: m.name, footprint: footprintOf(m, 1) }));
    const patched = Math.max(1, modes.findIndex((m) => m.name === fixture.mode) + 1);
    const isOther = i === OTHER_MODE && modes.length > 1;
    return {
      portAddress: (point?.universe ?? 1) - 1,
      unit: {
        uid: `${MAKER}:${(i + 1).toString(16).padStart(8, '0')}`,
        maker: type?.maker ?? '',
        model: type?.name ?? '',
        modelNumber: i + 1,
        modes,
        mode: isOther ? (patched % modes.length) + 1 : patched,
        address: i === MOVED ? ELSEWHERE : (point?.address ?? 1),
        hours: 120 + i * 7,
        lampHours: 80 + i * 5,
        temperature_C: 31 + (i % 9),
        identifies: false,
      },
    };
  });
}

/** Units with RDM that hang on the simulated node. */
export interface HangingUnits {
  /** Which of them show themselves. */
  identifying: () => string[];
  /** What is answered to a packet; nothing to what is not for them. */
  answers: (packet: Uint8Array) => Uint8Array[];
}

/** Those of the demo’s rig. */
export function hangingUnits(): HangingUnits {
  const units = demoUnits();
  const at = (portAddress: number): string[] =>
    units.filter((u) => u.portAddress === portAddress).map((u) => u.unit.uid);
  const tables = (ports: readonly number[]): Uint8Array[] =>
    ports.flatMap((p) => artTodData(p, (p & 3) + 1, at(p)));
  return {
    identifying: () => units.filter((u) => u.unit.identifies).map((u) => u.unit.uid),
    answers: (packet) => {
      const asked = readArtTodRequest(packet);
      if (asked) return tables(asked);
      const flushed = readArtTodFlush(packet);
      if (flushed !== undefined) return tables([flushed]);
      const message = readArtRdm(packet);
      if (!message) return [];
      const { portAddress, rdm } = message;
      return units
        .filter((u) => u.portAddress === portAddress)
        .flatMap(({ unit }) => {
          const answer = answerTo(unit, rdm);
          return answer ? [artRdm(portAddress, answer)] : [];
        });
    },
  };
}
