/** What an invitation offers: accepted as who one is, or with a new account. */
'use client';
import { useState } from 'react';
import type { Role } from '@/core/edits/edit';
import { Mark } from '../frame/TopBar';
import { Button, Field } from '../parts/controls';
import { api, ApiError } from '../state/api';

export function InvitationPage({ token, you, offer, problem }: { token: string; you: string | null; offer: { show: string; role: Role; until: string | null } | null; problem: string | null }) {
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState<ApiError>();
  const [busy, setBusy] = useState(false);
  const accept = async (withAccount: boolean): Promise<void> => {
    setBusy(true);
    setWrong(undefined);
    try {
      const done = await api<{ showId: string; role: Role }>(`/api/invitations/${token}`, { method: 'POST', body: JSON.stringify(withAccount ? { account: { name, email, password } } : {}) });
      if (withAccount) await api('/api/auth/sign-in/email', { method: 'POST', body: JSON.stringify({ email, password }) });
      window.location.assign(`/shows/${done.showId}/${done.role === 'volunteer' ? 'page' : 'stage'}`);
    } catch (error) {
      setWrong(error instanceof ApiError ? error : new ApiError(0, 'unknown', String(error)));
      setBusy(false);
    }
  };
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
          <h1 className="text-[22px] font-semibold leading-7">You are invited to “{offer.show}”</h1>
          <p className="mt-2 text-soft">
            As {offer.role}
            {offer.until ? `, until ${new Date(offer.until).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })}` : ''}.
          </p>
          {you !== null ? (
            <div className="mt-6">
              <Button kind="strong" className="!h-10 w-full" disabled={busy} onClick={() => void accept(false)}>
                Come in as {you}
              </Button>
              <p className="mt-3 text-[12.5px] text-muted">Not {you}? Sign out first, then open the link again.</p>
            </div>
          ) : (
            <form
              className="mt-6 space-y-3"
              onSubmit={(e) => {
                e.preventDefault();
                void accept(true);
              }}
            >
              <Field label="Your name" value={name} autoComplete="name" maxLength={120} onChange={(e) => setName(e.target.value)} problem={wrong?.fields['account.name']} />
              <Field label="E-mail" type="email" value={email} autoComplete="username" onChange={(e) => setEmail(e.target.value)} problem={wrong?.fields['account.email'] ?? wrong?.fields.email} />
              <Field label="A password, at least 8 characters" type="password" value={password} autoComplete="new-password" onChange={(e) => setPassword(e.target.value)} problem={wrong?.fields['account.password']} />
              <Button kind="strong" type="submit" className="!h-10 w-full" disabled={busy || name.trim() === '' || email === '' || password === ''}>
                Come in
              </Button>
              <p className="text-[12.5px] text-muted">
                You have an account here?{' '}
                <a href="/sign-in" className="text-standby hover:underline">
                  Sign in
                </a>
                , then open the link again.
              </p>
            </form>
          )}
          {wrong && (
            <p role="alert" className="mt-3 text-danger">
              {wrong.message}
            </p>
          )}
        </>
      )}
    </main>
  );
}
