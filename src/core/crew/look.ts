/** How a person's screens look: a theme and a brightness. What is kept, and what stands in a cookie. */
import { z } from 'zod';

/** How screens look: for a dark house, for a lit office. */
export const THEMES = ['night', 'day'] as const;
/** The least light of a screen, 0 to 1: words can still be found on it. */
export const DARKEST = 0.3;
/** Carries a look to the page before it is drawn, so that a dark house sees no flash. */
export const LOOK_COOKIE = 'wingman-look';

/** How a person’s screens look. */
export const Look = z.object({
  theme: z.enum(THEMES),
  /** Of the screen's full brightness, DARKEST to 1. */
  light: z.number().min(DARKEST).max(1),
});
export type Look = z.infer<typeof Look>;

/** Of everybody who chose nothing. */
export const NIGHT: Look = { theme: 'night', light: 1 };

/** A look as a cookie has it: `day-0.8`. */
export const lookWords = ({ theme, light }: Look): string =>
  `${theme}-${Math.round(light * 100) / 100}`;

/** A cookie's look; night at full where it says none. */
export function lookOf(words: string | undefined): Look {
  const [theme, light] = (words ?? '').split('-');
  const read = Look.safeParse({ theme, light: Number(light) });
  return read.success ? read.data : NIGHT;
}
