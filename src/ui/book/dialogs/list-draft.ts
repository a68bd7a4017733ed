/** How a list plays as its dialog has it: every field as it is typed, and what is sent of it. */
import { z } from 'zod';
import { formatTime, seconds } from '@/core/cues/clock';
import { typedTime } from '../../parts/form';
import { PLAIN_CHASE } from '@/core/lists/going';
import { DIRECTIONS, PRIORITY, RELEASE_S, type Chase, type ListRow } from '@/core/lists/rows';

const number = (says: string, least: number, most: number) =>
  z
    .string()
    .trim()
    .refine((t) => /^\d+(\.\d+)?$/.test(t) && Number(t) >= least && Number(t) <= most, says);

/** A list’s fields as they are typed. */
export const ListDraft = z.object({
  name: z.string().trim().min(1, 'It needs a name.'),
  back: typedTime(false),
  release: typedTime(false),
  tracking: z.boolean(),
  intensity: z.enum(['htp', 'ltp']),
  priority: number('From 0 to 100.', 0, 100),
  keeps: z.boolean(),
  pre: z.boolean(),
  atEnd: z.enum(['stop', 'loop', 'release']),
  chases: z.boolean(),
  bpm: number('From 1 to 1200.', 1, 1200),
  share: number('From 0 to 100 %.', 0, 100),
  direction: z.enum(DIRECTIONS),
  count: z
    .string()
    .trim()
    .refine((t) => t === '' || /^[1-9]\d{0,3}$/.test(t), 'Whole rounds, or none: on and on.'),
});
export type ListDraft = z.infer<typeof ListDraft>;

const BACK_S = 2;

const bpmOf = ({ speed }: Chase): number =>
  'bpm' in speed ? speed.bpm : Math.round((60 / speed.step_s) * 10) / 10;

/** A list as it is typed. */
export function draftOf(list: Partial<ListRow>): ListDraft {
  const chase = list.chase ?? PLAIN_CHASE;
  return {
    name: list.name ?? '',
    back: formatTime(list.back_s ?? BACK_S),
    release: formatTime(list.release_s ?? RELEASE_S),
    tracking: list.tracking !== false,
    intensity: list.intensity ?? 'htp',
    priority: String(list.priority ?? PRIORITY),
    keeps: list.keepsThroughRelease ?? false,
    pre: list.prePosition ?? false,
    atEnd: list.atEnd ?? 'stop',
    chases: chase.on,
    bpm: String(bpmOf(chase)),
    share: String(Math.round(chase.share * 100)),
    direction: chase.direction,
    count: chase.count === undefined ? '' : String(chase.count),
  };
}

/** A chase that was set in seconds a step stays so, where its speed was not touched. */
function chaseOf(d: ListDraft, was: Chase | undefined): Chase {
  const untouched = was !== undefined && d.bpm === String(bpmOf(was));
  return {
    on: d.chases,
    speed: untouched ? was.speed : { bpm: Number(d.bpm) },
    share: Number(d.share) / 100,
    direction: d.direction,
    ...(d.count === '' ? {} : { count: Number(d.count) }),
  };
}

/** Fields as `make-list` and `change-list` take them. */
export const setOf = (d: ListDraft, was: Partial<ListRow>) => ({
  back_s: seconds(d.back),
  release_s: seconds(d.release),
  tracking: d.tracking,
  intensity: d.intensity,
  priority: Number(d.priority),
  keepsThroughRelease: d.keeps,
  prePosition: d.pre,
  atEnd: d.atEnd,
  ...(d.chases || was.chase ? { chase: chaseOf(d, was.chase) } : {}),
  // A list goes by one of them.
  ...(d.chases && was.time?.on === true ? { time: { ...was.time, on: false } } : {}),
});
