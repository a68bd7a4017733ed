/**
 * The show is one object that changes in place: what screens make of it is made anew where it has changed.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, renderHook, screen } from '@testing-library/react';
import { usePending } from '../book/sheet/use-pending';
import { FocusPage } from '../remote/FocusPage';
import { PieceShelf } from '../sheets/arrange/Shelf';
import { apply, exampleShow, idOf } from '@/core/testing/example';
import { changeOf } from '@/core/show/fields-of';
import type { MutableShow } from '@/core/show/show';
import { useScreen } from './store';

jest.mock('next/navigation', () => ({ useRouter: () => ({}), usePathname: () => '' }));

let show: MutableShow;
/** As it comes from the house. */
const comes = (name: string, params: unknown): void =>
  act(() => {
    apply(show, name, params);
    useScreen.setState((s) => ({ revision: s.revision + 1 }));
  });
beforeEach(() => {
  show = exampleShow();
  useScreen.setState({ show, values: new Map(), selection: [] });
});
afterEach(cleanup);

test('a group that is made while a sheet is arranged is in its shelf', () => {
  render(
    <PieceShelf sheetId="s" title="Groups" setTitle={() => undefined} onPut={() => undefined} />,
  );
  comes('record-group', { name: 'Bridge', fixtures: [idOf(show, 1)] });
  expect(screen.getByText('Bridge')).toBeTruthy();
});

test('who focuses steps to a unit that was patched meanwhile, and to none that has gone', () => {
  const units = [...show.fixtures.values()].sort((a, b) => a.number - b.number);
  const last = units.at(-1);
  useScreen.setState({ selection: [last?.id ?? ''] });
  render(<FocusPage />);
  comes('patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 1,
    first: (last?.number ?? 0) + 1,
    universe: 9,
    address: 1,
  });
  fireEvent.click(screen.getByLabelText('The next one'));
  expect(screen.getByTestId('focus-number').textContent).toBe(String((last?.number ?? 0) + 1));
});

test('what is held is called in the sheet as its palette is called now', () => {
  const id = idOf(show, 11);
  const row = {
    id: 'dusk',
    number: 1,
    name: 'Dusk',
    family: 'colour',
    types: {},
    groups: {},
    fixtures: {},
  };
  const renamed = (name: string): void =>
    act(() => {
      const before = show.palettes.get('dusk') ?? null;
      show.apply([changeOf('palettes', before, { ...row, name })]);
      useScreen.setState((now) => ({ revision: now.revision + 1 }));
    });
  renamed('Dusk');
  const held = {
    fixtureId: id,
    attribute: 'ColorAdd_R',
    level: 1,
    palette: 'dusk',
    recorded: false,
  };
  useScreen.setState({ values: new Map([[`${id}:ColorAdd_R`, held as never]]) });
  const columns = [{ fixtures: [id] }] as never;
  const { result } = renderHook(() => usePending(columns, 'colour'));
  expect(result.current.get(0)).toBe('Dusk');
  renamed('Dawn');
  expect(result.current.get(0)).toBe('Dawn');
});
