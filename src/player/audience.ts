/** Who hears of what happens in a show: its screens, the journal, inboxes, versions, and whoever saves it. */
import type { Logger } from 'pino';
import type { InboxKind } from '../core/live/inbox.ts';
import type { Database } from '../store/database.ts';
import { tell } from '../store/inbox.ts';
import type { Happened } from '../store/journal.ts';
import { keepVersion } from '../store/versions.ts';
import type { Actor } from './actor.ts';
import type { Gathering } from './gathering.ts';
import type { Audience, LiveShow } from './live-show.ts';
import type { Saves } from './saves.ts';
import type { SoundMachine } from './sounds/machine.ts';
import type { Word } from './together.ts';

/** Words that are kept in an inbox. That two hold the same light, or that a page plays over a board, is of its moment. */
const WORD_KINDS: Partial<Record<Word['kind'], InboxKind>> = {
  asked: 'asked',
  handed: 'handed',
  taken: 'taken',
  declined: 'answered',
};

interface AudienceNeeds {
  readonly db: Database;
  readonly log: Logger;
  readonly gathering: Gathering;
  readonly saves: Saves;
  /** Asked when a cue sounds: by then it stands. */
  readonly sounds: Pick<SoundMachine, 'play'>;
  note: (showId: string, happened: Happened) => void;
}

/** What somebody asks for, with which the answer is given. */
function askOf(word: Word): { part: string } | { thing: NonNullable<Word['thing']> } | undefined {
  if (word.kind !== 'asked') return undefined;
  if (word.part !== undefined) return { part: word.part };
  return word.thing === undefined ? undefined : { thing: word.thing };
}

/** @param show the show, once it stands: nothing is heard of before */
export function audienceOf(
  showId: string,
  show: () => LiveShow,
  { db, log, gathering, saves, note, sounds }: AudienceNeeds,
): Audience {
  /** What somebody wants of another, or has done to what is theirs, is read later as well. */
  const intoInbox = (userId: string, word: Word): void => {
    const kind = WORD_KINDS[word.kind];
    if (kind === undefined) return;
    const ask = askOf(word);
    const place =
      word.part === undefined
        ? { place: 'crew' as const, view: 'board' as const }
        : { place: 'crew' as const, view: 'people' as const };
    tell(db, { showId, showName: show().name, from: word.from }, [
      { userId, kind, text: word.text, place, quiet: true, ...(ask ? { ask } : {}) },
    ]).catch((error: unknown) => log.warn({ error: String(error) }, 'could not write an inbox'));
  };
  /** A state to come back to: a board has changed hands. */
  const version = (name: string, { userId, name: userName }: Pick<Actor, 'userId' | 'name'>) => {
    const { seq } = show().copy;
    keepVersion(db, showId, { name, seq, kind: 'board', userId, userName }).catch(
      (error: unknown) => log.warn({ error: String(error) }, 'could not keep a version'),
    );
  };
  return {
    playback: () => gathering.to(showId, (c) => c.sendPlayback(show())),
    programmer: (userId) =>
      gathering.to(showId, (c) =>
        c.actor.userId === userId ? c.sendProgrammer(show()) : c.sendOthers(show()),
      ),
    slots: () => gathering.to(showId, (c) => c.sendSlots(show())),
    over: () => gathering.to(showId, (c) => c.sendOver(show())),
    changed: (change) => gathering.to(showId, (c) => c.send({ type: 'change', change })),
    touched: (urgency) => saves.touched(showId, urgency),
    sound: (soundId) => {
      const { show: of } = show();
      const at = of.settings.get('show')?.soundOut?.at ?? 'screens';
      const listening = at === 'player' ? [] : gathering.of(showId).filter((c) => c.watching.sound);
      for (const c of listening) c.send({ type: 'sound', sound: soundId });
      const isHeardHere = at !== 'screens' && sounds.play(of, soundId);
      return listening.length + (isHeardHere ? 1 : 0);
    },
    present: (userId) => gathering.isHere(showId, userId),
    people: () => gathering.of(showId).map((c) => c.actor),
    word: (userId, word) => {
      gathering.to(showId, (c) => c.actor.userId === userId && c.send(word));
      intoInbox(userId, word);
    },
    journal: ({ kind, by, text, data }) =>
      note(showId, {
        kind,
        userId: by.userId,
        userName: by.name,
        text,
        ...(data ? { data } : {}),
      }),
    version,
  };
}
