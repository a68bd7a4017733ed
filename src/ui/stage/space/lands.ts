/**
 * Where beams land: on which surfaces, and how far they go. That depends on where a beam looks and how wide it is, not on how
 * bright it is: it is kept until one of those changes (lands.test.ts).
 */
import {
  add,
  distanceTo,
  isBefore,
  meets,
  reachOn,
  toWorld,
  type Surface,
  type Vec,
} from './surfaces';

/** So far light is drawn that meets nothing, in metres. */
export const FAR_M = 14;
/** Light lies so far above what it falls on that it is seen. */
const LIFT_M = 0.005;

type World = [x: number, y: number, z: number];

/** A beam's rectangle on one surface, in world metres. */
export interface Land {
  far: number;
  corner: World;
  u: World;
  v: World;
}

/** Where a beam ends. */
export interface Landing {
  way: Vec;
  /** Half of its angle, in degrees. */
  half: number;
  /** Until its middle meets something. */
  reach: number;
  lands: Land[];
}

const isSame = (a: Vec, b: Vec): boolean => a[0] === b[0] && a[1] === b[1] && a[2] === b[2];

/** How far the middle of a beam goes until it meets a surface; undefined where it passes it by. */
function metAt(s: Surface, from: Vec, way: Vec): number | undefined {
  const at = meets(s, from, way);
  const isOn = at && at[0] >= 0 && at[1] >= 0 && at[0] <= s.width && at[1] <= s.height;
  return isOn ? distanceTo(s, from, way) : undefined;
}

function landOn(s: Surface, from: Vec, way: Vec, half: number): Land | undefined {
  const on = isBefore(s, from) ? reachOn(s, from, way, half) : undefined;
  if (!on) return undefined;
  const corner = add(add(add(s.corner, s.u, on.u[0]), s.v, on.v[0]), s.normal, LIFT_M);
  return {
    far: distanceTo(s, from, way) ?? FAR_M,
    corner: toWorld(corner),
    u: toWorld(add([0, 0, 0], s.u, on.u[1] - on.u[0])),
    v: toWorld(add([0, 0, 0], s.v, on.v[1] - on.v[0])),
  };
}

/** Ends of all beams, found anew where something moved. */
export class Landings {
  private readonly known = new Map<number, Landing>();

  constructor(private readonly surfaces: readonly Surface[]) {}

  /** @param i which beam, from 0 @param from where it comes out @param way one metre along it @param half of its angle, in degrees */
  of(i: number, from: Vec, way: Vec, half: number): Landing {
    const known = this.known.get(i);
    if (known?.half === half && isSame(known.way, way)) return known;
    const { surfaces } = this;
    const reach = Math.min(FAR_M, ...surfaces.map((s) => metAt(s, from, way) ?? FAR_M));
    const lands = surfaces.flatMap((s) => landOn(s, from, way, half) ?? []);
    const made = { way, half, reach, lands };
    this.known.set(i, made);
    return made;
  }
}
