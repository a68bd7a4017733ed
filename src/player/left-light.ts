/**
 * Light that is held by somebody who is not here, or may not play any more. Those who are here and may play are told,
 * and decide: they take it over, let it go, or leave it as it is.
 */
import { plural } from '../core/words.ts';
import { LEFT_WORDS } from '../core/live/left.ts';
import type { LeftLight } from '../core/live/messages.ts';
import type { CommandOf } from '../core/live/commands.ts';
import { refuse } from '../core/refusal.ts';
import type { Actor } from './actor.ts';
import type { Answer } from './answer.ts';
import type { Noted } from './noted.ts';

/** Why light has nobody who holds it. */
export type Why = LeftLight['why'];
/** Left light as it is saved. */
export type SavedLeft = [userId: string, why: Why];

/** Who is merely away is spoken of after this, as long as their boards wait. */
export const AWAY_TOLD_S = 30;
/** Light of those who are out goes after this, unless somebody decides. It counts while there is somebody to decide. */
export const DECIDE_IN_S = 30;
/** So long light takes to go that nobody took over. */
export const LEFT_FADE_S = 3;

interface Gone {
  why: Why;
  since_ms: number;
  /** When the light goes; null while nobody is here to decide, and for those who may come back. */
  goesAt_ms: number | null;
  kept: boolean;
}

interface LeftLightsNeeds {
  /** What somebody holds: how much, and whether it shows. */
  holds: (userId: string) => { name: string; values: number; fixtures: number; blind: boolean };
  holders: () => string[];
  present: (userId: string) => boolean;
  /** Somebody is here who may play. */
  someoneDecides: () => boolean;
  takeOver: (from: string, to: Actor) => number;
  letGo: (userId: string, name: string, fade_s: number) => void;
  now_ms: () => number;
  /** It is to be told, and saved. */
  changed: () => void;
  journal: (noted: Noted) => void;
}

/** Light of people who are gone, until somebody takes or releases it. */
export class LeftLights {
  private readonly gone = new Map<string, Gone>();

  constructor(
    private readonly needs: LeftLightsNeeds,
    saved: readonly SavedLeft[],
  ) {
    for (const [userId, why] of saved) this.went(userId, why);
  }

  /** Somebody's last screen went, or their right to play. What is known of why stays. */
  went(userId: string, why: Why): void {
    const known = this.gone.get(userId);
    if (known && (known.why === why || why === 'away')) return;
    this.gone.set(userId, {
      why,
      since_ms: known?.since_ms ?? this.needs.now_ms(),
      goesAt_ms: null,
      kept: false,
    });
    if (this.needs.holds(userId).values > 0) this.needs.changed();
  }

  /** They are here again, and may play. */
  back(userId: string): void {
    if (this.gone.delete(userId)) this.needs.changed();
  }

  saved(): SavedLeft[] {
    return [...this.gone].map(([userId, { why }]) => [userId, why]);
  }

  /** What is to be decided, or was left as it is. */
  states(): LeftLight[] {
    const now = this.needs.now_ms();
    return [...this.gone].flatMap(([userId, g]): LeftLight[] => {
      const { blind, ...held } = this.needs.holds(userId);
      if (held.values === 0 || blind || (g.why === 'away' && now - g.since_ms < AWAY_TOLD_S * 1000))
        return [];
      return [
        {
          userId,
          ...held,
          why: g.why,
          kept: g.kept,
          goesIn_s: g.goesAt_ms === null ? null : Math.max(0, (g.goesAt_ms - now) / 1000),
        },
      ];
    });
  }

  /** Call about once a second. @returns whether something runs that screens show */
  look(): boolean {
    const { needs } = this;
    const now = needs.now_ms();
    for (const userId of needs.holders()) if (!needs.present(userId)) this.went(userId, 'away');
    let runs = false;
    for (const [userId, g] of this.gone) {
      const held = needs.holds(userId);
      // Nothing of theirs shows: there is nothing to decide, and what they hold blind is theirs when they come back.
      if (held.values === 0 || held.blind) continue;
      if (g.why === 'away') {
        const waited_s = (now - g.since_ms) / 1000;
        runs ||= waited_s >= AWAY_TOLD_S && waited_s < AWAY_TOLD_S + 2;
        continue;
      }
      if (g.kept) continue;
      runs = true;
      if (!needs.someoneDecides()) g.goesAt_ms = null;
      else if (g.goesAt_ms === null) g.goesAt_ms = now + DECIDE_IN_S * 1000;
      else if (now >= g.goesAt_ms)
        this.letGo(
          userId,
          held,
          { userId, name: held.name },
          `Nobody decided: ${of(held)}, who ${LEFT_WORDS[g.why]}, was let go in ${LEFT_FADE_S} s`,
          LEFT_FADE_S,
        );
    }
    return runs;
  }

  private letGo(
    userId: string,
    held: { name: string },
    by: Noted['by'],
    text: string,
    fade_s: number,
  ): void {
    this.needs.letGo(userId, held.name, fade_s);
    this.needs.journal({ kind: 'board', by, text });
    this.needs.changed();
  }

  command(actor: Actor, c: CommandOf<'left-light'>): Answer {
    const held = this.needs.holds(c.of);
    const gone = this.gone.get(c.of);
    if (held.values === 0)
      return refuse(
        'nothing',
        'Nothing of theirs is held any more: somebody was faster, or they let it go.',
      );
    if (!gone || c.of === actor.userId)
      return refuse('board', `${held.name} is here and holds it. Ask them.`);
    switch (c.do) {
      case 'take': {
        if (this.needs.holds(actor.userId).blind)
          return refuse(
            'blind',
            `You are blind: what you take over would go off stage. Go live first; nothing was taken.`,
          );
        const count = this.needs.takeOver(c.of, actor);
        this.needs.journal({
          kind: 'board',
          by: actor,
          text: `Took over ${of(held)}, who ${LEFT_WORDS[gone.why]}`,
        });
        this.needs.changed();
        return { ok: true, message: `You hold ${plural(count, 'value')} that ${held.name} held` };
      }
      case 'go':
        this.letGo(c.of, held, actor, `Let go ${of(held)}, who ${LEFT_WORDS[gone.why]}`, c.fade_s);
        return { ok: true, message: `Light of ${held.name} goes in ${c.fade_s} s` };
      case 'leave':
        gone.kept = true;
        gone.goesAt_ms = null;
        this.needs.changed();
        return { ok: true, message: `Light of ${held.name} stays until somebody says` };
    }
  }
}

const of = (held: { name: string; values: number }): string =>
  `${plural(held.values, 'value')} of ${held.name}`;
