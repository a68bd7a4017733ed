/** What the house has said of its network: by which card lights are reached, what it is called there. */
import { z } from 'zod';
import { CardName } from '../show/fields.ts';

const NAME_BYTES = 63;

/** How this house is on its network. */
export const Wires = z.object({
  /** How receivers see this house (E1.31-2018 clause 6.2.2), and nodes in its poll replies. */
  sourceName: z
    .string()
    .trim()
    .min(1, 'A source has a name.')
    .refine((t) => new TextEncoder().encode(t).length <= NAME_BYTES, 'A name of 63 bytes at most.'),
  /** The card by which everything leaves that names none; null: the machine decides. */
  card: CardName.nullable(),
  /** Somebody has said where the lights are. */
  asked: z.boolean(),
  /** Universe whose synchronisation sACN packets wait for (clause 6.3); 0: none. */
  sync: z.number().int().min(0, 'From 1; 0 is none.').max(63_999, 'At most 63999.'),
  /** An ArtSync after each frame of several Art-Net universes. */
  artSync: z.boolean(),
});
export type Wires = z.infer<typeof Wires>;
/** As long as nobody has said anything. */
export const WIRES: Wires = {
  sourceName: 'Wingman',
  card: null,
  asked: false,
  sync: 0,
  artSync: false,
};
/** Some of it said anew; of what is left out nothing changes. */
export const ChangeWires = Wires.partial().strict();
export type ChangeWires = z.infer<typeof ChangeWires>;
