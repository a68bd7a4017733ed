'use client';
import { useState } from 'react';
import { plural } from '@/core/words';
import { HOUSE_RIGHTS, type HouseRight } from '@/core/rights';
import { Choice } from '../parts/controls';
import { Mark } from '../frame/TopBar';
import { api } from '../state/api';

interface Account {
  userId: string;
  name: string;
  email: string;
  may: HouseRight;
  shows: number;
}

const SAYS: Record<HouseRight, string> = {
  owner: 'owner of the house',
  maker: 'may make shows',
  guest: 'what they are invited to',
};
const MEANS: Record<HouseRight, string> = {
  owner: 'Makes shows, puts any show that they play on air over another, and decides on this page.',
  maker: 'Makes shows, opens show files and copies shows.',
  guest:
    'Is in the shows that they were invited to, and makes none. Whoever plays a show may put it on air where they play what is on air now, and nobody else is on its board.',
};

/** Accounts of the house and what each may do in it. What they may do in a show, the show's owner decides there. */
export function HousePage({ you, accounts: given }: { you: string; accounts: Account[] }) {
  const [accounts, setAccounts] = useState(given);
  const [problem, setProblem] = useState<string>();
  const put = (userId: string, may: HouseRight): void => {
    setProblem(undefined);
    api<{ accounts: Account[] }>('/api/house/people', {
      method: 'PUT',
      body: JSON.stringify({ userId, may }),
    }).then(
      (done) => setAccounts(done.accounts),
      (error: unknown) => setProblem((error as Error).message),
    );
  };
  return (
    <main className="mx-auto max-w-[720px] px-6 py-14">
      <header className="mb-10 flex items-center gap-3 text-soft">
        <Mark />
        <span className="text-[16px] font-semibold">Wingman</span>
        <a href="/" className="ml-auto rounded-md px-2 py-1 hover:bg-raised">
          Shows
        </a>
      </header>
      <h1 className="text-[22px] font-semibold">The house</h1>
      <p className="mt-1 text-muted">
        Who has an account here, and what it may do. Accounts are made by accepting an invitation to
        a show.
      </p>
      {problem && (
        <p role="alert" className="mt-3 text-danger">
          {problem}
        </p>
      )}
      <ul className="mt-5">
        {accounts.map((a) => (
          <li
            key={a.userId}
            className="flex min-h-14 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-2"
          >
            <span className="min-w-0 flex-1 basis-56">
              <span className="block truncate font-medium">
                {a.name} {a.userId === you && <span className="font-normal text-muted">(you)</span>}
              </span>
              <span className="block truncate text-muted">
                {a.email} · in {plural(a.shows, 'show')}
              </span>
            </span>
            <Choice
              label={`What ${a.name} (${a.email}) may do here`}
              className="w-56 [&>label]:sr-only"
              value={a.may}
              onChange={(e) => put(a.userId, e.target.value as HouseRight)}
              options={HOUSE_RIGHTS.map((r) => ({ value: r, label: SAYS[r] }))}
            />
          </li>
        ))}
      </ul>
      <dl className="mt-6 space-y-2 text-[13px]">
        {HOUSE_RIGHTS.map((r) => (
          <div key={r} className="flex gap-3">
            <dt className="w-48 flex-none text-soft">{SAYS[r]}</dt>
            <dd className="text-muted">{MEANS[r]}</dd>
          </div>
        ))}
      </dl>
    </main>
  );
}
