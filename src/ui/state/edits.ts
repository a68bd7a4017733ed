/** Edits of this screen, through the web process: written once, whatever becomes of their answer. */
import { planEdit } from '@/core/edits/plan-edit';
import type { Consequence } from '@/core/cues/consequences';
import { isRefusal } from '@/core/refusal';
import type { RowChange } from '@/core/show/show';
import { api, ApiError } from './api';
import { settle } from './link';
import { seenNow } from './looked';
import { notice } from './messages';
import { lockedHere } from './run';
import { useScreen } from './store';
import { noteRecorded } from './taken';
import { makeTurns } from './turns';
import { askUnseen } from './unseen';
import { dropUnsent, keepUnsent, sendingNow, type Unsent } from './unsent';

/** What an edit is answered by the house. */
export interface EditAnswer {
  seq: number;
  summary: string;
  changes: RowChange[];
  consequences?: Consequence[];
}

const newEditId = (): string =>
  `b${Date.now().toString(36)}${Math.random().toString(36).slice(2, 10)}`;
const RETRIES_MS = [300, 800, 2000];

/** How an edit is sent. */
export interface EditOptions {
  quiet?: boolean;
  seen?: number;
  decided?: Record<string, 'mine' | 'theirs'>;
  decidedAt?: number | undefined;
  editId?: string;
}

/** Edits of this screen without an answer yet, and the last change that one of them was. */
const underway = new Set<Promise<unknown>>();
let lastOwn = 0;

/** Another show: none of its changes is of this screen yet. */
export const forgetOwn = (): void => void (lastOwn = 0);

/** When this comes back, this screen knows all that its person holds, after everything that was typed before. */
export async function settled(): Promise<void> {
  await Promise.all(underway);
  await settle(lastOwn);
}

/**
 * Edits and undos of a screen reach the house in the order in which they were made: of two of one field, the last one
 * counts (edits.test.ts). Whoever the house does not answer lets the others go ahead.
 */
const takeTurn = makeTurns();
/** What keeps those that wait for their turn when the page goes. Before, other windows of this browser would offer them. */
const waiting = new Set<() => void>();
if (typeof window !== 'undefined')
  window.addEventListener('pagehide', () => waiting.forEach((keep) => keep()));

/** Changes the show. A lost answer is asked for again under the same id, so nothing happens twice. */
export function edit(
  name: string,
  params: unknown,
  options: EditOptions = {},
): Promise<EditAnswer | ApiError> {
  const done = sendEdit(name, params, options);
  underway.add(done);
  void done.then((answer) => {
    underway.delete(done);
    if (answer instanceof ApiError) return;
    lastOwn = Math.max(lastOwn, answer.seq);
    noteRecorded(name);
  });
  return done;
}

/** The house is away. */
const isAway = ({ status }: ApiError): boolean => status === 0 || status >= 502;

/** Nobody has said yes or no to it: the house is away, the person is signed out or their screen locked, or it was one of too many at once. */
const unanswered = (problem: ApiError): boolean =>
  isAway(problem) || problem.status === 401 || problem.status === 429 || problem.code === 'locked';

/** Sends it, and again where the house is away. @param keep called where nobody answers: from then on a reload does not lose it either */
async function post(
  showId: string,
  body: string,
  keep: () => void,
): Promise<EditAnswer | ApiError> {
  for (let attempt = 0; ; attempt++) {
    try {
      return await api<EditAnswer>(`/api/shows/${showId}/edits`, { method: 'POST', body });
    } catch (error) {
      const problem = error instanceof ApiError ? error : new ApiError(0, 'offline', String(error));
      if (!unanswered(problem)) return problem;
      keep();
      const wait = RETRIES_MS[attempt];
      if (!isAway(problem) || wait === undefined) return problem;
      await new Promise((resolve) => setTimeout(resolve, wait));
    }
  }
}

