/** What can go wrong in the simulated house, to be switched on: packets that are lost or come late, a dead port, a rival, a pulled card. */
import { z } from 'zod';

/** What the simulated node does wrong, for rehearsing a bad day. */
export const Faults = z.object({
  /** The share of packets that never arrives. */
  loss: z.number().min(0).max(1).default(0),
  /** Every second packet arrives after the one that follows it. */
  reorder: z.boolean().default(false),
  /** An Art-Net port with a short circuit: it puts nothing out. */
  deadPort: z.number().int().min(0).max(32_767).nullable().default(null),
  /** Another sACN source that sends a universe. */
  rival: z
    .object({
      universe: z.number().int().min(1).max(63_999),
      priority: z.number().int().min(0).max(200),
      /** Of all its slots. */
      level: z.number().int().min(0).max(255),
    })
    .nullable()
    .default(null),
  /** The cable is out: nothing is heard and nothing answered. */
  pulled: z.boolean().default(false),
});
export type Faults = z.infer<typeof Faults>;
/** A node that does everything right. */
export const NO_FAULTS: Faults = Faults.parse({});
