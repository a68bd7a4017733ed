/** For tests that need several people: three of them in a database of their own, and a show in which they are. */
import { randomUUID } from 'node:crypto';
import { slotKey } from '../core/cues/rows.ts';
import { isRefusal } from '../core/refusal.ts';
import type { Role } from '../core/roles.ts';
import type { MutableShow } from '../core/show/show.ts';
import { ShowStore, type Author } from './commit.ts';
import type { Database } from './database.ts';
import { ownDatabase } from './own-database.ts';
import { createShow, setMember } from './shows.ts';

const person = (name: string): Author => ({ userId: randomUUID(), name });
export const mara = person('Mara Kell');
export const tam = person('Tam Brevik');
export const iden = person('Iden Vale');
export const email = (p: Author): string => `${p.userId}@tidewater.example`;

/** What was not refused; a refusal fails the test with its words. */
export function must<T>(result: T): Exclude<T, { refused: true }> {
  if (isRefusal(result)) throw new Error(result.message);
  return result as Exclude<T, { refused: true }>;
}

/** A show of Mara's, and what is done in it. */
interface CrewShow {
  id: string;
  store: ShowStore;
  /** An edit that is not refused. @returns the number of its change */
  edit: (who: Author, name: string, params: unknown) => Promise<number>;
  show: () => Promise<MutableShow>;
  /** Six dimmers, 1 to 6. @returns their ids */
  patched: () => Promise<string[]>;
}

export interface Crew {
  url: string;
  db: Database;
  drop: () => Promise<void>;
  freshShow: (roles?: Partial<Record<'tam' | 'iden', Role>>) => Promise<CrewShow>;
}

async function gatherCrew(): Promise<Crew> {
  const { url, db, drop } = await ownDatabase();
  await db
    .insertInto('user')
    .values([mara, tam, iden].map((p) => ({ id: p.userId, name: p.name, email: email(p) })))
    .execute();
  const freshShow: Crew['freshShow'] = async (roles = { tam: 'programmer', iden: 'viewer' }) => {
    const { id } = must(await createShow(db, mara.userId, 'Harbour lights'));
    if (roles.tam) await setMember(db, id, email(tam), roles.tam);
    if (roles.iden) await setMember(db, id, email(iden), roles.iden);
    const store = new ShowStore(db);
    const edit: CrewShow['edit'] = async (who, name, params) =>
      must(await store.edit(id, who, { edit: name, params, editId: randomUUID() })).seq;
    const show = async (): Promise<MutableShow> => {
      const copy = await store.open(id);
      if (!copy) throw new Error('the show is gone');
      return copy.show;
    };
    return {
      id,
      store,
      edit,
      show,
      patched: async () => {
        await edit(mara, 'patch-fixtures', {
          typeId: 'generic-dimmer',
          mode: '8 bit',
          quantity: 6,
          first: 1,
        });
        const now = await show();
        return [1, 2, 3, 4, 5, 6].map((n) => now.fixtureByNumber(n)?.id ?? '');
      },
    };
  };
  return { url, db, drop, freshShow };
}

/** Mara, Tam and Iden with accounts, in a database of their own, for all tests of a file: there before the first, gone after the last. */
export function withCrew(): Crew {
  const crew = {} as Crew;
  beforeAll(async () => void Object.assign(crew, await gatherCrew()));
  afterAll(() => crew.drop());
  return crew;
}

/** What records one intensity into a cue of the main list. */
export const recorded = (
  fixtureId: string | undefined,
  number: number,
  level: number,
): Record<string, unknown> => ({
  listId: 'main',
  number: number * 1000,
  values: [{ fixtureId, attribute: 'Dimmer', level }],
});

/** The intensity that a cue of the main list has for a fixture. */
export function levelIn(
  show: MutableShow,
  cue: number,
  fixtureId: string | undefined,
): number | null | undefined {
  const found = show.cuesOf('main').find((x) => x.number === cue * 1000);
  return found ? show.valuesOf(found.id).get(slotKey(fixtureId ?? '', 'Dimmer'))?.level : undefined;
}

/** All rows of a show, one text each, whatever the order of what stands in them. */
export const rowsOf = (show: MutableShow): string[] =>
  [...show.rows()]
    .map(({ table, row }) => `${table}/${row.id} ${JSON.stringify(row, Object.keys(row).sort())}`)
    .sort();

export const DAY_MS = 24 * 3600 * 1000;
export const soon = (days: number): Date => new Date(Date.now() + days * DAY_MS);
