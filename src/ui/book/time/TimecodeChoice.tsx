/** Which timecode a list follows, where that begins, and how it stands just now. */
'use client';
import { followedBy, goesBy } from '@/core/lists/going';
import { GOES_WORDS } from './goes-words';
import type { ListRow } from '@/core/lists/rows';
import type { ListStatus } from '@/core/live/messages';
import {
  NO_TIME,
  TIMECODE_FROM,
  TIMECODE_TO,
  TIMECODE_WORDS,
  type ListTime,
  type TimecodeTo,
} from '@/core/time/rows';
import { endOf } from '@/core/time/timed';
import { readTimecode, sayTimecode } from '@/core/timecode/rate';
import { edit } from '../../state/edits';
import { CodeInput } from './CodeInput';
import { CodeOutput } from './CodeOutput';
import { LtcInput } from './LtcInput';
import { useHands } from '../../state/hands';
import { useWriting } from '../../parts/use-writing';
import { notice } from '../../state/messages';
import { mayEdit, useScreen, useShow } from '../../state/store';

/** How timecode is followed, in words. */
export const FOLLOW_WORDS = {
  none: 'not heard',
  locking: 'locking',
  locked: 'locked',
  stands: 'stands',
  'runs on': 'runs on without',
  lost: 'lost',
} as const;

/** Where the list is while its timecode runs, if that is not on its way along the track. */
export function placeWords(track: ListStatus['track'] | undefined, end_s: number): string {
  if (!track) return ', does not lead it now';
  if (track.runs) return '';
  if (track.position_s === 0) return ', before its beginning';
  return track.position_s >= end_s ? ', behind its end' : ', stopped by hand';
}

/** Offsets are written in frames of 25, whatever comes: they are moments. */
const RATE = '25';

/** Every way of giving it, by the places that it goes to. */
const GIVES: readonly (readonly TimecodeTo[])[] = [
  ['midi'],
  ['artnet'],
  ['ltc'],
  ['midi', 'artnet'],
  ['midi', 'ltc'],
  ['artnet', 'ltc'],
  ['midi', 'artnet', 'ltc'],
];
const sayGives = (to: readonly TimecodeTo[]): string =>
  to.length === TIMECODE_TO.length
    ? 'gives all three'
    : `gives ${to.map((t) => TIMECODE_WORDS[t]).join(' and ')}`;

const BEGINS = 'Timecode at the beginning of the track';

/** Writes what a list says of time, the rest of it as it is. */
const putTime = (list: ListRow, time: ListTime): Promise<unknown> =>
  edit('change-list', { id: list.id, set: { time } });

/** Which timecode a list follows, and which it gives. */
export function TimecodeChoice({ list }: { list: ListRow }) {
  const may = mayEdit(useScreen((s) => s.you.role));
  const { gives, timecode } = list.time ?? NO_TIME;
  return (
    <span className="flex items-center gap-1.5">
      <TimecodeIn list={list} may={may} />
      <TimecodeOut list={list} may={may} />
      {gives?.to.includes('ltc') === true && <CodeOutput disabled={!may} />}
      {timecode && (
        <>
          {timecode.from === 'ltc' && (
            <>
              <LtcInput />
              <CodeInput disabled={!may} />
            </>
          )}
          <BeginsAt list={list} timecode={timecode} may={may} />
          <Followed list={list} from={timecode.from} />
        </>
      )}
    </span>
  );
}

type Source = NonNullable<ListTime['timecode']>;

/** What is to be led by timecode goes by its times. */
function putTimecode(list: ListRow, next: Source | undefined): Promise<unknown> {
  const { timecode: old, ...rest } = list.time ?? NO_TIME;
  void old;
  return putTime(list, next ? { ...rest, on: true, timecode: next } : rest);
}

function TimecodeIn({ list, may }: { list: ListRow; may: boolean }) {
  const timecode = list.time?.timecode;
  return (
    <select
      aria-label="Timecode in"
      disabled={!may}
      value={timecode?.from ?? ''}
      onChange={(e) => {
        const from = TIMECODE_FROM.find((f) => f === e.target.value);
        void putTimecode(list, from && { offset_s: timecode?.offset_s ?? 0, from });
      }}
      className="h-7 rounded-md bg-raised px-1"
    >
      <option value="">no timecode</option>
      {TIMECODE_FROM.map((from) => (
        <option key={from} value={from}>
          {TIMECODE_WORDS[from]}
        </option>
      ))}
    </select>
  );
}

function TimecodeOut({ list, may }: { list: ListRow; may: boolean }) {
  const { gives: old, ...rest } = list.time ?? NO_TIME;
  const give = (to: readonly TimecodeTo[]): void => {
    const next = { to: [...to], rate: old?.rate ?? ('25' as const), offset_s: old?.offset_s ?? 0 };
    void putTime(list, to.length > 0 ? { ...rest, gives: next } : rest);
  };
  return (
    <select
      aria-label="Timecode out"
      disabled={!may}
      value={old?.to.join('+') ?? ''}
      onChange={(e) => give(TIMECODE_TO.filter((t) => e.target.value.split('+').includes(t)))}
      className="h-7 max-w-28 rounded-md bg-raised px-1"
    >
      <option value="">gives none</option>
      {GIVES.map((to) => (
        <option key={to.join('+')} value={to.join('+')}>
          {sayGives(to)}
        </option>
      ))}
    </select>
  );
}

/** The timecode at which the track begins, typed. */
function BeginsAt({ list, timecode, may }: { list: ListRow; timecode: Source; may: boolean }) {
  const begins = sayTimecode(timecode.offset_s, RATE);
  const { field } = useWriting(BEGINS, begins, (text) => {
    const offset_s = readTimecode(text, RATE);
    if (offset_s !== undefined)
      return offset_s === timecode.offset_s
        ? undefined
        : putTimecode(list, { ...timecode, offset_s });
    notice.error(`“${text}” is no timecode; it looks like 01:00:00:00. Nothing was changed.`, {
      id: 'timecode-offset',
    });
    return undefined;
  });
  return (
    <input
      {...field}
      aria-label={BEGINS}
      title={BEGINS}
      disabled={!may}
      className="num h-7 w-[98px] rounded-md bg-ink px-2 text-[12.5px] inset-ring inset-ring-edge"
    />
  );
}

/** Whether its timecode comes, and where the track is by it. */
function Followed({ list, from }: { list: ListRow; from: Source['from'] }) {
  const { state } = useHands((s) => s.player.timecode)[from];
  const end_s = endOf(useShow(), list.id);
  const track = useScreen((s) => s.playback.lists.find((l) => l.id === list.id)?.track);
  if (!state) return null;
  if (followedBy(list) === undefined)
    return <span className="text-muted">not led: it {GOES_WORDS[goesBy(list)]}</span>;
  return (
    <span
      data-testid="timecode-state"
      className={state === 'locked' || state === 'stands' ? 'text-soft' : 'text-warning'}
    >
      {FOLLOW_WORDS[state]}
      {state === 'locked' && placeWords(track, end_s)}
    </span>
  );
}
