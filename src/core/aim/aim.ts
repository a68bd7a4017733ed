/**
 * Heads and the stage. Metres: x from centre towards the audience's right, y upstage from the plaster line, z up.
 * A hanging head at pan 0, tilt 0 looks straight down; tilt leans it over, pan turns it clockwise seen from above,
 * counted from upstage. `rotation_deg` turns the whole fixture the same way.
 */
export interface Head {
  x: number;
  y: number;
  z: number;
  rotation_deg: number;
}

/** Past this the light no longer falls on the floor in any useful place. */
const HORIZON_DEG = 83;
const rad = (deg: number): number => (deg * Math.PI) / 180;
const deg = (radians: number): number => (radians * 180) / Math.PI;

/** Where a head points on a floor at height `floor_m`; undefined at or above the horizon, or below the floor. */
export function landing(head: Head, pan_deg: number, tilt_deg: number, floor_m = 0): { x: number; y: number } | undefined {
  const height = head.z - floor_m;
  if (height <= 0 || Math.abs(tilt_deg) > HORIZON_DEG) return undefined;
  const reach = height * Math.tan(rad(tilt_deg));
  const direction = rad(pan_deg + head.rotation_deg);
  return { x: head.x + reach * Math.sin(direction), y: head.y + reach * Math.cos(direction) };
}

/**
 * Pan and tilt that point a head at a stage point, pan within `panRange` and nearest to `near_deg`.
 * Two ways lead to every point: turned towards it leaning forward, or turned away leaning back.
 * @returns degrees, or undefined when no way lies within the ranges
 */
export function aimAt(head: Head, point: { x: number; y: number; z: number }, panRange: readonly [number, number], tiltRange: readonly [number, number], near_deg = 0): { pan_deg: number; tilt_deg: number } | undefined {
  const dx = point.x - head.x;
  const dy = point.y - head.y;
  const height = head.z - point.z;
  const tilt = deg(Math.atan2(Math.hypot(dx, dy), height));
  const towards = deg(Math.atan2(dx, dy)) - head.rotation_deg;
  const [low, high] = [Math.min(...panRange), Math.max(...panRange)];
  const inTilt = (t: number): boolean => t >= Math.min(...tiltRange) && t <= Math.max(...tiltRange);
  const ways = [
    { pan: towards, tilt },
    { pan: towards + 180, tilt: -tilt },
  ].flatMap((way) => [-720, -360, 0, 360, 720].map((turn) => ({ pan_deg: way.pan + turn, tilt_deg: way.tilt })));
  return ways.filter((w) => w.pan_deg >= low && w.pan_deg <= high && inTilt(w.tilt_deg)).sort((a, b) => Math.abs(a.pan_deg - near_deg) - Math.abs(b.pan_deg - near_deg))[0];
}
