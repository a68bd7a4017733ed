/** Units out of reach of playback: they stay as they were on stage, and hands still move them (docs/playback.md, Guarded). */
import { attributesOf } from '../core/rig/attributes.ts';
import { modeOf } from '../core/fixtures/points.ts';
import { slotKey } from '../core/cues/rows.ts';
import type { CommandOf } from '../core/live/commands.ts';
import type { OverState } from '../core/live/messages.ts';
import { refuse } from '../core/refusal.ts';
import type { Show } from '../core/show/show.ts';
import { plural } from '../core/words.ts';
import type { Actor } from './actor.ts';
import type { ShowMessage } from './clock-messages.ts';
import type { Answer } from './answer.ts';

type Guard = OverState['guarded'][number];

interface GuardsNeeds {
  readonly id: string;
  readonly show: Show;
  slotOf: (key: string) => number | undefined;
  tell: (message: ShowMessage) => void;
  /** Screens are told, and it is kept. */
  changed: () => void;
}

/** Guarded fixtures of one show. */
export interface Guards {
  readonly needs: GuardsNeeds;
  /** By fixture. */
  readonly on: Map<string, Guard>;
}

/** In which what is let off goes to what plays. */
const OFF_S = 2;

/** As they were saved. */
export const makeGuards = (needs: GuardsNeeds, saved: readonly Guard[]): Guards => ({
  needs,
  on: new Map(saved.map((g) => [g.fixtureId, g])),
});

/** Guards fixtures as they stand, or lets them off; refuses what is not there. */
export function guard(g: Guards, by: Actor, c: CommandOf<'guard'>, now: Date): Answer {
  const { show } = g.needs;
  if (c.fixtures === undefined) {
    if (c.on) return refuse('invalid', 'Say which fixtures to guard.', { fixtures: 'Missing.' });
    const count = g.on.size;
    g.on.clear();
    sendGuards(g, c.time);
    return {
      ok: true,
      message: count === 0 ? 'Nothing was guarded' : `Let off ${plural(count, 'fixture')}`,
    };
  }
  const missing = c.fixtures.find((n) => !show.fixtureByNumber(n));
  if (missing !== undefined)
    return refuse('not-found', `There is no fixture ${missing}. Nothing was guarded.`, {
      fixtures: `${missing} is unknown.`,
    });
  for (const number of c.fixtures) {
    const id = show.fixtureByNumber(number)?.id ?? '';
    if (!c.on) g.on.delete(id);
    else if (!g.on.has(id)) g.on.set(id, { fixtureId: id, by: by.name, since: now.toISOString() });
  }
  sendGuards(g, c.time);
  const who = plural(c.fixtures.length, 'fixture');
  return {
    ok: true,
    message: c.on ? `${who} guarded: nothing that plays reaches them` : `Let off ${who}`,
  };
}

/** Says it all again: after a change here, and after a change of the rig. */
export function sendGuards({ needs, on }: Guards, fade_s: number = OFF_S): void {
  const slots = [...on.keys()].flatMap((id) => {
    const fixture = needs.show.fixtures.get(id);
    const mode = fixture ? modeOf(needs.show, fixture) : undefined;
    return mode ? attributesOf(mode).flatMap((a) => needs.slotOf(slotKey(id, a)) ?? []) : [];
  });
  needs.tell({ do: 'guard', showId: needs.id, slots: Uint32Array.from(slots), fade_s });
  needs.changed();
}

/** Fixtures that are gone are not guarded any more. */
export function guardsOfRig(g: Guards): void {
  for (const id of g.on.keys()) if (!g.needs.show.fixtures.has(id)) g.on.delete(id);
  if (g.on.size > 0) sendGuards(g);
}

/** In words; one that was let off shows until it has faded. */
export function guardedBy({ on }: Guards, fixtureId: string): string {
  const by = on.get(fixtureId)?.by;
  return by === undefined ? 'guarded until just now' : `guarded by ${by}`;
}

/** As screens are told, and as it is saved. */
export const guardStates = (g: Guards): Guard[] => [...g.on.values()];
