/**
 * Colours of the token file for what is drawn by hand: canvases and charts. An element inside a `data-theme` has the
 * colours of that theme; the plan and the space stand in `night` always, for light is seen in the dark.
 */

/** As in globals.css, without `--color-`. */
export type Token =
  | 'ink'
  | 'panel'
  | 'raised'
  | 'lift'
  | 'brim'
  | 'hair'
  | 'line'
  | 'edge'
  | 'track'
  | 'tie'
  | 'tie-low'
  | 'tie-high'
  | 'text'
  | 'soft'
  | 'muted'
  | 'dim'
  | 'faint'
  | 'lime'
  | 'standby'
  | 'standby-wash'
  | 'unrecorded'
  | 'warning'
  | 'warning-wash'
  | 'danger'
  | 'danger-wash'
  | 'unit-profile'
  | 'unit-wash'
  | 'unit-head'
  | 'unit-strip'
  | 'unit-house'
  | 'unit-hazer';

/** A token's colour, as CSS takes it. */
export type Colours = (token: Token) => string;

const known = new Map<string, Map<Token, string>>();

/** The colours where an element stands. Read from the style sheet once for each theme. */
export function coloursAt(element: Element): Colours {
  const scope = element.closest('[data-theme]') ?? document.documentElement;
  const theme = scope.getAttribute('data-theme') ?? 'night';
  const read = known.get(theme) ?? new Map<Token, string>();
  known.set(theme, read);
  return (token) => {
    const before = read.get(token);
    if (before !== undefined) return before;
    const colour = getComputedStyle(scope).getPropertyValue(`--color-${token}`).trim();
    if (colour !== '') read.set(token, colour);
    return colour;
  };
}
