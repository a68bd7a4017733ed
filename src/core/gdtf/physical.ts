/** What a unit is made of: wheels, colours of emitters and filters, weight, watts, its beam (GDTF 1.2, Wheels, PhysicalDescriptions, Models, Geometries). */
import { attr, childOf, childrenOf, numberIn, type Element } from '../formats/xml.ts';
import type { Oddities } from '../formats/odd.ts';
import {
  MOST_SLOTS,
  MOST_WHEELS,
  type Emitter,
  type TypeRow,
  type Wheel,
  type WheelSlot,
} from '../types/rows.ts';
import { nameFor, freeName } from './names.ts';
import { holds, type Place } from './geometry.ts';
import { colourIn, placeOf } from './values.ts';

/** A picture of the archive as a row keeps it; undefined where there is none that it can keep, which was said. */
export type PictureOf = (media: string, where: string) => string | undefined;

const physicalOf = (type: Element): Element | undefined => childOf(type, 'PhysicalDescriptions');

/** Colours by the names that functions call them by. */
export function coloursOf(type: Element, kind: 'Emitter' | 'Filter'): Map<string, Emitter> {
  const all = childrenOf(childOf(physicalOf(type), `${kind}s`), kind);
  return new Map(
    all.flatMap((e) => {
      const color = colourIn(attr(e, 'Color'));
      return color ? [[attr(e, 'Name'), color] as const] : [];
    }),
  );
}

function slotOf(
  slot: Element,
  filters: ReadonlyMap<string, Emitter>,
  picture: PictureOf,
  where: string,
  names: Set<string>,
  n: number,
): WheelSlot {
  const written = attr(slot, 'Color');
  const color = colourIn(written) ?? filters.get(attr(slot, 'Filter'));
  const media = attr(slot, 'MediaFileName');
  const drawn = media === '' ? undefined : picture(media, where);
  return {
    name: freeName(nameFor(attr(slot, 'Name')) || `Slot ${n}`, names),
    ...(color ? { color: { ...color, Y: Math.min(1, color.Y) } } : {}),
    ...(drawn === undefined ? {} : { picture: drawn }),
  };
}

/** Wheels with their slots (GDTF 1.2, Wheels); a slot's filter is its colour where it names one. */
export function wheelsOf(type: Element, picture: PictureOf, odd: Oddities): Wheel[] {
  const filters = coloursOf(type, 'Filter');
  const taken = new Set<string>();
  const all = childrenOf(childOf(type, 'Wheels'), 'Wheel');
  if (all.length > MOST_WHEELS)
    odd.add('wheels', `there are ${all.length}; the first ${MOST_WHEELS} came in`);
  return all.slice(0, MOST_WHEELS).flatMap((wheel): Wheel[] => {
    const name = nameFor(attr(wheel, 'Name'), 60);
    const where = `wheel “${name}”`;
    const slots = childrenOf(wheel, 'Slot');
    if (name === '' || taken.has(name) || slots.length === 0) {
      odd.add(
        where,
        slots.length === 0
          ? 'is empty and was left out'
          : 'has no name of its own and was left out',
      );
      return [];
    }
    taken.add(name);
    if (slots.length > MOST_SLOTS)
      odd.add(where, `has ${slots.length} slots; the first ${MOST_SLOTS} came in`);
    const names = new Set<string>();
    return [
      {
        name,
        slots: slots
          .slice(0, MOST_SLOTS)
          .map((s, i) => slotOf(s, filters, picture, where, names, i + 1)),
      },
    ];
  });
}

const between = (value: number | undefined, low: number, high: number): number | undefined =>
  value === undefined || value < low || value > high ? undefined : value;

const number = (element: Element | undefined, name: string): number | undefined =>
  numberIn(attr(element, name));

/** Its width and depth by the model of its top part, in metres. */
export function sizeOf(
  type: Element,
  top: Place | undefined,
): { x: number; y: number } | undefined {
  const model = childrenOf(childOf(type, 'Models'), 'Model').find(
    (m) => attr(m, 'Name') === attr(top?.element, 'Model'),
  );
  const [x, y] = [
    between(number(model, 'Length'), 0.001, 50),
    between(number(model, 'Width'), 0.001, 50),
  ];
  return x !== undefined && y !== undefined ? { x, y } : undefined;
}

