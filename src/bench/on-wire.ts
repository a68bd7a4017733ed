/** From a step that somebody makes to its first changed packet. */
import { randomUUID } from 'node:crypto';
import type { FixtureRow } from '../core/fixtures/rows.ts';
import { Visitor } from './house.ts';
import { hr, sleep } from './numbers.ts';
import { routeTo, startReceiver } from './receivers.ts';

export type Send = (command: unknown) => void;

/** An edit of the show that is measured. @returns what changed */
export type Edit = (what: string, params: unknown) => Promise<{ changes: { id: string }[] }>;

/**
 * Steps on a socket, each until the bytes of the first universe have changed on the wire.
 * @param begin what stands before the first step @param step tells the nth
 * @param between milliseconds after each
 */
export async function onWire(
  url: string,
  name: string,
  {
    patch,
    begin,
    step,
    steps,
    between,
  }: {
    patch: object;
    /** May be waited for. */
    begin: (send: Send, fixtures: readonly FixtureRow[], edit: Edit) => void | Promise<void>;
    step: (send: Send, n: number) => void;
    steps: number;
    between: () => number;
  },
): Promise<{ times: number[]; showId: string }> {
  const owner = await Visitor.signIn(url, 'owner');
  const { id } = await owner.ask<{ id: string }>('/api/shows', { name });
  const edit: Edit = (what, params) =>
    owner.ask(`/api/shows/${id}/edits`, { edit: what, params, editId: randomUUID() });
  await edit('patch-fixtures', { ...patch, first: 1, universe: 1, address: 1, overflow: true });
  const { tables } = await owner.ask<{ tables: { fixtures: FixtureRow[] } }>(`/api/shows/${id}`);
  const receiver = await startReceiver();
  await edit('set-route', routeTo());
  let changedAt: ((at: number) => void) | null = null;
  receiver.on('message', (m: { at?: number }) => {
    if (m.at !== undefined) changedAt?.(m.at);
  });
  const socket = await owner.socket(id, () => undefined);
  const send: Send = (command) => socket.send(JSON.stringify({ type: 'command', id: 1, command }));
  send({ command: 'air', on: true });
  await begin(send, tables.fixtures, edit);
  await sleep(3000);
  const times: number[] = [];
  for (let i = 0; i < steps; i++) {
    await sleep(between());
    const arrived = Promise.race([
      new Promise<number>((resolve) => (changedAt = resolve)),
      sleep(500).then(() => NaN),
    ]);
    const sent = hr();
    step(send, i);
    const at = await arrived;
    if (Number.isFinite(at)) times.push(at - sent);
  }
  send({ command: 'clear' });
  await sleep(300);
  socket.close();
  receiver.disconnect();
  return { times, showId: id };
}
