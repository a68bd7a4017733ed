/** What a board is of. */
import { z } from 'zod';
import { RowId } from '../show/fields.ts';

/** Faders that have a board together. */
export const FADERS_A_PAGE = 8;
/** The show, a list, or a page of eight faders counted from 1. */
export const Thing = z.union([
  z.literal('show'),
  z.object({ list: RowId }),
  z.object({ faders: z.number().int().min(1).max(125) }),
]);
export type Thing = z.infer<typeof Thing>;