async function sendEdit(
  name: string,
  params: unknown,
  options: EditOptions,
): Promise<EditAnswer | ApiError> {
  const { quiet = false, seen = seenNow(), decided, decidedAt, editId = newEditId() } = options;
  const { showId, you } = useScreen.getState();
  const locked = lockedHere();
  if (locked) {
    notice.error(locked, { id: 'locked' });
    return new ApiError(0, 'locked', locked);
  }
  const choices = decided ? { decided, decidedAt } : {};
  const body = JSON.stringify({ edit: name, params, editId, seen, ...choices });
  let kept: boolean | undefined;
  const keep = (): void => {
    kept ??= keepUnsent({
      editId,
      showId,
      userId: you.userId,
      edit: name,
      params,
      seen,
      summary: wordsOf(name, params),
      at: new Date().toISOString(),
    });
  };
  sendingNow(editId, true);
  const turn = takeTurn();
  if (turn.before) {
    waiting.add(keep);
    await turn.before;
    waiting.delete(keep);
  }
  const answer = await post(showId, body, () => {
    keep();
    turn.end();
  });
  turn.end();
  sendingNow(editId, false);
  if (!(answer instanceof ApiError)) {
    dropUnsent(editId);
    if (!quiet) notice.done(answer.summary);
    return answer;
  }
  if (unanswered(answer)) {
    notice.error(kept ? answer.message : NO_ROOM);
    return answer;
  }
  dropUnsent(editId);
  if (answer.code !== 'unseen') {
    notice.error(answer.message);
    return answer;
  }
  // Both are shown, and what is chosen is written then: still against what was seen at first, with the choices.
  const choice = await askUnseen(answer.unseen);
  if (choice)
    return sendEdit(name, params, {
      quiet,
      seen,
      decided: { ...decided, ...choice },
      decidedAt: answer.foundAt,
    });
  notice('Nothing was written: it stays as the others made it.');
  return answer;
}
const NO_ROOM =
  'Wingman cannot be reached, and this browser has no room to keep what you wrote. Leave it open, and write it again when the house is back.';

/** What an edit does, in its own words if this screen's copy can plan it. */
function wordsOf(name: string, params: unknown): string {
  const planned = tryEdit(name, params);
  return 'summary' in planned ? planned.summary : name.replaceAll('-', ' ');
}

/** Sends an edit that had no answer. @returns whether there was one; a refusal is an answer, said, and its words are kept in the messages */
export async function sendUnsent(unsent: Unsent): Promise<boolean> {
  const answer = await edit(unsent.edit, unsent.params, {
    seen: unsent.seen,
    editId: unsent.editId,
  });
  const reached = !(answer instanceof ApiError) || !unanswered(answer);
  if (reached && answer instanceof ApiError && answer.code !== 'unseen')
    notice.error(`Not written: ${unsent.summary}. ${answer.message}`, {
      id: `unsent-${unsent.editId}`,
    });
  return reached;
}

/** The same plan as the server's, on this screen's copy: what an edit would do, or why not. */
export function tryEdit(
  name: string,
  params: unknown,
):
  | { summary: string; changes: RowChange[] }
  | { code: string; message: string; fields?: Record<string, string> } {
  const { show, you } = useScreen.getState();
  const planned = planEdit(show, you.role, name, params, 'preview', {
    userId: you.userId,
    name: you.name,
    at: new Date().toISOString(),
  });
  return isRefusal(planned)
    ? {
        code: planned.code,
        message: planned.message,
        ...(planned.fields ? { fields: planned.fields } : {}),
      }
    : planned;
}

async function undoAt(body: object): Promise<EditAnswer> {
  const turn = takeTurn();
  await turn.before;
  return api<EditAnswer>(`/api/shows/${useScreen.getState().showId}/undo`, {
    method: 'POST',
    body: JSON.stringify(body),
  }).finally(turn.end);
}

const short = (text: string): string => (text.length > 34 ? `${text.slice(0, 33)}…` : text);

/** What else of one's own can go, where others have built on the last: offered by name. */
async function insteadOf(): Promise<{ label: string; onClick: () => void }[]> {
  const { possible } = await api<{ possible: { seq: number; summary: string }[] }>(
    `/api/shows/${useScreen.getState().showId}/undo?possible=1`,
  ).catch(() => ({ possible: [] }));
  const undo = (seq: number): void =>
    void undoAt({ seq }).then(
      (a) => notice.done(a.summary),
      (e: unknown) => notice.error((e as Error).message),
    );
  return possible.slice(0, 2).map((c) => ({
    label: `Undo “${short(c.summary)}” instead`,
    onClick: () => undo(c.seq),
  }));
}

/** Takes this person’s last change back, or makes it again. */
export async function reverse(way: 'undo' | 'redo'): Promise<void> {
  const locked = lockedHere();
  if (locked) {
    notice.error(locked, { id: 'locked' });
    return;
  }
  try {
    notice.done((await undoAt({ way })).summary);
  } catch (error) {
    const isInTheWay = error instanceof ApiError && error.code === 'conflict';
    const ways = way === 'undo' && isInTheWay ? await insteadOf() : [];
    const offered = ways.length > 0 ? { duration: 20_000, ways } : {};
    notice.error((error as Error).message, { id: 'undo-refused', ...offered });
  }
}
