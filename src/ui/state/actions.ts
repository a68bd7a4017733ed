/** What a person does on a screen: edits through the web process, live commands through the socket, with a word on both. */
import { useEffect } from 'react';
import { notice } from './messages';
import { completions } from '@/core/command/complete';
import { readCommand, type ReadCommand } from '@/core/command/command';
import type { Intent } from '@/core/command/intent';
import { stepsOf, type Step } from '@/core/command/steps';
import type { CommandContext } from '@/core/command/reader';
import type { Consequence } from '@/core/cues/consequences';
import { planEdit } from '@/core/edits/plan-edit';
import { recordedValue } from '@/core/live/held';
import type { RecordedValue } from '@/core/cues/rows';
import { isPlaying } from '@/core/live/boards';
import { isRefusal } from '@/core/refusal';
import { attributesOf, familyOf } from '@/core/rig/attributes';
import { byNumber, LIT } from '@/core/select/select';
import { stateAt } from '@/core/cues/tracking';
import { levelOf } from '@/core/looks/value';
import { modeOf } from '@/core/fixtures/points';
import { slotKey } from '@/core/cues/rows';
import { sourceAttribute } from '@/core/rig/transform';
import type { Family } from '@/core/show/fields';
import type { ServerMessage, View } from '@/core/live/messages';
import type { LiveCommand } from '@/core/live/commands';
import { firstList, type RowChange } from '@/core/show/show';
import { api, ApiError } from './api';
import { levels } from './levels';
import { LiveConnection, type Reply, type Watch } from './live';
import { lockedHere, useRun } from './run';
import { seenNow } from './looked';
import { bookListId, useBook } from './book';
import { useHand } from './hand';
import { loadInbox } from './inbox';
import { askUnseen } from './unseen';
import { counting, filtered } from './filter';
import { noteRecorded, noteTaken } from './taken';
import { dropUnsent, keepUnsent, sendingNow, type Unsent } from './unsent';
import { useScreen } from './store';

type Word = Extract<ServerMessage, { type: 'word' }>;
let connection: LiveConnection | null = null;

/** What an edit is answered by the house. */
export interface EditAnswer {
  seq: number;
  summary: string;
  changes: RowChange[];
  consequences?: Consequence[];
}

/** Opens a show on this screen. @returns what closes it */
export function openShow(showId: string): () => void {
  lastOwn = 0;
  useScreen.setState({ showId, loaded: false, connection: 'connecting' });
  connection?.stop();
  const mine = new LiveConnection(
    showId,
    (message) => notice(message),
    showWord,
    () => void loadInbox(),
  );
  connection = mine;
  return () => {
    mine.stop();
    if (connection === mine) connection = null;
  };
}

/** What this screen is, for those who see who is here. */
function deviceOf(): string {
  if (typeof window === 'undefined') return '';
  if (!window.matchMedia('(pointer: coarse)').matches) return 'a computer';
  return Math.min(window.innerWidth, window.innerHeight) < 600 ? 'a phone' : 'a tablet';
}

function tellWhere(): void {
  const { place } = useRun.getState();
  const { cueId, follow } = useBook.getState();
  const { hand, doing } = useHand.getState();
  connection?.setPresence({
    place,
    cue: place === 'book' && !follow ? cueId : null,
    device: deviceOf(),
    hand,
    doing,
  });
}

/** Goes to another place, which others see. */
export function setPlace(place: string): void {
  // Run closes behind whoever leaves it.
  useRun.setState({ place, locked: true });
  tellWhere();
}
useBook.subscribe((now, before) => {
  if (now.cueId !== before.cueId || now.follow !== before.follow) tellWhere();
});

useHand.subscribe(tellWhere);
/** Tells what this screen looks at, for those who go along. */
export const tellView = (view: View): void => connection?.tellView(view);

