/** A unit as RDM sees it, for the simulated house: it answers as the standard says, and takes what it can. */
import { COMMAND, RESPONSE, rdmPacket, readRdm, type RdmMessage, type Uid } from './packet.ts';
import { PARAMETER } from './parameters.ts';

/** A device that answers, for a simulated rack and for tests. */
export interface Responder {
  uid: Uid;
  maker: string;
  model: string;
  modelNumber: number;
  modes: readonly { name: string; footprint: number }[];
  /** From 1. */
  mode: number;
  address: number;
  hours: number;
  lampHours: number;
  temperature_C: number;
  identifies: boolean;
}

const latin = (t: string): Uint8Array =>
  Uint8Array.from([...t.slice(0, 32)].map((c) => Math.min(255, c.charCodeAt(0))));
const words = (...all: readonly number[]): number[] =>
  all.flatMap((w) => [(w >> 8) & 255, w & 255]);
const longWord = (n: number): number[] => words(n >>> 16, n & 0xffff);
const footprintOf = (r: Responder): number => r.modes[r.mode - 1]?.footprint ?? 0;

const UNKNOWN_PARAMETER = 0x0000;
const WRONG_FORM = 0x0001;
const OUT_OF_RANGE = 0x0006;
const CENTIGRADE = 1;

type Said = Uint8Array | number;

const GETS: Readonly<Record<number, (r: Responder, data: Uint8Array) => Said>> = {
  [PARAMETER.deviceInfo]: (r) =>
    Uint8Array.from([
      ...words(0x0100, r.modelNumber, 0x0101),
      ...longWord(1),
      ...words(footprintOf(r)),
      r.mode,
      r.modes.length,
      ...words(r.address, 0),
      1,
    ]),
  [PARAMETER.model]: (r) => latin(r.model),
  [PARAMETER.maker]: (r) => latin(r.maker),
  [PARAMETER.label]: () => latin(''),
  [PARAMETER.software]: () => latin('1.0'),
  [PARAMETER.mode]: (r) => Uint8Array.of(r.mode, r.modes.length),
  [PARAMETER.modeDescription]: (r, [n = 0]) => {
    const mode = r.modes[n - 1];
    return mode
      ? Uint8Array.from([n, ...words(mode.footprint), ...latin(mode.name)])
      : OUT_OF_RANGE;
  },
  [PARAMETER.address]: (r) => Uint8Array.from(words(r.address)),
  [PARAMETER.hours]: (r) => Uint8Array.from(longWord(r.hours)),
  [PARAMETER.lampHours]: (r) => Uint8Array.from(longWord(r.lampHours)),
  [PARAMETER.sensorDefinition]: (_, [n = 0]) =>
    n === 0
      ? Uint8Array.from([0, 0, CENTIGRADE, 0, ...words(0, 120, 0, 90), 0, ...latin('Temperature')])
      : OUT_OF_RANGE,
  [PARAMETER.sensorValue]: (r, [n = 0]) =>
    n === 0 ? Uint8Array.from([0, ...words(r.temperature_C, 0, 0, 0)]) : OUT_OF_RANGE,
  [PARAMETER.identify]: (r) => Uint8Array.of(r.identifies ? 1 : 0),
};

const SETS: Readonly<Record<number, (r: Responder, data: Uint8Array) => Said>> = {
  [PARAMETER.address]: (r, d) => {
    const address = ((d[0] ?? 0) << 8) | (d[1] ?? 0);
    if (d.length !== 2) return WRONG_FORM;
    if (address < 1 || address + footprintOf(r) - 1 > 512) return OUT_OF_RANGE;
    r.address = address;
    return new Uint8Array();
  },
  [PARAMETER.mode]: (r, d) => {
    const [mode = 0] = d;
    if (d.length !== 1) return WRONG_FORM;
    if (mode < 1 || mode > r.modes.length) return OUT_OF_RANGE;
    r.mode = mode;
    return new Uint8Array();
  },
  [PARAMETER.identify]: (r, d) => {
    if (d.length !== 1) return WRONG_FORM;
    r.identifies = d[0] === 1;
    return new Uint8Array();
  },
};

/** @returns the answer; undefined to what is not for this one, or no question */
export function answerTo(r: Responder, packet: Uint8Array): Uint8Array | undefined {
  const asked = readRdm(packet);
  if (asked?.to !== r.uid) return undefined;
  const isSet = asked.command === COMMAND.set;
  if (!isSet && asked.command !== COMMAND.get) return undefined;
  const said = (isSet ? SETS : GETS)[asked.parameter]?.(r, asked.data) ?? UNKNOWN_PARAMETER;
  const answer: RdmMessage = {
    to: asked.from,
    from: r.uid,
    transaction: asked.transaction,
    port: typeof said === 'number' ? RESPONSE.nack : RESPONSE.ack,
    command: isSet ? COMMAND.setResponse : COMMAND.getResponse,
    parameter: asked.parameter,
    data: typeof said === 'number' ? Uint8Array.from(words(said)) : said,
  };
  return rdmPacket(answer);
}
