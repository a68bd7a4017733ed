/** What a pane shows that is no part of the show's rows: asked for, and asked for again when something tells it to. */
'use client';
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { api } from '../state/api';

/** @param again anything that, when it changes, makes the answer old */
export function useLoad<T>(path: string | null, again: unknown): { data: T | undefined; problem: string | undefined; set: (data: T) => void } {
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

/** Sends something and says how it went; undefined after a refusal. */
export function useSend(): <T>(path: string, method: 'POST' | 'PUT' | 'DELETE', body?: unknown) => Promise<T | undefined> {
  return useCallback(async <T,>(path: string, method: 'POST' | 'PUT' | 'DELETE', body?: unknown) => {
    try {
      return await api<T>(path, { method, ...(body === undefined ? {} : { body: JSON.stringify(body) }) });
    } catch (error) {
      toast.error((error as Error).message);
      return undefined;
    }
  }, []);
}

export const when = (iso: string): string => {
  const d = new Date(iso);
  const today = d.toDateString() === new Date().toDateString();
  return today ? d.toLocaleTimeString('en-GB') : d.toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
};
export const day = (iso: string): string => new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