/** Somebody asks, hands over, or holds the same light: said where it cannot be missed, with the answer at hand. */
function showWord(word: Word): void {
  const { thing, from } = word;
  if (word.kind === 'asked' && word.part === undefined && thing !== undefined) {
    notice(word.text, {
      id: `asked-${from.userId}`,
      duration: 30_000,
      ways: [
        {
          label: 'Hand over',
          onClick: () => void said({ command: 'board', do: 'hand', thing, to: from.userId }),
        },
        {
          label: 'Not now',
          onClick: () => void live({ command: 'board', do: 'refuse', thing, to: from.userId }),
        },
      ],
    });
    return;
  }
  if (word.kind === 'asked' && word.part !== undefined) {
    const { part } = word;
    notice(word.text, {
      id: `asked-${from.userId}-${part}`,
      duration: 30_000,
      ways: [
        { label: 'Give it', onClick: () => void givePart(part, from) },
        {
          label: 'Keep it',
          onClick: () => void live({ command: 'keep-part', part, from: from.userId }),
        },
      ],
    });
    return;
  }
  notice(word.text, {
    id: `word-${word.kind}-${from.userId}`,
    duration: word.kind === 'both' ? 6000 : 12_000,
  });
}

/** Gives a part of one's own to whoever asked for it. */
export async function givePart(id: string, to: { userId: string; name: string }): Promise<void> {
  const part = useScreen.getState().show.parts.get(id);
  if (!part) {
    notice.error('This part is everybody’s by now.');
    return;
  }
  await edit('set-part', {
    id,
    set: {
      name: part.name,
      fixtures: part.fixtures,
      lists: part.lists,
      userId: to.userId,
      userName: to.name,
      ...(part.priority === undefined ? {} : { priority: part.priority }),
    },
  });
}

const watches = new Map<object, Watch>();

/** Asks for what a part of the screen shows; several parts share one question. */
export function useWatch(
  universes: readonly number[],
  {
    sources = false,
    outputs = false,
    programmer = null,
    sound = false,
    follows = null,
  }: {
    sources?: boolean;
    outputs?: boolean;
    programmer?: string | null;
    sound?: boolean;
    follows?: string | null;
  } = {},
): void {
  const key = universes.join();
  useEffect(() => {
    const mine = {};
    const tell = (): void => {
      const all = [...watches.values()];
      connection?.setWatch({
        universes: [...new Set(all.flatMap((w) => w.universes))].slice(0, 8),
        sources: all.some((w) => w.sources),
        outputs: all.some((w) => w.outputs),
        programmer: all.map((w) => w.programmer).find((p) => p !== null) ?? null,
        sound: all.some((w) => w.sound),
        follows: all.map((w) => w.follows).find((f) => f !== null) ?? null,
      });
    };
    watches.set(mine, {
      universes: key === '' ? [] : key.split(',').map(Number),
      sources,
      outputs,
      programmer,
      sound,
      follows,
    });
    tell();
    return () => {
      watches.delete(mine);
      tell();
    };
  }, [key, sources, outputs, programmer, sound, follows]);
}

/** Looks at the show as it was after a change, in every place; null: back to now. */
export async function lookBack(past: { seq: number; name: string } | null): Promise<void> {
  await connection
    ?.lookBack(past)
    .catch((error: unknown) => notice.error((error as Error).message));
}

/** Sends a live command; whoever asks says what comes of it. */
export function ask(command: LiveCommand): Promise<Reply> {
  const passed = filtered(command);
  if ('stopped' in passed)
    return Promise.resolve({ ok: false, code: 'filter', message: passed.stopped });
  return (
    connection?.send(passed.command) ??
    Promise.resolve({
      ok: false,
      code: 'offline',
      message: 'Not connected to the player; nothing was sent.',
    })
  );
}

/** Sends a live command; a refusal is said, and so is what whoever gave it should know at once. */
export async function live(command: LiveCommand): Promise<Reply> {
  const reply = await ask(command);
  if (!reply.ok) notice.error(reply.message, { id: `live-${reply.code}` });
  else {
    noteTaken(command);
    if (reply.warning) notice.warning(reply.warning, { id: 'live-warning', duration: 6000 });
  }
  return reply;
}

/** What these did is seen on the spine. */
const PLAYS = new Set<LiveCommand['command']>(['go', 'goto', 'back', 'pause', 'blind']);
/** The same; what the player has to say about it is said too: who could not follow, what came back. */
export async function said(command: LiveCommand): Promise<Reply> {
  const reply = await live(command);
  if (reply.ok && reply.message && !PLAYS.has(command.command))
    notice(reply.message, { id: `said-${command.command}` });
  return reply;
}

