/** The types of the demo's rig, from the shipped library: Aldersund (LED), Pellworth (conventional), Quillon (moving heads). */
import { libraryType } from '../src/core/rig/library/index.ts';
import type { TypeRow } from '../src/core/types/rows.ts';

function shipped(id: string): TypeRow {
  const type = libraryType(id);
  if (!type) throw new Error(`the library has no ${id}`);
  return type;
}

export const DEMO_TYPES = {
  profile: shipped('pellworth-shoreline'),
  fresnel: shipped('pellworth-jetty'),
  practical: shipped('pellworth-lantern'),
  house: shipped('pellworth-house'),
  par: shipped('aldersund-tern'),
  batten: shipped('aldersund-batten'),
  five: shipped('aldersund-skerry'),
  wash: shipped('quillon-wash'),
  spot: shipped('quillon-lens'),
  haze: shipped('aldersund-fret'),
} as const;
