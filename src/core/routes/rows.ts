/** Where universes go, and what they are called. */
import { z } from 'zod';
import { CardName, Name, idOf, Universe } from '../show/fields.ts';

/** Where a universe goes. */
export const RouteRow = z.object({
  id: idOf('routes'),
  universe: Universe,
  protocol: z.enum(['sacn', 'artnet']),
  /**
   * `node` is the simulated node that ships with Wingman; `multicast` is for sACN; for Art-Net `nodes` are those that say
   * they put the port address out, `broadcast` is everybody; else an IPv4 address.
   */
  destination: z.union([
    z.literal('node'),
    z.literal('multicast'),
    z.literal('nodes'),
    z.literal('broadcast'),
    z.ipv4('A destination is an IPv4 address, multicast, nodes, broadcast, or the simulated node.'),
  ]),
  /** The network card by which it leaves; absent: the house’s. */
  card: CardName.optional(),
  /** The universe's number on the wire: sACN 1-63999, Art-Net port address 0-32767. */
  wire: z.number().int().min(0).max(63_999),
  priority: z.number().int().min(0).max(200),
  on: z.boolean(),
});
export type RouteRow = z.infer<typeof RouteRow>;

/** How universes leave that nobody has routed yet. */
export const NewUniverses = RouteRow.pick({
  protocol: true,
  destination: true,
  priority: true,
  card: true,
}).extend({
  /** The number on the wire is the universe’s with this added. */
  shift: z.number().int().min(-256).max(63_999),
});
export type NewUniverses = z.infer<typeof NewUniverses>;

/** A universe that has a name; the others are known by their number. */
export const UniverseRow = z.object({ id: idOf('universes'), number: Universe, name: Name });
export type UniverseRow = z.infer<typeof UniverseRow>;
