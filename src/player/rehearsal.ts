/**
 * A list in fast motion: the real player on a clock of its own, without output. Plays every cue as an operator would,
 * and notes what it meets.
 */
import { readSlotKey, slotKey } from '../core/cues/rows.ts';
import { openShow } from './open-show.ts';
import { formatCueNumber } from '../core/cues/number.ts';
import { isRefusal } from '../core/refusal.ts';
import { familyOf } from '../core/rig/attributes.ts';
import type { MutableShow } from '../core/show/show.ts';
import type { FromClock, ShowMessage } from './clock-messages.ts';
import { Conductor } from './conductor.ts';
import type { LiveShow } from './live-show.ts';

export interface Rehearsed {
  cues: number;
  played_s: number;
  took_ms: number;
  met: { cueId: string | null; text: string }[];
}

/** Seconds between frames: coarse enough to be fast, fine enough to see what moves. */
const STEP_S = 0.1;
/** A list that has not ended after so many GOs goes round. */
const ROUNDS = 3;
const LONGEST_S = 6 * 3600;
const MET_MOST = 200;
/** Levels that nobody sees. */
const LIT = 0.02;
const MOVED = 0.002;

export function rehearse(
  show: MutableShow,
  listId: string,
  clock_ms: () => number = () => performance.now(),
): Rehearsed {
  const began = clock_ms();
  const met: Rehearsed['met'] = [];
  const note = (cueId: string | null, text: string): void => {
    if (met.length < MET_MOST && !met.some((m) => m.cueId === cueId && m.text === text))
      met.push({ cueId, text });
  };
  let now_s = 0;
  const queue: FromClock[] = [];
  const conductor = new Conductor((m) => queue.push(m));
  const live: LiveShow = openShow({
    id: 'rehearsal',
    copy: { show, seq: 0 },
    clock: {
      tell: (m) => conductor.handle(m as ShowMessage, now_s),
      copy: () => Promise.resolve(null),
    },
    audience: {
      playback: () => undefined,
      programmer: () => undefined,
      slots: () => undefined,
      over: () => undefined,
      changed: () => undefined,
      touched: () => undefined,
      present: () => true,
      people: () => [],
      word: () => undefined,
      journal: () => undefined,
      version: () => undefined,
      sound: () => 1,
    },
    saved: null,
    now_ms: () => now_s * 1000,
  });
  const drain = (): void => {
    for (let m = queue.shift(); m; m = queue.shift()) live.heard(m);
  };
  drain();

  const heads = live.slots.keys.flatMap((key, slot) => {
    const { fixtureId, attribute } = readSlotKey(key);
    const dimmer = live.slots.keys.indexOf(slotKey(fixtureId, 'Dimmer'));
    return familyOf(attribute) === 'position' && dimmer >= 0
      ? [{ slot, dimmer, number: show.fixtures.get(fixtureId)?.number ?? 0 }]
      : [];
  });
  let before = live.shared ? Float32Array.from(live.shared.merged) : new Float32Array(0);
  const frame = (): void => {
    now_s += STEP_S;
    conductor.tick(now_s);
    drain();
    const at = live.lists.state(listId).cueId;
    const { shared } = live;
    if (!shared) return;
    const moving = heads.filter(
      (h) =>
        Math.abs((shared.merged[h.slot] ?? 0) - (before[h.slot] ?? 0)) > MOVED * STEP_S &&
        (shared.merged[h.dimmer] ?? 0) > LIT &&
        (before[h.dimmer] ?? 0) > LIT,
    );
    const cue = at ? show.cues.get(at) : undefined;
    if (cue && moving.length > 0)
      note(
        cue.id,
        `${[...new Set(moving.map((h) => h.number))].slice(0, 8).join(', ')} travel while lit in cue ${formatCueNumber(cue.number)}.`,
      );
    before = Float32Array.from(shared.merged);
    for (const report of live.actions.reports.splice(0)) {
      const from = [...show.cues.values()].find(
        (c) => formatCueNumber(c.number) === report.cue && c.actions,
      );
      note(from?.id ?? null, `Cue ${report.cue}: ${report.text}`);
    }
  };

  const cues = show.cuesOf(listId);
  const visited = new Set<string>();
  const most = cues.length * ROUNDS + 1;
  let gos = 0;
  while (gos < most && now_s < LONGEST_S) {
    const status = live.lists.status(listId);
    if (!status?.nextId) break;
    if (visited.has(status.nextId) && visited.size === cues.length) break;
    // An operator waits for what comes by itself, and presses GO where the list waits.
    if (status.followIn_s === null) {
      const answer = live.lists.go(listId, null);
      if (isRefusal(answer)) {
        note(status.cueId, answer.message);
        break;
      }
      gos++;
    }
    const waited = now_s;
    let count = 0;
    do {
      frame();
      const s = live.lists.status(listId);
      if (s?.cueId) visited.add(s.cueId);
      if (s?.running !== true && s?.followIn_s === null) break;
      count++;
    } while (now_s - waited < 600 && count < 6000);
    if (now_s - waited >= 600) {
      note(
        live.lists.state(listId).cueId,
        'It goes on by itself for more than ten minutes: played on by hand from here.',
      );
      const s = live.lists.status(listId);
      const next = cues.find((c) => !visited.has(c.id));
      if (!next || !s) break;
      live.lists.goTo(listId, formatCueNumber(next.number), 0);
    }
    const lit = live.lit().length;
    if (lit === 0 && visited.size > 1 && visited.size < cues.length) {
      const at = live.lists.state(listId).cueId;
      const cue = at ? show.cues.get(at) : undefined;
      if (cue)
        note(
          cue.id,
          `The stage is dark when cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''} has ended.`,
        );
    }
  }
  const missed = cues.filter((c) => !visited.has(c.id));
  if (missed.length > 0)
    note(
      missed[0]?.id ?? null,
      `${missed.length === 1 ? 'Cue' : 'Cues'} ${missed
        .slice(0, 8)
        .map((c) => formatCueNumber(c.number))
        .join(
          ', ',
        )}${missed.length > 8 ? ' …' : ''} ${missed.length === 1 ? 'is' : 'are'} never reached.`,
    );
  return {
    cues: visited.size,
    played_s: Math.round(now_s * 10) / 10,
    took_ms: Math.round(clock_ms() - began),
    met,
  };
}
