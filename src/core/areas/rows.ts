/** Areas: named parts of the stage floor that sheets show and that lights can be found by. */
import { z } from 'zod';
import { Name, idOf } from '../show/fields.ts';

const Corner = z.object({
  x: z.number().min(-500).max(500),
  y: z.number().min(-500).max(500),
});
/** A corner of an area on the floor, metres. */
export type Corner = z.infer<typeof Corner>;

const AREA_CORNERS = 32;

/** Corners on the stage floor in metres, in order round it. */
export const AreaRow = z.object({
  id: idOf('areas'),
  number: z.number().int().min(1).max(999),
  name: Name,
  corners: z
    .array(Corner)
    .min(3, 'An area has at least three corners.')
    .max(AREA_CORNERS, `An area has at most ${AREA_CORNERS} corners.`),
});
export type AreaRow = z.infer<typeof AreaRow>;
