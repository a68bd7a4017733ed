/** Attributes by their GDTF names (DIN SPEC 15800 Annex A): family, a word for people, unit. Cells carry theirs as `ColorAdd_R@3`. */
import type { Channel, Mode } from '../types/rows.ts';
import type { Family } from '../show/fields.ts';

interface AttributeInfo {
  family: Family;
  label: string;
  unit: '%' | '°' | 'K' | 'Hz' | 'slot';
}

const colour = (label: string, unit: AttributeInfo['unit'] = '%'): AttributeInfo => ({
  family: 'colour',
  label,
  unit,
});
const beam = (label: string, unit: AttributeInfo['unit'] = '%'): AttributeInfo => ({
  family: 'beam',
  label,
  unit,
});
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

/** Numbers of the cells of a mode, from 1; none where it has no cells. */
export const cellsOf = (mode: Mode): number[] =>
  [...new Set(mode.channels.map((c) => cellOf(c.attribute)))]
    .filter((cell) => cell > 0)
    .sort((a, b) => a - b);

/** The family of an attribute that is not in the table, by the names of GDTF. */
function familyByName(base: string): Family {
  if (base.startsWith('Color')) return 'colour';
  return /^(Gobo|Prism|Shutter|Blade|Frost|Focus)/.test(base) ? 'beam' : 'control';
}

/** Family, name and unit of an attribute, by the table or by the names of GDTF. */
export function attributeInfo(attribute: string): AttributeInfo {
  const base = baseOf(attribute);
  const cell = cellOf(attribute);
  const known = KNOWN[base];
  const info = known ?? { family: familyByName(base), label: base, unit: '%' as const };
  return cell > 0 ? { ...info, label: `${info.label}, cell ${cell}` } : info;
}

/** Attributes that Wingman knows by name, of DIN SPEC 15800. */
export const KNOWN_ATTRIBUTES: readonly string[] = Object.keys(KNOWN);
/** The family of an attribute. */
export const familyOf = (attribute: string): Family => attributeInfo(attribute).family;
/** Whether an attribute is a light of its own that is mixed. */
export const isEmitter = (attribute: string): boolean => attribute.startsWith('ColorAdd_');

/** No dimmer for the whole unit, but emitters or cells with dimmers: the mode gets a `Dimmer` all the same, applied at the end. */
export const hasVirtualDimmer = (mode: Mode): boolean =>
  mode.channels.some((c) => isEmitter(c.attribute) || c.attribute.startsWith('Dimmer@')) &&
  !mode.channels.some((c) => c.attribute === 'Dimmer');

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
export const footprintOf = (mode: Mode, at = 1): number =>
  at === 1 ? mode.footprint : (mode.breaks?.[at - 2] ?? 0);
/** Channels over all breaks. */
export const channelCount = (mode: Mode): number =>
  mode.footprint + (mode.breaks ?? []).reduce((a, b) => a + b, 0);

/** Finds an attribute by what a person types: its word, its GDTF name, or the beginning of either. */
export function findAttribute(word: string): string | undefined {
  const wanted = word.toLowerCase();
  const names = Object.entries(KNOWN);
  const exact = names.find(
    ([name, info]) => name.toLowerCase() === wanted || info.label.toLowerCase() === wanted,
  );
  if (exact) return exact[0];
  if (wanted.length < 3) return undefined;
  return names.find(
    ([name, info]) =>
      name.toLowerCase().startsWith(wanted) || info.label.toLowerCase().startsWith(wanted),
  )?.[0];
}

/** What makers and people call them, beside the words above. */
const ALSO: Record<string, string> = {
  dim: 'Dimmer',
  dimmer: 'Dimmer',
  level: 'Dimmer',
  brightness: 'Dimmer',
  master: 'Dimmer',
  r: 'ColorAdd_R',
  g: 'ColorAdd_G',
  b: 'ColorAdd_B',
  w: 'ColorAdd_W',
  a: 'ColorAdd_RY',
  ww: 'ColorAdd_WW',
  cw: 'ColorAdd_CW',
  ultraviolet: 'ColorAdd_UV',
  mint: 'ColorAdd_GY',
  magenta: 'ColorSub_M',
  yellow: 'ColorSub_Y',
  cto: 'CTO',
  'colour temperature': 'CTO',
  'color temperature': 'CTO',
  colour: 'Color1',
  color: 'Color1',
  'color wheel': 'Color1',
  gobo: 'Gobo1',
  'gobo 1': 'Gobo1',
  'gobo wheel': 'Gobo1',
  'gobo 2': 'Gobo2',
  pattern: 'Gobo1',
  'gobo rotation': 'Gobo1Pos',
  focus: 'Focus1',
  frost: 'Frost1',
  prism: 'Prism1',
  shutter: 'Shutter1',
  strobe: 'Shutter1Strobe',
  haze: 'Fog1',
  fog: 'Fog1',
  smoke: 'Fog1',
  fan: 'Fan1',
  control: 'Control1',
  function: 'Control1',
  reset: 'Control1',
};

/** GDTF names that are right though they have no word here: numbered ones, and those of DIN SPEC 15800 Annex A by their stems. */
const STEMS =
  /^(Dimmer|Pan|Tilt|PanRotate|TiltRotate|ColorAdd_[A-Z]{1,3}|ColorSub_[A-Z]|Color\d|Color\d(Wheel\w+|Mix\w*)|CTO|CTC|CTB|Tint|HSB_\w+|CIE_[XY]|CIE_Brightness|Gobo\d(\w+)?|AnimationWheel\d\w*|AnimationSystem\d\w*|Shutter\d(\w+)?|StrobeModeShutter\w*|Iris(\w+)?|Frost\d\w*|Prism\d\w*|Effects\d\w*|Beam\w+|Zoom(\w+)?|Focus\d?\w*|Blade\d\w+|Blade(Soft)?\d\w*|ShaperRot|ShaperMacros|KeyStone\d\w*|Fog\d|Haze\d|Fan\d|Control\d|Function|LampControl|LampPowerMode|Reset|FixtureGlobalReset|Video\w+|Media\w+|XYZ_\w+|Rot_\w+|Scale_\w+|Playmode\w*|DimmerMode|DimmerCurve|Black(out)?Mode|LEDFrequency|PixelZone\w*|IntensityMSpeed|PositionMSpeed|ColorMixMSpeed|BlackoutMode\w*|\w+Mode|\w+MSpeed|\w+Reset|NoFeature)$/;

/** Whether a name is one of the standard's, so that programs know what it does. */
export const isStandard = (attribute: string): boolean =>
  KNOWN[baseOf(attribute)] !== undefined || STEMS.test(baseOf(attribute));

/** The standard's attribute that a plain word means; the word itself where it means none. A cell's `@3` stays. */
export function attributeMeant(text: string): string {
  const typed = text.trim();
  const cell = /@\d+$/.exec(typed)?.[0] ?? '';
  const word = typed.slice(0, typed.length - cell.length).trim();
  const plain = word.toLowerCase().replace(/\s+/g, ' ');
  const exact = Object.entries(KNOWN).find(
    ([name, info]) => name.toLowerCase() === plain || info.label.toLowerCase() === plain,
  );
  return `${exact?.[0] ?? ALSO[plain] ?? word}${cell}`;
}