const newEditId = (): string =>
  `b${Date.now().toString(36)}${Math.random().toString(36).slice(2, 10)}`;
const RETRIES_MS = [300, 800, 2000];

interface EditOptions {
  quiet?: boolean;
  seen?: number;
  decided?: Record<string, 'mine' | 'theirs'>;
  decidedAt?: number | undefined;
  editId?: string;
}

/** Edits of this screen without an answer yet, and the last change that one of them was. */
const underway = new Set<Promise<unknown>>();
let lastOwn = 0;

/** When this comes back, this screen knows all that its person holds, after everything that was typed before. */
export async function settled(): Promise<void> {
  await Promise.all(underway);
  await connection?.settle(lastOwn);
}

let taking: Promise<unknown> = Promise.resolve();
/** Writes what is held, once all that was typed before is held; what is typed after it waits until it was taken, not until it is written. */
async function takeHeld(write: () => Promise<EditAnswer | ApiError>): Promise<boolean> {
  const before = taking;
  const taken = (async () => {
    await before;
    await settled();
    return { written: write() };
  })();
  taking = taken;
  return !((await (await taken).written) instanceof ApiError);
}

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

async function sendEdit(
  name: string,
  params: unknown,
  { quiet = false, seen = seenNow(), decided, decidedAt, editId = newEditId() }: EditOptions,
): Promise<EditAnswer | ApiError> {
  const { showId, you } = useScreen.getState();
  const locked = lockedHere();
  if (locked) {
    notice.error(locked, { id: 'locked' });
    return new ApiError(0, 'locked', locked);
  }
  const body = JSON.stringify({
    edit: name,
    params,
    editId,
    seen,
    ...(decided ? { decided, decidedAt } : {}),
  });
  sendingNow(editId, true);
  let kept: boolean | undefined;
  for (let attempt = 0; ; attempt++) {
    try {
      const answer = await api<EditAnswer>(`/api/shows/${showId}/edits`, { method: 'POST', body });
      answered(editId);
      if (!quiet) notice.done(answer.summary);
      return answer;
    } catch (error) {
      const problem = error instanceof ApiError ? error : new ApiError(0, 'offline', String(error));
      const wait = RETRIES_MS[attempt];
      const away = problem.status === 0 || problem.status >= 502;
      if (away || unanswered(problem)) {
        // From now on a reload does not lose it either.
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
        if (away && wait !== undefined) {
          await new Promise((resolve) => setTimeout(resolve, wait));
          continue;
        }
        sendingNow(editId, false);
        notice.error(
          kept
            ? problem.message
            : 'Wingman cannot be reached, and this browser has no room to keep what you wrote. Leave it open, and write it again when the house is back.',
        );
        return problem;
      }
      answered(editId);
      if (problem.code === 'unseen') {
        // Both are shown, and what is chosen is written then: still against what was seen at first, with the choices.
        const choice = await askUnseen(problem.unseen);
        if (choice)
          return sendEdit(name, params, {
            quiet,
            seen,
            decided: { ...decided, ...choice },
            decidedAt: problem.foundAt,
          });
        notice('Nothing was written: it stays as the others made it.');
        return problem;
      }
      notice.error(problem.message);
      return problem;
    }
  }
}

/** Nobody has said yes or no to it: the house is away, the person is signed out or their screen locked, or it was one of too many at once. */
const unanswered = ({ status, code }: ApiError): boolean =>
  status === 0 || status >= 502 || status === 401 || status === 429 || code === 'locked';

function answered(editId: string): void {
  dropUnsent(editId);
  sendingNow(editId, false);
}

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

