/** What an invitation offers: accepted as who one is, with the account that one has, or with a new one. */
'use client';
import { longDay } from '@/core/dates';
import { useState } from 'react';
import type { Role } from '@/core/roles';
import { Mark } from '../frame/TopBar';
import { Button, Field, Tabs } from '../parts/controls';
import { api, ApiError } from '../state/api';

type Way = 'new' | 'known';
const WAYS: { value: Way; label: string }[] = [
  { value: 'new', label: 'I am new here' },
  { value: 'known', label: 'I have an account' },
];

export function InvitationPage({
  token,
  you,
  offer,
  problem,
}: {
  token: string;
  you: string | null;
  offer: { show: string; role: Role; until: string | null } | null;
  problem: string | null;
}) {
  const [way, setWay] = useState<Way>('new');
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState<ApiError>();
  const [busy, setBusy] = useState(false);
  const signIn = (): Promise<unknown> =>
    api('/api/auth/sign-in/email', { method: 'POST', body: JSON.stringify({ email, password }) });
  /** @param as who one is; with a new account; or first signed in with the one that there is */
  const accept = async (as: 'you' | Way): Promise<void> => {
    setBusy(true);
    setWrong(undefined);
    try {
      if (as === 'known') {
        await signIn().catch((error: unknown) => {
          const { status = 0 } = error as { status?: number };
          throw status === 401 || status === 400
            ? new ApiError(
                status,
                'unauthorized',
                'This address and password do not belong together.',
              )
            : error;
        });
      }
      const done = await api<{ showId: string; role: Role }>(`/api/invitations/${token}`, {
        method: 'POST',
        body: JSON.stringify(as === 'new' ? { account: { name, email, password } } : {}),
      });
      if (as === 'new') await signIn();
      window.location.assign(
        `/shows/${done.showId}/${done.role === 'volunteer' ? 'page' : 'stage'}`,
      );
    } catch (error) {
      setWrong(error instanceof ApiError ? error : new ApiError(0, 'unknown', String(error)));
      setBusy(false);
    }
  };
  const leave = (): void =>
    void api('/api/auth/sign-out', { method: 'POST', body: '{}' }).finally(() =>
      window.location.reload(),
    );
  const known = way === 'known';
  return (
    <main className="mx-auto max-w-[400px] px-6 py-20">
      <header className="mb-8 flex items-center gap-3 text-[18px] font-semibold">
        <Mark />
        Wingman
      </header>
      {!offer && (
        <>
          <h1 className="text-[20px] font-semibold">This link does not open</h1>
          <p className="mt-2 text-soft">{problem}</p>
          <a href="/" className="mt-6 inline-block text-standby hover:underline">
            To your shows
          </a>
        </>
      )}
      {offer && (
        <>
          <h1 className="text-[22px] leading-7 font-semibold">You are invited to “{offer.show}”</h1>
          <p className="mt-2 text-soft">
            As {offer.role}
            {offer.until ? `, until ${longDay(offer.until)}` : ''}.
          </p>
          {you !== null ? (
            <div className="mt-6">
              <Button
                kind="strong"
                className="!h-11 w-full"
                disabled={busy}
                onClick={() => void accept('you')}
              >
                Come in as {you}
              </Button>
              <Button kind="quiet" className="mt-2 !h-11 w-full" disabled={busy} onClick={leave}>
                Not {you}: sign out, and go on here
              </Button>
            </div>
          ) : (
            <>
              <div className="mt-6">
                <Tabs
                  label="Who you are here"
                  value={way}
                  options={WAYS}
                  onChange={(w) => (setWay(w), setWrong(undefined))}
                />
              </div>
              <form
                className="mt-4 space-y-3"
                onSubmit={(e) => {
                  e.preventDefault();
                  void accept(way);
                }}
              >
                {!known && (
                  <Field
                    label="Your name"
                    value={name}
                    autoComplete="name"
                    maxLength={120}
                    onChange={(e) => setName(e.target.value)}
                    problem={wrong?.fields['account.name']}
                  />
                )}
                <Field
                  label="E-mail"
                  type="email"
                  value={email}
                  autoComplete="username"
                  onChange={(e) => setEmail(e.target.value)}
                  problem={wrong?.fields['account.email'] ?? wrong?.fields.email}
                />
                <Field
                  label={known ? 'Your password' : 'A password, at least 8 characters'}
                  type="password"
                  value={password}
                  autoComplete={known ? 'current-password' : 'new-password'}
                  onChange={(e) => setPassword(e.target.value)}
                  problem={wrong?.fields['account.password']}
                />
                <Button
                  kind="strong"
                  type="submit"
                  className="!h-11 w-full"
                  disabled={
                    busy || (!known && name.trim() === '') || email === '' || password === ''
                  }
                >
                  {known ? 'Sign in, and come in' : 'Come in'}
                </Button>
              </form>
            </>
          )}
          {wrong && (
            <p role="alert" className="mt-3 text-danger">
              {wrong.message}
            </p>
          )}
          {wrong?.code === 'conflict' && (
            <a href="/" className="mt-2 inline-block text-standby hover:underline">
              To your shows
            </a>
          )}
        </>
      )}
    </main>
  );
}
