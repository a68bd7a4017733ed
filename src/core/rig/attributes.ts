/** Attributes by their GDTF names (DIN SPEC 15800 Annex A): family, a word for people, unit. Cells carry theirs as `ColorAdd_R@3`. */
import type { Channel, Family, Mode } from '../show/rows.ts';

interface AttributeInfo {
  family: Family;
  label: string;
  unit: '%' | '°' | 'K' | 'Hz' | 'slot';
}

const colour = (label: string, unit: AttributeInfo['unit'] = '%'): AttributeInfo => ({ family: 'colour', label, unit });
const beam = (label: string, unit: AttributeInfo['unit'] = '%'): AttributeInfo => ({ family: 'beam', label, unit });
const control = (label: string): AttributeInfo => ({ family: 'control', label, unit: '%' });

const KNOWN: Record<string, AttributeInfo> = {
  Dimmer: { family: 'intensity', label: 'Intensity', unit: '%' },
  Pan: { family: 'position', label: 'Pan', unit: '°' },
  Tilt: { family: 'position', label: 'Tilt', unit: '°' },
  ColorAdd_R: colour('Red'),
  ColorAdd_RY: colour('Amber'),
  ColorAdd_GY: colour('Lime'),
  ColorAdd_G: colour('Green'),
  ColorAdd_C: colour('Cyan'),
  ColorAdd_B: colour('Blue'),
  ColorAdd_UV: colour('UV'),
  ColorAdd_W: colour('White'),
  ColorAdd_WW: colour('Warm white'),
  ColorAdd_CW: colour('Cool white'),
  ColorSub_C: colour('Cyan filter'),
  ColorSub_M: colour('Magenta filter'),
  ColorSub_Y: colour('Yellow filter'),
  CTO: colour('Warm shift', 'K'),
  Color1: colour('Colour wheel', 'slot'),
  Color2: colour('Colour wheel 2', 'slot'),
  Zoom: beam('Zoom', '°'),
  Iris: beam('Iris'),
  Focus1: beam('Edge'),
  Frost1: beam('Frost'),
  Prism1: beam('Prism', 'slot'),
  Gobo1: beam('Pattern wheel', 'slot'),
  Gobo2: beam('Pattern wheel 2', 'slot'),
  Gobo1Pos: beam('Pattern turn', '°'),
  Gobo2Pos: beam('Pattern 2 turn', '°'),
  Shutter1: beam('Shutter', 'slot'),
  Shutter1Strobe: beam('Strobe', 'Hz'),
  Blade1A: beam('Blade 1 in'),
  Blade1Rot: beam('Blade 1 turn', '°'),
  Blade2A: beam('Blade 2 in'),
  Blade2Rot: beam('Blade 2 turn', '°'),
  Blade3A: beam('Blade 3 in'),
  Blade3Rot: beam('Blade 3 turn', '°'),
  Blade4A: beam('Blade 4 in'),
  Blade4Rot: beam('Blade 4 turn', '°'),
  ShaperRot: beam('Shutters turn', '°'),
  Fog1: control('Haze'),
  Fan1: control('Fan'),
  Control1: control('Unit control'),
};

/** `ColorAdd_R` of `ColorAdd_R@3`. */
export const baseOf = (attribute: string): string => {
  const at = attribute.indexOf('@');
  return at < 0 ? attribute : attribute.slice(0, at);
};
/** 3 of `ColorAdd_R@3`; 0 for the unit as a whole. */
export const cellOf = (attribute: string): number => {
  const at = attribute.indexOf('@');
  return at < 0 ? 0 : Number(attribute.slice(at + 1));
};

export function attributeInfo(attribute: string): AttributeInfo {
  const base = baseOf(attribute);
  const cell = cellOf(attribute);
  const known = KNOWN[base];
  const family: Family = base.startsWith('Color') ? 'colour' : /^(Gobo|Prism|Shutter|Blade|Frost|Focus)/.test(base) ? 'beam' : 'control';
  const info = known ?? { family, label: base, unit: '%' as const };
  return cell > 0 ? { ...info, label: `${info.label}, cell ${cell}` } : info;
}

export const KNOWN_ATTRIBUTES: readonly string[] = Object.keys(KNOWN);
export const familyOf = (attribute: string): Family => attributeInfo(attribute).family;
export const isEmitter = (attribute: string): boolean => attribute.startsWith('ColorAdd_');

/** No dimmer for the whole unit, but emitters or cells with dimmers: the mode gets a `Dimmer` all the same, applied at the end. */
export const hasVirtualDimmer = (mode: Mode): boolean => mode.channels.some((c) => isEmitter(c.attribute) || c.attribute.startsWith('Dimmer@')) && !mode.channels.some((c) => c.attribute === 'Dimmer');

/** Whether a virtual dimmer scales this channel: a cell's own dimmer if it has one, else its emitters. */
export function scaledByVirtual(mode: Mode, channel: Channel): boolean {
  if (channel.attribute.startsWith('Dimmer@')) return true;
  if (!isEmitter(channel.attribute)) return false;
  const cell = cellOf(channel.attribute);
  return cell === 0 || !mode.channels.some((c) => c.attribute === `Dimmer@${cell}`);
}

/** Attributes that a fixture of this mode answers to, intensity first. */
export function attributesOf(mode: Mode): string[] {
  const own = mode.channels.map((c) => c.attribute);
  return hasVirtualDimmer(mode) ? ['Dimmer', ...own] : own;
}

/** The attributes that `attribute` of the whole unit means: itself, or that of every cell. */
export function spreadOverCells(mode: Mode, attribute: string): string[] {
  const all = attributesOf(mode);
  return all.includes(attribute) ? [attribute] : all.filter((a) => a.startsWith(`${attribute}@`));
}

/** Channels of one break, counted from 1. */
export const footprintOf = (mode: Mode, at = 1): number => (at === 1 ? mode.footprint : (mode.breaks?.[at - 2] ?? 0));
/** Channels over all breaks. */
export const channelCount = (mode: Mode): number => mode.footprint + (mode.breaks ?? []).reduce((a, b) => a + b, 0);

/** Finds an attribute by what a person types: its word, its GDTF name, or the beginning of either. */
export function findAttribute(word: string): string | undefined {
  const wanted = word.toLowerCase();
  const names = Object.entries(KNOWN);
  const exact = names.find(([name, info]) => name.toLowerCase() === wanted || info.label.toLowerCase() === wanted);
  if (exact) return exact[0];
  if (wanted.length < 3) return undefined;
  return names.find(([name, info]) => name.toLowerCase().startsWith(wanted) || info.label.toLowerCase().startsWith(wanted))?.[0];
}
