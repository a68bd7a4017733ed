/** A show is opened on this screen, and what others say to its person is said where it cannot be missed. */
import type { ServerMessage } from '@/core/live/messages';
import { live, said } from './commands';
import { edit, forgetOwn } from './edits';
import { loadInbox } from './inbox';
import { connect } from './link';
import { notice } from './messages';
import { useScreen } from './store';

type Word = Extract<ServerMessage, { type: 'word' }>;

/** Opens a show on this screen. @returns what closes it */
export function openShow(showId: string): () => void {
  forgetOwn();
  useScreen.setState({ showId, loaded: false, connection: 'connecting' });
  return connect(
    showId,
    (message) => notice(message),
    showWord,
    () => void loadInbox(),
  );
}

/** Somebody asks, hands over, or holds the same light: said where it cannot be missed, with the answer at hand. */
function showWord(word: Word): void {
  const { thing, from } = word;
  if (word.kind === 'asked' && word.part === undefined && thing !== undefined) {
    notice(word.text, {
      id: `asked-${from.userId}`,
      duration: 30_000,
      ways: [
        {
          label: 'Hand over',
          onClick: () => void said({ command: 'board', do: 'hand', thing, to: from.userId }),
        },
        {
          label: 'Not now',
          onClick: () => void live({ command: 'board', do: 'refuse', thing, to: from.userId }),
        },
      ],
    });
    return;
  }
  if (word.kind === 'asked' && word.part !== undefined) {
    const { part } = word;
    notice(word.text, {
      id: `asked-${from.userId}-${part}`,
      duration: 30_000,
      ways: [
        { label: 'Give it', onClick: () => void givePart(part, from) },
        {
          label: 'Keep it',
          onClick: () => void live({ command: 'keep-part', part, from: from.userId }),
        },
      ],
    });
    return;
  }
  notice(word.text, {
    id: `word-${word.kind}-${from.userId}`,
    duration: word.kind === 'both' ? 6000 : 12_000,
  });
}

/** Gives a part of one's own to whoever asked for it. */
export async function givePart(id: string, to: { userId: string; name: string }): Promise<void> {
  const part = useScreen.getState().show.parts.get(id);
  if (!part) {
    notice.error('This part is everybody’s by now.');
    return;
  }
  await edit('set-part', {
    id,
    set: {
      name: part.name,
      fixtures: part.fixtures,
      lists: part.lists,
      userId: to.userId,
      userName: to.name,
      ...(part.priority === undefined ? {} : { priority: part.priority }),
    },
  });
}
