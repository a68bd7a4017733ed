/**
 * Calls, as in a prompt corner: stand by, go, withdraw, for the next cue of a list or for a department, with an answer
 * from whoever stands by. A call is a word to people: it plays nothing.
 */
import { cueCalled } from '../core/cues/called.ts';
import { formatCueNumber } from '../core/cues/number.ts';
import { PLAYERS } from '../core/roles.ts';
import type { CallState } from '../core/live/messages.ts';
import type { CommandOf } from '../core/live/commands.ts';
import { refuse, type Result } from '../core/refusal.ts';
import { firstList, type Show } from '../core/show/show.ts';
import type { Actor } from './actor.ts';
import type { Answer } from './answer.ts';
import type { Noted } from './noted.ts';

/** A call is for the GO that comes within this time. */
const GO_LASTS_S = 60;
const DEPARTMENT_GO_LASTS_S = 30;
const STANDBY_LASTS_S = 20 * 60;
const MOST = 40;

interface Call extends Omit<CallState, 'since_s'> {
  at_ms: number;
}
type Target = Pick<CallState, 'listId' | 'cueId' | 'department' | 'prompt' | 'words'>;

interface CallsNeeds {
  readonly show: Pick<Show, 'cues' | 'lists' | 'departments' | 'prompts'>;
  now_ms: () => number;
  changed: () => void;
  journal: (noted: Noted) => void;
  /** The cue that the next GO of a list plays. */
  next: (listId: string) => string | undefined;
  /** Who is on the board over a list. */
  board: (listId: string) => { userId: string; name: string } | undefined;
}

/** Calls that stand by or were given, by department. */
export class Calls {
  private calls: Call[] = [];
  /** The last call of each department that was given. */
  private passed: Record<string, string> = {};
  private ids = 0;

  constructor(private readonly needs: CallsNeeds) {}

  states(): { calls: CallState[]; passed: Record<string, string> } {
    const now = this.needs.now_ms();
    return {
      calls: this.calls
        .filter((c) => this.lasts(c))
        .map(({ at_ms, ...c }) => ({ ...c, since_s: Math.max(0, (now - at_ms) / 1000) })),
      passed: this.passed,
    };
  }

  private target(c: CommandOf<'call'>): Result<Target> {
    const { show } = this.needs;
    if (c.department !== undefined) {
      const department = show.departments.get(c.department);
      if (!department) return refuse('not-found', 'There is no such department any more.');
      const prompt = c.prompt === undefined ? undefined : show.prompts.get(c.prompt);
      if (c.prompt !== undefined && prompt?.department !== department.id)
        return refuse('not-found', 'This call is not in the script any more.');
      const label = prompt?.label ?? c.words?.trim() ?? '';
      return {
        listId: null,
        cueId: null,
        department: department.id,
        prompt: prompt?.id ?? null,
        words: label === '' ? department.name : `${department.name}, ${label}`,
      };
    }
    const listId = c.list ?? firstList(show)?.id ?? '';
    const cueId = this.needs.next(listId);
    const cue = cueId === undefined ? undefined : show.cues.get(cueId);
    if (!cue) return refuse('end', 'There is no next cue to call.');
    const of = firstList(show)?.id === listId ? '' : ` of ${show.lists.get(listId)?.name ?? '?'}`;
    return {
      listId,
      cueId: cue.id,
      department: null,
      prompt: null,
      words: `LX ${formatCueNumber(cue.number)}${of}`,
    };
  }

  private find(t: Target): Call | undefined {
    return this.calls.find(
      (c) =>
        c.listId === t.listId &&
        c.cueId === t.cueId &&
        c.department === t.department &&
        c.words === t.words,
    );
  }

