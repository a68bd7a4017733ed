/** Fixture types by the demo world's makers: Aldersund (LED), Pellworth (conventional), Quillon (moving heads). */
import { makeType, mode } from '../src/core/rig/make-type.ts';

const rgbw = ['ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W'];
const wide = (attributes: readonly string[]): string[] => attributes.map((a) => `${a}:16`);

export const DEMO_TYPES = {
  profile: makeType({ id: 'pellworth-shoreline', maker: 'Pellworth', name: 'Shoreline 26', shape: 'profile', lamp_K: 3100, watts: 750, modes: [mode('Dimmer', ['Dimmer'])] }),
  fresnel: makeType({ id: 'pellworth-jetty', maker: 'Pellworth', name: 'Jetty fresnel', shape: 'wash', lamp_K: 2950, watts: 1000, modes: [mode('Dimmer', ['Dimmer'])] }),
  practical: makeType({ id: 'pellworth-lantern', maker: 'Pellworth', name: 'Deck lantern', shape: 'house', lamp_K: 2300, watts: 60, modes: [mode('Dimmer', ['Dimmer'])] }),
  house: makeType({ id: 'pellworth-house', maker: 'Pellworth', name: 'House relay', shape: 'house', lamp_K: 2700, watts: 1800, modes: [mode('Dimmed', ['Dimmer'])] }),
  par: makeType({ id: 'aldersund-tern', maker: 'Aldersund', name: 'Tern par', shape: 'wash', watts: 140, modes: [mode('RGBW', rgbw)] }),
  batten: makeType({ id: 'aldersund-batten', maker: 'Aldersund', name: 'Batten 12', shape: 'strip', watts: 320, modes: [mode('RGB', ['ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B'])] }),
  five: makeType({
    id: 'aldersund-skerry',
    maker: 'Aldersund',
    name: 'Skerry profile',
    shape: 'profile',
    watts: 260,
    modes: [mode('Direct', ['Dimmer:16', 'ColorAdd_R', 'ColorAdd_RY', 'ColorAdd_GY', 'ColorAdd_C', 'ColorAdd_B'])],
  }),
  wash: makeType({ id: 'quillon-wash', maker: 'Quillon', name: 'Wash 19', shape: 'head', watts: 460, modes: [mode('Full', ['Pan:16', 'Tilt:16', 'Dimmer:16', 'Shutter1Strobe', ...wide(rgbw), 'Zoom:16'])] }),
  spot: makeType({ id: 'quillon-lens', maker: 'Quillon', name: 'Lens 31', shape: 'head', lamp_K: 6500, watts: 520, modes: [mode('Basic', ['Pan:16', 'Tilt:16', 'Dimmer:16', 'Shutter1Strobe', 'Iris', 'Focus1', 'Zoom'])] }),
  haze: makeType({ id: 'aldersund-fret', maker: 'Aldersund', name: 'Fret hazer', shape: 'hazer', watts: 1100, modes: [mode('Fan', ['Fog1', 'Fan1'])] }),
} as const;
