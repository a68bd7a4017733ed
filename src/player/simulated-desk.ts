/** A live show on a simulated clock, for tests: the player's decisions and the engine's arithmetic, without threads. */
import { openShow } from './open-show.ts';
import { planEdit } from '../core/edits/plan-edit.ts';
import type { CommandOf, OfShow } from '../core/live/commands.ts';
import { isRefusal } from '../core/refusal.ts';
import { slotKey } from '../core/cues/rows.ts';
import type { MutableShow, RowChange } from '../core/show/show.ts';
import type { Change } from '../core/show/undo.ts';
import { exampleShow, idOf } from '../core/testing/example.ts';
import type { ShowMessage } from './clock-messages.ts';
import { Conductor } from './conductor.ts';
import type { Actor } from './actor.ts';
import type { LiveShow } from './live-show.ts';
import type { SavedShow } from './saved-show.ts';
import type { Noted } from './noted.ts';
import type { Word } from './together.ts';

export const mara: Actor = { userId: 'mara', name: 'Mara Kell', role: 'programmer' };
export const tam: Actor = { userId: 'tam', name: 'Tam Brevik', role: 'operator' };
export const yrsa: Actor = { userId: 'yrsa', name: 'Yrsa Oddny', role: 'owner' };
export const iden: Actor = { userId: 'iden', name: 'Iden Vale', role: 'viewer' };

/** @param began_s what time it is when it begins: a second one goes on where the first was saved */
export function desk(
  show: MutableShow = exampleShow(),
  saved: SavedShow | null = null,
  began_s = 0,
) {
  let now_s = began_s;
  let seq = 0;
  const here = new Set<string>();
  const urgencies: string[] = [];
  const listeners = { count: 0 };
  /** How often screens were told of what plays. */
  const told = { count: 0 };
  const words: { to: string; word: Word }[] = [];
  const noted: Noted[] = [];
  const versions: string[] = [];
  const log: Change[] = [];
  const everybody = [mara, tam, iden, yrsa];
  const sent: { osc: Uint8Array[]; midi: Uint8Array[]; problem: string | undefined } = {
    osc: [],
    midi: [],
    problem: undefined,
  };
  const outside = {
    osc: (packet: Uint8Array) =>
      Promise.resolve(sent.problem ?? (sent.osc.push(packet), undefined)),
    midi: (bytes: Uint8Array) =>
      Promise.resolve(sent.problem ?? (sent.midi.push(bytes), undefined)),
  };
  let copied: ((value: never) => void) | undefined;
  // In their order, as between threads: what had come before a copy was made is heard before it (goes-on.test.ts).
  const conductor: Conductor = new Conductor((m) =>
    queue.push(m.is === 'copied' ? () => copied?.(m.copy as never) : () => live.heard(m)),
  );
  const queue: (() => void)[] = [];
  const drain = (): void => {
    for (let next = queue.shift(); next; next = queue.shift()) next();
  };
  const live: LiveShow = openShow({
    id: 'show',
    copy: { show, seq: 0 },
    clock: {
      tell: (m) => conductor.handle(m as ShowMessage, now_s),
      copy: () =>
        new Promise((resolve) => {
          copied = resolve;
          conductor.handle({ do: 'copy', showId: 'show', id: 1 }, now_s);
          drain();
        }),
    },
    audience: {
      playback: () => void told.count++,
      programmer: () => undefined,
      slots: () => undefined,
      over: () => undefined,
      changed: () => undefined,
      touched: (u) => urgencies.push(u),
      present: (userId) => here.has(userId),
      people: () => everybody.filter((p) => here.has(p.userId)),
      word: (to, word) => void words.push({ to, word }),
      journal: (n) => void noted.push(n),
      version: (name) => void versions.push(name),
      sound: () => listeners.count,
    },
    saved,
    outside,
    now_ms: () => now_s * 1000,
  });
  drain();
  return {
    show,
    live,
    here,
    words,
    noted,
    versions,
    urgencies,
    sent,
    listeners,
    told,
    /** Lets time go by in frames of the clock. */
    pass: (seconds: number) => {
      for (const end = now_s + seconds; now_s < end - 1e-9;) {
        now_s = Math.min(end, now_s + 1 / 44);
        conductor.tick(now_s);
        drain();
      }
    },
    say: (actor: Actor, command: CommandOf<OfShow>) => {
      const answer = live.command(actor, command);
      drain();
      conductor.tick(now_s);
      return answer;
    },
    edit: (actor: Actor, edit: string, params: unknown) => {
      const planned = planEdit(show, actor.role, edit, params, `e${seq + 1}`, {
        userId: actor.userId,
        name: actor.name,
        at: '2026-11-24T19:30:00.000Z',
      });
      if (isRefusal(planned)) throw new Error(planned.message);
      const change: Change = {
        seq: ++seq,
        editId: `e${seq}`,
        userId: actor.userId,
        userName: actor.name,
        at: '',
        edit,
        summary: planned.summary,
        reverts: null,
        rows: planned.changes,
      };
      log.push(change);
      live.apply(change);
      drain();
      conductor.tick(now_s);
    },
    /** Takes the last change back, as its author would. */
    undo: (edit: 'undo' | 'redo' = 'undo') => {
      const last = log.at(-1);
      if (!last) throw new Error('nothing to undo');
      const rows = last.rows
        .map((r) => ({ ...r, before: r.after, after: r.before }) as RowChange)
        .reverse();
      const change: Change = {
        ...last,
        seq: ++seq,
        editId: `e${seq}`,
        edit,
        reverts: last.seq,
        rows,
      };
      log.push(change);
      live.apply(change);
      drain();
      conductor.tick(now_s);
    },
    level: (fixture: number, attribute = 'Dimmer') =>
      live.shared?.out[live.slots.keys.indexOf(slotKey(idOf(show, fixture), attribute))] ?? NaN,
    source: (fixture: number, attribute = 'Dimmer') =>
      live.shared
        ? live.source(live.slots.keys.indexOf(slotKey(idOf(show, fixture), attribute)), live.shared)
        : '',
    list: (id?: string) =>
      id === undefined ? live.playback().lists[0] : live.playback().lists.find((l) => l.id === id),
    fader: (number: number) =>
      live.playback().faders.find((f) => show.faders.get(f.id)?.number === number),
  };
}
