/** What a fixture looks like from its levels: brightness, screen colour by cell, where its beam points. */
import { landing, type Direction, type Point } from '@/core/aim/aim';
import { beamEdge, beamFrom, beamWay, beamWidth } from '@/core/aim/beam';
import { headOf } from '@/core/aim/unit';
import { displayRGB } from '@/core/color/mix';
import { colourOf, colourParts, lampXYZ, type ColourPart } from '@/core/color/unit-colour';
import { wheelSlotAt } from '@/core/rig/channel';
import { isOpen } from '@/core/rig/shutter';
import { cellsOf, isEmitter } from '@/core/rig/attributes';
import { modeOf } from '@/core/fixtures/points';
import { sourceAttribute, transformed } from '@/core/rig/transform';
import { slotKey } from '@/core/cues/rows';
import type { Channel, Mode, TypeRow } from '@/core/types/rows';
import type { FixtureRow, Transform } from '@/core/fixtures/rows';
import type { Show } from '@/core/show/show';

/** One attribute as it reaches the unit: its slot, and what bends it. */
interface Tap {
  slot: number;
  bend: Transform | undefined;
}

interface Face {
  cell: number;
  part: ColourPart | undefined;
  taps: Map<string, Tap>;
  dimmer: Tap | undefined;
}

/** A unit as the plan draws it. */
export interface Lamp {
  fixture: FixtureRow;
  type: TypeRow;
  shape: TypeRow['shape'];
  dimmer: Tap | undefined;
  /** The unit as a whole, or its cells from left to right. */
  faces: Face[];
  /** Colour of a lamp that cannot change it. */
  fixed: [number, number, number];
  pan: Tap | undefined;
  tilt: Tap | undefined;
  zoom: Tap | undefined;
  zoomRange: [number, number] | undefined;
  iris: Tap | undefined;
  focus: Tap | undefined;
  frost: Tap | undefined;
  panRange: [number, number];
  tiltRange: [number, number];
  shutter: { tap: Tap; channel: Channel } | undefined;
  pattern: { tap: Tap; channel: Channel }[];
}

const read = (tap: Tap | undefined, levels: Float32Array, otherwise: number): number =>
  tap ? transformed(tap.bend, levels[tap.slot] ?? 0) : otherwise;

/** Fixtures with the slots that the plan needs, found once per change of the rig. */
export function lampsOf(show: Show, index: ReadonlyMap<string, number>): Lamp[] {
  return [...show.fixtures.values()].flatMap((fixture): Lamp[] => {
    const type = show.types.get(fixture.typeId);
    const mode = modeOf(show, fixture);
    // Off the rig it hangs nowhere and lights nothing.
    if (!type || !mode || fixture.patch.length === 0) return [];
    const tap = (attribute: string): Tap | undefined => {
      const slot = index.get(slotKey(fixture.id, sourceAttribute(fixture, attribute)));
      return slot === undefined ? undefined : { slot, bend: fixture.transforms?.[attribute] };
    };
    const channel = (a: string): Channel | undefined =>
      mode.channels.find((c) => c.attribute === a);
    const range = (a: string): [number, number] => [
      channel(a)?.physicalFrom ?? -1,
      channel(a)?.physicalTo ?? 1,
    ];
    const tapped = (a: string): { tap: Tap; channel: Channel } | undefined => {
      const own = channel(a);
      const at = own ? tap(a) : undefined;
      return own && at ? { tap: at, channel: own } : undefined;
    };
    return [
      {
        fixture,
        type,
        shape: type.shape,
        dimmer: type.shape === 'hazer' ? tap('Fog1') : tap('Dimmer'),
        faces: facesOf(type, mode, tap),
        fixed: displayRGB(lampXYZ(type)),
        pan: tap('Pan'),
        tilt: tap('Tilt'),
        zoom: tap('Zoom'),
        zoomRange: channel('Zoom') ? range('Zoom') : undefined,
        iris: tap('Iris'),
        focus: tap('Focus1'),
        frost: tap('Frost1'),
        panRange: range('Pan'),
        tiltRange: range('Tilt'),
        shutter: tapped('Shutter1'),
        pattern: ['Gobo1', 'Gobo2'].flatMap((a) => tapped(a) ?? []),
      },
    ];
  });
}

