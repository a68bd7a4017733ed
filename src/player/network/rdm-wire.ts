/**
 * Questions by RDM over Art-Net. One at a time goes to a node, since a port has one wire; what does not answer is asked
 * again twice. An answer in parts is put together, and a unit that asks for time gets it (E1.20-2010, clause 6.3).
 */
import { artRdm, readArtRdm } from '../../core/output/art-rdm.ts';
import {
  COMMAND,
  rdmPacket,
  readRdm,
  RESPONSE,
  type RdmMessage,
  type Uid,
} from '../../core/rdm/packet.ts';
import { reasonOf } from '../../core/rdm/parameters.ts';
import type { ArtnetPort } from './artnet-port.ts';

const ANSWER_MS = 600;
const TRIES = 3;
const MOST_PARTS = 16;
/** A unit that needs time says how many tenths of a second. */
const TENTH_MS = 100;
const MOST_WAIT_MS = 5000;

/** Where a unit hangs. */
export interface Place {
  node: string;
  portAddress: number;
}
interface Question {
  command: number;
  parameter: number;
  data: Uint8Array;
}
/** What a device said to a question. */
export type Said = { is: 'said'; data: Uint8Array } | { is: 'no'; why: string } | { is: 'silent' };
const SILENT: Said = { is: 'silent' };

/** What questions are carried by. */
export interface WireNeeds {
  artnet: Pick<ArtnetPort, 'hear' | 'send'>;
  portAt: (address: string) => number;
  wait: (ms: number) => Promise<void>;
  /** Whom we ask as. */
  own: Uid;
  placeOf: (uid: Uid) => Place | undefined;
}

/** Questions to devices by way of Art-Net nodes, one at a time on each line. */
export class RdmWire {
  private readonly waiting = new Map<number, { of: Uid; done: (m: RdmMessage) => void }>();
  private readonly lines = new Map<string, Promise<unknown>>();
  private transaction = 0;

  constructor(private readonly needs: WireNeeds) {
    needs.artnet.hear((packet) => {
      const message = readArtRdm(packet);
      const said = message && readRdm(message.rdm);
      if (!said || said.to !== needs.own) return;
      const asked = this.waiting.get(said.transaction);
      // Another one's answer to this question is no answer.
      if (asked?.of === said.from) asked.done(said);
    });
  }

  /** One question, until it is answered or given up. */
  private async once(place: Place, uid: Uid, question: Question): Promise<RdmMessage | null> {
    const { artnet, portAt, wait, own } = this.needs;
    for (let i = 0; i < TRIES; i++) {
      const transaction = (this.transaction = (this.transaction + 1) & 255);
      const answer = new Promise<RdmMessage | null>((done) => {
        this.waiting.set(transaction, { of: uid, done });
        void wait(ANSWER_MS).then(() => done(null));
      });
      const rdm = rdmPacket({ to: uid, from: own, transaction, port: 1, ...question });
      artnet.send(artRdm(place.portAddress, rdm), place.node, portAt(place.node));
      const said = await answer;
      this.waiting.delete(transaction);
      if (said?.parameter === question.parameter && said.command === question.command + 1)
        return said;
    }
    return null;
  }

  /** A question with all that belongs to its answer: parts of it, and time that the unit asked for. */
  private async wholly(uid: Uid, question: Question): Promise<Said> {
    const place = this.needs.placeOf(uid);
    if (!place) return SILENT;
    const parts: number[] = [];
    for (let part = 0; part < MOST_PARTS; part++) {
      const said = await this.once(place, uid, question);
      if (!said) return SILENT;
      if (said.port === RESPONSE.nack) return { is: 'no', why: reasonOf(said.data) };
      if (said.port === RESPONSE.timer) {
        const tenths = ((said.data[0] ?? 0) << 8) | (said.data[1] ?? 0);
        await this.needs.wait(Math.min(MOST_WAIT_MS, tenths * TENTH_MS));
        continue;
      }
      parts.push(...said.data);
      if (said.port !== RESPONSE.overflow) return { is: 'said', data: Uint8Array.from(parts) };
    }
    return { is: 'no', why: 'its answer has no end' };
  }

  /** Questions to a node stand in a line. */
  ask(
    uid: Uid,
    command: number,
    parameter: number,
    data: Uint8Array = new Uint8Array(),
  ): Promise<Said> {
    const node = this.needs.placeOf(uid)?.node ?? '';
    const next = (this.lines.get(node) ?? Promise.resolve()).then(() =>
      this.wholly(uid, { command, parameter, data }),
    );
    this.lines.set(node, next);
    return next;
  }

  /** @returns undefined where there is no answer, or another than was asked for */
  async get<T>(
    uid: Uid,
    parameter: number,
    read: (d: Uint8Array) => T,
    data?: Uint8Array,
  ): Promise<T | undefined> {
    const said = await this.ask(uid, COMMAND.get, parameter, data);
    return said.is === 'said' ? read(said.data) : undefined;
  }
}
