/** A log, newest first: when, who, what, and further back as it is wanted. */
'use client';
import type { ReactNode } from 'react';
import { Button } from '../parts/controls';
import { useScreen } from '../state/store';
import { when } from '@/core/dates';

/** When it was and who did it, as the first two cells of a row. */
export function WhenWho({
  at,
  title,
  userId,
  userName,
}: {
  at: string;
  title: string;
  userId: string;
  userName: string;
}) {
  const own = useScreen((s) => s.you.userId) === userId;
  return (
    <>
      <time className="num text-[12px] text-muted" dateTime={at} title={title}>
        {when(at)}
      </time>
      <span className={`truncate ${own ? 'text-standby' : 'text-soft'}`}>{userName}</span>
    </>
  );
}

/** @param empty what is said where there is nothing */
export function LogList<T>({
  log,
  empty,
  className,
  children,
}: {
  log: { rows: readonly T[] | undefined; older: (() => void) | undefined };
  empty: string;
  className: string;
  children: (row: T) => ReactNode;
}) {
  return (
    <ol data-scroll="log" className={`min-h-0 flex-1 overflow-y-auto ${className}`}>
      {log.rows?.length === 0 && <li className="text-muted">{empty}</li>}
      {log.rows?.map(children)}
      {log.older && (
        <li className="py-2">
          <Button onClick={log.older}>Earlier</Button>
        </li>
      )}
    </ol>
  );
}

/** The log on paper, and as a table. */
export function Papers({ what }: { what: 'history' | 'journal' }) {
  const showId = useScreen((s) => s.showId);
  const look = 'flex h-8 items-center rounded-md px-2 text-[12.5px] text-soft hover:bg-raised';
  return (
    <span className="ml-auto flex">
      <a
        href={`/api/shows/${showId}/export/log.pdf?what=${what}`}
        target="_blank"
        rel="noreferrer"
        className={look}
      >
        Print
      </a>
      <a href={`/api/shows/${showId}/export/log.csv?what=${what}`} download className={look}>
        As a table
      </a>
    </span>
  );
}
