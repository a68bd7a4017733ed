/** Levels as this screen shows them: the stage's, or while blind the stage with what you hold on it. */
import { levels } from './levels';
import { useScreen } from './store';

let made: { frames: number; values: unknown; levels: Float32Array } | null = null;

export function shownLevels(): Float32Array {
  const { programmer, values, index } = useScreen.getState();
  if (!programmer.blind) return levels.now;
  if (made?.frames === levels.frames && made.values === values && made.levels.length === levels.now.length) return made.levels;
  const mine = new Float32Array(levels.now);
  for (const [key, v] of values) {
    const slot = index.get(key);
    if (slot !== undefined) mine[slot] = v.level;
  }
  made = { frames: levels.frames, values, levels: mine };
  return mine;
}

/** Counts what `shownLevels` depends on. */
export const shownCount = (): number => levels.frames + (useScreen.getState().programmer.blind ? 0.5 : 0);
