/** What a fixture looks like from its levels: brightness, screen colour, where its beam points. */
import { landing } from '@/core/aim/aim';
import { displayRGB, kelvin, mixXYZ, toXYZ } from '@/core/color/mix';
import { attributesOf, isEmitter } from '@/core/rig/attributes';
import { modeOf } from '@/core/rig/addresses';
import { slotKey, type Emitter, type FixtureRow, type TypeRow } from '@/core/show/rows';
import type { Show } from '@/core/show/show';

export interface Lamp {
  fixture: FixtureRow;
  shape: TypeRow['shape'];
  dimmer: number;
  emitterSlots: number[];
  emitters: Emitter[];
  /** Colour of a lamp without emitters. */
  fixed: [number, number, number];
  pan: number;
  tilt: number;
  zoom: number;
  panRange: [number, number];
  tiltRange: [number, number];
}

const DEFAULT_LAMP_K = 3200;

/** Fixtures with the slots that the plan needs, found once per change of the rig. */
export function lampsOf(show: Show, index: ReadonlyMap<string, number>): Lamp[] {
  return [...show.fixtures.values()].flatMap((fixture): Lamp[] => {
    const type = show.types.get(fixture.typeId);
    const mode = modeOf(show, fixture);
    if (!type || !mode) return [];
    const slot = (attribute: string): number => index.get(slotKey(fixture.id, attribute)) ?? -1;
    const attributes = attributesOf(mode);
    const emitting = attributes.filter((a) => isEmitter(a) && type.emitters[a]);
    const channel = (a: string) => mode.channels.find((c) => c.attribute === a);
    const white = { ...kelvin(type.lamp_K ?? DEFAULT_LAMP_K), Y: 1 };
    const range = (a: string): [number, number] => [channel(a)?.physicalFrom ?? -1, channel(a)?.physicalTo ?? 1];
    return [
      {
        fixture,
        shape: type.shape,
        dimmer: type.shape === 'hazer' ? slot('Fog1') : slot('Dimmer'),
        emitterSlots: emitting.map(slot),
        emitters: emitting.flatMap((a) => type.emitters[a] ?? []),
        fixed: displayRGB(toXYZ(white)),
        pan: slot('Pan'),
        tilt: slot('Tilt'),
        zoom: slot('Zoom'),
        panRange: range('Pan'),
        tiltRange: range('Tilt'),
      },
    ];
  });
}

/** Screen colour of a lamp and how bright it is, 0…1. */
export function shine(lamp: Lamp, levels: Float32Array): { level: number; rgb: [number, number, number] } {
  const level = lamp.dimmer >= 0 ? (levels[lamp.dimmer] ?? 0) : 0;
  if (lamp.emitters.length === 0) return { level, rgb: lamp.fixed };
  const weights = lamp.emitterSlots.map((s) => levels[s] ?? 0);
  const strongest = Math.max(...weights);
  return { level: level * strongest, rgb: displayRGB(mixXYZ(lamp.emitters, weights)) };
}

/** Where a head points on the stage floor, in metres; undefined for what does not move or points past the horizon. */
export function landingOf(lamp: Lamp, levels: Float32Array): { x: number; y: number } | undefined {
  if (lamp.pan < 0 || lamp.tilt < 0) return undefined;
  const at = (slot: number, [from, to]: [number, number]): number => from + (to - from) * (levels[slot] ?? 0.5);
  const { position, rotation } = lamp.fixture;
  return landing({ ...position, rotation_deg: rotation }, at(lamp.pan, lamp.panRange), at(lamp.tilt, lamp.tiltRange));
}
