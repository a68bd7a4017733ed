/** The network as the thread that makes packets knows it. */
import type { Card } from '../../core/wires/cards.ts';
import type { Wires } from '../../core/wires/wires.ts';

/** Cards, what the house has said, and which nodes asked for which port address. */
export interface Network {
  cards: readonly Card[];
  wires: Wires;
  /** By port address: the nodes that put it out, as IPv4 addresses. */
  asked: ReadonlyMap<number, readonly string[]>;
}