  call(actor: Actor, c: CommandOf<'call'>): Answer {
    const target = this.target(c);
    if ('refused' in target) return target;
    const known = this.find(target);
    const note = (text: string, data: Record<string, unknown> = {}): void =>
      this.needs.journal({
        kind: 'call',
        by: actor,
        text,
        data: { ...data, from: actor.via ?? 'a screen' },
      });
    if (c.do === 'withdraw') {
      if (!known) return refuse('nothing', `${target.words} is not called.`);
      this.calls = this.calls.filter((x) => x !== known);
      note(`Withdrew ${known.words}`);
      this.needs.changed();
      return { ok: true, message: `Withdrew ${known.words}` };
    }
    if (c.do === 'standby') {
      if (known)
        return refuse(
          'nothing',
          `${target.words} ${known.state === 'go' ? 'is called already' : 'stands by already'}.`,
        );
      if (this.calls.length >= MOST)
        return refuse('limit', `At most ${MOST} calls stand at once; withdraw some.`);
      this.put(actor, target, 'standby');
      note(`Stand by ${target.words}`);
      return { ok: true, message: `Stand by ${target.words}` };
    }
    const answered = known?.state === 'ready';
    const before_ms = known ? this.needs.now_ms() - known.at_ms : null;
    this.calls = this.calls.filter((x) => x !== known);
    this.put(actor, target, 'go', known?.answeredBy ?? null);
    if (target.department !== null && target.prompt !== null)
      this.passed = { ...this.passed, [target.department]: target.prompt };
    note(`Called ${target.words}`, {
      answered,
      standby_ms: before_ms === null ? null : Math.round(before_ms),
    });
    return {
      ok: true,
      message:
        target.listId === null
          ? `Called ${target.words}`
          : `Called ${cueCalled(this.needs.show, { listId: target.listId, number: this.needs.show.cues.get(target.cueId ?? '')?.number ?? 0 })}`,
    };
  }

  private put(
    actor: Actor,
    target: Target,
    state: Call['state'],
    answeredBy: string | null = null,
  ): void {
    this.calls.push({
      ...target,
      id: `c${++this.ids}`,
      by: actor.name,
      state,
      answeredBy,
      at_ms: this.needs.now_ms(),
    });
    this.needs.changed();
  }

  /** Stands by; or, of a department that was given its go, has done it. */
  answer(actor: Actor, id: string): Answer {
    const call = this.calls.find((c) => c.id === id);
    if (!call) return refuse('nothing', 'This call was withdrawn, or is over.');
    if (call.listId !== null) {
      const board = this.needs.board(call.listId);
      if (!PLAYERS.includes(actor.role))
        return refuse('forbidden', 'Whoever plays answers for light.');
      if (board && board.userId !== actor.userId)
        return refuse('board', `${board.name} is on the board, and answers for light.`);
      if (call.state === 'go') return refuse('nothing', `${call.words} is called: GO.`);
    }
    const after_ms = Math.round(this.needs.now_ms() - call.at_ms);
    if (call.state === 'ready')
      return refuse('nothing', `${call.answeredBy ?? 'Somebody'} has answered already.`);
    const done = call.state === 'go';
    if (done) this.calls = this.calls.filter((c) => c !== call);
    else {
      call.state = 'ready';
      call.answeredBy = actor.name;
    }
    this.needs.journal({
      kind: 'call',
      by: actor,
      text: done ? `${call.words}: done` : `${call.words} stands by`,
      data: { after_ms, calledBy: call.by },
    });
    this.needs.changed();
    return { ok: true, message: done ? `${call.words} is done` : `${call.words} stands by` };
  }

  /**
   * A list went to a cue.
   * @returns what had been called of it: by whom, and how long ago the go was called; null ago: it stood by, and no go had come
   */
  went(
    what: string,
    listId: string,
    cueId: string | null,
  ): { by: string; late_ms: number | null } | undefined {
    // Elsewhere in the show other departments are where they are called from there.
    if (what !== 'GO') this.passed = {};
    const call = this.calls.find((c) => c.listId === listId && c.cueId === cueId && this.lasts(c));
    const before = this.calls.length;
    // What stood by for a cue that was passed is over with it.
    this.calls = this.calls.filter((c) => c.listId !== listId);
    if (this.calls.length !== before) this.needs.changed();
    return call
      ? {
          by: call.by,
          late_ms: call.state === 'go' ? Math.round(this.needs.now_ms() - call.at_ms) : null,
        }
      : undefined;
  }

  private lasts(c: Call): boolean {
    const go_s = c.listId === null ? DEPARTMENT_GO_LASTS_S : GO_LASTS_S;
    const for_s = c.state === 'go' ? go_s : STANDBY_LASTS_S;
    return (this.needs.now_ms() - c.at_ms) / 1000 <= for_s;
  }

  /** Once a second. @returns whether a call is over, because nobody followed it or what it was for is gone */
  look(): boolean {
    const { show } = this.needs;
    const before = this.calls.length;
    this.calls = this.calls.filter(
      (c) =>
        this.lasts(c) &&
        (c.cueId === null || show.cues.has(c.cueId)) &&
        (c.department === null || show.departments.has(c.department)),
    );
    return this.calls.length !== before;
  }
}
