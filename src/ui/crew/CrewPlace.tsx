/** Who is in this show, in which role, and what everybody has changed. */
'use client';
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { ROLES, type Role } from '@/core/edits/edit';
import { Button, Choice, Field } from '../parts/controls';
import { edit } from '../state/actions';
import { api } from '../state/api';
import { mayEdit, useScreen, useShow } from '../state/store';

interface Member {
  userId: string;
  name: string;
  email: string;
  role: Role;
}
interface Head {
  seq: number;
  userId: string;
  userName: string;
  at: string;
  edit: string;
  summary: string;
}

const MEANS: Record<Role, string> = { owner: 'decides who is in the show, and everything below', programmer: 'patches, records, plays', operator: 'plays and sets levels, changes no cue', viewer: 'looks' };

export function CrewPlace() {
  const show = useShow();
  const { showId, you, people, seq } = useScreen();
  const [members, setMembers] = useState<Member[]>([]);
  const [history, setHistory] = useState<Head[]>([]);
  const [email, setEmail] = useState('');
  const [role, setRole] = useState<Role>('programmer');
  const [problem, setProblem] = useState<string>();
  const owner = you.role === 'owner';
  const settings = show.settings.get('show');

  useEffect(() => {
    api<{ members: Member[] }>(`/api/shows/${showId}/members`).then((r) => setMembers(r.members), () => undefined);
  }, [showId, people]);
  useEffect(() => {
    api<{ changes: Head[] }>(`/api/shows/${showId}/changes?last=200`).then((r) => setHistory(r.changes), () => undefined);
  }, [showId, seq]);

  const put = useCallback(
    async (address: string, to: Role | null): Promise<boolean> => {
      try {
        setMembers((await api<{ members: Member[] }>(`/api/shows/${showId}/members`, { method: 'PUT', body: JSON.stringify({ email: address, role: to }) })).members);
        setProblem(undefined);
        return true;
      } catch (error) {
        setProblem((error as Error).message);
        toast.error((error as Error).message);
        return false;
      }
    },
    [showId],
  );

  return (
    <div className="grid h-full grid-cols-[minmax(340px,1fr)_1.3fr]">
      <section aria-label="People" className="overflow-y-auto border-r border-line px-5 py-4">
        <h2 className="text-[15px] font-semibold">People</h2>
        <ul className="mt-2">
          {members.map((m) => {
            const here = people.find((p) => p.userId === m.userId);
            return (
              <li key={m.userId} className="flex h-12 items-center gap-3 border-b border-[#1b2723]">
                <i title={here ? 'here' : 'not here'} className={`size-2 rounded-full ${here ? 'bg-standby' : 'border border-edge'}`} />
                <div className="min-w-0 flex-1">
                  <div className="truncate font-medium">
                    {m.name} {m.userId === you.userId && <span className="text-muted">(you)</span>}
                  </div>
                  <div className="truncate text-[12px] text-muted">{here ? `in ${here.place || 'the show'}${here.screens > 1 ? `, ${here.screens} screens` : ''}` : m.email}</div>
                </div>
                {owner ? (
                  <>
                    <select aria-label={`Role of ${m.name}`} value={m.role} onChange={(e) => void put(m.email, e.target.value as Role)} className="h-8 rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)]">
                      {ROLES.map((r) => (
                        <option key={r}>{r}</option>
                      ))}
                    </select>
                    <Button kind="quiet" onClick={() => void put(m.email, null)}>
                      Remove
                    </Button>
                  </>
                ) : (
                  <span className="text-soft">{m.role}</span>
                )}
              </li>
            );
          })}
        </ul>
        {owner && (
          <form
            className="mt-4 grid grid-cols-[1fr_120px_auto] items-start gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              void put(email.trim(), role).then((done) => done && setEmail(''));
            }}
          >
            <Field label="Add somebody by their address" type="email" value={email} onChange={(e) => setEmail(e.target.value)} problem={problem} />
            <Choice label="Role" value={role} onChange={(e) => setRole(e.target.value as Role)} options={ROLES.map((r) => ({ value: r, label: r }))} />
            <Button kind="strong" type="submit" disabled={email.trim() === ''} className="mt-5">
              Add
            </Button>
          </form>
        )}
        <dl className="mt-5 text-[12.5px]">
          {ROLES.map((r) => (
            <div key={r} className="flex gap-2 py-0.5">
              <dt className="w-24 text-soft">{r}</dt>
              <dd className="text-muted">{MEANS[r]}</dd>
            </div>
          ))}
        </dl>
        {mayEdit(you.role) && settings && (
          <form
            key={`${settings.name}/${settings.venue}`}
            className="mt-6 border-t border-line pt-4"
            onSubmit={(e) => {
              e.preventDefault();
              const data = new FormData(e.currentTarget);
              void edit('change-show', { set: { name: String(data.get('name')), venue: String(data.get('venue')) } });
            }}
          >
            <h2 className="mb-2 text-[15px] font-semibold">The show</h2>
            <div className="grid grid-cols-2 gap-2">
              <Field label="Name" name="name" defaultValue={settings.name} maxLength={120} />
              <Field label="Where, which rehearsal" name="venue" defaultValue={settings.venue} maxLength={120} />
            </div>
            <Button type="submit" className="mt-3">
              Keep
            </Button>
          </form>
        )}
      </section>
      <section aria-label="History" className="flex min-h-0 flex-col px-5 py-4">
        <h2 className="text-[15px] font-semibold">
          History <span className="ml-1 text-[12px] font-normal text-muted">newest first; undo takes back your own newest</span>
        </h2>
        <ol className="mt-2 min-h-0 flex-1 overflow-y-auto">
          {history.length === 0 && <li className="text-muted">Nothing has been changed since the show was made.</li>}
          {history.map((h) => (
            <li key={h.seq} className="grid grid-cols-[64px_120px_1fr] items-baseline gap-2 border-b border-[#1b2723] py-1.5">
              <time className="num text-[12px] text-muted" dateTime={h.at} title={h.at}>
                {new Date(h.at).toLocaleTimeString('en-GB')}
              </time>
              <span className={`truncate ${h.userId === you.userId ? 'text-standby' : 'text-soft'}`}>{h.userName}</span>
              <span>{h.summary}</span>
            </li>
          ))}
        </ol>
      </section>
    </div>
  );
}
