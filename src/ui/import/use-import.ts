/** Files on their way into the show: each is looked at by the server first, and taken in whole or not at all. */
'use client';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { ImportAnswer, Kind } from '@/core/import/proposed';
import { api, ApiError } from '../state/api';
import { loadLibrary } from '../state/library';

/** A file that was brought along. */
export interface Coming {
  file: File;
  /** What it is and would do; absent while it is looked at. */
  answer?: ImportAnswer;
  /** Why it cannot come in, or did not. */
  refusal?: string;
  done?: boolean;
  /** It is to be looked at, again where it has an answer. */
  isUnseen: boolean;
  /** Columns that people chose. */
  columns?: Record<string, number>;
  /** What somebody said that it is. */
  kind?: Kind;
}

/** What was chosen beside it. */
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

/** What is chosen beside the files says more about these, and about no others. */
const TAKES_CHOICES: ReadonlySet<Kind> = new Set<Kind>(['cues', 'ascii', 'script', 'curve']);

const unseen = ({ refusal, ...c }: Coming): Coming => (void refusal, { ...c, isUnseen: true });

/** @param first files that it begins with; those that what was chosen beside them says something about are looked at anew whenever it is another */
export function useImport(first: readonly File[], choices: Choices) {
  const [coming, setComing] = useState<Coming[]>(() =>
    first.map((file) => ({ file, isUnseen: true })),
  );
  const [isBusy, setBusy] = useState(false);
  const asked = useRef(0);
  const isStopped = useRef(false);
  const put = (file: File, change: Partial<Coming>): void =>
    setComing((all) => all.map((c) => (c.file === file ? { ...c, ...change } : c)));
  /** One after the other, until others are asked about. */
  const look = async (files: readonly Coming[]): Promise<void> => {
    const mine = ++asked.current;
    for (const c of files) {
      try {
        const answer = await send(c, choices, true);
        if (asked.current !== mine) return;
        put(c.file, { answer, isUnseen: false });
      } catch (error) {
        if (asked.current !== mine) return;
        put(c.file, { refusal: words(error), isUnseen: false });
      }
    }
  };
  const lookAtUnseen = (all: Coming[]): void => {
    setComing(all);
    void look(all.filter((c) => c.isUnseen));
  };
  const bring = (files: readonly File[]): void =>
    lookAtUnseen(files.map((file) => ({ file, isUnseen: true })));
  /** Somebody said what a file is, or what its columns are. */
  const choose = (chosen: Coming): void =>
    lookAtUnseen(coming.map((c) => (c.file === chosen.file ? unseen(chosen) : c)));
  const lookAgain = useEffectEvent(() =>
    lookAtUnseen(
      coming.map((c) =>
        !c.done && (!c.answer || TAKES_CHOICES.has(c.answer.kind)) ? unseen(c) : c,
      ),
    ),
  );
  const choice = JSON.stringify(choices);
  useEffect(() => lookAgain(), [choice]);
  useEffect(
    () => () => {
      asked.current++;
    },
    [],
  );
  /** @returns whether all of them are in; what was refused stays to be read */
  const take = async (): Promise<boolean> => {
    setBusy(true);
    isStopped.current = false;
    let isWhole = coming.every(isReady);
    for (const c of coming.filter(isReady)) {
      if (isStopped.current) {
        isWhole = false;
        break;
      }
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
  /** Those that are not in yet stay where they are. */
  const stopTaking = (): void => {
    isStopped.current = true;
  };
  return { coming, isBusy, bring, choose, take, stopTaking };
}