/** Takes this person’s last change back, or makes it again. */
export async function reverse(way: 'undo' | 'redo'): Promise<void> {
  const locked = lockedHere();
  if (locked) {
    notice.error(locked, { id: 'locked' });
    return;
  }
  try {
    const answer = await api<EditAnswer>(`/api/shows/${useScreen.getState().showId}/undo`, {
      method: 'POST',
      body: JSON.stringify({ way }),
    });
    notice.done(answer.summary);
  } catch (error) {
    const { showId } = useScreen.getState();
    const message = (error as Error).message;
    // What others have built on stays; what else of one's own can go is offered by name.
    const instead =
      way === 'undo' && error instanceof ApiError && error.code === 'conflict'
        ? (
            await api<{ possible: { seq: number; summary: string }[] }>(
              `/api/shows/${showId}/undo?possible=1`,
            ).catch(() => ({ possible: [] }))
          ).possible
        : [];
    const undo = (seq: number): void =>
      void api<EditAnswer>(`/api/shows/${showId}/undo`, {
        method: 'POST',
        body: JSON.stringify({ seq }),
      }).then(
        (a) => notice.done(a.summary),
        (e: unknown) => notice.error((e as Error).message),
      );
    const short = (text: string): string => (text.length > 34 ? `${text.slice(0, 33)}…` : text);
    notice.error(message, {
      id: 'undo-refused',
      ...(instead.length > 0
        ? {
            duration: 20_000,
            ways: instead.slice(0, 2).map((c) => ({
              label: `Undo “${short(c.summary)}” instead`,
              onClick: () => undo(c.seq),
            })),
          }
        : {}),
    });
  }
}

/** Where a recording goes, and how. */
export interface RecordOptions {
  number: number;
  listId?: string;
  name?: string;
  up_s?: number;
  down_s?: number;
  mode: 'track' | 'only';
  existing: 'may' | 'must' | 'must-not';
  how?: 'merge' | 'over' | 'remove';
}
/** Which values: held ones that are not recorded, or all that is lit; of these families and fixtures alone. */
export interface RecordFilter {
  from: 'programmer' | 'stage';
  families?: readonly Family[];
  selected?: boolean;
  /** Attributes that are left out. */
  without?: readonly string[];
}

/** What is lit, as values of a record: with the palette or look that it follows, where it does. */
function litValues(): RecordedValue[] {
  const { show, index, playback } = useScreen.getState();
  const states = playback.lists.flatMap((l) =>
    l.cueNumber === null ? [] : [stateAt(show, l.id, l.cueNumber)],
  );
  return lit().flatMap((fixtureId) => {
    const fixture = show.fixtures.get(fixtureId);
    const mode = fixture ? modeOf(show, fixture) : undefined;
    return (mode ? attributesOf(mode) : []).flatMap((attribute): RecordedValue[] => {
      const key = slotKey(fixtureId, attribute);
      const slot = index.get(key);
      if (slot === undefined || familyOf(attribute) === 'control') return [];
      const level = Math.round((levels.now[slot] ?? 0) * 10_000) / 10_000;
      const recorded = states
        .map((s) => s.get(key)?.value)
        .find((v) => v && Math.abs((levelOf(show, v) ?? -1) - level) < SAME_LEVEL);
      const { palette, look, effect } = recorded ?? {};
      return [
        {
          fixtureId,
          attribute,
          level,
          ...(palette === undefined ? {} : { palette }),
          ...(look === undefined ? {} : { look }),
          ...(effect === undefined ? {} : { effect }),
        },
      ];
    });
  });
}
const SAME_LEVEL = 0.003;

/** The values that a record would take. */
export function recordValues(
  { from, families, selected, without = [] }: RecordFilter = { from: 'programmer' },
): RecordedValue[] {
  const { values, selection } = useScreen.getState();
  const all =
    from === 'stage'
      ? litValues()
      : [...values.values()].filter((v) => !v.recorded).map(recordedValue);
  const chosen = selected ? new Set(selection) : undefined;
  const wanted = families ?? counting();
  return all.filter(
    (v) =>
      (!wanted || wanted.includes(familyOf(v.attribute))) &&
      (!chosen || chosen.has(v.fixtureId)) &&
      !without.includes(v.attribute),
  );
}

/** What is held, as the edit that records it wants it. */
export const recordParams = (
  { listId, ...options }: RecordOptions,
  filter?: RecordFilter,
): Record<string, unknown> => ({
  listId: listId ?? firstList(useScreen.getState().show)?.id ?? '',
  ...options,
  values: recordValues(filter),
});

/** Records what is held. */
export const record = (
  options: RecordOptions,
  filter?: RecordFilter,
  how?: EditOptions,
): Promise<EditAnswer | ApiError> => edit('record-cue', recordParams(options, filter), how);

