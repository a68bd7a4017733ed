/** People: roles, end dates, invitations by link, parts of the show that were given to somebody, pages for other hands. */
'use client';
import { dayField, fullDay, lastMoment } from '@/core/dates';
import { useState } from 'react';
import { ROLES, type Role } from '@/core/roles';
import { LIMITS } from '@/core/show/fields';
import { plural } from '@/core/words';
import type { Member } from '@/core/live/answers';
import type { PartRow } from '@/core/crew/rows';
import { Ask } from '../parts/Ask';
import { Button, Check, Choice, Field } from '../parts/controls';
import { useWhereabouts } from '../frame/People';
import { said } from '../state/commands';
import { edit } from '../state/edits';
import { mayEdit, useScreen, useShow, usePlayback } from '../state/store';
import { Departments } from './Departments';
import { Invitations } from './Invitations';
import { LinkRow, standingPages } from './Links';
import { PartDialog } from './PartDialog';
import { MEANS, ROLE_OPTIONS } from './role-words';
import { useLoad, useSend } from './use-load';
import { useWriting } from '../parts/use-writing';
import { useParts } from '../state/use-parts';

const HEAD = 'text-[15px] font-semibold';
/** People of the show, what they are, and their parts. */
export function PeoplePane() {
  const { showId, you, people } = useParts(useScreen, 'showId', 'you', 'people');
  const owner = you.role === 'owner';
  const members = useLoad<{ members: Member[] }>(`/api/shows/${showId}/members`, people);
  return (
    <div className="grid h-full grid-cols-[minmax(380px,1.15fr)_1fr]">
      <section aria-label="People" className="overflow-y-auto border-r border-line px-5 py-4">
        <h2 className={HEAD}>People</h2>
        <ul className="mt-2">
          {(members.data?.members ?? []).map((m) => (
            <MemberRow
              key={m.userId}
              m={m}
              owner={owner}
              onChanged={(list) => members.set({ members: list })}
            />
          ))}
        </ul>
        {owner && <Invitations />}
        {owner && <AddByAddress onChanged={(list) => members.set({ members: list })} />}
        <dl className="mt-5 text-[12.5px]">
          {ROLES.map((r) => (
            <div key={r} className="flex gap-2 py-0.5">
              <dt className="w-24 flex-none text-soft">{r}</dt>
              <dd className="text-muted">{MEANS[r]}</dd>
            </div>
          ))}
        </dl>
      </section>
      <section aria-label="The show" className="overflow-y-auto px-5 py-4">
        <Parts members={members.data?.members ?? []} />
        <Pages />
        <Departments />
        <Settings />
      </section>
    </div>
  );
}

/** Who is made an owner stays: an end date that they had would take the show from its owner one day. */
const rolePut = (role: Role): { role: Role; until?: null } =>
  role === 'owner' ? { role, until: null } : { role };

type PutMember = (
  set: Partial<Pick<Member, 'pages' | 'until'>> & { role?: Role | null },
) => Promise<void>;

function MemberRow({
  m,
  owner,
  onChanged,
}: {
  m: Member;
  owner: boolean;
  onChanged: (list: Member[]) => void;
}) {
  const { showId, you, people } = useParts(useScreen, 'showId', 'you', 'people');
  const send = useSend();
  const where = useWhereabouts();
  const [more, setMore] = useState(false);
  const here = people.find((p) => p.userId === m.userId);
  const put: PutMember = async (set) => {
    const r = await send<{ members: Member[] }>(`/api/shows/${showId}/members`, 'PUT', {
      email: m.email,
      role: m.role,
      ...set,
    });
    if (r) onChanged(r.members);
  };
  return (
    <li className="border-b border-raised py-1.5">
      <div className="flex min-h-9 items-center gap-3">
        <i
          title={here ? 'here' : 'not here'}
          className={`size-2 flex-none rounded-full ${here ? 'bg-standby' : 'border border-edge'}`}
        />
        <div className="min-w-0 flex-1">
          <div className="truncate font-medium">
            {m.name} {m.userId === you.userId && <span className="text-muted">(you)</span>}
          </div>
          <div className="truncate text-[12px] text-muted" title={here ? where(here) : m.email}>
            {here ? where(here) : m.email}
            {m.until && <span className="text-warning"> · until {fullDay(m.until)}</span>}
          </div>
        </div>
        {owner ? (
          <>
            <select
              aria-label={`Role of ${m.name}`}
              value={m.role}
              onChange={(e) => void put(rolePut(e.target.value as Role))}
              className="h-8 rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)]"
            >
              {ROLES.map((r) => (
                <option key={r}>{r}</option>
              ))}
            </select>
            <Button kind="quiet" aria-expanded={more} onClick={() => setMore(!more)}>
              More
            </Button>
          </>
        ) : (
          <span className="text-soft">{m.role}</span>
        )}
      </div>
      {more && <MemberMore m={m} put={put} />}
    </li>
  );
}

