/** What a person does on a screen: edits through the web process, live commands through the socket, with a word on both. */
import { useEffect } from 'react';
import { toast } from 'sonner';
import { completions } from '@/core/command/complete';
import { readCommand, type ReadCommand } from '@/core/command/command';
import type { Intent } from '@/core/command/intent';
import type { CommandContext } from '@/core/command/reader';
import type { Consequence } from '@/core/cues/consequences';
import { planEdit } from '@/core/edits/index';
import { recordedValue } from '@/core/live/held';
import type { RecordedValue } from '@/core/edits/looks';
import { isRefusal } from '@/core/refusal';
import { familyOf } from '@/core/rig/attributes';
import { byNumber, LIT } from '@/core/select/select';
import { slotKey } from '@/core/show/rows';
import type { LiveCommand } from '@/core/live/messages';
import { firstList, type RowChange } from '@/core/show/show';
import { api, ApiError } from './api';
import { levels } from './levels';
import { LiveConnection, type Reply, type Watch } from './live';
import { unrecordedCount, useScreen } from './store';

let connection: LiveConnection | null = null;

export interface EditAnswer {
  seq: number;
  summary: string;
  changes: RowChange[];
  consequences?: Consequence[];
}

export function openShow(showId: string): () => void {
  useScreen.setState({ showId, loaded: false, connection: 'connecting' });
  connection?.stop();
  const mine = new LiveConnection(showId, (message) => toast(message));
  connection = mine;
  return () => {
    mine.stop();
    if (connection === mine) connection = null;
  };
}

export const setPlace = (place: string): void => connection?.setPlace(place);

const watches = new Map<object, Watch>();

/** Asks for what a part of the screen shows; several parts share one question. */
export function useWatch(universes: readonly number[], { sources = false, outputs = false, programmer = null }: { sources?: boolean; outputs?: boolean; programmer?: string | null } = {}): void {
  const key = universes.join();
  useEffect(() => {
    const mine = {};
    const tell = (): void => {
      const all = [...watches.values()];
      connection?.setWatch({ universes: [...new Set(all.flatMap((w) => w.universes))].slice(0, 8), sources: all.some((w) => w.sources), outputs: all.some((w) => w.outputs), programmer: all.map((w) => w.programmer).find((p) => p !== null) ?? null });
    };
    watches.set(mine, { universes: key === '' ? [] : key.split(',').map(Number), sources, outputs, programmer });
    tell();
    return () => {
      watches.delete(mine);
      tell();
    };
  }, [key, sources, outputs, programmer]);
}

/** Sends a live command; a refusal is said. */
export async function live(command: LiveCommand): Promise<Reply> {
  const reply = connection ? await connection.send(command) : { ok: false as const, code: 'offline', message: 'Not connected to the player; nothing was sent.' };
  if (!reply.ok) toast.error(reply.message, { id: `live-${reply.code}` });
  return reply;
}

/** What these did is seen on the spine. */
const PLAYS = new Set<LiveCommand['command']>(['go', 'goto', 'back', 'pause', 'blind']);
/** The same; what the player has to say about it is said too: who could not follow, what came back. */
export async function said(command: LiveCommand): Promise<Reply> {
  const reply = await live(command);
  if (reply.ok && reply.message && !PLAYS.has(command.command)) toast(reply.message, { id: `said-${command.command}` });
  return reply;
}

const newEditId = (): string => `b${Date.now().toString(36)}${Math.random().toString(36).slice(2, 10)}`;
const RETRIES_MS = [300, 800, 2000];

/** Changes the show. A lost answer is asked for again under the same id, so nothing happens twice. */
export async function edit(name: string, params: unknown, { quiet = false }: { quiet?: boolean } = {}): Promise<EditAnswer | ApiError> {
  const { showId } = useScreen.getState();
  const body = JSON.stringify({ edit: name, params, editId: newEditId() });
  for (let attempt = 0; ; attempt++) {
    try {
      const answer = await api<EditAnswer>(`/api/shows/${showId}/edits`, { method: 'POST', body });
      if (!quiet) toast.success(answer.summary);
      return answer;
    } catch (error) {
      const problem = error instanceof ApiError ? error : new ApiError(0, 'offline', String(error));
      const wait = RETRIES_MS[attempt];
      if ((problem.status === 0 || problem.status >= 502) && wait !== undefined) {
        await new Promise((resolve) => setTimeout(resolve, wait));
        continue;
      }
      toast.error(problem.message);
      return problem;
    }
  }
}

