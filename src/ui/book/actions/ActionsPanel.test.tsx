/**
 * Actions of a cue, changed where they stand.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { apply, exampleShow } from '@/core/testing/example';
import type { CueAction } from '@/core/cues/rows';
import type { MutableShow } from '@/core/show/show';
import { edit } from '../../state/edits';
import { useScreen } from '../../state/store';
import { ActionsPanel } from '../ActionsPanel';

jest.mock('../../state/edits', () => ({ edit: jest.fn(() => Promise.resolve({ seq: 1 })) }));
const written = edit as unknown as jest.Mock;

const OSC: CueAction = { do: 'osc', address: '/cue', args: [12, 'two words'] };
const OFF: CueAction = { do: 'remotes', on: false };
let show: MutableShow;
const cue = () => {
  const [row] = show.cues.values();
  if (!row) throw new Error('no cue');
  return row;
};
function Panel() {
  useScreen((s) => s.revision);
  return <ActionsPanel cue={cue()} />;
}
beforeEach(() => {
  written.mockClear();
  show = exampleShow();
  const you = { ...useScreen.getState().you, role: 'owner' as const };
  useScreen.setState({ show, you, selection: [] });
  apply(show, 'make-cues', { listId: 'main', cues: [{ number: 3000 }] });
  apply(show, 'change-cue', { id: cue().id, set: { actions: [OSC, OFF] } });
  render(<Panel />);
});
afterEach(cleanup);

const change = async (label: string, value: string): Promise<void> => {
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
  await act(async () => {
    fireEvent.click(screen.getByRole('button', { name: 'Change it' }));
    await new Promise((done) => setTimeout(done));
  });
};
const actions = (): unknown =>
  ((written.mock.calls as unknown[][])[0]?.[1] as { set: { actions: unknown } }).set.actions;

test('one is opened with all that it has, and changed in its place', async () => {
  fireEvent.click(screen.getByText(/\/cue/));
  expect(screen.getByLabelText<HTMLInputElement>('Arguments').value).toBe('12 "two words"');
  await change('Arguments', '13 "two words"');
  expect(actions()).toEqual([{ ...OSC, args: [13, 'two words'] }, OFF]);
});

test('one that somebody took away meanwhile is there again, and what they made stays', async () => {
  fireEvent.click(screen.getByText(/\/cue/));
  act(() => {
    apply(show, 'change-cue', { id: cue().id, set: { actions: [OFF] } });
    useScreen.setState((s) => ({ revision: s.revision + 1 }));
  });
  await change('Address', '/house');
  expect(actions()).toEqual([OFF, { ...OSC, address: '/house' }]);
});
