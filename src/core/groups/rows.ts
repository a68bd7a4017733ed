/** Groups: fixtures, or other groups, in an order. */
import { z } from 'zod';
import { FixtureNumber, Name, RowId, idOf } from '../show/fields.ts';

/** Units that are called by one name. */
export const GroupRow = z.object({
  id: idOf('groups'),
  number: FixtureNumber,
  name: Name,
  /** Ids of fixtures, or of other groups, in their order, which matters for fans and effects. */
  fixtures: z.array(RowId).max(10_000),
});
export type GroupRow = z.infer<typeof GroupRow>;