/** The same plan as the server's, on this screen's copy: what an edit would do, or why not. */
export function tryEdit(name: string, params: unknown): { summary: string; changes: RowChange[] } | { message: string; fields?: Record<string, string> } {
  const { show, you } = useScreen.getState();
  const planned = planEdit(show, you.role, name, params, 'preview');
  return isRefusal(planned) ? { message: planned.message, ...(planned.fields ? { fields: planned.fields } : {}) } : planned;
}

export async function reverse(way: 'undo' | 'redo'): Promise<void> {
  try {
    const answer = await api<EditAnswer>(`/api/shows/${useScreen.getState().showId}/undo`, { method: 'POST', body: JSON.stringify({ way }) });
    toast.success(answer.summary);
  } catch (error) {
    toast.error((error as Error).message);
  }
}

export interface RecordOptions {
  number: number;
  name?: string;
  up_s?: number;
  down_s?: number;
  mode: 'track' | 'only';
  existing: 'may' | 'must' | 'must-not';
}

/** The parameters of recording what this operator holds and has not recorded. */
export function recordParams(options: RecordOptions): Record<string, unknown> {
  const { show, values } = useScreen.getState();
  const held = [...values.values()].filter((v) => !v.recorded);
  return {
    listId: firstList(show)?.id ?? '',
    ...options,
    values: held.map(recordedValue),
  };
}

export const record = (options: RecordOptions): Promise<EditAnswer | ApiError> => edit('record-cue', recordParams(options));

/** Fixtures that are lit on this screen, by number. */
export function lit(): string[] {
  const { show, index } = useScreen.getState();
  return byNumber(show).filter((f) => (levels.now[index.get(slotKey(f.id, 'Dimmer')) ?? -1] ?? 0) >= LIT).map((f) => f.id);
}

/** What you hold, as the values of a record. */
export const heldValues = (): RecordedValue[] => [...useScreen.getState().values.values()].map(recordedValue);

function commandContext(): CommandContext {
  const { show, selection, playback, values } = useScreen.getState();
  return { show, selection, cueId: playback.lists[0]?.cueId ?? null, unrecorded: unrecordedCount(values), held: (family) => [...values.values()].filter((v) => !family || familyOf(v.attribute) === family).length, lit };
}

export const read = (text: string): ReadCommand => readCommand(text, commandContext());

/** What the line can go on with. */
export const complete = (text: string): { line: string; word: string }[] => completions(text, commandContext());

/** Does what the command line said it would. @returns whether it was done */
export async function perform(intent: Intent): Promise<boolean> {
  switch (intent.kind) {
    case 'live':
      return (await said(intent.command)).ok;
    case 'select-and-set': {
      if (intent.select.join() !== useScreen.getState().selection.join()) select(intent.select);
      let ok = intent.command ? (await said(intent.command)).ok : true;
      for (const command of intent.then ?? []) ok = ok && (await said(command)).ok;
      return ok;
    }
    case 'record-held':
      return !(await edit(intent.edit, { ...intent.params, values: heldValues() }) instanceof ApiError);
    case 'edit':
      return !(await edit(intent.edit, intent.params) instanceof ApiError);
    case 'record': {
      const { kind, ...options } = intent;
      void kind;
      return !(await record(options) instanceof ApiError);
    }
    case 'undo':
    case 'redo':
      await reverse(intent.kind);
      return true;
  }
}

/** The selection shows at once here, and is kept by the player. */
export function select(fixtures: readonly string[]): void {
  useScreen.setState({ selection: fixtures });
  void live({ command: 'select', fixtures: [...fixtures] });
}

export function toggleSelected(id: string): void {
  const { selection } = useScreen.getState();
  select(selection.includes(id) ? selection.filter((s) => s !== id) : [...selection, id]);
}

/** A command that is given again and again while a control is dragged: at most one a frame, and the last one always. */
const waiting = new Map<string, LiveCommand>();
let frame = 0;
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
