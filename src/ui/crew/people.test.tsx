/**
 * Who is in a show, and who is invited: what is asked of the house.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import type { Member } from '@/core/live/answers';
import { apply, exampleShow } from '@/core/testing/example';
import type { MutableShow } from '@/core/show/show';
import { edit } from '../state/edits';
import { useScreen } from '../state/store';
import { PeoplePane } from './PeoplePane';

jest.mock('next/navigation', () => ({ useRouter: () => ({}), usePathname: () => '' }));

jest.mock('../state/edits', () => ({
  ...jest.requireActual<object>('../state/edits'),
  edit: jest.fn(() => Promise.resolve({ seq: 1 })),
}));
const written = edit as unknown as jest.Mock;
let show: MutableShow;

interface Asked {
  path: string;
  method: string;
  body: Record<string, unknown> | undefined;
}
let asked: Asked[] = [];
const members: Member[] = [
  {
    userId: 'tam',
    name: 'Tam',
    email: 'tam@tidewater',
    role: 'programmer',
    pages: [],
    until: '2026-12-24T22:59:59.999Z',
  },
] as unknown as Member[];
const answers = (path: string): unknown =>
  path.includes('invitations') ? { path: '/invitation/abc', invitations: [] } : { members };

beforeEach(() => {
  asked = [];
  written.mockClear();
  show = exampleShow();
  globalThis.fetch = jest.fn((path: string, init?: RequestInit) => {
    const body = typeof init?.body === 'string' ? init.body : undefined;
    const { method = 'GET' } = init ?? {};
    if (method !== 'GET')
      asked.push({
        path,
        method,
        body: body === undefined ? undefined : (JSON.parse(body) as never),
      });
    return Promise.resolve({ ok: true, json: () => Promise.resolve(answers(path)) });
  }) as never;
  const you = { ...useScreen.getState().you, userId: 'mara', role: 'owner' as const };
  useScreen.setState({ showId: 'ferry', show, you, people: [] });
});
afterEach(cleanup);

const settle = (): Promise<void> => act(() => new Promise<void>((done) => setTimeout(done)));
const open = async (): Promise<void> => {
  render(<PeoplePane />);
  await settle();
};
const choose = (label: string, value: string): void =>
  void fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = async (name: string): Promise<void> => {
  fireEvent.click(screen.getByRole('button', { name }));
  await settle();
};

test('who is made an owner stays for good; another role leaves the end date as it is', async () => {
  await open();
  choose('Role of Tam', 'owner');
  await settle();
  choose('Role of Tam', 'operator');
  await settle();
  expect(asked.map((a) => a.body)).toEqual([
    { email: 'tam@tidewater', role: 'owner', until: null },
    { email: 'tam@tidewater', role: 'operator' },
  ]);
});

test('a link is good for the days that are typed, and for no others; what another role would have is not sent', async () => {
  await open();
  await press('Invite by link …');
  choose('In the show until', '2026-12-24');
  choose('Link good for, days', 'a week');
  await press('Make the link');
  expect(screen.getByText('From 1 to 60 days.')).toBeTruthy();
  expect(asked).toEqual([]);
  choose('Link good for, days', '0');
  await press('Make the link');
  expect(asked).toEqual([]);
  choose('Link good for, days', '3');
  fireEvent.change(within(screen.getByRole('dialog')).getByLabelText('Role'), {
    target: { value: 'owner' },
  });
  await press('Make the link');
  expect(asked[0]?.body).toEqual({ role: 'owner', pages: [], memberUntil: null, days: 3 });
  expect(screen.getByTestId<HTMLInputElement>('invitation-link').value).toMatch(
    /\/invitation\/abc$/,
  );
});

test('what is typed about the show stays while others rename it; only that is written', async () => {
  await open();
  choose('A note about the show', 'Ladder on stage right only.');
  act(() => {
    apply(show, 'change-show', { set: { name: 'The Late Ferry' } });
    useScreen.setState((s) => ({ revision: s.revision + 1 }));
  });
  const form = within(screen.getByRole('region', { name: 'The show' }));
  expect(form.getByLabelText<HTMLInputElement>('Name').value).toBe('The Late Ferry');
  expect(form.getByLabelText<HTMLTextAreaElement>('A note about the show').value).toBe(
    'Ladder on stage right only.',
  );
  await press('Keep');
  expect(written.mock.calls).toEqual([
    ['change-show', { set: { note: 'Ladder on stage right only.' } }],
  ]);
});
