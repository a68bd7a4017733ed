/** Attributes by their GDTF names (DIN SPEC 15800 Annex A): family, a word for people, unit. */
import type { Family, Mode } from '../show/rows.ts';

interface AttributeInfo {
  family: Family;
  label: string;
  unit: '%' | '°' | 'K' | 'Hz';
}

const KNOWN: Record<string, AttributeInfo> = {
  Dimmer: { family: 'intensity', label: 'Intensity', unit: '%' },
  Pan: { family: 'position', label: 'Pan', unit: '°' },
  Tilt: { family: 'position', label: 'Tilt', unit: '°' },
  ColorAdd_R: { family: 'colour', label: 'Red', unit: '%' },
  ColorAdd_RY: { family: 'colour', label: 'Amber', unit: '%' },
  ColorAdd_GY: { family: 'colour', label: 'Lime', unit: '%' },
  ColorAdd_G: { family: 'colour', label: 'Green', unit: '%' },
  ColorAdd_C: { family: 'colour', label: 'Cyan', unit: '%' },
  ColorAdd_B: { family: 'colour', label: 'Blue', unit: '%' },
  ColorAdd_UV: { family: 'colour', label: 'UV', unit: '%' },
  ColorAdd_W: { family: 'colour', label: 'White', unit: '%' },
  CTO: { family: 'colour', label: 'Warm shift', unit: 'K' },
  Zoom: { family: 'beam', label: 'Zoom', unit: '°' },
  Iris: { family: 'beam', label: 'Iris', unit: '%' },
  Focus1: { family: 'beam', label: 'Edge', unit: '%' },
  Shutter1Strobe: { family: 'beam', label: 'Strobe', unit: 'Hz' },
  Fog1: { family: 'control', label: 'Haze', unit: '%' },
  Fan1: { family: 'control', label: 'Fan', unit: '%' },
};

export function attributeInfo(attribute: string): AttributeInfo {
  const known = KNOWN[attribute];
  if (known) return known;
  const family: Family = attribute.startsWith('Color') ? 'colour' : /^(Gobo|Prism|Shutter|Blade|Frost|Focus)/.test(attribute) ? 'beam' : 'control';
  return { family, label: attribute, unit: '%' };
}

export const familyOf = (attribute: string): Family => attributeInfo(attribute).family;
export const isEmitter = (attribute: string): boolean => attribute.startsWith('ColorAdd_');

/** Emitters and no dimmer: the mode gets a `Dimmer` all the same, applied to its emitters at the end. */
export const hasVirtualDimmer = (mode: Mode): boolean => mode.channels.some((c) => isEmitter(c.attribute)) && !mode.channels.some((c) => c.attribute === 'Dimmer');

/** Attributes that a fixture of this mode answers to, intensity first. */
export function attributesOf(mode: Mode): string[] {
  const own = mode.channels.map((c) => c.attribute);
  return hasVirtualDimmer(mode) ? ['Dimmer', ...own] : own;
}

/** Finds an attribute by what a person types: its word, its GDTF name, or the beginning of either. */
export function findAttribute(word: string): string | undefined {
  const wanted = word.toLowerCase();
  const names = Object.entries(KNOWN);
  const exact = names.find(([name, info]) => name.toLowerCase() === wanted || info.label.toLowerCase() === wanted);
  if (exact) return exact[0];
  if (wanted.length < 3) return undefined;
  return names.find(([name, info]) => name.toLowerCase().startsWith(wanted) || info.label.toLowerCase().startsWith(wanted))?.[0];
}
