/** The generic types that ship with Wingman. Patching copies a type into the show, so that a show is complete by itself. */
import type { TypeRow } from '../show/rows.ts';
import { makeType, mode } from './make-type.ts';

const GENERIC: readonly TypeRow[] = [
  makeType({ id: 'generic-dimmer', maker: 'Generic', name: 'Dimmer', shape: 'profile', lamp_K: 3000, watts: 750, modes: [mode('8 bit', ['Dimmer']), mode('16 bit', ['Dimmer:16'])] }),
  makeType({
    id: 'generic-rgb',
    maker: 'Generic',
    name: 'RGB par',
    shape: 'wash',
    watts: 120,
    modes: [mode('RGB', ['ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B']), mode('Dimmer RGB', ['Dimmer', 'ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B'])],
  }),
  makeType({
    id: 'generic-rgbw',
    maker: 'Generic',
    name: 'RGBW par',
    shape: 'wash',
    watts: 150,
    modes: [
      mode('RGBW', ['ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W']),
      mode('Dimmer RGBW', ['Dimmer', 'ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W']),
    ],
  }),
  makeType({
    id: 'generic-wash',
    maker: 'Generic',
    name: 'Moving wash',
    shape: 'head',
    watts: 400,
    modes: [
      mode('16 bit', ['Pan:16', 'Tilt:16', 'Dimmer:16', 'Shutter1Strobe', 'ColorAdd_R:16', 'ColorAdd_G:16', 'ColorAdd_B:16', 'ColorAdd_W:16', 'Zoom:16']),
      mode('8 bit', ['Pan', 'Tilt', 'Dimmer', 'ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W', 'Zoom']),
    ],
  }),
  makeType({ id: 'generic-relay', maker: 'Generic', name: 'House light', shape: 'house', lamp_K: 2700, watts: 1200, modes: [mode('Dimmed', ['Dimmer'])] }),
  makeType({ id: 'generic-haze', maker: 'Generic', name: 'Hazer', shape: 'hazer', watts: 900, modes: [mode('2 channel', ['Fog1', 'Fan1'])] }),
];

export const libraryTypes = (): readonly TypeRow[] => GENERIC;
export const libraryType = (id: string): TypeRow | undefined => GENERIC.find((t) => t.id === id);
