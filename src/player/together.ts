/** Several people in one show: boards, asking and handing over, calls, and the same light in two hands. */
import { aRole } from '../core/roles.ts';
import { formatCueNumber } from '../core/cues/number.ts';
import { numberRanges } from '../core/words.ts';
import { thingOf } from '../core/live/boards.ts';
import type { Thing } from '../core/live/thing.ts';
import type { ServerMessage } from '../core/live/messages.ts';
import type { CommandOf, LiveCommand } from '../core/live/commands.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import { attributeInfo } from '../core/rig/attributes.ts';
import { settingInParts } from '../core/crew/parts.ts';
import { firstList, type MutableShow } from '../core/show/show.ts';
import type { Actor } from './actor.ts';
import { Boards, type SavedBoard } from './boards.ts';
import { Calls } from './calls.ts';
import type { Noted } from './noted.ts';
import type { Answer } from './answer.ts';

/** Something that somebody is told by another. */
export type Word = Extract<ServerMessage, { type: 'word' }>;

interface TogetherNeeds {
  readonly show: MutableShow;
  people: () => Pick<Actor, 'userId' | 'name' | 'role'>[];
  present: (userId: string) => boolean;
  now_ms: () => number;
  changed: () => void;
  /** Tells screens, with nothing to be saved. */
  tell: () => void;
  word: (userId: string, word: Word) => void;
  journal: (noted: Noted) => void;
  /** A state of the show to come back to: the board has changed hands. */
  version: (name: string, by: Pick<Actor, 'userId' | 'name'>) => void;
  /** The cue that the next GO of a list plays. */
  next: (listId: string) => string | undefined;
}

/** The same two people are told of the same light again after this. */
const TOLD_AGAIN_MS = 20_000;

/** What somebody wants with the board of a thing, and a word with it. */
interface OfBoard {
  actor: Actor;
  thing: Thing;
  note: string;
}

/** What people of a show do with each other. */
export class Together {
  readonly boards: Boards;
  readonly calls: Calls;
  private readonly told = new Map<string, number>();

  constructor(
    private readonly needs: TogetherNeeds,
    saved: readonly SavedBoard[],
  ) {
    this.calls = new Calls({
      show: needs.show,
      now_ms: needs.now_ms,
      changed: needs.tell,
      journal: needs.journal,
      next: needs.next,
      board: (list) => this.boards.over({ list }),
    });
    this.boards = new Boards(
      {
        show: needs.show,
        present: needs.present,
        now_ms: needs.now_ms,
        changed: needs.changed,
        moved: (text, by, handedOver) => {
          needs.journal({ kind: 'board', by, text });
          if (handedOver)
            needs.version(
              `board: ${text.charAt(0).toLowerCase()}${text.slice(1)} (${by.name})`,
              by,
            );
        },
      },
      saved,
    );
  }

  /** Null where the actor may play what the command plays. */
  onBoard(actor: Actor, command: LiveCommand): Refusal | null {
    return this.boards.check(actor, thingOf(this.needs.show, command));
  }

  board(actor: Actor, c: CommandOf<'board'>): Answer {
    const about = { actor, thing: c.thing ?? 'show', note: c.note ?? '' } as const;
    switch (c.do) {
      case 'take':
        return this.takeBoard(about);
      case 'leave':
        return this.leaveBoard(about);
      case 'ask':
        return this.askForBoard(about);
      case 'hand':
        return this.handBoard(about, c.to);
      case 'refuse':
        return this.keepBoard(about, c.to);
    }
  }

  private tellOfBoard(
    { actor, thing }: OfBoard,
    to: string,
    kind: 'asked' | 'taken' | 'handed' | 'declined',
    text: string,
  ): void {
    const from = { userId: actor.userId, name: actor.name };
    this.needs.word(to, { type: 'word', kind, from, thing, text });
  }

  private askForBoard(about: OfBoard): Answer {
    const { actor, thing, note } = about;
    const held = this.boards.over(thing);
    const words = this.boards.words(thing);
    if (!held) return this.boards.take(actor, thing);
    if (held.userId === actor.userId)
      return this.boards.holder(thing)?.userId === actor.userId
        ? refuse('nothing', `You are on ${words} already.`)
        : this.boards.take(actor, thing);
    if (!this.needs.present(held.userId)) return this.boards.check(actor, thing) ?? { ok: true };
    const text = `${actor.name} asks for ${words}${note ? `: “${note}”` : '.'}`;
    this.tellOfBoard(about, held.userId, 'asked', text);
    return { ok: true, message: `${held.name} was asked` };
  }

  private takeBoard(about: OfBoard): Answer {
    const { actor, thing } = about;
    const held = this.boards.over(thing);
    const was = held && held.userId !== actor.userId ? held : undefined;
    // What is played by the show's board becomes somebody's own by asking, or the owner takes it.
    if (was && actor.role !== 'owner' && this.boards.holder(thing) === undefined)
      return this.boards.missing(thing) ?? this.askForBoard(about);
    const words = this.boards.words(thing);
    const done = this.boards.take(actor, thing);
    if ('ok' in done && was)
      this.tellOfBoard(about, was.userId, 'taken', `${actor.name} has taken ${words}.`);
    return done;
  }

  private leaveBoard(about: OfBoard): Answer {
    const { actor, thing } = about;
    const words = this.boards.words(thing);
    const done = this.boards.leave(actor, thing);
    const shows = this.boards.holder();
    if ('ok' in done && thing !== 'show' && shows && shows.userId !== actor.userId) {
      const text = `${actor.name} has left ${words}: it is yours with the show’s.`;
      this.tellOfBoard(about, shows.userId, 'handed', text);
    }
    return done;
  }

