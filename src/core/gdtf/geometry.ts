/** The parts that a unit is built of (GDTF 1.2, Geometries), with references written out: each part once for every place that it has. */
import { attr, childOf, childrenOf, numberIn, type Element } from '../formats/xml.ts';
import type { Oddities } from '../formats/odd.ts';
import { matrixIn, placeOf, product, UNTURNED, type Matrix } from './values.ts';

/** A geometry of a fixture type, in its place. */
export interface Place {
  /** Channels name it. */
  name: string;
  /** `Axis`, `Beam`, `Geometry` …, as the element is called. */
  kind: string;
  element: Element;
  /** From the top of the unit. */
  at: Matrix;
  above: Place | undefined;
  /** The nearest reference that it stands in, itself included. */
  reference: Place | undefined;
  /** Of a reference: where the channels of what it refers to begin, from 1, by break. */
  breaks: readonly { number: number; offset: number }[];
}

const MOST_PLACES = 4096;
const MOST_DEEP = 32;
/** Nearer than this parts lie in one plane, in metres. */
const FLAT_M = 1e-3;
const NOT_PARTS = new Set(['Break', 'WiringObject', 'PinPatch', 'Inventory', 'Magnet', 'Support']);

const breaksOf = (reference: Element): Place['breaks'] =>
  childrenOf(reference, 'Break').map((b) => ({
    number: numberIn(attr(b, 'DMXBreak')) ?? 1,
    offset: numberIn(attr(b, 'DMXOffset')) ?? 1,
  }));

/** All parts below one of the top, itself first, in the order of the file. */
export function placesBelow(type: Element, top: string, odd: Oddities): Place[] {
  const tops = childOf(type, 'Geometries')?.kids ?? [];
  const named = (name: string): Element | undefined => tops.find((g) => attr(g, 'Name') === name);
  const places: Place[] = [];
  const walk = (element: Element, name: string, above: Place | undefined, deep: number): void => {
    if (deep > MOST_DEEP || places.length >= MOST_PLACES) {
      odd.add(
        `geometry “${top}”`,
        'its parts refer to each other without end; the rest was left out',
      );
      return;
    }
    const isReference = element.tag === 'GeometryReference';
    const own = matrixIn(attr(element, 'Position')) ?? UNTURNED;
    const place: Place = {
      name,
      kind: element.tag,
      element,
      at: above ? product(above.at, own) : own,
      above,
      reference: above?.reference,
      breaks: isReference ? breaksOf(element) : [],
    };
    if (isReference) place.reference = place;
    places.push(place);
    if (isReference) {
      const referred = named(attr(element, 'Geometry'));
      if (referred)
        walk(
          { ...referred, attrs: { ...referred.attrs, Position: '' } },
          attr(referred, 'Name'),
          place,
          deep + 1,
        );
      else
        odd.add(
          `geometry “${name}”`,
          `refers to “${attr(element, 'Geometry')}”, which the file does not have; it has no channels`,
        );
      return;
    }
    for (const kid of element.kids)
      if (!NOT_PARTS.has(kid.tag)) walk(kid, attr(kid, 'Name'), place, deep + 1);
  };
  const first = named(top) ?? tops[0];
  if (first) walk(first, attr(first, 'Name'), undefined, 0);
  return places;
}

/** Whether a part holds another, at any depth. */
export function holds(outer: Place, inner: Place): boolean {
  for (let at = inner.above; at; at = at.above) if (at === outer) return true;
  return false;
}

interface Across {
  x: number;
  y: number;
}

/** How far apart places lie in one direction, from the left or the top: 0…1, with half a step to either side. */
function shares(values: readonly number[]): number[] {
  const sorted = [...new Set(values.map((v) => Math.round(v * 1e4) / 1e4))].sort((a, b) => a - b);
  const [low = 0, high = 0] = [sorted[0], sorted.at(-1)];
  if (high - low < 1e-3) return values.map(() => 0.5);
  const step = Math.min(...sorted.slice(1).map((v, i) => v - (sorted[i] ?? 0)));
  const width = high - low + step;
  return values.map((v) => Math.round(((v - low + step / 2) / width) * 1e4) / 1e4);
}

type Spot = ReturnType<typeof placeOf>;

/** Where parts lie in the face of the unit, from the left and from the top, by how they lie to each other. */
export function inFace(
  parts: readonly Place[],
  size: { x: number; y: number } | undefined,
): Across[] {
  const at = parts.map((p) => placeOf(p.at));
  const spread = (of: (p: Spot) => number): number =>
    Math.max(...at.map(of)) - Math.min(...at.map(of));
  const fits =
    size !== undefined &&
    at.every(
      (p) => Math.abs(p.x) < size.x / 2 && Math.abs(p.y) < size.y / 2 && Math.abs(p.z) < FLAT_M,
    );
  if (fits)
    return at.map((p) => ({
      x: Math.round((p.x / size.x + 0.5) * 1e4) / 1e4,
      y: Math.round((0.5 - p.y / size.y) * 1e4) / 1e4,
    }));
  // Seen along its beams, which go down, or from its front.
  const isFlat = spread((p) => p.y) >= spread((p) => p.z);
  const xs = shares(at.map((p) => p.x));
  const ys = shares(at.map((p) => (isFlat ? -p.y : -p.z)));
  return at.map((_, i) => ({ x: xs[i] ?? 0.5, y: ys[i] ?? 0.5 }));
}
