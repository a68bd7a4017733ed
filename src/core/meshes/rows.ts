/** Meshes as rows keep them: light enough to go along with every row, exact to a 65,535th of their box. */
import { z } from 'zod';

/** Triangles that one unit, or one thing on the stage, has at most. */
export const MOST_FACES = 1500;
const BASE64 = /^[A-Za-z0-9+/]*={0,2}$/;

const Corner = z.tuple([
  z.number().min(-500).max(500),
  z.number().min(-500).max(500),
  z.number().min(-500).max(500),
]);

/** A body as triangles in a box. */
export const Mesh = z.object({
  /** The box that it fills, in metres: x to the audience's right, y upstage, z up. */
  low: Corner,
  high: Corner,
  /** Corners as shares of the box, x, y and z of each: 16 bits, little-endian, in base64. */
  points: z.string().max(48_000).regex(BASE64, 'Corners of a mesh are base64.'),
  /** Three corners of each triangle by their number: 16 bits, little-endian, in base64. */
  faces: z.string().max(16_000).regex(BASE64, 'Triangles of a mesh are base64.'),
});
export type Mesh = z.infer<typeof Mesh>;

/** What of a unit moves with its pan, what with its tilt as well, and what with neither. */
export const MOVES = ['still', 'pan', 'tilt'] as const;
/** A part of a unit’s body, and what it turns with. */
export const BodyPart = z.object({ moves: z.enum(MOVES), mesh: Mesh });
export type BodyPart = z.infer<typeof BodyPart>;
