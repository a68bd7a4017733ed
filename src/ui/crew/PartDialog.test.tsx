/**
 * Giving a part: what is typed is said to be wrong where it stands, and nothing is written of it.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import type { Member } from '@/core/live/answers';
import type { PartRow } from '@/core/crew/rows';
import { apply, exampleShow, idOf } from '@/core/testing/example';
import { edit } from '../state/edits';
import { useScreen } from '../state/store';
import { PartDialog } from './PartDialog';

jest.mock('../state/edits', () => ({
  ...jest.requireActual<object>('../state/edits'),
  edit: jest.fn(() => Promise.resolve({ seq: 1 })),
}));
const written = edit as unknown as jest.Mock;
const members = [
  { userId: 'tam', name: 'Tam Brevik', role: 'programmer' },
  { userId: 'iden', name: 'Iden Vale', role: 'viewer' },
  { userId: 'mara', name: 'Mara Kell', role: 'owner' },
] as unknown as Member[];
const show = exampleShow();
const closed = jest.fn();

beforeEach(() => {
  written.mockClear();
  closed.mockClear();
  const you = { ...useScreen.getState().you, userId: 'mara', role: 'owner' as const };
  useScreen.setState({ show, you, people: [], selection: [idOf(show, 1), idOf(show, 2)] });
});
afterEach(cleanup);

const field = (label: RegExp): HTMLInputElement => screen.getByLabelText(label);
const type = (label: RegExp, value: string): void =>
  void fireEvent.change(field(label), { target: { value } });
const give = async (): Promise<void> => {
  const form = field(/What it is called/).form;
  if (!form) throw new Error('no form');
  await act(async () => {
    fireEvent.submit(form);
    await Promise.resolve();
  });
};

test('the selection is given to somebody who programs, with a priority or none', async () => {
  render(<PartDialog part={undefined} members={members} onClose={closed} />);
  type(/What it is called/, ' Front light ');
  await give();
  const fixtures = [idOf(show, 1), idOf(show, 2)];
  const set = { name: 'Front light', userId: 'tam', userName: 'Tam Brevik', fixtures, lists: [] };
  expect(written.mock.calls).toEqual([['set-part', { set }]]);
  type(/sACN priority/, '0');
  await give();
  expect(written).toHaveBeenLastCalledWith('set-part', { set: { ...set, priority: 0 } });
  expect(closed).toHaveBeenCalledTimes(2);
});

test.each(['201', '-1', '1.5', 'high'])(
  'a priority of %s is none: said at its field, and not written',
  async (text) => {
    render(<PartDialog part={undefined} members={members} onClose={closed} />);
    type(/What it is called/, 'Front light');
    type(/sACN priority/, text);
    expect(field(/sACN priority/).getAttribute('aria-invalid')).toBe('true');
    expect(field(/What it is called/).getAttribute('aria-invalid')).not.toBe('true');
    expect(screen.getByText('A whole number from 0 to 200.')).toBeTruthy();
    await give();
    expect(written).not.toHaveBeenCalled();
  },
);

test('whoever has it and is not in the show any more keeps their name in it', async () => {
  const set = {
    name: 'Band',
    userId: 'nell',
    userName: 'Nell Strand',
    fixtures: [],
    lists: ['main'],
  };
  apply(show, 'set-part', { set });
  const part = [...show.parts.values()].find((p) => p.name === 'Band') as PartRow;
  render(<PartDialog part={part} members={members} onClose={closed} />);
  expect(field(/Whose it is/).value).toBe('nell');
  expect(screen.getByText('Nell Strand, not in the show')).toBeTruthy();
  type(/What it is called/, 'The band');
  await give();
  expect(written).toHaveBeenLastCalledWith('set-part', {
    id: part.id,
    set: { ...set, name: 'The band' },
  });
});
