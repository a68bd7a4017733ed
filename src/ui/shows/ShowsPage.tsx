'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Field } from '../parts/controls';
import { Mark } from '../frame/TopBar';
import { api, ApiError } from '../state/api';

export interface ShowCard {
  id: string;
  name: string;
  venue: string;
  role: string;
  seq: number;
  changedAt: string;
  onAir: boolean;
}

export function ShowsPage({ shows, you }: { shows: ShowCard[]; you: string }) {
  const router = useRouter();
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const make = async (): Promise<void> => {
    setBusy(true);
    try {
      const { id } = await api<{ id: string }>('/api/shows', { method: 'POST', body: JSON.stringify({ name }) });
      router.push(`/shows/${id}/rig`);
    } catch (error) {
      setProblem(error instanceof ApiError ? (error.fields.name ?? error.message) : String(error));
      setBusy(false);
    }
  };
  return (
    <main className="mx-auto max-w-[720px] px-6 py-14">
      <header className="mb-10 flex items-center gap-3 text-soft">
        <Mark />
        <span className="text-[16px] font-semibold">Wingman</span>
        <span className="ml-auto text-muted">{you}</span>
        <Button
          kind="quiet"
          onClick={() => {
            void api('/api/auth/sign-out', { method: 'POST', body: '{}' }).finally(() => window.location.assign('/sign-in'));
          }}
        >
          Sign out
        </Button>
      </header>
      <h1 className="text-[22px] font-semibold">Shows</h1>
      <ul className="mt-3">
        {shows.length === 0 && <li className="py-3 text-muted">You are in no show yet. Make one below, or ask an owner to add you.</li>}
        {shows.map((s) => (
          <li key={s.id}>
            <a href={`/shows/${s.id}/stage`} className="-mx-3 flex items-center gap-4 rounded-lg px-3 py-3 hover:bg-panel">
              <span className="min-w-0 flex-1">
                <span className="block truncate text-[16px] font-semibold">{s.name}</span>
                <span className="block truncate text-muted">{s.venue || 'no venue'}</span>
              </span>
              {s.onAir && (
                <span className="flex items-center gap-2 text-[12px] text-lime">
                  <i className="size-2 rounded-full bg-lime" /> on air
                </span>
              )}
              <span className="w-24 text-right text-soft">{s.role}</span>
              <time suppressHydrationWarning className="num w-32 text-right text-[12px] text-muted" dateTime={s.changedAt}>
                {new Date(s.changedAt).toLocaleString('en-GB', { dateStyle: 'short', timeStyle: 'short' })}
              </time>
            </a>
          </li>
        ))}
      </ul>
      <form
        className="mt-8 flex items-start gap-2 border-t border-line pt-6"
        onSubmit={(e) => {
          e.preventDefault();
          void make();
        }}
      >
        <Field className="flex-1" label="Make a new show" placeholder="Its name" value={name} onChange={(e) => setName(e.target.value)} problem={problem} />
        <Button kind="strong" type="submit" disabled={busy || name.trim() === ''} className="mt-5">
          Make show
        </Button>
      </form>
    </main>
  );
}
