/** Circuits of the mains and what may be drawn from them. */
import { z } from 'zod';
import { Name, idOf } from '../show/fields.ts';

/** A way of the mains: what hangs on it must stay under its breaker. */
export const CircuitRow = z.object({
  id: idOf('circuits'),
  name: Name,
  phase: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  breaker_A: z
    .number()
    .positive('A breaker has more than 0 A.')
    .max(1000, 'A breaker has at most 1000 A.'),
});
export type CircuitRow = z.infer<typeof CircuitRow>;

/** Mains voltages between a phase and neutral, or two phases, volts. */
export const VOLTAGES = [120, 208, 230, 400] as const;

/** How a house is supplied; what loads are counted against. */
export const Power = z.object({
  voltage_V: z.union([z.literal(120), z.literal(208), z.literal(230), z.literal(400)]),
  /** Share of a breaker that may be used for long. */
  safety: z
    .number()
    .min(0.1, 'The safety share is at least 10 %.')
    .max(1, 'The safety share is at most 100 %.'),
});
export type Power = z.infer<typeof Power>;