/** Fixtures that are lit on this screen, by number. */
export function lit(): string[] {
  const { show, index } = useScreen.getState();
  return byNumber(show)
    .filter((f) => (levels.now[index.get(slotKey(f.id, 'Dimmer')) ?? -1] ?? 0) >= LIT)
    .map((f) => f.id);
}

/** What you hold, as the values of a record. */
export function heldValues(): RecordedValue[] {
  const wanted = counting();
  return [...useScreen.getState().values.values()]
    .filter((v) => !wanted || wanted.includes(familyOf(v.attribute)))
    .map(recordedValue);
}

/** The list that is shown where one is: the Book's, elsewhere the spine's. */
export const listShown = (): string | null =>
  useRun.getState().place === 'book'
    ? bookListId()
    : (useScreen.getState().playback.lists[0]?.id ?? null);

/** Level of a unit’s attribute as this screen has it. */
export function levelOfUnit(fixtureId: string, attribute: string): number | undefined {
  const { show, index } = useScreen.getState();
  const unit = show.fixtures.get(fixtureId);
  const slot = unit && index.get(slotKey(fixtureId, sourceAttribute(unit, attribute)));
  return slot === undefined ? undefined : levels.now[slot];
}

function commandContext(): CommandContext {
  const { show, selection, playback } = useScreen.getState();
  return {
    show,
    selection,
    listId: listShown(),
    cueOn: (id) => playback.lists.find((l) => l.id === id)?.cueId ?? null,
    unrecorded: recordValues().length,
    held: (family) =>
      heldValues().filter((v) => !family || familyOf(v.attribute) === family).length,
    lit,
    levelOf: levelOfUnit,
  };
}

/** A line, read against what is selected and plays here. */
export const read = (text: string): ReadCommand => readCommand(text, commandContext());

/** What the line can go on with. */
export const complete = (text: string): { line: string; word: string }[] =>
  completions(text, commandContext());

/** Whether a line puts something into what is held. */
const setsHeld = (intent: Intent): boolean =>
  intent.kind === 'select-and-set' || (intent.kind === 'live' && !isPlaying(intent.command));

/**
 * Does what the command line said it would. A record that is under way takes what is held: a line that sets waits for
 * it once, and then goes before the record that was typed after it (book.test.ts, lines typed faster than the house
 * answers).
 * @returns whether it was done
 */
export async function perform(intent: Intent): Promise<boolean> {
  if (setsHeld(intent)) await taking;
  for (const step of stepsOf(intent, useScreen.getState().selection)) {
    const done = carryOut(step);
    if (!(typeof done === 'boolean' ? done : await done)) return false;
  }
  return true;
}

/** One step of a line; what is done at once gives way to nothing. @returns whether it was done */
function carryOut(step: Step): boolean | Promise<boolean> {
  switch (step.do) {
    case 'select':
      select(step.fixtures);
      return true;
    case 'live':
      return said(step.command).then((answer) => answer.ok);
    case 'reverse':
      return reverse(step.which).then(() => true);
    case 'edit': {
      const { edit: name, params, takes } = step;
      if (!takes) return edit(name, params).then((answer) => !(answer instanceof ApiError));
      const seen = seenNow();
      return takeHeld(() =>
        edit(
          name,
          { ...params, values: takes === 'unrecorded' ? recordValues() : heldValues() },
          { seen },
        ),
      );
    }
  }
}

/** The selection shows at once here, and is kept by the player. */
export function select(fixtures: readonly string[]): void {
  useScreen.setState({ selection: fixtures });
  void live({ command: 'select', fixtures: [...fixtures] });
}

/** Takes a fixture into the selection, or out of it. */
export function toggleSelected(id: string): void {
  const { selection } = useScreen.getState();
  select(selection.includes(id) ? selection.filter((s) => s !== id) : [...selection, id]);
}

/** A command that is given again and again while a control is dragged: at most one a frame, and the last one always. */
const waiting = new Map<string, LiveCommand>();
let frame = 0;
/** A command that follows a hand: of many in a frame the last is sent. */
export function streamCommand(key: string, command: LiveCommand): void {
  waiting.set(key, command);
  if (frame !== 0) return;
  const flush = (): void => {
    frame = 0;
    const batch = [...waiting.values()];
    waiting.clear();
    for (const c of batch) void live(c);
    if (batch.length > 0) frame = requestAnimationFrame(flush);
  };
  flush();
}
