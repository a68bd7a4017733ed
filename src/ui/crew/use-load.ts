/** What a pane shows that is no part of the show's rows: asked for, and asked for again when something tells it to. */
'use client';
import { useCallback, useEffect, useState } from 'react';
import { notice } from '../state/messages';
import { api } from '../state/api';
import { withNewest, withOlder, type Kept } from './log';

/** @param again anything that, when it changes, makes the answer old */
export function useLoad<T>(
  path: string | null,
  again: unknown,
): { data: T | undefined; problem: string | undefined; set: (data: T) => void } {
  const [data, setData] = useState<T>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    if (path === null) return;
    let current = true;
    api<T>(path).then(
      (answer) => {
        if (!current) return;
        setData(answer);
        setProblem(undefined);
      },
      (error: unknown) => current && setProblem((error as Error).message),
    );
    return () => {
      current = false;
    };
  }, [path, again]);
  return { data, problem, set: setData };
}

/**
 * A log from its newest end: asked for again when something tells it to, and further back as it is wanted.
 * @param path of what is older than an entry, or of the newest
 * @param again anything that, when it changes, makes the newest page old
 */
export function useLog<A, T>(
  path: (before: number | undefined) => string,
  page: number,
  again: unknown,
  rowsOf: (answer: A) => readonly T[],
  keyOf: (row: T) => number,
): { rows: readonly T[] | undefined; newest: A | undefined; older: (() => void) | undefined } {
  const [read, setRead] = useState<{ path: string; answer: A } & Kept<T>>();
  const newest = path(undefined);
  useEffect(() => {
    let current = true;
    api<A>(newest).then(
      (answer) =>
        current &&
        setRead((r) => ({
          path: newest,
          answer,
          ...withNewest(r?.path === newest ? r : undefined, rowsOf(answer), page, keyOf),
        })),
      (error: unknown) => current && notice.error((error as Error).message, { id: 'log' }),
    );
    return () => {
      current = false;
    };
    // How rows are found in an answer does not change.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [newest, again]);
  const last = read?.rows[read.rows.length - 1];
  const older = (): void => {
    if (!last) return;
    void api<A>(path(keyOf(last))).then(
      (answer) =>
        setRead((r) =>
          r?.path === newest ? { ...r, ...withOlder(r, rowsOf(answer), page, keyOf) } : r,
        ),
      (error: unknown) => notice.error((error as Error).message, { id: 'log' }),
    );
  };
  return {
    rows: read?.rows,
    newest: read?.answer,
    older: read && !read.ended && last ? older : undefined,
  };
}

/** Sends something and says how it went; undefined after a refusal. */
export function useSend(): <T>(
  path: string,
  method: 'POST' | 'PUT' | 'DELETE',
  body?: unknown,
) => Promise<T | undefined> {
  return useCallback(async <T>(path: string, method: 'POST' | 'PUT' | 'DELETE', body?: unknown) => {
    try {
      return await api<T>(path, {
        method,
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
    } catch (error) {
      notice.error((error as Error).message);
      return undefined;
    }
  }, []);
}
