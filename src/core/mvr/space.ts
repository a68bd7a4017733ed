/** Places and turns of a plan (MVR 1.6, Matrix): rows of a right-handed system, z up, the last the place in millimetres. */
import { clamp } from '../numbers.ts';
import { numberIn } from '../formats/xml.ts';

/** A vector in the frame of the scene. */
export interface Vector {
  x: number;
  y: number;
  z: number;
}

/** Where the axes of a thing point, and where it is, in metres. */
export interface Frame {
  u: Vector;
  v: Vector;
  w: Vector;
  at: Vector;
}

/** A frame at the origin that turns nothing. */
export const UNMOVED: Frame = {
  u: { x: 1, y: 0, z: 0 },
  v: { x: 0, y: 1, z: 0 },
  w: { x: 0, y: 0, z: 1 },
  at: { x: 0, y: 0, z: 0 },
};

const scaled = ({ x, y, z }: Vector, by: number): Vector => ({ x: x * by, y: y * by, z: z * by });
const sum = (...all: readonly Vector[]): Vector =>
  all.reduce((a, b) => ({ x: a.x + b.x, y: a.y + b.y, z: a.z + b.z }));
const dot = (a: Vector, b: Vector): number => a.x * b.x + a.y * b.y + a.z * b.z;
const cross = (a: Vector, b: Vector): Vector => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
const lengthOf = (a: Vector): number => Math.hypot(a.x, a.y, a.z);

/** `{u}{v}{w}{o}`; undefined for what is none. */
export function frameIn(text: string): Frame | undefined {
  const rows = [...text.matchAll(/\{([^{}]*)\}/g)].map((m) =>
    (m[1] ?? '')
      .split(/[,\s]+/)
      .filter((n) => n !== '')
      .map(numberIn),
  );
  if (rows.length !== 4) return undefined;
  const vectors = rows.map(([x, y, z]) =>
    x === undefined || y === undefined || z === undefined ? undefined : { x, y, z },
  );
  const [u, v, w, o] = vectors;
  return u && v && w && o ? { u, v, w, at: scaled(o, 0.001) } : undefined;
}

/** A direction or a distance of a frame, as seen from outside of it. */
const turned = (by: Frame, { x, y, z }: Vector): Vector =>
  sum(scaled(by.u, x), scaled(by.v, y), scaled(by.w, z));

/** A point of a frame, as seen from outside of it. */
export const placed = (by: Frame, point: Vector): Vector => sum(turned(by, point), by.at);

/** A frame that stands in another. */
export const within = (outer: Frame, inner: Frame): Frame => ({
  u: turned(outer, inner.u),
  v: turned(outer, inner.v),
  w: turned(outer, inner.w),
  at: placed(outer, inner.at),
});

const FLAT = 1e-6;

/** Whether its axes stand on each other as those of a thing do: it is not mirrored, and not flat. */
export const isSound = ({ u, v, w }: Frame): boolean => dot(cross(u, v), w) > FLAT;

const deg = (radians: number): number => (radians * 180) / Math.PI;
const rad = (degrees: number): number => (degrees * Math.PI) / 180;
const tenth = (degrees: number): number => Math.round(degrees * 10) / 10 + 0;

/** How a frame hangs, as a row says it. */
export interface Hung {
  /** Degrees clockwise seen from above, from upstage. */
  rotation: number;
  /** Degrees from hanging straight down, in the direction of its rotation. */
  lean: number;
  /** Degrees that it is turned beside that, which a row does not say. */
  off_deg: number;
}

/** Axes of a unit that is leaned over x and then turned clockwise. */
function axesOf(rotation: number, lean: number): Pick<Frame, 'u' | 'v' | 'w'> {
  const [cr, sr, cl, sl] = [
    Math.cos(rad(rotation)),
    Math.sin(rad(rotation)),
    Math.cos(rad(lean)),
    Math.sin(rad(lean)),
  ];
  const turn = ({ x, y, z }: Vector): Vector => ({ x: x * cr + y * sr, y: -x * sr + y * cr, z });
  return {
    u: turn({ x: 1, y: 0, z: 0 }),
    v: turn({ x: 0, y: cl, z: sl }),
    w: turn({ x: 0, y: -sl, z: cl }),
  };
}

const angle = (a: Vector, b: Vector): number =>
  deg(Math.acos(clamp(dot(a, b) / (lengthOf(a) * lengthOf(b)), -1)));

/** How a unit hangs: its light goes against its own z. */
export function hungAs(frame: Frame): Hung {
  const down = scaled(frame.w, -1);
  const steep = angle(down, { x: 0, y: 0, z: -1 });
  const byY = deg(Math.atan2(frame.v.x, frame.v.y));
  const isUpright = steep < 0.05 || steep > 179.95;
  const upright = steep > 90 ? byY + 180 : byY;
  const heading = isUpright ? upright : deg(Math.atan2(down.x, down.y));
  const ways: [number, number][] = isUpright
    ? [[heading, steep > 90 ? 180 : 0]]
    : [
        [heading, steep],
        [heading + 180, -steep],
      ];
  const best = ways
    .map(([rotation, lean]) => ({ rotation, lean, off: angle(axesOf(rotation, lean).v, frame.v) }))
    .sort((a, b) => a.off - b.off)[0] ?? { rotation: 0, lean: 0, off: 0 };
  return {
    rotation: tenth(((best.rotation + 540) % 360) - 180),
    lean: tenth(best.lean),
    off_deg: best.off,
  };
}

const written = ({ x, y, z }: Vector): string =>
  `{${[x, y, z].map((n) => String(Math.round(n * 1e6) / 1e6 + 0)).join(',')}}`;

/** A unit that is leaned and turned, at a place. */
export const frameOf = (at: Vector, rotation: number, lean: number): Frame => ({
  ...axesOf(rotation, lean),
  at,
});

/** A place and how a unit hangs there, as plans write it. */
export function frameText(at: Vector, rotation: number, lean: number): string {
  const { u, v, w } = axesOf(rotation, lean);
  return [u, v, w, scaled(at, 1000)].map(written).join('');
}
