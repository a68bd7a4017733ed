/** A record as its dialog has it: every field as it is typed, and what would be recorded of it, planned while it is typed. */
import { useMemo, useState } from 'react';
import { seconds, timeProblem } from '@/core/cues/clock';
import { formatCueNumber, parseCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import { doRecord } from '../../book/record';
import { listShown } from '../../state/command-line';
import { edit, tryEdit } from '../../state/edits';
import { recordValues, type RecordFilter } from '../../state/recording';
import { ApiError } from '../../state/api';
import { useBook } from '../../state/book';
import { planRecord, type After, type RecordPlan } from '../../state/planned';
import { useScreen, useShow, usePlayback } from '../../state/store';
import { useTakenCue } from '../../state/taken';
import { endOf, placesIn, type Place } from './places';

/** In place of a list's id. */
export const NEW_LIST = 'new';

/** A recording as it is typed. */
export interface RecordDraft {
  listId: string;
  number: string;
  name: string;
  up: string;
  down: string;
  after: After;
  how: 'merge' | 'over' | 'remove';
  palettes: 'palette' | 'cue';
  /** A new list goes under the first free fader. */
  fader: boolean;
}

/** What is wrong with a time; none may be said. */
export const wrongTime = (text: string): string | undefined =>
  text.trim() === '' ? undefined : timeProblem(text);

/** Times as they are sent, down as up where only that is said; undefined where one is none. */
export function timesOf({
  up,
  down,
}: Pick<RecordDraft, 'up' | 'down'>): { up_s?: number; down_s?: number } | undefined {
  if (wrongTime(up) || wrongTime(down)) return undefined;
  const [up_s, own] = [seconds(up), seconds(down)];
  const down_s = own ?? up_s;
  return {
    ...(up_s === undefined ? {} : { up_s }),
    ...(down_s === undefined ? {} : { down_s }),
  };
}

type NewList = { params: Record<string, unknown>; plan: ReturnType<typeof tryEdit> };

/** The list that would be made; undefined while it has no name or a time is none. */
function newListOf(d: RecordDraft, filter: RecordFilter): NewList | undefined {
  const times = timesOf(d);
  const name = d.name.trim();
  if (d.listId !== NEW_LIST || name === '' || !times) return undefined;
  const params = { name, ...times, values: recordValues(filter), fader: d.fader };
  return { params, plan: tryEdit('record-list', params) };
}

/** The cue that would be recorded; undefined while its number or a time is none. */
function cueOf(d: RecordDraft, filter: RecordFilter, exists: boolean): RecordPlan | undefined {
  const number = parseCueNumber(d.number);
  const times = timesOf(d);
  if (number === undefined || !times) return undefined;
  const name = d.name.trim();
  const { listId, how } = d;
  const options = { listId, number, how, mode: 'track', existing: 'may' } as const;
  return planRecord(
    { ...options, ...(name ? { name } : {}), ...times },
    filter,
    afterOf(d, exists),
    d.palettes,
  );
}

/** Only a cue that is there has a source to go back to. */
export const afterOf = (d: RecordDraft, exists: boolean): After =>
  !exists && d.after === 'source' ? 'track' : d.after;

function usePlaces(cues: readonly CueRow[], listId: string): Place[] {
  const show = useShow();
  const { lists } = usePlayback('lists');
  const taken = useTakenCue();
  const looked = show.cues.get(useBook((s) => s.cueId) ?? '');
  const onStage = show.cues.get(lists.find((l) => l.id === listId)?.cueId ?? '');
  const inList = (c: CueRow | undefined): CueRow | undefined =>
    c?.listId === listId ? c : undefined;
  return placesIn(cues, { taken: inList(taken), onStage, looked: inList(looked) });
}

/** @param done when it is recorded */
export function useRecord(filter: RecordFilter, done: () => void) {
  const show = useShow();
  const taken = useTakenCue();
  const [draft, setDraft] = useState<RecordDraft>(() => {
    const listId = taken?.listId ?? listShown() ?? '';
    return {
      listId,
      number: taken ? formatCueNumber(taken.number) : endOf(show.cuesOf(listId)),
      name: '',
      up: '',
      down: '',
      after: 'track',
      how: 'merge',
      palettes: 'palette',
      fader: true,
    };
  });
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const cues = show.cuesOf(draft.listId);
  const existing = cues.find((c) => c.number === parseCueNumber(draft.number));
  const isNew = draft.listId === NEW_LIST;
  // What is held may come in, and the show be changed, while the dialog is open (record-open.test.tsx).
  const held = useScreen((s) => s.values);
  const revision = useScreen((s) => s.revision);
  const { plan, newList, count } = useMemo(() => {
    void [held, revision];
    return {
      plan: cueOf(draft, filter, existing !== undefined),
      newList: newListOf(draft, filter),
      count: recordValues(filter).length,
    };
  }, [draft, filter, existing, held, revision]);
  const places = usePlaces(cues, draft.listId);

  // Taken anew as it is pressed: a stage that is fading has gone on since it was planned.
  const send = async (): Promise<string | undefined> => {
    if (!isNew) {
      const now = cueOf(draft, filter, existing !== undefined);
      return now && (await doRecord(now));
    }
    const now = newListOf(draft, filter);
    if (!now) return undefined;
    const answer = await edit('record-list', now.params);
    return answer instanceof ApiError ? answer.message : undefined;
  };
  const save = async (): Promise<void> => {
    if (isNew ? !newList : !plan) return;
    setBusy(true);
    const wrong = await send();
    setBusy(false);
    if (wrong) setProblem(wrong);
    else done();
  };
  const canList = newList !== undefined && 'summary' in newList.plan;
  const canCue = plan !== undefined && plan.problem === undefined;
  return {
    draft,
    put: (set: Partial<RecordDraft>) => setDraft((d) => ({ ...d, ...set })),
    existing,
    isNew,
    plan,
    newList,
    count,
    places,
    problem,
    may: !busy && (isNew ? canList : canCue),
    save,
  };
}
/** A recording and what it would do. */
export type Recording = ReturnType<typeof useRecord>;
