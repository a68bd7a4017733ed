/** Files on their way into the show: each is looked at by the server first, and taken in whole or not at all. */
'use client';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { ImportAnswer, Kind } from '@/core/import/proposed';
import { api, ApiError } from '../state/api';
import { loadLibrary } from '../state/library';

export interface Coming {
  file: File;
  /** What it is and would do; absent while it is looked at. */
  answer?: ImportAnswer;
  /** Why it cannot come in, or did not. */
  refusal?: string;
  done?: boolean;
  /** Columns that people chose. */
  columns?: Record<string, number>;
  /** What somebody said that it is. */
  kind?: Kind;
}

export interface Choices {
  list?: string | undefined;
  script?: string | undefined;
  /** As people write them: `101-106 201`. */
  fixtures?: string | undefined;
}

function send(
  { file, columns, kind }: Coming,
  choices: Choices,
  preview: boolean,
): Promise<ImportAnswer> {
  const show = window.location.pathname.split('/')[2] ?? '';
  const query = new URLSearchParams({ name: file.name.slice(-120) });
  if (preview) query.set('preview', '1');
  if (kind) query.set('kind', kind);
  if (columns) query.set('columns', JSON.stringify(columns));
  if (choices.list !== undefined) query.set('list', choices.list);
  if (choices.script !== undefined && choices.script !== '') query.set('script', choices.script);
  if (choices.fixtures) query.set('fixtures', choices.fixtures);
  return api<ImportAnswer>(`/api/shows/${show}/import?${query.toString()}`, {
    method: 'POST',
    body: file,
    headers: { 'content-type': 'application/octet-stream' },
  });
}

const words = (error: unknown): string =>
  error instanceof ApiError ? error.message : 'This file cannot be read.';

/** Whether something of it would come in. */
export const isReady = (c: Coming): boolean =>
  c.answer !== undefined && c.answer.rows > 0 && c.refusal === undefined && !c.done;

/** @param first files that it begins with; all are looked at anew whenever what was chosen beside them is another */
export function useImport(first: readonly File[], choices: Choices) {
  const [coming, setComing] = useState<Coming[]>(() => first.map((file) => ({ file })));
  const [isBusy, setBusy] = useState(false);
  const asked = useRef(0);
  const put = (file: File, change: Partial<Coming>): void =>
    setComing((all) => all.map((c) => (c.file === file ? { ...c, ...change } : c)));
  const look = async (files: readonly Coming[]): Promise<void> => {
    const mine = ++asked.current;
    for (const c of files) {
      try {
        const answer = await send(c, choices, true);
        if (asked.current === mine) put(c.file, { answer });
      } catch (error) {
        if (asked.current === mine) put(c.file, { refusal: words(error) });
      }
    }
  };
  const bring = (files: readonly File[]): void => {
    const fresh = files.map((file): Coming => ({ file }));
    setComing(fresh);
    void look(fresh);
  };
  const again = (change: (c: Coming) => Coming): void => {
    const next = coming.map(({ refusal, ...c }) => (void refusal, change(c)));
    setComing(next);
    void look(next.filter((c) => !c.done));
  };
  const lookAgain = useEffectEvent(() => again((c) => c));
  const choice = JSON.stringify(choices);
  useEffect(() => lookAgain(), [choice]);
  /** @returns whether all of them are in; what was refused stays to be read */
  const take = async (): Promise<boolean> => {
    setBusy(true);
    let isWhole = coming.every(isReady);
    for (const c of coming.filter(isReady)) {
      try {
        await send(c, choices, false);
        put(c.file, { done: true });
      } catch (error) {
        isWhole = false;
        put(c.file, { refusal: words(error) });
      }
    }
    setBusy(false);
    void loadLibrary();
    return isWhole;
  };
  return { coming, isBusy, bring, again, take };
}
