/** A rehearsal in a thread of its own: the clock and the sockets of what plays are not kept waiting. */
import { parentPort, workerData } from 'node:worker_threads';
import type { AnyRow, TableName } from '../core/show/tables.ts';
import { MutableShow } from '../core/show/show.ts';
import { rehearse } from './rehearsal.ts';

const { rows, listId } = workerData as {
  rows: { table: TableName; row: AnyRow }[];
  listId: string;
};
parentPort?.postMessage(rehearse(MutableShow.from(rows), listId));
