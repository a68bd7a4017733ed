/** What stands over a show that plays: masters, tempo, remotes, and the act and scene that it is in. */
import type { PlaybackState } from '../core/live/messages.ts';
import { sectionAt } from '../core/script/parse.ts';
import type { CueRow } from '../core/cues/rows.ts';
import { firstList, type Show } from '../core/show/show.ts';

/** What stands in a show beside lists and faders. */
export type Standing = Pick<
  PlaybackState,
  'tempo_bpm' | 'master' | 'blackout' | 'remotes' | 'act' | 'scene'
>;

/** A name that has changed counts from now; the same one goes on, and none is none. */
function since(name: string, before: Standing['act'], at: string): Standing['act'] {
  if (name === (before?.name ?? '')) return before;
  return name === '' ? null : { name, since: at };
}

/** Running times count from the cue that began the act and the scene. */
export function enterSection(standing: Standing, show: Show, cue: CueRow, now: Date): void {
  if (cue.listId !== firstList(show)?.id) return;
  for (const call of show.calls.values()) {
    const script = call.cueId === cue.id ? show.scripts.get(call.scriptId) : undefined;
    if (!script || script.format === 'order') continue;
    const { act, scene } = sectionAt(script, call.from);
    standing.act = since(act, standing.act, now.toISOString());
    standing.scene = since(scene, standing.scene, now.toISOString());
    return;
  }
}

/** The first list was released: the show is in no act. */
export function leaveSections(standing: Standing): void {
  standing.act = null;
  standing.scene = null;
}
