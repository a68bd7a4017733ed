/** Brings a database to the newest schema. Migrations are only ever added to. */
import { sql, Migrator, type Kysely, type Migration } from 'kysely';
import { sheetOfPage, withoutPages, type LoggedRow } from '../core/sheets/from-pages.ts';
import type { Database } from './database.ts';

const first: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table shows (
        id text primary key, name text not null, venue text not null default '', seq integer not null default 0,
        created_at timestamptz not null default now(), changed_at timestamptz not null default now());
      create table show_rows (
        show_id text not null references shows(id) on delete cascade, tbl text not null, id text not null, data jsonb not null,
        primary key (show_id, tbl, id));
      create table changes (
        show_id text not null references shows(id) on delete cascade, seq integer not null, edit_id text not null,
        user_id text not null, user_name text not null, at timestamptz not null default now(),
        edit text not null, summary text not null, reverts integer, rows jsonb not null,
        primary key (show_id, seq), unique (show_id, edit_id));
      create index changes_by_user on changes (show_id, user_id, seq);
      create table live_state (
        show_id text primary key references shows(id) on delete cascade, saved_at timestamptz not null default now(), state jsonb not null);
      create table installation (
        id integer primary key check (id = 1), air_show_id text references shows(id) on delete set null, cid uuid not null);
      insert into installation (id, cid) values (1, gen_random_uuid());

      create table "user" (
        id text primary key, name text not null, email text not null unique, "emailVerified" boolean not null default false,
        image text, "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now());
      create table session (
        id text primary key, token text not null unique, "userId" text not null references "user"(id) on delete cascade,
        "expiresAt" timestamptz not null, "ipAddress" text, "userAgent" text,
        "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now());
      create index session_by_user on session ("userId");
      create table account (
        id text primary key, "accountId" text not null, "providerId" text not null,
        "userId" text not null references "user"(id) on delete cascade, "accessToken" text, "refreshToken" text, "idToken" text,
        "accessTokenExpiresAt" timestamptz, "refreshTokenExpiresAt" timestamptz, scope text, password text,
        "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now());
      create index account_by_user on account ("userId");
      create table verification (
        id text primary key, identifier text not null, value text not null, "expiresAt" timestamptz not null,
        "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now());
      create table "rateLimit" (id text primary key, key text not null unique, count integer not null, "lastRequest" bigint not null);

      create table members (
        show_id text not null references shows(id) on delete cascade, user_id text not null references "user"(id) on delete cascade,
        role text not null check (role in ('owner', 'programmer', 'operator', 'viewer')), primary key (show_id, user_id));
      create index members_by_user on members (user_id);
    `.execute(db);
  },
};

const preferences: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table preferences (
        user_id text not null references "user"(id) on delete cascade, key text not null, value jsonb not null,
        primary key (user_id, key));
    `.execute(db);
  },
};

const crew: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table members drop constraint members_role_check;
      alter table members add constraint members_role_check check (role in ('owner', 'programmer', 'operator', 'viewer', 'volunteer'));
      alter table members add column pages jsonb not null default '[]', add column until timestamptz;
      alter table shows add column origin jsonb, add column archived_at timestamptz, add column deleted_at timestamptz, add column deleted_by text;
      alter table installation add column player text, add column player_id text, add column beat jsonb;

      create table invitations (
        id text primary key, token_hash text not null unique, show_id text not null references shows(id) on delete cascade,
        role text not null check (role in ('owner', 'programmer', 'operator', 'viewer', 'volunteer')), pages jsonb not null default '[]',
        member_until timestamptz, expires_at timestamptz not null, made_by text not null, made_at timestamptz not null default now(),
        used_by text, used_at timestamptz, withdrawn_at timestamptz);
      create index invitations_by_show on invitations (show_id, made_at);

      create table versions (
        id text primary key, show_id text not null references shows(id) on delete cascade, name text not null, seq integer not null,
        kind text not null check (kind in ('named', 'before', 'board')), at timestamptz not null default now(), user_id text not null, user_name text not null);
      create index versions_by_show on versions (show_id, seq);

      create table journal (
        id bigint generated always as identity primary key, show_id text not null references shows(id) on delete cascade,
        at timestamptz not null default now(), user_id text not null, user_name text not null, kind text not null, text text not null, data jsonb not null default '{}');
      create index journal_by_show on journal (show_id, id);

      create table merges (
        show_id text not null references shows(id) on delete cascade, source_id text not null, source_seq integer not null, seq integer not null,
        at timestamptz not null default now(), primary key (show_id, seq));

      create table incoming (
        id text primary key, user_id text not null references "user"(id) on delete cascade, name text not null, bytes bytea not null, at timestamptz not null default now());

      create table pins (
        user_id text primary key references "user"(id) on delete cascade, hash text not null, wrong integer not null default 0, wait_until timestamptz);
      create table locked_sessions (
        session_id text primary key references session(id) on delete cascade, locked_at timestamptz not null default now());
    `.execute(db);
  },
};

/**
 * Rights in the house; tickets that open one socket once; how often somebody tries to sign in. Whoever made the house
 * (its first account) owns it, the others may go on making shows. Ended sessions and changed places in shows are told by
 * the database itself, whatever ended or changed them.
 */
const rights: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table house_rights (
        user_id text primary key references "user"(id) on delete cascade, may text not null check (may in ('owner', 'maker', 'guest')));
      insert into house_rights (user_id, may)
        select id, case when row_number() over (order by "createdAt", id) = 1 then 'owner' else 'maker' end from "user";

      create table used_tickets (id text primary key, at timestamptz not null default now());
      create table sign_in_tries (key text primary key, count integer not null, until timestamptz not null);
      create table known_addresses (
        email text not null, address text not null, at timestamptz not null default now(), primary key (email, address));
      alter table installation add column player_machine text;
      alter table installation add column demo_passwords text not null default 'published' check (demo_passwords in ('published', 'random'));

      create function wingman_session_ended() returns trigger language plpgsql as $$
        begin
          perform pg_notify('wingman_members', json_build_object('session', old.id, 'ended', true)::text);
          return null;
        end $$;
      create trigger session_ended after delete on session for each row execute function wingman_session_ended();

      create function wingman_member_changed() returns trigger language plpgsql as $$
        begin
          perform pg_notify('wingman_members', json_build_object('show', coalesce(new.show_id, old.show_id), 'user', coalesce(new.user_id, old.user_id))::text);
          return null;
        end $$;
      create trigger member_changed after insert or update or delete on members for each row execute function wingman_member_changed();
    `.execute(db);
  },
};

