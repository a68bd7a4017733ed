'use client';
import { useState } from 'react';
import { Button, Field } from '../parts/controls';
import { Mark } from '../frame/TopBar';
import { api, ApiError } from '../state/api';

const DEMO: [string, string][] = [
  ['owner', 'everything'],
  ['programmer', 'patches, records, plays'],
  ['operator', 'plays'],
  ['viewer', 'looks, leaves notes'],
  ['volunteer', 'a sheet, on Sundays'],
];

/** What is said to a status of the answer. */
const WRONG = 'This address and password do not belong together.';
const PROBLEMS: Readonly<Record<number, string>> = {
  400: WRONG,
  401: WRONG,
  429: 'Too many tries. Wait a minute.',
};

/** Signing in. */
export function SignIn({ offersDemo }: { offersDemo: boolean }) {
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const signIn = async (address: string, secret: string): Promise<void> => {
    setBusy(true);
    setProblem(undefined);
    try {
      await api('/api/auth/sign-in/email', {
        method: 'POST',
        body: JSON.stringify({ email: address, password: secret }),
      });
      window.location.assign('/');
    } catch (error) {
      const status = error instanceof ApiError ? error.status : 0;
      setProblem(PROBLEMS[status] ?? (error as Error).message);
      setBusy(false);
    }
  };
  return (
    <main className="mx-auto max-w-[380px] px-6 py-20">
      <header className="mb-8 flex items-center gap-3 text-[18px] font-semibold">
        <Mark />
        Wingman
      </header>
      <h1 className="text-[15px] font-semibold">Sign in</h1>
      <form
        className="mt-3 space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          void signIn(email, password);
        }}
      >
        <Field
          label="E-mail"
          type="email"
          name="email"
          autoComplete="username"
          value={email}
          onChange={(e) => setEmail(e.target.value)}
        />
        <Field
          label="Password"
          type="password"
          name="password"
          autoComplete="current-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          problem={problem}
        />
        <Button
          kind="strong"
          type="submit"
          className="w-full"
          disabled={busy || email === '' || password === ''}
        >
          Sign in
        </Button>
      </form>
      {offersDemo && (
        <section className="mt-10 border-t border-line pt-5">
          <h2 className="text-soft">This is the demo at Tidewater Hall. Come in as</h2>
          <ul className="mt-2">
            {DEMO.map(([who, does]) => (
              <li key={who}>
                <button
                  type="button"
                  data-demo={who}
                  disabled={busy}
                  onClick={() => void signIn(`${who}@tidewater.example`, 'tidewater')}
                  className="-mx-2 flex h-9 w-[calc(100%+16px)] items-center justify-between rounded-md px-2 hover:bg-panel"
                >
                  <span className="font-medium">{who}</span>
                  <span className="text-muted">{does}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  );
}
