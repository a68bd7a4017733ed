/**
 * What a show plays, as it is kept between one process and the next. It is parsed when it comes back: states from older
 * versions have the defaults of what they did not know, and a part that cannot be read costs itself alone
 * (saved-show.test.ts).
 */
import { z } from 'zod';
import { EffectUse } from '../core/effects/rows.ts';
import { PLAYED_KINDS } from '../core/palettes/rows.ts';
import { DIRECTIONS } from '../core/lists/rows.ts';
import { Thing } from '../core/live/thing.ts';
import type { SavedEngine } from '../core/playback/saved.ts';

const Level = z.number().min(0).max(1);
const Seconds = z.number().min(0);

const HeldValue = z.object({
  fixtureId: z.string(),
  attribute: z.string(),
  level: z.number(),
  palette: z.string().exactOptional(),
  look: z.string().exactOptional(),
  effect: EffectUse.exactOptional(),
  taken: z.literal(true).exactOptional(),
  fade_s: Seconds,
  delay_s: Seconds,
  recorded: z.boolean(),
});

const ListState = z.object({
  cueId: z.string().nullable(),
  cueNumber: z.number().nullable(),
  leftId: z.string().exactOptional(),
  armedId: z.string().nullable().exactOptional(),
  rounds: z.record(z.string(), z.number()).exactOptional(),
  track: z
    .object({
      position_s: z.number(),
      since_ms: z.number().nullable(),
      base_s: z.number(),
      passed: z.string().optional(),
      loop: z.object({ from_s: z.number(), to_s: z.number() }).optional(),
    })
    .exactOptional(),
  chase: z
    .object({
      way: z.union([z.literal(1), z.literal(-1)]),
      rounds: z.number(),
      steps: z.number().exactOptional(),
      bpm: z.number().exactOptional(),
      live: z
        .object({
          share: Level.exactOptional(),
          direction: z.enum(DIRECTIONS).exactOptional(),
          count: z.number().exactOptional(),
        })
        .exactOptional(),
    })
    .exactOptional(),
  rate: z.number().exactOptional(),
  master: Level.exactOptional(),
});

const Operator = z.object({
  name: z.string(),
  values: z.array(z.tuple([z.string(), HeldValue])),
  selection: z.array(z.string()),
  blind: z.boolean().exactOptional(),
  clears: z.array(z.array(HeldValue)).exactOptional(),
});

const Fader = z.object({
  level: Level,
  real: Level,
  waiting: z.boolean(),
  up: z.boolean().exactOptional(),
  others: z.boolean().exactOptional(),
});

const Move = z.object({
  level: z.number(),
  to: z.number().exactOptional(),
  from: z.number().exactOptional(),
  sinceStart_s: z.number().exactOptional(),
  duration_s: z.number().exactOptional(),
  smooth: z.union([z.boolean(), z.number()]).exactOptional(),
});
const Slot = Move.extend({
  slot: z.number(),
  releasing: z.boolean().exactOptional(),
  share: Move.exactOptional(),
  carry: Move.exactOptional(),
  acted: z.number(),
});
const Effect = z.object({
  slot: z.number(),
  key: z.string(),
  phase: z.number(),
  weight: z.number(),
  to: Level.exactOptional(),
  wait_s: Seconds.exactOptional(),
  left_s: Seconds.exactOptional(),
  leaves: z.literal(true).exactOptional(),
  began: z.number().exactOptional(),
  until: z.number().exactOptional(),
  over: z.literal(true).exactOptional(),
});
const Engine: z.ZodType<SavedEngine> = z.object({
  keys: z.array(z.string()),
  master: z.number(),
  blackout: z.boolean(),
  stamp: z.number(),
  cycles: z.array(z.tuple([z.string(), z.number()])).exactOptional(),
  lists: z.array(
    z.object({
      listId: z.string(),
      rate: z.number().exactOptional(),
      moving: z.array(z.number()).exactOptional(),
      clock_s: z.number(),
      paused: z.boolean(),
      startedAt_s: z.number(),
      total_s: z.number(),
      follow_s: z.number().nullable(),
      hand: Level.nullable().exactOptional(),
      master: z.number(),
      masterMoves: z.object({ from: z.number(), left_s: z.number() }).nullable().exactOptional(),
      slots: z.array(Slot),
      effects: z.array(Effect).exactOptional(),
      along: z
        .object({
          ago_s: z.number(),
          at_s: z.number().exactOptional(),
          firsts: z.array(z.tuple([z.string(), z.number()])),
        })
        .nullable()
        .exactOptional(),
    }),
  ),
  guards: z.array(z.tuple([z.number(), z.number()])).exactOptional(),
  leaving: z
    .array(
      z.object({
        slot: z.number(),
        level: z.number(),
        from: z.number(),
        since_s: z.number(),
        duration_s: z.number(),
      }),
    )
    .exactOptional(),
  programmers: z.array(
    z.object({
      userId: z.string(),
      slots: z.array(Slot.extend({ weight: Move, unseen: z.literal(true).exactOptional() })),
      effects: z.array(Effect).exactOptional(),
      blind: z.boolean().exactOptional(),
      live: Level.exactOptional(),
    }),
  ),
});

