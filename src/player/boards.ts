/**
 * Boards: the right to play. The show has one; a list, or a page of eight faders, may have one of its own. Exactly one
 * person is on the board of a thing. Who is away for a while leaves it free, and what plays goes on.
 */
import { boardOver, thingKey } from '../core/live/boards.ts';
import { type BoardState } from '../core/live/messages.ts';
import { FADERS_A_PAGE, type Thing } from '../core/live/thing.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import type { Show } from '../core/show/show.ts';
import type { Actor } from './actor.ts';

/** A board is free when its person has not been here for so long. */
export const FREES_AFTER_S = 30;

/** A board as it is saved. */
export interface SavedBoard {
  thing: Thing;
  userId: string;
  name: string;
  /** ISO 8601. */
  since: string;
}
interface Board extends SavedBoard {
  /** Milliseconds of the clock that counts on, when the person's last screen went. */
  away_ms: number | null;
}

interface BoardsNeeds {
  readonly show: Pick<Show, 'lists'>;
  present: (userId: string) => boolean;
  now_ms: () => number;
  changed: () => void;
  /** A board has changed hands: for the journal, and for a version. */
  moved: (text: string, by: Pick<Actor, 'userId' | 'name'>, handedOver: boolean) => void;
}

/** Who has which list or fader in hand, in one show. */
export class Boards {
  private readonly boards = new Map<string, Board>();

  constructor(
    private readonly needs: BoardsNeeds,
    saved: readonly SavedBoard[],
  ) {
    // Whoever had it before a crash has it still, if they come back in time.
    for (const b of saved) this.boards.set(thingKey(b.thing), { ...b, away_ms: needs.now_ms() });
  }

  saved(): SavedBoard[] {
    return [...this.boards.values()].map(({ thing, userId, name, since }) => ({
      thing,
      userId,
      name,
      since,
    }));
  }

  states(): BoardState[] {
    return [...this.boards.values()].map(({ thing, userId, name, since, away_ms }) => ({
      thing,
      userId,
      name,
      since,
      freeIn_s: away_ms === null ? null : this.freeIn_s(away_ms),
    }));
  }

  private freeIn_s(away_ms: number): number {
    return Math.max(0, FREES_AFTER_S - (this.needs.now_ms() - away_ms) / 1000);
  }

  holder(thing: Thing = 'show'): Board | undefined {
    return this.boards.get(thingKey(thing));
  }

  /** Who decides over the thing: on its own board, or on the show's. */
  over(thing: Thing): Board | undefined {
    return boardOver([...this.boards.values()], thing);
  }

  /** Why there can be no board of it. */
  missing(thing: Thing): Refusal | null {
    return thing !== 'show' && 'list' in thing && !this.needs.show.lists.has(thing.list)
      ? refuse('not-found', 'There is no such cue list.')
      : null;
  }

  words(thing: Thing): string {
    if (thing === 'show') return 'the board';
    if ('list' in thing)
      return `the board of list “${this.needs.show.lists.get(thing.list)?.name ?? '?'}”`;
    return `the board of faders ${(thing.faders - 1) * FADERS_A_PAGE + 1}–${thing.faders * FADERS_A_PAGE}`;
  }

  /** Null where the actor may play this thing; the first to play takes the show's board. */
  check(actor: Actor, thing: Thing): Refusal | null {
    const held = this.over(thing);
    if (held && held.userId !== actor.userId) return this.refusal(held.thing, held);
    if (!held) this.give('show', actor);
    return null;
  }

  private refusal(thing: Thing, held: Board): Refusal {
    const away =
      held.away_ms === null
        ? ''
        : ` and has lost the connection; it is free in ${Math.max(1, Math.ceil(this.freeIn_s(held.away_ms)))} s`;
    return refuse('board', `${held.name} is on ${this.words(thing)}${away}. Ask for it.`);
  }

  private give(thing: Thing, to: Pick<Actor, 'userId' | 'name'>): void {
    this.boards.set(thingKey(thing), {
      thing,
      userId: to.userId,
      name: to.name,
      since: new Date().toISOString(),
      away_ms: this.needs.present(to.userId) ? null : this.needs.now_ms(),
    });
    this.needs.changed();
  }

  /** Free, it is anybody's who may play; where somebody decides over it, it is the owner's to take. */
  take(actor: Actor, thing: Thing): { ok: true } | Refusal {
    const gone = this.missing(thing);
    if (gone) return gone;
    const held = this.over(thing);
    const from = held && held.userId !== actor.userId ? held : undefined;
    if (from && actor.role !== 'owner') return this.refusal(from.thing, from);
    if (this.holder(thing)?.userId === actor.userId) return { ok: true };
    this.give(thing, actor);
    this.needs.moved(
      from ? `Took ${this.words(thing)} from ${from.name}` : `Went on ${this.words(thing)}`,
      actor,
      from !== undefined,
    );
    return { ok: true };
  }

  leave(actor: Actor, thing: Thing): { ok: true } | Refusal {
    if (this.holder(thing)?.userId !== actor.userId)
      return refuse('nothing', `You are not on ${this.words(thing)}.`);
    this.boards.delete(thingKey(thing));
    this.needs.changed();
    this.needs.moved(`Left ${this.words(thing)}`, actor, false);
    return { ok: true };
  }

  hand(
    actor: Actor,
    thing: Thing,
    to: Pick<Actor, 'userId' | 'name'>,
    note: string,
  ): { ok: true } | Refusal {
    const gone = this.missing(thing);
    if (gone) return gone;
    if (this.over(thing)?.userId !== actor.userId)
      return refuse(
        'board',
        `You are not on ${this.words(thing)}; only who is on it hands it over.`,
      );
    this.give(thing, to);
    this.needs.moved(
      `Handed ${this.words(thing)} over to ${to.name}${note ? `: “${note}”` : ''}`,
      actor,
      true,
    );
    return { ok: true };
  }

  /** Somebody's first screen came, or their last one went. */
  presence(userId: string, here: boolean): void {
    let changed = false;
    for (const board of this.boards.values()) {
      if (board.userId !== userId || (board.away_ms === null) === here) continue;
      board.away_ms = here ? null : this.needs.now_ms();
      changed = true;
    }
    if (changed) this.needs.changed();
  }

  /** Whose role ends may not play any more. */
  withdrawn(userId: string): void {
    for (const [key, board] of this.boards) {
      if (board.userId !== userId) continue;
      this.boards.delete(key);
      this.needs.moved(
        `No longer on ${this.words(board.thing)}: the role was changed`,
        board,
        false,
      );
      this.needs.changed();
    }
  }

  /** Frees what has waited long enough. Call about once a second. @returns whether somebody is away, and time runs */
  look(): boolean {
    for (const [key, board] of this.boards) {
      if (board.away_ms === null) {
        if (!this.needs.present(board.userId)) this.presence(board.userId, false);
        continue;
      }
      if (this.needs.present(board.userId)) this.presence(board.userId, true);
      else if (this.needs.now_ms() - board.away_ms >= FREES_AFTER_S * 1000) {
        this.boards.delete(key);
        this.needs.changed();
        this.needs.moved(
          `Away for ${FREES_AFTER_S} s: ${this.words(board.thing)} is free`,
          board,
          false,
        );
      }
    }
    return [...this.boards.values()].some((b) => b.away_ms !== null);
  }
}
