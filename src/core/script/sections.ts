/** Acts and scenes of cues. */
import type { Show } from '../show/show.ts';
import { sectionAt } from './parse.ts';

/** A scene, or an item of an order of service, that cues belong to. */
export interface Section {
  listId: string;
  act: string;
  scene: string;
}

/** Lists, acts and scenes of cues by the script: a cue without a call belongs where the one before it does. */
export function sectionsOfCues(show: Show): Map<string, Section> {
  const called = new Map<string, Omit<Section, 'listId'>>();
  for (const call of show.calls.values()) {
    const script = show.scripts.get(call.scriptId);
    if (script && !called.has(call.cueId)) called.set(call.cueId, sectionAt(script, call.from));
  }
  const sections = new Map<string, Section>();
  for (const listId of show.lists.keys()) {
    let at = { act: '', scene: '' };
    for (const cue of show.cuesOf(listId)) {
      at = called.get(cue.id) ?? at;
      sections.set(cue.id, { listId, ...at });
    }
  }
  return sections;
}
