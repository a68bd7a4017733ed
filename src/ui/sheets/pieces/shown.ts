/** What a unit on a sheet shows: its level, its light, where it looks. */
import { shineOf, turnOf, type Lamp, type Shine } from '../../plan/light';

const DARK = 0.004;

/** What a unit shows of its light just now. */
export interface Shown {
  percent: number;
  /** As CSS, cell by cell; none where it is dark. */
  light: string;
  /** Pan and tilt of a head, in degrees. */
  turn: string;
}

const lightOf = ({ level, rgb }: Shine): string =>
  level > DARK
    ? `rgb(${rgb.map(Math.round).join(' ')} / ${Math.round((0.1 + level * 0.6) * 100)}%)`
    : 'transparent';

/** One colour, or the cells side by side. */
function lightsOf(faces: readonly Shine[]): string {
  const lights = faces.map(lightOf);
  const [first = 'transparent'] = lights;
  if (lights.every((l) => l === first)) return first;
  const each = 100 / lights.length;
  const stops = lights.map((l, i) => `${l} ${i * each}% ${(i + 1) * each}%`);
  return `linear-gradient(90deg, ${stops.join(', ')})`;
}

/** @param cell the one that is shown; undefined: the whole unit */
export function shownOf(
  lamp: Lamp | undefined,
  cell: number | undefined,
  levels: Float32Array,
): Shown {
  const all = lamp ? shineOf(lamp, levels) : [];
  const faces = all.filter((_, i) => cell === undefined || lamp?.faces[i]?.cell === cell);
  const level = faces.reduce((sum, f) => sum + f.level, 0) / Math.max(1, faces.length);
  const turn = lamp?.pan && lamp.tilt ? turnOf(lamp, levels) : undefined;
  return {
    percent: Math.round(level * 100),
    light: lightsOf(faces),
    turn: turn ? turn.map((deg) => `${Math.round(deg)}°`).join(' ') : '',
  };
}
