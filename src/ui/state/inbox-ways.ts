/** What is done from the inbox: an ask is answered, and the place in question looked at. */
import type { InboxEntry, InboxPlace } from '@/core/live/inbox';
import { live, said } from './commands';
import { givePart } from './open-show';
import { lookAt } from './book';
import { showCrew } from './crew';
import { tellInbox } from './inbox';
import { notice } from './messages';
import { useScreen } from './store';

/** Answers an ask from where it is read; what came of it is said by whoever decides about it. */
export async function answer(entry: InboxEntry, yes: boolean): Promise<void> {
  const { ask, from } = entry;
  if (!ask) return;
  const to = from.userId;
  if ('part' in ask) {
    if (yes) await givePart(ask.part, from);
    else await live({ command: 'keep-part', part: ask.part, from: to });
  } else if (yes) await said({ command: 'board', do: 'hand', thing: ask.thing, to });
  else await live({ command: 'board', do: 'refuse', thing: ask.thing, to });
  await tellInbox({ done: entry.id });
}

/** Looks at what an entry is about, in the show that is open. */
export function lookAtPlace(place: InboxPlace): void {
  const { show } = useScreen.getState();
  if (place.view) showCrew(place.view);
  if (place.cue === undefined) return;
  if (show.cues.has(place.cue)) lookAt(place.cue);
  else notice('The cue that this is about is not in the show any more.');
}
