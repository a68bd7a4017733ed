/** Sheets on a tablet or a phone: all that a volunteer sees of a show, and nothing on it can be broken. */
'use client';
import { useEffect, useState } from 'react';
import { boardOver } from '@/core/live/boards';
import type { Thing } from '@/core/live/thing';
import { piecesOf, playedFrom } from '@/core/sheets/pieces';
import type { SheetRow } from '@/core/sheets/rows';
import { MutableShow, type RowChange, type Show } from '@/core/show/show';
import { Surface } from '../sheets/Surface';
import { useOpenSheet } from '../sheets/use-open-sheet';
import { api } from '../state/api';
import { openSheet } from '../state/sheets';
import { useScreen, useShow, usePlayback } from '../state/store';
import { useParts } from '../state/use-parts';
import { RemoteBar, RemotesOff } from './RemoteBar';

interface Answer {
  show: { name: string; venue: string };
  rows: RowChange[];
}

/** What a volunteer is told of the show: their sheets, and the names on them. Everybody else has all of it already. */
function useGivenSheets(): string {
  const { showId, connection, seq, you } = useParts(
    useScreen,
    'showId',
    'connection',
    'seq',
    'you',
  );
  const { lists } = usePlayback('lists');
  const [name, setName] = useState('');
  const cues = lists
    .flatMap((l) => [l.cueId, l.nextId])
    .filter((c) => c !== null)
    .join();
  const isLimited = you.role === 'volunteer';
  useEffect(() => {
    if (showId === '') return;
    api<Answer>(`/api/shows/${showId}/sheets?cues=${cues}`).then(
      (answer) => {
        setName(answer.show.name);
        if (!isLimited) return;
        const show = new MutableShow();
        show.apply(answer.rows);
        useScreen.setState((s) => ({ show, revision: s.revision + 1 }));
      },
      () => undefined,
    );
  }, [showId, seq, connection, cues, isLimited]);
  return name;
}

/** Whose boards a sheet plays over. */
function boardsOf(show: Show, sheet: SheetRow): Thing[] {
  const { lists } = playedFrom(show, [sheet.id]);
  const hasAll = piecesOf(show, sheet.id).some((p) => p.is.kind === 'release-all');
  return [...[...lists].map((list) => ({ list })), ...(hasAll ? (['show'] as const) : [])];
}

/** Over whose board this sheet plays, where that is somebody else’s. */
function Over({ sheet }: { sheet: SheetRow }) {
  const show = useShow();
  const you = useScreen((s) => s.you);
  const { boards, remotes } = usePlayback('boards', 'remotes');
  const names = boardsOf(show, sheet)
    .flatMap((t) => boardOver(boards, t) ?? [])
    .filter((b) => b.userId !== you.userId)
    .map((b) => b.name);
  const over = [...new Set(names)];
  if (over.length === 0 || !remotes) return null;
  return (
    <p className="flex-none border-b border-line px-4 py-1.5 text-[13px] leading-5 text-soft">
      {over.join(' and ')} {over.length > 1 ? 'are' : 'is'} on the board. What you press here plays
      over {over.length > 1 ? 'them' : 'it'}, and is told.
    </p>
  );
}

function Choose({ sheets, open }: { sheets: readonly SheetRow[]; open: SheetRow | undefined }) {
  return (
    <nav aria-label="Sheets" className="flex flex-none gap-2 overflow-x-auto px-4 pt-3">
      {sheets.map((s) => (
        <button
          key={s.id}
          type="button"
          aria-current={s.id === open?.id}
          onClick={() => openSheet(s.id)}
          className={`min-h-11 rounded-lg px-4 text-[15px] whitespace-nowrap ${s.id === open?.id ? 'bg-lift' : 'text-muted'}`}
        >
          {s.name}
        </button>
      ))}
    </nav>
  );
}

/** A sheet on a phone. */
export function SheetPage() {
  const name = useGivenSheets();
  const { sheets, sheet } = useOpenSheet();
  useEffect(() => openSheet(window.location.hash.slice(1) || null), []);
  return (
    <div className="flex h-full flex-col bg-ink">
      <RemoteBar title={sheet?.name ?? 'Your sheet'} name={name} />
      <RemotesOff />
      {sheets.length > 1 && <Choose sheets={sheets} open={sheet} />}
      {sheet && <Over sheet={sheet} />}
      {sheet ? (
        <div className="min-h-0 flex-1 p-3">
          <Surface key={sheet.id} sheet={sheet} />
        </div>
      ) : (
        <p className="m-auto max-w-sm p-6 text-center text-muted">
          No sheet has been given to you yet. The show’s owner gives one in Crew; it appears here by
          itself.
        </p>
      )}
    </div>
  );
}