const Section = z.object({ name: z.string(), since: z.string() }).nullable();

/** Each part with what stands where it is not known. */
const Parts = {
  lists: z.array(z.tuple([z.string(), ListState])).default([]),
  programmers: z.array(z.tuple([z.string(), Operator])).default([]),
  master: Level.default(1),
  blackout: z.boolean().default(false),
  boards: z
    .array(z.object({ thing: Thing, userId: z.string(), name: z.string(), since: z.string() }))
    .default([]),
  left: z.array(z.tuple([z.string(), z.enum(['away', 'out', 'removed', 'role'])])).default([]),
  engine: Engine.nullable().default(null),
  parked: z
    .array(
      z.object({
        fixtureId: z.string(),
        attribute: z.string(),
        level: z.number(),
        by: z.string(),
      }),
    )
    .default([]),
  guards: z
    .array(z.object({ fixtureId: z.string(), by: z.string(), since: z.string() }))
    .default([]),
  focus: z
    .array(
      z.object({ fixtureId: z.string(), level: z.number(), by: z.string(), since: z.string() }),
    )
    .default([]),
  faders: z.array(z.tuple([z.string(), Fader])).default([]),
  played: z
    .array(
      z.object({
        kind: z.enum(PLAYED_KINDS),
        id: z.string(),
        by: z.string(),
        fixtures: z.array(z.string()).exactOptional(),
      }),
    )
    .default([]),
  recordings: z
    .array(
      z.object({
        seq: z.number(),
        userId: z.string(),
        userName: z.string(),
        listId: z.string(),
        cueId: z.string(),
        before: ListState.exactOptional(),
        values: z.array(HeldValue),
        isUndone: z.boolean(),
      }),
    )
    .default([]),
  remotes: z.boolean().default(false),
  act: Section.default(null),
  scene: Section.default(null),
  tempo_bpm: z.number().positive().default(120),
} as const;
type Part = keyof typeof Parts;

/** What plays, as it is kept over a restart. */
export type SavedShow = { [P in Part]: z.output<(typeof Parts)[P]> };

/** A show that has played nothing yet. */
export const NOTHING_SAVED: SavedShow = z.object(Parts).parse({});

/** In states from before a show had several boards. */
const Holder = z.object({ userId: z.string(), name: z.string() });

/** The boards of a state from before there were several. */
function olderBoards(kept: Readonly<Record<string, unknown>>): SavedShow['boards'] {
  const holder = Holder.safeParse(kept.holder);
  return holder.success ? [{ thing: 'show', ...holder.data, since: '' }] : [];
}

/**
 * A state that was kept, as it is now.
 * @returns the state, and the parts that could not be read and begin anew; null for what is no state at all
 */
export function readSaved(kept: unknown): { saved: SavedShow; lost: Part[] } | null {
  if (kept === null || typeof kept !== 'object' || Array.isArray(kept)) return null;
  const rows = kept as Readonly<Record<string, unknown>>;
  const lost: Part[] = [];
  const read = <P extends Part>(part: P): SavedShow[P] => {
    const parsed = Parts[part].safeParse(rows[part]);
    if (parsed.success) return parsed.data as SavedShow[P];
    lost.push(part);
    return NOTHING_SAVED[part];
  };
  const saved: SavedShow = {
    lists: read('lists'),
    programmers: read('programmers'),
    master: read('master'),
    blackout: read('blackout'),
    boards: rows.boards === undefined ? olderBoards(rows) : read('boards'),
    left: read('left'),
    engine: read('engine'),
    parked: read('parked'),
    guards: read('guards'),
    focus: read('focus'),
    faders: read('faders'),
    played: read('played'),
    recordings: read('recordings'),
    remotes: read('remotes'),
    act: read('act'),
    scene: read('scene'),
    tempo_bpm: read('tempo_bpm'),
  };
  return { saved, lost };
}
