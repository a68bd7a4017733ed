/** How a list that steps by itself goes, beside it: speed, way, fade, rounds; changed while it runs, and kept in the list when asked to. */
'use client';
import { clamp } from '@/core/numbers';
import type { ListStatus } from '@/core/live/messages';
import type { LiveCommand } from '@/core/live/commands';
import { DIRECTIONS, type Chase } from '@/core/lists/rows';
import { Scrub } from '../parts/controls';
import { live, streamCommand } from '../state/commands';
import { edit } from '../state/edits';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

const WAYS: Record<(typeof DIRECTIONS)[number], string> = {
  forward: 'onward',
  back: 'backward',
  bounce: 'there and back',
  random: 'by chance',
};
type Change = Omit<Extract<LiveCommand, { command: 'chase' }>, 'command' | 'list'>;

/** What runs, as the list would keep it. A speed in seconds stays one. */
function kept(own: Chase, bpm: number, now: NonNullable<ListStatus['chase']>): Chase {
  const { count, ...rest } = own;
  void count;
  return {
    ...rest,
    speed: 'bpm' in own.speed ? { bpm } : { step_s: Math.round(60_000 / bpm) / 1000 },
    share: now.share,
    direction: now.direction,
    ...(now.count === 0 ? {} : { count: now.count }),
  };
}

const ROUNDS: Readonly<Record<number, string>> = { 0: 'for ever', 1: 'round' };

/** A chase: its step, tempo, direction and what hands do with them. */
export function ChaseRow({ list }: { list: ListStatus }) {
  const row = useShow().lists.get(list.id);
  const { you, connection } = useParts(useScreen, 'you', 'connection');
  const { chase, bpm } = list;
  if (!chase || bpm === null || !row?.chase) return null;
  const own = row.chase;
  const disabled = !mayPlay(you.role) || connection !== 'live';
  const stream = (change: Change): void =>
    streamCommand(`chase-${list.id}`, { command: 'chase', list: list.id, ...change });
  const what = (name: string): string => `${list.name}, ${name}`;
  return (
    <div
      className="flex min-h-9 flex-wrap items-center gap-x-1 pb-1 text-[12px] whitespace-nowrap text-muted"
      data-chase={list.name}
    >
      <Scrub
        label={what('steps a minute')}
        value={bpm}
        unit="/min"
        min={1}
        max={1200}
        digits={bpm % 1 === 0 ? 0 : 1}
        disabled={disabled}
        onChange={(v) => stream({ bpm: v })}
      />
      <select
        aria-label={what('which way')}
        disabled={disabled}
        value={chase.direction}
        onChange={(e) => stream({ direction: e.target.value as Chase['direction'] })}
        className="h-7 min-w-0 flex-1 rounded-md bg-raised px-1 text-[12px] text-text disabled:text-faint"
      >
        {DIRECTIONS.map((d) => (
          <option key={d} value={d}>
            {WAYS[d]}
          </option>
        ))}
      </select>
      <Scrub
        label={what('fade, of a step')}
        value={Math.round(chase.share * 100)}
        unit="% fade"
        min={0}
        max={100}
        disabled={disabled}
        onChange={(v) => stream({ share: v / 100 })}
      />
      <Scrub
        label={what('rounds, 0 for ever')}
        value={chase.count}
        unit={ROUNDS[chase.count] ?? 'rounds'}
        min={0}
        max={9999}
        disabled={disabled}
        onChange={(v) => stream({ count: Math.round(v) })}
      />
      {chase.differs && mayEdit(you.role) && (
        <button
          type="button"
          title="The list is so from now on; without it, what you changed goes with the release"
          onClick={() =>
            void edit('change-list', { id: list.id, set: { chase: kept(own, bpm, chase) } })
          }
          className="ml-auto h-7 flex-none rounded-md bg-raised px-2 text-[12px] text-unrecorded hover:bg-lift"
        >
          Keep
        </button>
      )}
      {chase.differs && !mayEdit(you.role) && (
        <button
          type="button"
          onClick={() => void live({ command: 'chase', list: list.id, ...ownOf(own) })}
          className="ml-auto h-7 flex-none rounded-md bg-raised px-2 text-[12px] hover:bg-lift"
        >
          As it was
        </button>
      )}
    </div>
  );
}

const ownOf = (own: Chase): Change => ({
  bpm: 'bpm' in own.speed ? own.speed.bpm : clamp(60 / own.speed.step_s, 1, 1200),
  share: own.share,
  direction: own.direction,
  count: own.count ?? 0,
});
