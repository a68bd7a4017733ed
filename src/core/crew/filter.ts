/** What of a programmer counts, under a name: a person’s own. */
import { z } from 'zod';
import { FAMILIES, Name } from '../show/fields.ts';

/** A person’s own filter: which families a store takes. */
export const Filter = z.object({
  name: Name.min(1, 'A filter has a name.'),
  families: z
    .array(z.enum(FAMILIES))
    .min(1, 'A filter lets at least one family through.')
    .max(FAMILIES.length),
});
export type Filter = z.infer<typeof Filter>;
/** Filters that a person may have. */
export const FILTERS_KEPT = 20;
