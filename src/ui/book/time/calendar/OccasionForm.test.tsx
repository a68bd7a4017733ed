/**
 * An occasion as it is typed.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { apply, exampleShow } from '@/core/testing/example';
import { OccasionRow } from '@/core/occasions/rows';
import type { MutableShow } from '@/core/show/show';
import { edit } from '../../../state/edits';
import { useScreen } from '../../../state/store';
import { OccasionForm } from './OccasionForm';

jest.mock('../../../state/edits', () => ({
  edit: jest.fn(() => Promise.resolve({ changes: [] })),
}));
const written = edit as unknown as jest.Mock;
const sent = (): unknown => (written.mock.calls as unknown[][])[0]?.[1];

let show: MutableShow;
beforeEach(() => {
  written.mockClear();
  show = exampleShow();
  apply(show, 'make-cues', { listId: 'main', cues: [{ number: 3000, name: 'Doors' }] });
  useScreen.setState({ show });
});
afterEach(cleanup);

const open = (occasion: OccasionRow | null = null): void =>
  void render(<OccasionForm occasion={occasion} onDone={() => undefined} />);
const type = (label: string, value: string): void =>
  void fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string): Promise<void> =>
  act(async () => {
    fireEvent.click(screen.getByRole('button', { name }));
    await new Promise((done) => setTimeout(done));
  });

test('the advent: Fridays and Saturdays of December, at half past six', async () => {
  open();
  type('Name', 'Advent');
  type('Time of day', '18:30');
  await press('Sat');
  await press('Fri');
  type('From, the first day', '2026-12-01');
  type('To, the last day', '2026-12-24');
  await press('Make it');
  expect(sent()).toEqual({
    set: {
      name: 'Advent',
      list: 'main',
      does: 'go',
      on: true,
      at: { by: 'clock', time: '18:30:00' },
      days: [5, 6],
      from: '2026-12-01',
      to: '2026-12-24',
    },
  });
});

test('every day is said by none and by all seven; without a name it is called by its time', async () => {
  open();
  for (const day of ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']) await press(day);
  type('Time of day', '7:05');
  await press('Make it');
  expect(sent()).toEqual({
    set: {
      name: '07:05:00',
      list: 'main',
      does: 'go',
      on: true,
      at: { by: 'clock', time: '07:05:00' },
    },
  });
});

test('what makes no sense is said where it stands, and nothing is written', async () => {
  open();
  type('Time of day', '24:10');
  type('What it does', 'goto');
  type('From, the first day', '2026-12-24');
  type('To, the last day', '2026-12-01');
  await press('Make it');
  for (const says of ['Like 19:30 or 19:30:15.', 'Say which cue.', 'It ends before it begins.'])
    expect(screen.getByText(says)).toBeTruthy();
  type('When', 'sunset');
  type('Minutes after it', 'ten');
  await press('Make it');
  expect(screen.getByText('Minutes, from −720 to 720.')).toBeTruthy();
  expect(written).not.toHaveBeenCalled();
});

test('one that is changed begins as it is, and stays on or off', async () => {
  const [cue] = show.cues.keys();
  const row = OccasionRow.parse({
    id: 'sun',
    number: 1,
    name: 'Sundown',
    list: 'main',
    does: 'goto',
    cue,
    at: { by: 'sun', event: 'sunset', plus_min: -10 },
    days: [0],
    from: '2026-12-01',
    on: false,
  });
  open(row);
  type('Minutes after it', '-15');
  await press('Change it');
  const { id, number, skipped, ...set } = row;
  void [number, skipped];
  expect(sent()).toEqual({
    id,
    set: { ...set, at: { by: 'sun', event: 'sunset', plus_min: -15 } },
  });
});