/** Until when somebody is in the show, which sheets a volunteer has, and the way out. */
function MemberMore({ m, put }: { m: Member; put: PutMember }) {
  const [removing, setRemoving] = useState(false);
  const until = m.until === null ? '' : dayField(m.until);
  const { field } = useWriting('In the show until', until, (text) =>
    put({ until: lastMoment(text) }),
  );
  return (
    <div className="mt-1 mb-2 ml-5 flex flex-wrap items-end gap-x-4 gap-y-2 rounded-md bg-panel p-3">
      <Field
        label="In the show until"
        type="date"
        className="w-40"
        disabled={m.role === 'owner' && m.until === null}
        {...field}
      />
      {m.role === 'volunteer' && <SheetsOf m={m} put={put} />}
      <Button kind="danger" onClick={() => setRemoving(true)} className="ml-auto">
        Remove from the show
      </Button>
      <Ask
        open={removing}
        onClose={() => setRemoving(false)}
        title={`Remove ${m.name}?`}
        act="Remove"
        keep="Keep them"
        onAct={() => void put({ role: null })}
      >
        Their open screens are shown out at once. What they made stays, with their name on it.
      </Ask>
    </div>
  );
}

function SheetsOf({ m, put }: { m: Member; put: PutMember }) {
  const sheets = [...useShow().sheets.values()].sort((a, b) => a.number - b.number);
  return (
    <div>
      <p className="text-[12px] text-muted">Sheets</p>
      {sheets.length === 0 && <p className="text-warning">Make a sheet first, in Sheets.</p>}
      {sheets.map((p) => (
        <Check
          key={p.id}
          label={`Sheet ${p.name} for ${m.name}`}
          checked={m.pages.includes(p.id)}
          onChange={(on) =>
            void put({ pages: on ? [...m.pages, p.id] : m.pages.filter((x) => x !== p.id) })
          }
        >
          {p.name}
        </Check>
      ))}
    </div>
  );
}

function AddByAddress({ onChanged }: { onChanged: (list: Member[]) => void }) {
  const showId = useScreen((s) => s.showId);
  const send = useSend();
  const [email, setEmail] = useState('');
  const [role, setRole] = useState<Role>('programmer');
  return (
    <form
      className="mt-4 grid grid-cols-[1fr_120px_auto] items-start gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void send<{ members: Member[] }>(`/api/shows/${showId}/members`, 'PUT', {
          email: email.trim(),
          role,
        }).then((r) => {
          if (!r) return;
          onChanged(r.members);
          setEmail('');
        });
      }}
    >
      <Field
        label="Or add somebody who has an account here"
        type="email"
        value={email}
        onChange={(e) => setEmail(e.target.value)}
      />
      <Choice
        label="Role"
        value={role}
        onChange={(e) => setRole(e.target.value as Role)}
        options={ROLE_OPTIONS}
      />
      <Button kind="strong" type="submit" disabled={email.trim() === ''} className="mt-5">
        Add
      </Button>
    </form>
  );
}

