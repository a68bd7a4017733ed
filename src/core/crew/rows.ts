/** Parts of a show that were given to somebody. */
import { z } from 'zod';
import { Name, idOf } from '../show/fields.ts';

/** Fixtures and lists that one person programs; others look, or ask. */
export const PartRow = z.object({
  id: idOf('parts'),
  name: Name,
  userId: z.string().min(1).max(120),
  /** The person's name, for those who look at the show elsewhere. */
  userName: z.string().min(1).max(200),
  fixtures: z.array(idOf('fixtures')).max(10_000),
  lists: z.array(idOf('lists')).max(1000),
  /** What its addresses are worth on the wire against other sources (sACN, by address); 0: another desk has them. Absent: as their universe’s route says. */
  priority: z.number().int().min(0).max(200, 'A priority is 0 to 200.').optional(),
});
export type PartRow = z.infer<typeof PartRow>;