const inbox: Migration = {
  async up(db: Kysely<unknown>) {
    // It outlives its show: that a show was deleted is read there.
    await sql`
      create table inbox (
        id bigint generated always as identity primary key, user_id text not null references "user"(id) on delete cascade,
        show_id text, show_name text not null, at timestamptz not null default now(), kind text not null, text text not null,
        from_id text not null, from_name text not null, place jsonb not null default 'null', ask jsonb not null default 'null',
        seen_at timestamptz, done boolean not null default false);
      create index inbox_by_user on inbox (user_id, id);
    `.execute(db);
  },
};

/**
 * Control pages become sheets, as rows and wherever the log tells of them, so that an undo of what was done to a page and a
 * look back at the show as it was go on. Who had a page has its sheet: it keeps its id.
 */
export async function sheetsFromPages(db: Kysely<unknown>): Promise<void> {
  const pages = await sql<{ show_id: string; data: unknown }>`
      select show_id, data from show_rows where tbl = 'pages'`.execute(db);
  for (const { show_id, data } of pages.rows) {
    const { sheet, pieces } = sheetOfPage(data);
    await sql`insert into show_rows (show_id, tbl, id, data)
        values (${show_id}, 'sheets', ${sheet.id}, ${JSON.stringify(sheet)})`.execute(db);
    for (const piece of pieces)
      await sql`insert into show_rows (show_id, tbl, id, data)
          values (${show_id}, 'sheetpieces', ${piece.id}, ${JSON.stringify(piece)})`.execute(db);
  }
  await sql`delete from show_rows where tbl = 'pages'`.execute(db);
  const told = await sql<{ show_id: string; seq: number; rows: LoggedRow[] }>`
      select show_id, seq, rows from changes where rows @> '[{"table": "pages"}]'`.execute(db);
  for (const { show_id, seq, rows } of told.rows)
    await sql`update changes set rows = ${JSON.stringify(withoutPages(rows))}::jsonb
        where show_id = ${show_id} and seq = ${seq}`.execute(db);
}
const sheets: Migration = { up: sheetsFromPages };

/** Files of sounds in pieces, which are packed already; what no show has any more is swept away (sounds/kept.ts). */
const soundFiles: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table sounds_kept (
        id text primary key, sha256 text unique, crc32 bigint, about jsonb, at timestamptz not null default now());
      create table sound_pieces (
        sound text not null references sounds_kept(id) on delete cascade, n integer not null, data bytea not null, primary key (sound, n));
      alter table sound_pieces alter column data set storage external;
      create table sound_shapes (
        sound text not null references sounds_kept(id) on delete cascade, zoom integer not null, data bytea not null, primary key (sound, zoom));
      create table show_sounds (
        show_id text not null references shows(id) on delete cascade, sound text not null references sounds_kept(id), primary key (show_id, sound));
      create index show_sounds_by_sound on show_sounds (sound);
    `.execute(db);
  },
};

/** Types of the house, by the ids that shows know them by too. */
const library: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table house_types (
        id text primary key, maker text not null, name text not null, type jsonb not null, by_name text not null, at timestamptz not null default now());
    `.execute(db);
  },
};

const wires: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`alter table installation add column wires jsonb`.execute(db);
  },
};

/**
 * Rows go with their show by a trigger: a foreign key asks for the show once for each row that is written, a third of the
 * time that three hundred thousand of them take. Whoever writes rows holds the show's row (commit.ts), or has just made it.
 */
const rowsGoWithShows: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table show_rows drop constraint if exists show_rows_show_id_fkey;
      create function rows_go_with_their_show() returns trigger language plpgsql as
        'begin delete from show_rows where show_id = old.id; return old; end';
      create trigger rows_go_with_their_show after delete on shows
        for each row execute function rows_go_with_their_show()`.execute(db);
  },
};

/** Tables of three hundred thousand rows come whole: packed, they are written and read in a tenth of the time (packs.ts). */
const packedRows: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table show_rows alter column data drop not null;
      create table show_packs (
        show_id text not null references shows(id) on delete cascade,
        tbl text not null,
        part integer not null,
        schema integer not null,
        data bytea not null,
        primary key (show_id, tbl, part)
      )`.execute(db);
  },
};

/** Brings a database of any earlier version to this one. */
export async function migrate(db: Database): Promise<void> {
  const migrator = new Migrator({
    db,
    provider: {
      getMigrations: () =>
        Promise.resolve({
          '001-first': first,
          '002-preferences': preferences,
          '003-crew': crew,
          '004-rights': rights,
          '005-inbox': inbox,
          '006-sheets': sheets,
          '007-sounds': soundFiles,
          '008-library': library,
          '009-wires': wires,
          '010-rows': rowsGoWithShows,
          '011-packs': packedRows,
        }),
    },
  });
  const { error } = await migrator.migrateToLatest();
  if (error)
    throw error instanceof Error
      ? error
      : new Error('The database cannot be migrated.', { cause: error });
}
