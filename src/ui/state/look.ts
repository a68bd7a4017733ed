/**
 * How a person's screens look: by night in the booth or by day in an office, and how bright. Each person's own
 * (state/preferences.ts keeps it); a cookie lets the server write the page in it, so that nothing flashes white.
 */
import { clamp } from '@/core/numbers';
import { create } from 'zustand';
import { DARKEST, LOOK_COOKIE, lookWords, type Look } from '@/core/crew/look';

/** How this person’s screens look. */
export const useLook = create<Look>(() => ({ theme: 'night', light: 1 }));

const YEAR_S = 365 * 24 * 3600;

/** Shows a look on this screen, at once. */
export function showLook(look: Look): void {
  const shown = { theme: look.theme, light: clamp(look.light, DARKEST) };
  document.documentElement.dataset.theme = shown.theme;
  document.cookie = `${LOOK_COOKIE}=${lookWords(shown)}; path=/; max-age=${YEAR_S}; samesite=lax`;
  useLook.setState(shown);
}
