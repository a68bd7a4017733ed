/** Lists beside the first: where each is, what is next, GO and release, its master, a chase's tempo by tapping. */
'use client';
import { clamp } from '@/core/numbers';
import { useRouter } from 'next/navigation';
import { memo, useEffect, useState } from 'react';
import { boardOver } from '@/core/live/boards';
import { X } from 'lucide-react';
import { HELD_TABLES } from '@/core/faders/rows';
import { formatCueNumber } from '@/core/cues/number';
import type { BoardState, ListStatus } from '@/core/live/messages';
import { Scrub } from '../parts/controls';
import { ChaseRow } from './ChaseRow';
import { PUT_ON_FADER, putOnFader } from '../state/put-on-fader';
import { PUT_ON_SHEET, putOnSheet } from '../state/put-on-sheet';
import { RowMenu, type RowItem } from '../parts/RowMenu';
import { useTaps } from '../parts/use-taps';
import { live, streamCommand } from '../state/commands';
import { useBook } from '../state/book';
import { mayEdit, usePlayback, usePlaying, useScreen, useShow } from '../state/store';

/** So long the second press of a release is waited for. */
const SURE_FOR_MS = 4000;

/** Whose list it is to play: another's board over it. */
function useTheirBoard({ id }: ListStatus): {
  board: BoardState | undefined;
  isTheirs: boolean;
} {
  const you = useScreen((s) => s.you);
  const { boards } = usePlayback('boards');
  const board = boardOver(boards, { list: id });
  return { board, isTheirs: board !== undefined && board.userId !== you.userId };
}

/** What can be done with a list from its menu. */
function useListMenu(list: ListStatus): () => RowItem[] {
  const router = useRouter();
  const showId = useScreen((s) => s.showId);
  const editable = useScreen((s) => mayEdit(s.you.role));
  const playing = usePlaying();
  const run = (command: 'go' | 'back' | 'pause' | 'release') => (): void =>
    void live({ command, list: list.id });
  const isOff = !playing || list.cueId === null;
  return () => [
    { label: 'Go', disabled: !playing || !list.nextId, run: run('go') },
    { label: 'Back', disabled: isOff, run: run('back') },
    { label: list.paused ? 'Go on' : 'Pause', disabled: isOff, run: run('pause') },
    { label: 'Release', first: true, disabled: !playing || !list.active, run: run('release') },
    { label: PUT_ON_FADER, disabled: !editable, run: () => putOnFader('list', list.id) },
    {
      label: PUT_ON_SHEET,
      disabled: !editable,
      run: () => putOnSheet(`GO ${list.name}`, { kind: 'list', list: list.id, press: 'go' }),
    },
    {
      label: 'Show it in the Book',
      first: true,
      run: () => {
        useBook.setState({ listId: list.id, cells: null, chosen: [], cueId: null });
        router.push(`/shows/${showId}/book`);
      },
    },
  ];
}

/** Its name and whose it is; the cue that it stands at, and the next. */
function Says({ list }: { list: ListStatus }) {
  const show = useShow();
  const { board, isTheirs } = useTheirBoard(list);
  const now = list.cueId ? show.cues.get(list.cueId) : undefined;
  const next = list.nextId ? show.cues.get(list.nextId) : undefined;
  const isOwnBoard = board !== undefined && board.thing !== 'show';
  return (
    <span className="min-w-0 flex-1">
      <span className="block truncate text-[14px] font-semibold">
        {list.name}
        {isOwnBoard && !isTheirs && (
          <span className="ml-2 text-[12px] font-normal text-muted">yours to play</span>
        )}
      </span>
      <span className="block truncate text-[12px] text-soft">
        {isOwnBoard && isTheirs && <span className="text-muted">{board.name} plays it · </span>}
        {now ? (
          <>
            <b className="num font-semibold text-lime-word">{formatCueNumber(now.number)}</b>{' '}
            {now.name}
            {list.bpm !== null && <span className="text-muted">, {list.bpm} a minute</span>}
          </>
        ) : (
          <span className="text-muted">not running</span>
        )}
        {next && list.bpm === null && (
          <span className="text-muted">
            {' '}
            › <span className="num">{formatCueNumber(next.number)}</span> {next.name}
          </span>
        )}
      </span>
    </span>
  );
}

/** The tempo of a chase, tapped. */
function TapKey({ list }: { list: ListStatus }) {
  const playing = usePlaying();
  const tap = useTaps((beat_s) => {
    const bpm = clamp(Math.round(60 / beat_s), 1, 1200);
    void live({ command: 'chase-speed', list: list.id, bpm });
  });
  return (
    <button
      type="button"
      disabled={!playing}
      title="Tap the tempo"
      onClick={tap}
      className="h-11 w-12 rounded-md bg-raised text-[13px] hover:bg-lift"
    >
      Tap
    </button>
  );
}

