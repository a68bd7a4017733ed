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

interface Account {
  name: string;
  email: string;
  password: string;
}
interface Offer {
  show: string;
  role: Role;
  until: string | null;
}

const signIn = ({ email, password }: Account): Promise<unknown> =>
  api('/api/auth/sign-in/email', { method: 'POST', body: JSON.stringify({ email, password }) });

/** Signs in with the account that there is. @throws ApiError with words about address and password */
async function signInKnown(account: Account): Promise<void> {
  try {
    await signIn(account);
  } catch (error) {
    const { status = 0 } = error as { status?: number };
    if (status !== 401 && status !== 400) throw error;
    throw new ApiError(status, 'unauthorized', 'This address and password do not belong together.');
  }
}

/**
 * Takes the invitation up and goes into the show. @param as who one is; with a new account; or first signed in with the
 * one that there is @throws ApiError
 */
async function comeIn(token: string, as: 'you' | Way, account: Account): Promise<void> {
  if (as === 'known') await signInKnown(account);
  const done = await api<{ showId: string; role: Role }>(`/api/invitations/${token}`, {
    method: 'POST',
    body: JSON.stringify(as === 'new' ? { account } : {}),
  });
  if (as === 'new') await signIn(account);
  window.location.assign(`/shows/${done.showId}/${done.role === 'volunteer' ? 'page' : 'stage'}`);
}

const toShows = (className: string) => (
  <a href="/" className={`inline-block text-standby hover:underline ${className}`}>
    To your shows
  </a>
);

/** What an invitation opens. */
export function InvitationPage({
  token,
  you,
  offer,
  problem,
}: {
  token: string;
  you: string | null;
  offer: Offer | null;
  problem: string | null;
}) {
  return (
    <main className="mx-auto max-w-[400px] px-6 py-20">
      <header className="mb-8 flex items-center gap-3 text-[18px] font-semibold">
        <Mark />
        Wingman
      </header>
      {offer ? (
        <Offered token={token} you={you} offer={offer} />
      ) : (
        <>
          <h1 className="text-[20px] font-semibold">This link does not open</h1>
          <p className="mt-2 text-soft">{problem}</p>
          {toShows('mt-6')}
        </>
      )}
    </main>
  );
}

function Offered({ token, you, offer }: { token: string; you: string | null; offer: Offer }) {
  const [wrong, setWrong] = useState<ApiError>();
  const [busy, setBusy] = useState(false);
  const accept = async (as: 'you' | Way, account: Account): Promise<void> => {
    setBusy(true);
    setWrong(undefined);
    try {
      await comeIn(token, as, account);
    } catch (error) {
      setWrong(error instanceof ApiError ? error : new ApiError(0, 'unknown', String(error)));
      setBusy(false);
    }
  };
  return (
    <>
      <h1 className="text-[22px] leading-7 font-semibold">You are invited to “{offer.show}”</h1>
      <p className="mt-2 text-soft">
        As {offer.role}
        {offer.until ? `, until ${longDay(offer.until)}` : ''}.
      </p>
      {you !== null ? (
        <AsYou you={you} busy={busy} onAccept={() => void accept('you', NOBODY)} />
      ) : (
        <WithAccount
          busy={busy}
          wrong={wrong}
          onWay={() => setWrong(undefined)}
          onAccept={(way, account) => void accept(way, account)}
        />
      )}
      {wrong && (
        <p role="alert" className="mt-3 text-danger">
          {wrong.message}
        </p>
      )}
      {wrong?.code === 'conflict' && toShows('mt-2')}
    </>
  );
}
const NOBODY: Account = { name: '', email: '', password: '' };

function AsYou({ you, busy, onAccept }: { you: string; busy: boolean; onAccept: () => void }) {
  const leave = (): void =>
    void api('/api/auth/sign-out', { method: 'POST', body: '{}' }).finally(() =>
      window.location.reload(),
    );
  return (
    <div className="mt-6">
      <Button kind="strong" className="!h-11 w-full" disabled={busy} onClick={onAccept}>
        Come in as {you}
      </Button>
      <Button kind="quiet" className="mt-2 !h-11 w-full" disabled={busy} onClick={leave}>
        Not {you}: sign out, and go on here
      </Button>
    </div>
  );
}

function WithAccount({
  busy,
  wrong,
  onWay,
  onAccept,
}: {
  busy: boolean;
  wrong: ApiError | undefined;
  onWay: () => void;
  onAccept: (way: Way, account: Account) => void;
}) {
  const [way, setWay] = useState<Way>('new');
  const [account, setAccount] = useState<Account>(NOBODY);
  const known = way === 'known';
  const { name, email, password } = account;
  const typed = (key: keyof Account) => ({
    value: account[key],
    onChange: (e: React.ChangeEvent<HTMLInputElement>) =>
      setAccount({ ...account, [key]: e.target.value }),
  });
  return (
    <>
      <div className="mt-6">
        <Tabs
          label="Who you are here"
          value={way}
          options={WAYS}
          onChange={(w) => (setWay(w), onWay())}
        />
      </div>
      <form
        className="mt-4 space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          onAccept(way, account);
        }}
      >
        {!known && (
          <Field
            label="Your name"
            autoComplete="name"
            maxLength={120}
            {...typed('name')}
            problem={wrong?.fields['account.name']}
          />
        )}
        <Field
          label="E-mail"
          type="email"
          autoComplete="username"
          {...typed('email')}
          problem={wrong?.fields['account.email'] ?? wrong?.fields.email}
        />
        <Field
          label={known ? 'Your password' : 'A password, at least 8 characters'}
          type="password"
          autoComplete={known ? 'current-password' : 'new-password'}
          {...typed('password')}
          problem={wrong?.fields['account.password']}
        />
        <Button
          kind="strong"
          type="submit"
          className="!h-11 w-full"
          disabled={busy || (!known && name.trim() === '') || email === '' || password === ''}
        >
          {known ? 'Sign in, and come in' : 'Come in'}
        </Button>
      </form>
    </>
  );
}