function facesOf(type: TypeRow, mode: Mode, tap: (attribute: string) => Tap | undefined): Face[] {
  const parts = colourParts(type, mode);
  const cells = cellsOf(mode);
  const numbers = cells.length > 0 ? cells : [0];
  return numbers.map((cell) => {
    const part = parts.find((p) => p.cell === cell) ?? parts.find((p) => p.cell === 0);
    const attributes = part
      ? [
          ...part.emitters.map((e) => e.attribute),
          ...part.filters,
          ...part.wheels.map((w) => w.attribute),
        ]
      : [];
    return {
      cell,
      part,
      taps: new Map(attributes.flatMap((a) => (tap(a) ? [[a, tap(a) as Tap] as const] : []))),
      dimmer: cell > 0 ? tap(`Dimmer@${cell}`) : undefined,
    };
  });
}

/** How bright and of which colour it is seen. */
export interface Shine {
  level: number;
  rgb: [number, number, number];
}

/** Light of each face: one for most units, one per cell for strips and blinders. */
export function shineOf(lamp: Lamp, levels: Float32Array): Shine[] {
  const whole =
    read(lamp.dimmer, levels, lamp.faces.some((f) => f.dimmer) ? 1 : 0) *
    throughShutter(lamp, levels);
  return lamp.faces.map((face) => {
    const level = whole * read(face.dimmer, levels, 1);
    const { part } = face;
    if (!part || level === 0) return { level, rgb: lamp.fixed };
    const levelOf = (attribute: string): number => read(face.taps.get(attribute), levels, 0);
    const rgb = displayRGB(colourOf(lamp.type, part, levelOf, lamp.fixture));
    const strongest =
      part.emitters.length > 0
        ? Math.max(
            ...part.emitters.filter((e) => isEmitter(e.attribute)).map((e) => levelOf(e.attribute)),
          )
        : 1;
    return { level: level * strongest, rgb };
  });
}

/** A closed shutter lets nothing through; a strobe is shown as light. */
function throughShutter(lamp: Lamp, levels: Float32Array): number {
  const { shutter } = lamp;
  if (!shutter?.channel.functions) return 1;
  return isOpen(shutter.channel, read(shutter.tap, levels, 0)) ? 1 : 0;
}

/** Patterns in the beam, by their pictures; open places are left out. */
export function patternsOf(lamp: Lamp, levels: Float32Array): string[] {
  return lamp.pattern.flatMap(({ tap, channel }) => {
    const slot = wheelSlotAt(lamp.type, channel, read(tap, levels, 0), lamp.fixture);
    return slot?.is.picture && slot.is.picture !== 'pattern:open' ? [slot.is.picture] : [];
  });
}

/** The zoom's level 0…1; a middle one for what has none. */
export const zoomOf = (lamp: Lamp, levels: Float32Array): number => read(lamp.zoom, levels, 0.5);

/** Degrees of pan and tilt as they reach the unit; straight ahead for what does not turn. */
export function turnOf(lamp: Lamp, levels: Float32Array): [pan: number, tilt: number] {
  const at = (tap: Tap | undefined, [from, to]: [number, number]): number =>
    tap ? from + (to - from) * read(tap, levels, 0.5) : 0;
  return [at(lamp.pan, lamp.panRange), at(lamp.tilt, lamp.tiltRange)];
}

/** Where a head points on the stage floor, in metres; undefined for what does not move or points past the horizon. */
export function landingOf(lamp: Lamp, levels: Float32Array): { x: number; y: number } | undefined {
  if (!lamp.pan || !lamp.tilt) return undefined;
  const [pan, tilt] = turnOf(lamp, levels);
  return landing(headOf(lamp.fixture, lamp.type), pan, tilt);
}

/** Where the light comes from, in metres of the stage. */
export const beamOrigin = (lamp: Lamp): Point =>
  beamFrom(lamp.fixture, lamp.type, lamp.pan !== undefined);

/** Where the light goes, as a direction on the stage. */
export function beamDirection(lamp: Lamp, levels: Float32Array): Direction {
  const [pan_deg, tilt_deg] = turnOf(lamp, levels);
  return beamWay(lamp.fixture, lamp.shape, lamp.pan ? { pan_deg, tilt_deg } : undefined);
}

/** Full angle of the beam in degrees: its zoom, or what is usual for its kind; an iris narrows it. */
export function beamAngle(lamp: Lamp, levels: Float32Array): number {
  const { zoom, zoomRange } = lamp;
  const zoom_deg =
    zoom && zoomRange
      ? zoomRange[0] + (zoomRange[1] - zoomRange[0]) * read(zoom, levels, 0.5)
      : undefined;
  return beamWidth(lamp.type, zoom_deg, read(lamp.iris, levels, 0));
}

/** How soft the edge is, 0 hard to 1 soft. */
export const edgeOf = (lamp: Lamp, levels: Float32Array): number =>
  beamEdge(
    lamp.shape,
    read(lamp.frost, levels, 0),
    lamp.focus ? read(lamp.focus, levels, 0.5) : undefined,
  );