function GoAndRelease({ list }: { list: ListStatus }) {
  const playing = usePlaying();
  const { board, isTheirs } = useTheirBoard(list);
  const over = board?.thing === 'show' ? 'the board' : 'this list’s board';
  return (
    <>
      <button
        type="button"
        disabled={!playing || !list.nextId}
        title={isTheirs ? `${board?.name} is on ${over}; a GO from here is refused` : undefined}
        onClick={() => void live({ command: 'go', list: list.id })}
        className={`h-11 w-14 rounded-md text-[14px] font-semibold disabled:text-faint ${isTheirs ? 'bg-raised text-dim' : 'bg-lift hover:brightness-110'}`}
      >
        Go
      </button>
      <button
        type="button"
        disabled={!playing || !list.active}
        onClick={() => void live({ command: 'release', list: list.id })}
        className="h-11 w-[74px] rounded-md text-[13px] shadow-[inset_0_0_0_1px_var(--color-edge)] hover:bg-raised disabled:text-faint"
      >
        Release
      </button>
    </>
  );
}

/** Drawn by what its own list does: the one beside it may run. */
const Strip = memo(function Strip({ list }: { list: ListStatus }) {
  const playing = usePlaying();
  const items = useListMenu(list);
  return (
    <RowMenu label={`Menu of list ${list.name}`} items={items}>
      <li className="border-t border-line first:border-t-0" data-list={list.name}>
        <div className="flex h-[52px] items-center gap-2">
          <Says list={list} />
          {list.bpm !== null && <TapKey list={list} />}
          <Scrub
            label={`${list.name}, master`}
            value={Math.round(list.master * 100)}
            unit=""
            min={0}
            max={100}
            disabled={!playing}
            onChange={(v) =>
              streamCommand(`master-${list.id}`, {
                command: 'list-master',
                list: list.id,
                level: v / 100,
              })
            }
          />
          <GoAndRelease list={list} />
        </div>
        <ChaseRow list={list} />
      </li>
    </RowMenu>
  );
});

/** Palettes, looks and effects that play by themselves, each let go with a press. */
function Played() {
  const show = useShow();
  const { played } = usePlayback('played');
  const playing = usePlaying();
  if (played.length === 0) return null;
  return (
    <ul aria-label="Played by themselves" className="flex flex-wrap gap-1 pb-1.5">
      {played.map(({ kind, id, by }) => {
        const row = show[HELD_TABLES[kind]].get(id);
        return (
          <li key={`${kind}/${id}`}>
            <button
              type="button"
              disabled={!playing}
              title={`${kind} ${row?.number ?? ''}, played by ${by}: let it go`}
              onClick={() => void live({ command: 'play', kind, id, on: false })}
              className="flex h-8 items-center gap-1.5 rounded-md bg-lime-wash px-2 text-[12px] text-lime-word hover:brightness-110"
            >
              {row?.name ?? kind} <X size={12} aria-hidden="true" />
            </button>
          </li>
        );
      })}
    </ul>
  );
}

/** Everything lets go at the second press: a slip must not take the light off a stage. */
function ReleaseAll() {
  const anything = useScreen(
    ({ playback: { lists, faders, played } }) =>
      lists.some((l) => l.active) || faders.some((f) => f.real > 0) || played.length > 0,
  );
  const playing = usePlaying();
  const [sure, setSure] = useState(false);
  useEffect(() => {
    if (!sure) return;
    const timer = setTimeout(() => setSure(false), SURE_FOR_MS);
    return () => clearTimeout(timer);
  }, [sure]);
  return (
    <button
      type="button"
      disabled={!playing || !anything}
      title="Every list and fader lets go, but those that keep through release"
      onClick={() => {
        if (sure) void live({ command: 'release-all' });
        setSure(!sure);
      }}
      onBlur={() => setSure(false)}
      className={`h-8 rounded-md px-2 text-[12px] disabled:text-faint ${sure ? 'bg-warning text-ink' : 'text-muted hover:bg-raised hover:text-soft'}`}
    >
      {sure ? 'Press again: the stage lets go' : 'Release everything'}
    </button>
  );
}

/** Lists beside the first, in short. */
export function OtherLists() {
  const you = useScreen((s) => s.you);
  const { lists, boards } = usePlayback('lists', 'boards');
  const [first, ...others] = lists;
  const shows = others
    .map((l) => boardOver(boards, { list: l.id }))
    .find((b) => b?.thing === 'show' && b.userId !== you.userId);
  return (
    <section
      aria-label="Other lists"
      className="flex max-h-[212px] flex-none flex-col px-4 pt-2.5 pb-1"
    >
      <header className="flex h-6 items-center justify-between">
        <h2 className="cap">Other lists</h2>
        {shows && (
          <span className="ml-2 min-w-0 flex-1 truncate text-[12px] text-muted">
            {shows.name} plays them
          </span>
        )}
        <ReleaseAll />
      </header>
      {first && <ChaseRow list={first} />}
      <Played />
      <ul className="min-h-0 flex-1 overflow-y-auto">
        {others.length === 0 && (
          <li className="py-2 text-[12.5px] text-muted">This show has one list.</li>
        )}
        {others.map((l) => (
          <Strip key={l.id} list={l} />
        ))}
      </ul>
    </section>
  );
}
