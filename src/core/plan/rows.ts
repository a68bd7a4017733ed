/** The drawn stage: pieces, layouts and the pictures under them. */
import { z } from 'zod';
import { Mesh } from '../meshes/rows.ts';
import { LIMITS, Name, idOf } from '../show/fields.ts';

const PIECE_KINDS = ['bar', 'boom', 'edge', 'set', 'cyc', 'house'] as const;

/** A line on the plan: bars and booms that carry fixtures, edges and set pieces that do not. */
export const PieceRow = z.object({
  id: idOf('pieces'),
  name: z.string().max(LIMITS.nameLength),
  kind: z.enum(PIECE_KINDS),
  points: z
    .array(z.object({ x: z.number().min(-500).max(500), y: z.number().min(-500).max(500) }))
    .min(2, 'A line has at least two points.')
    .max(64),
  /** Height over the stage floor in metres. */
  z: z.number().min(-20).max(100),
  /** How tall a set piece or a cyc is, from `z` up; absent: flat on the floor, or the usual height of a cyc. */
  height: z.number().min(0).max(50).optional(),
  /** What it looks like, in the box of its outline and its height; absent: as its outline goes up. */
  mesh: Mesh.optional(),
  /** What a plan that it came with knows it by (MVR 1.6). */
  uuid: z
    .string()
    .regex(/^[0-9a-f-]{36}$/)
    .optional(),
});
export type PieceRow = z.infer<typeof PieceRow>;

/** Largest picture that is kept, as the characters of its data URL. */
export const BACKGROUND_LIMIT = 1_600_000;

/** A picture that lies under a layout. */
export const PictureRow = z.object({
  id: idOf('pictures'),
  name: Name,
  data: z
    .string()
    .max(BACKGROUND_LIMIT, 'A background picture has at most 1.2 MB.')
    .regex(
      /^data:image\/(png|jpeg|webp|svg\+xml);base64,[A-Za-z0-9+/=]+$/,
      'A picture is a PNG, JPEG or WebP image, or a drawing (SVG).',
    ),
});
export type PictureRow = z.infer<typeof PictureRow>;

/** A named arrangement of the plan: where units hang, or places of its own that move no light. */
export const LayoutRow = z.object({
  id: idOf('layouts'),
  number: z.number().int().min(1).max(9999),
  name: Name,
  /** Own places by fixture, in metres of this drawing; absent: the plan of the stage. */
  places: z
    .record(
      idOf('fixtures'),
      z.object({ x: z.number().min(-500).max(500), y: z.number().min(-500).max(500) }),
    )
    .optional(),
  background: z
    .object({
      picture: idOf('pictures'),
      x: z.number().min(-500).max(500),
      y: z.number().min(-500).max(500),
      width_m: z.number().min(0.1).max(1000),
      opacity: z.number().min(0.05).max(1),
    })
    .optional(),
});
export type LayoutRow = z.infer<typeof LayoutRow>;
