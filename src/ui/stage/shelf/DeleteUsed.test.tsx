/**
 * Deleting what others use: who they are, what becomes of them, and what a fader holds.
 * @jest-environment jsdom
 */
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { apply, cue, exampleShow, idOf } from '@/core/testing/example';
import type { MutableShow } from '@/core/show/show';
import { edit } from '../../state/edits';
import { useScreen } from '../../state/store';
import { GroupEditor } from '../GroupEditor';
import { DoingDialog } from './doing';

jest.mock('../../state/edits', () => ({
  ...jest.requireActual<object>('../../state/edits'),
  edit: jest.fn(() => Promise.resolve({ seq: 1 })),
}));
jest.mock('next/navigation', () => ({ useRouter: () => ({}), usePathname: () => '' }));
// The page of these tests has none; every browser does.
globalThis.structuredClone ??= <T,>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const written = edit as unknown as jest.Mock;

let show: MutableShow;
const only = <T,>(rows: ReadonlyMap<string, T>): T => {
  const [row] = rows.values();
  if (!row) throw new Error('no row');
  return row;
};
const underFader = (kind: string, id: string): void =>
  void apply(show, 'set-fader', {
    set: { name: 'Wash', holds: { kind, id }, mode: 'proportional', flash: 'full' },
  });
const button = (name: string): HTMLButtonElement => screen.getByRole('button', { name });
const close = (): void => undefined;

beforeEach(() => {
  written.mockClear();
  show = exampleShow();
  useScreen.setState({ show, you: { ...useScreen.getState().you, role: 'owner' } });
  apply(show, 'record-palette', {
    family: 'intensity',
    name: 'Half',
    values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.5 }],
  });
  apply(show, 'record-look', {
    name: 'Quay',
    items: [{ kind: 'level', fixtureId: idOf(show, 2), attribute: 'Dimmer', level: 0.7 }],
  });
  apply(show, 'record-group', { name: 'FOH', fixtures: [idOf(show, 1)] });
});
afterEach(cleanup);

test('a palette that nothing follows goes with one press', () => {
  const palette = only(show.palettes);
  render(<DoingDialog doing={{ do: 'delete', palette }} shelf="intensity" onClose={close} />);
  screen.getByText('Nothing follows it.');
  fireEvent.click(button('Delete'));
  expect(written).toHaveBeenCalledWith('delete-palette', { id: palette.id, uses: 'keep' });
});

test('of one that cues follow it is asked what becomes of them', () => {
  const palette = only(show.palettes);
  cue(show, 3, { 4: 10 });
  apply(show, 'record-cue', {
    listId: 'main',
    number: 5000,
    values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.5, palette: palette.id }],
  });
  render(<DoingDialog doing={{ do: 'delete', palette }} shelf="intensity" onClose={close} />);
  screen.getByText('1 use: 5.');
  fireEvent.click(button('Delete, and take it out of them'));
  expect(written).toHaveBeenCalledWith('delete-palette', { id: palette.id, uses: 'remove' });
});

test.each(['palette', 'look'] as const)(
  'a %s that a fader holds says so, and cannot be deleted before',
  (kind) => {
    const row = kind === 'palette' ? only(show.palettes) : only(show.looks);
    underFader(kind, row.id);
    const doing =
      kind === 'palette'
        ? { do: 'delete' as const, palette: only(show.palettes) }
        : { do: 'delete' as const, look: only(show.looks) };
    render(<DoingDialog doing={doing} shelf="intensity" onClose={close} />);
    screen.getByText(/^Fader \d+ Wash holds it\. Put something else there first\.$/);
    expect(button('Delete').disabled).toBe(true);
  },
);

test('a group that a fader holds says so as well', () => {
  const group = only(show.groups);
  underFader('group', group.id);
  render(<GroupEditor group={group} onClose={close} />);
  fireEvent.click(button('Delete'));
  screen.getByText(/^Fader \d+ Wash holds it/);
  const asked = screen.getAllByRole('button', { name: 'Delete' });
  expect((asked.at(-1) as HTMLButtonElement).disabled).toBe(true);
  expect(written).not.toHaveBeenCalled();
});