  private handBoard(about: OfBoard, toUser: string | undefined): Answer {
    const { actor, thing, note } = about;
    const words = this.boards.words(thing);
    const to = this.needs.people().find((p) => p.userId === toUser);
    if (!to)
      return refuse(
        'not-found',
        'Whoever should take over is not here now. Nothing was handed over.',
      );
    if (to.role === 'viewer' || to.role === 'volunteer')
      return refuse(
        'forbidden',
        `${aRole(to.role)} does not play; ${to.name} cannot be on the board.`,
      );
    const done = this.boards.hand(actor, thing, to, note);
    if (!('ok' in done)) return done;
    const text = `You are on ${words} now, from ${actor.name}${note ? `: “${note}”` : '.'}`;
    this.tellOfBoard(about, to.userId, 'handed', text);
    return { ok: true, message: `${to.name} is on ${words} now` };
  }

  /** Whoever was asked keeps it for now. */
  private keepBoard(about: OfBoard, to: string | undefined): Answer {
    const { actor, thing, note } = about;
    if (this.boards.over(thing)?.userId !== actor.userId || to === undefined)
      return refuse('nothing', 'Nobody asked you.');
    const words = this.boards.words(thing);
    const text = `${actor.name} keeps ${words} for now${note ? `: “${note}”` : '.'}`;
    this.tellOfBoard(about, to, 'declined', text);
    return { ok: true };
  }

  /** Asks whoever was given a part of the show. */
  ask(actor: Actor, c: CommandOf<'ask'>): Answer {
    const part = this.needs.show.parts.get(c.part);
    if (!part) return refuse('not-found', 'This part is everybody’s by now.');
    if (part.userId === actor.userId) return refuse('nothing', 'This part is yours already.');
    this.needs.word(part.userId, {
      type: 'word',
      kind: 'asked',
      from: { userId: actor.userId, name: actor.name },
      part: part.id,
      text: `${actor.name} asks for part “${part.name}”${c.note ? `: “${c.note}”` : '.'}`,
    });
    return {
      ok: true,
      message: `${part.userName} was asked${this.needs.present(part.userId) ? '' : '; not here now, it waits in their inbox'}`,
    };
  }

  /** Whoever was asked for a part keeps it for now. Giving it is an edit. */
  keepPart(actor: Actor, c: CommandOf<'keep-part'>): Answer {
    const part = this.needs.show.parts.get(c.part);
    if (part?.userId !== actor.userId) return refuse('nothing', 'This part is not yours by now.');
    this.needs.word(c.from, {
      type: 'word',
      kind: 'declined',
      from: { userId: actor.userId, name: actor.name },
      part: part.id,
      text: `${actor.name} keeps part “${part.name}” for now.`,
    });
    return { ok: true };
  }

  // --- calls and GOs ---

  /** Once a second: boards of those who stay away, and calls that nobody followed. */
  look(): void {
    const told = [this.boards.look(), this.calls.look()];
    if (told.includes(true)) this.needs.tell();
  }

  /** A GO was carried out: who, from where, and how late after its call. */
  went(actor: Actor, what: string, listId: string, cueId: string | null): void {
    const cue = cueId === null ? undefined : this.needs.show.cues.get(cueId);
    const call = this.calls.went(what, listId, cueId);
    const list = this.needs.show.lists.get(listId);
    const of = firstList(this.needs.show)?.id === listId ? '' : ` of ${list?.name ?? '?'}`;
    const before = call?.late_ms === null ? ', before it was called' : '';
    this.needs.journal({
      kind: 'go',
      by: actor,
      text: `${what}${cue ? `: cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}` : ''}${of}${before}`,
      data: {
        listId,
        cueId,
        number: cue?.number ?? null,
        from: actor.via ?? 'a screen',
        late_ms: call?.late_ms ?? null,
        calledBy: call?.by ?? null,
      },
    });
  }

  // --- programming together ---

  /** Why the actor may not set these fixtures: they are somebody's part. */
  othersPart(actor: Pick<Actor, 'userId'>, fixtureIds: ReadonlySet<string>): Refusal | null {
    const others = settingInParts(this.needs.show, actor.userId, fixtureIds);
    return others === undefined ? null : refuse('part', others);
  }

  /** Two people hold the same light: both are told, once in a while. */
  both(
    actor: Pick<Actor, 'userId' | 'name'>,
    other: Pick<Actor, 'userId' | 'name'>,
    values: readonly { fixtureId: string; attribute: string }[],
  ): void {
    const key = [actor.userId, other.userId].sort().join('/');
    const now = this.needs.now_ms();
    if (now - (this.told.get(key) ?? -Infinity) < TOLD_AGAIN_MS) return;
    this.told.set(key, now);
    const numbers = [...new Set(values.map((v) => v.fixtureId))].flatMap(
      (id) => this.needs.show.fixtures.get(id)?.number ?? [],
    );
    const labels = [...new Set(values.map((v) => attributeInfo(v.attribute).label.toLowerCase()))];
    const what = `${labels.slice(0, 3).join(', ')}${labels.length > 3 ? ' …' : ''} of ${numberRanges(numbers)}`;
    this.needs.word(actor.userId, {
      type: 'word',
      kind: 'both',
      from: { userId: other.userId, name: other.name },
      text: `${other.name} holds ${what} too. Your touch is the latest: it is on stage.`,
    });
    this.needs.word(other.userId, {
      type: 'word',
      kind: 'both',
      from: { userId: actor.userId, name: actor.name },
      text: `${actor.name} has taken hold of ${what}, which you hold too. Theirs is the latest: it is on stage.`,
    });
  }
}
