/**
 * Levels as this screen shows them: the stage's; while blind the stage with what you hold on it; while a cue is looked
 * at in Stage what that cue shows, and nothing else.
 */
import { stateAt } from '@/core/cues/tracking';
import { levelOf } from '@/core/looks/value';
import { modeOf } from '@/core/fixtures/points';
import { attributesOf } from '@/core/rig/attributes';
import { slotKey, type CueRow } from '@/core/cues/rows';
import { useCueLook } from './cue-look';
import { levels } from './levels';
import { useScreen } from './store';

/** The cue that the stage view shows instead of the stage. */
const lookedCue = (): CueRow | undefined =>
  useScreen.getState().show.cues.get(useCueLook.getState().cueId ?? '');

function ofCue(cue: CueRow): Float32Array {
  const { show, index } = useScreen.getState();
  const state = stateAt(show, cue.listId, cue.number);
  const own = new Float32Array(levels.now.length);
  for (const fixture of show.fixtures.values()) {
    const mode = modeOf(show, fixture);
    for (const attribute of mode ? attributesOf(mode) : []) {
      const key = slotKey(fixture.id, attribute);
      const slot = index.get(key);
      if (slot === undefined) continue;
      const value = state.get(key)?.value;
      own[slot] =
        (value ? levelOf(show, value) : null) ??
        (attribute.startsWith('Dimmer')
          ? 0
          : (mode?.channels.find((c) => c.attribute === attribute)?.default ?? 0));
    }
  }
  return own;
}

let made: { of: string; values: unknown; levels: Float32Array } | null = null;

/** Levels by slot that this screen shows: on stage, of a cue, or as they would be blind. */
export function shownLevels(): Float32Array {
  const { programmer, values, index, revision } = useScreen.getState();
  const cue = lookedCue();
  if (!cue && !programmer.blind) return levels.now;
  const of = cue ? `${cue.id}/${revision}` : String(levels.frames);
  if (made?.of === of && made.values === values && made.levels.length === levels.now.length)
    return made.levels;
  const mine = cue ? ofCue(cue) : new Float32Array(levels.now);
  if (!cue)
    for (const [key, v] of values) {
      const slot = index.get(key);
      if (slot !== undefined) mine[slot] = v.level;
    }
  made = { of, values, levels: mine };
  return mine;
}

/** Changes whenever `shownLevels` may. */
export function shownCount(): string | number {
  const cue = lookedCue();
  return cue
    ? `${cue.id}/${useScreen.getState().revision}`
    : levels.frames + (useScreen.getState().programmer.blind ? 0.5 : 0);
}
