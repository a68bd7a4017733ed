/** Panels that can stand in a window of their own, by what the window's address calls them. */

export const PANEL_TITLES = {
  cues: 'Cue sheet',
  time: 'A list along its time',
  script: 'Script',
  now: 'Cue now and next',
  faders: 'Faders',
  plan: 'Plan of the stage',
  space: 'The stage in space',
  grid: 'Units as a grid',
  units: 'Units as a list',
  groups: 'Groups',
  shelf: 'Palettes, looks and effects',
  controls: 'Controls',
  held: 'What I hold',
  notes: 'Notes',
} as const;
/** What a window may hold. */
export type PanelName = keyof typeof PANEL_TITLES;
/** All of them. */
export const PANEL_NAMES = Object.keys(PANEL_TITLES) as PanelName[];

/** @param hash of the window’s address: the panel’s name */
export const panelOf = (hash: string): PanelName | undefined =>
  PANEL_NAMES.find((name) => `#${name}` === hash);
