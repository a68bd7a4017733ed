/** Versions: names for states of a show. A state is a number in its log, so a version costs nothing and never goes stale. */
import { randomUUID } from 'node:crypto';
import type { Version, VersionKind } from '../core/live/answers.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import type { RowChange } from '../core/show/show.ts';
import type { Database } from './database.ts';

const AUTOMATIC_KEPT = 200;
const NAMED_KEPT = 500;
const DANGEROUS = new Set([
  'delete-list',
  'delete-fixtures',
  'delete-script',
  'delete-type',
  'delete-cue',
  'import-patch',
  'import-cues',
  'swap-type',
  'copy-programming',
  'renumber-cues',
  'join-cues',
  'restore',
  'merge',
  'import-parts',
]);
/** An edit that takes away or rewrites this much is one to come back from. */
const MANY_GONE = 50;
const MANY_WRITTEN = 2000;

/** Whether a version is kept before this. One cue without much in it is no danger. */
export function isDangerous(edit: string, changes: readonly RowChange[]): boolean {
  const gone = changes.filter((c) => c.after === null).length;
  if (edit === 'delete-cue') return gone > 1;
  return DANGEROUS.has(edit) || gone >= MANY_GONE || changes.length >= MANY_WRITTEN;
}

/** Versions of a show, newest first. */
export async function listVersions(db: Database, showId: string): Promise<Version[]> {
  const rows = await db
    .selectFrom('versions')
    .selectAll()
    .where('show_id', '=', showId)
    .orderBy('seq', 'desc')
    .orderBy('at', 'desc')
    .execute();
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    seq: r.seq,
    kind: r.kind,
    at: r.at.toISOString(),
    userName: r.user_name,
  }));
}

/** Names the state after change `seq`. An automatic version is left out where there is one of that state already. */
export async function keepVersion(
  db: Database,
  showId: string,
  v: { name: string; seq: number; kind: VersionKind; userId: string; userName: string },
): Promise<Version | Refusal | null> {
  const same = await db
    .selectFrom('versions')
    .select(['id', 'name', 'kind'])
    .where('show_id', '=', showId)
    .where('seq', '=', v.seq)
    .execute();
  if (v.kind !== 'named' && same.length > 0) return null;
  if (v.kind === 'named') {
    const twin = await db
      .selectFrom('versions')
      .select('id')
      .where('show_id', '=', showId)
      .where('kind', '=', 'named')
      .where('name', '=', v.name)
      .executeTakeFirst();
    if (twin)
      return refuse('clash', `There is a version “${v.name}” already.`, {
        name: 'This name is taken.',
      });
    const { count } = await db
      .selectFrom('versions')
      .select((eb) => eb.fn.countAll<string>().as('count'))
      .where('show_id', '=', showId)
      .where('kind', '=', 'named')
      .executeTakeFirstOrThrow();
    if (Number(count) >= NAMED_KEPT)
      return refuse('limit', `A show has at most ${NAMED_KEPT} named versions; delete some first.`);
  }
  const id = randomUUID();
  const row = await db
    .insertInto('versions')
    .values({
      id,
      show_id: showId,
      name: v.name.slice(0, 200),
      seq: v.seq,
      kind: v.kind,
      user_id: v.userId,
      user_name: v.userName,
    })
    .returning('at')
    .executeTakeFirstOrThrow();
  if (v.kind !== 'named') {
    const old = await db
      .selectFrom('versions')
      .select('id')
      .where('show_id', '=', showId)
      .where('kind', '!=', 'named')
      .orderBy('at', 'desc')
      .offset(AUTOMATIC_KEPT)
      .execute();
    if (old.length > 0)
      await db
        .deleteFrom('versions')
        .where(
          'id',
          'in',
          old.map((o) => o.id),
        )
        .execute();
  }
  return {
    id,
    name: v.name,
    seq: v.seq,
    kind: v.kind,
    at: row.at.toISOString(),
    userName: v.userName,
  };
}

/** Only the name goes: the state stays in the log. */
export async function dropVersion(
  db: Database,
  showId: string,
  id: string,
): Promise<{ ok: true } | Refusal> {
  const done = await db
    .deleteFrom('versions')
    .where('show_id', '=', showId)
    .where('id', '=', id)
    .executeTakeFirst();
  return done.numDeletedRows > 0n
    ? { ok: true }
    : refuse('not-found', 'This version has been deleted already.');
}