function Parts({ members }: { members: readonly Member[] }) {
  const show = useShow();
  const you = useScreen((s) => s.you);
  const [editing, setEditing] = useState<string | null>(null);
  const [taking, setTaking] = useState<PartRow | null>(null);
  const parts = [...show.parts.values()].sort((a, b) => a.name.localeCompare(b.name));
  const may = mayEdit(you.role);
  return (
    <div>
      <div className="flex items-center gap-3">
        <h2 className={HEAD}>Parts given to somebody</h2>
        {may && <Button onClick={() => setEditing('new')}>Give a part …</Button>}
      </div>
      {parts.length === 0 && (
        <p className="mt-1 text-[12.5px] text-muted">
          Everybody programs everything. Give fixtures or lists to one person, and the others look,
          or ask.
        </p>
      )}
      <ul className="mt-1">
        {parts.map((p) => (
          <li key={p.id} className="flex min-h-9 items-center gap-3 border-b border-raised">
            <span className="min-w-0 flex-1 truncate">
              <span className="font-medium">{p.name}</span>{' '}
              <span className="text-muted">
                {[
                  p.fixtures.length > 0 ? plural(p.fixtures.length, 'fixture') : '',
                  ...p.lists.map((l) => show.lists.get(l)?.name ?? ''),
                ]
                  .filter(Boolean)
                  .join(', ')}
              </span>
            </span>
            <span className={p.userId === you.userId ? 'text-standby' : 'text-soft'}>
              {p.userId === you.userId ? 'yours' : p.userName}
            </span>
            {p.userId !== you.userId && may && (
              <Button onClick={() => void said({ command: 'ask', part: p.id })}>Ask for it</Button>
            )}
            {(p.userId === you.userId || you.role === 'owner') && (
              <>
                <Button kind="quiet" onClick={() => setEditing(p.id)}>
                  Change
                </Button>
                <Button
                  kind="quiet"
                  onClick={() =>
                    p.userId === you.userId ? void edit('delete-part', { id: p.id }) : setTaking(p)
                  }
                >
                  {p.userId === you.userId ? 'Give back' : 'Take it back'}
                </Button>
              </>
            )}
          </li>
        ))}
      </ul>
      <Ask
        open={taking !== null}
        onClose={() => setTaking(null)}
        title={`Take “${taking?.name ?? ''}” from ${taking?.userName ?? ''}?`}
        act="Take it back"
        keep="Leave it"
        onAct={() => void edit('delete-part', { id: taking?.id })}
      >
        {taking?.userName} programs it, and is told. It is everybody’s again. To have it yourself,
        ask for it.
      </Ask>
      {editing !== null && (
        <PartDialog
          part={editing === 'new' ? undefined : show.parts.get(editing)}
          members={members}
          onClose={() => setEditing(null)}
        />
      )}
    </div>
  );
}

/** Sheets as links for tablets and phones, and the pages that every show has. */
function Pages() {
  const show = useShow();
  const showId = useScreen((s) => s.showId);
  const { remotes } = usePlayback('remotes');
  const sheets = [...show.sheets.values()].sort((a, b) => a.number - b.number);
  return (
    <div className="mt-6">
      <h2 className={HEAD}>Pages for other hands</h2>
      <ul className="mt-1">
        {sheets.map((s) => (
          <LinkRow
            key={s.id}
            link={{
              name: s.name,
              about: s.about ?? 'a sheet',
              path: `/shows/${showId}/page#${s.id}`,
            }}
          />
        ))}
        {standingPages(showId, [...show.departments.values()]).map((l) => (
          <LinkRow key={l.path} link={l} />
        ))}
      </ul>
      <p className={`mt-2 text-[12.5px] ${remotes ? 'text-warning' : 'text-muted'}`}>
        {remotes
          ? 'Remotes are on: sheets on other devices and phones may change what is on stage.'
          : 'Remotes are off: sheets on other devices and focusing show, and change nothing. They are switched on in Run, or by a cue.'}
      </p>
    </div>
  );
}

function Settings() {
  const show = useShow();
  const you = useScreen((s) => s.you);
  const settings = show.settings.get('show');
  // What is not typed here follows what others make of it.
  const [typed, setTyped] = useState<{ name?: string; venue?: string; note?: string }>({});
  if (!mayEdit(you.role) || !settings) return null;
  return (
    <form
      className="mt-6 border-t border-line pt-4"
      onSubmit={(e) => {
        e.preventDefault();
        void edit('change-show', { set: typed }).then((a) => 'seq' in a && setTyped({}));
      }}
    >
      <h2 className={`mb-2 ${HEAD}`}>The show</h2>
      <div className="grid grid-cols-2 gap-2">
        <Field
          label="Name"
          value={typed.name ?? settings.name}
          maxLength={120}
          onChange={(e) => setTyped({ ...typed, name: e.target.value })}
        />
        <Field
          label="Where, which rehearsal"
          value={typed.venue ?? settings.venue}
          maxLength={120}
          onChange={(e) => setTyped({ ...typed, venue: e.target.value })}
        />
      </div>
      <label className="mt-2 block text-[12px] text-muted">
        A note about the show
        <textarea
          rows={2}
          value={typed.note ?? settings.note}
          maxLength={LIMITS.noteLength}
          onChange={(e) => setTyped({ ...typed, note: e.target.value })}
          className="mt-1 block w-full rounded-md bg-ink p-2 text-[13px] text-text inset-ring inset-ring-edge"
        />
      </label>
      <Button type="submit" className="mt-3" disabled={Object.keys(typed).length === 0}>
        Keep
      </Button>
    </form>
  );
}