const isBeam = (p: Place): boolean => p.kind === 'Beam';

/** All that its light source draws at full: said as a whole, or beam by beam. */
function wattsOf(type: Element, beams: readonly Place[]): number | undefined {
  const properties = childOf(physicalOf(type), 'Properties');
  const whole = childrenOf(properties, 'PowerConsumption').map((p) => number(p, 'Value') ?? 0);
  if (whole.length > 0) return Math.max(...whole);
  const each = beams.map((b) => number(b.element, 'PowerConsumption') ?? 0);
  const sum = each.reduce((a, b) => a + b, 0);
  return sum > 0 ? sum : undefined;
}

/** Where axes meet, or its light comes out, below the point that it hangs from. */
function reachOf(places: readonly Place[]): number | undefined {
  const axes = places.filter((p) => p.kind === 'Axis');
  const end = axes.at(-1) ?? places.find(isBeam);
  const top = places[0];
  if (!end || !top) return undefined;
  const below = placeOf(top.at).z - placeOf(end.at).z;
  return below > 0.005 && below <= 5 ? Math.round(below * 1000) / 1000 : undefined;
}

/** What a type weighs, draws and throws. */
export type Body = Pick<
  TypeRow,
  'watts' | 'weight_kg' | 'lamp_K' | 'beam_deg' | 'lumens' | 'reach_m'
>;

/** Weight, watts, light, beam and reach, within what a type may have. */
export function bodyOf(type: Element, places: readonly Place[], odd: Oddities): Body {
  const beams = places.filter(isBeam);
  const first = beams[0]?.element;
  const weight = between(
    number(childOf(childOf(physicalOf(type), 'Properties'), 'Weight'), 'Value'),
    0.001,
    500,
  );
  const watts = between(wattsOf(type, beams), 0, 20_000);
  if (watts === undefined)
    odd.add('the unit', 'does not say what it draws; it counts with 0 W until somebody types it');
  const kelvin = between(number(first, 'ColorTemperature'), 1000, 20_000);
  const angle = between(number(first, 'BeamAngle'), 0.1, 180);
  const flux = beams.reduce((sum, b) => sum + (number(b.element, 'LuminousFlux') ?? 0), 0);
  const lumens = between(flux, 0.001, 1_000_000);
  const reach_m = reachOf(places);
  return {
    watts: watts ?? 0,
    ...(weight === undefined ? {} : { weight_kg: weight }),
    ...(kelvin === undefined ? {} : { lamp_K: kelvin }),
    ...(angle === undefined ? {} : { beam_deg: angle }),
    ...(lumens === undefined ? {} : { lumens }),
    ...(reach_m === undefined ? {} : { reach_m }),
  };
}

/** What the plan draws it as; written by us, the name of its top part says it. */
export const SHAPE_NAMES: Record<string, TypeRow['shape']> = {
  'Profile body': 'profile',
  'Wash body': 'wash',
  'Head body': 'head',
  'Strip body': 'strip',
  'House light body': 'house',
  'Hazer body': 'hazer',
};

const ROW = 4;

/** What kind of unit it is, by how its geometry turns and what its modes have. */
export function shapeOf(places: readonly Place[], modes: TypeRow['modes']): TypeRow['shape'] {
  const said = SHAPE_NAMES[places[0]?.name.replace(/ \d+$/, '') ?? ''];
  if (said) return said;
  const attributes = new Set(modes.flatMap((m) => m.channels.map((c) => c.attribute)));
  const beams = places.filter(isBeam);
  if (attributes.has('Fog1') || attributes.has('Haze1')) return 'hazer';
  if (attributes.has('Pan') || attributes.has('Tilt')) return 'head';
  const isRow = modes.some(
    (m) => (m.cells?.length ?? 0) >= ROW && m.cells?.every((c) => c.y === m.cells?.[0]?.y),
  );
  if (isRow) return 'strip';
  return beams.some(
    (b) =>
      /^(spot|none)?$/i.test(attr(b.element, 'BeamType')) &&
      !places.some((p) => holds(b, p) && isBeam(p)),
  )
    ? 'profile'
    : 'wash';
}
