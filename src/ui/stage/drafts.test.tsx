/**
 * What is changed in a dialog stays while others change the same rows, and what is not changed follows them.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { apply, exampleShow, idOf } from '@/core/testing/example';
import type { MutableShow } from '@/core/show/show';
import { edit } from '../state/edits';
import { Rename } from '../parts/Rename';
import { ApiError } from '../state/api';
import { useScreen } from '../state/store';
import { GroupEditor } from './GroupEditor';
import { DoingDialog } from './shelf/doing';

jest.mock('../state/edits', () => ({
  ...jest.requireActual<object>('../state/edits'),
  edit: jest.fn(() => Promise.resolve({ seq: 1 })),
}));
jest.mock('next/navigation', () => ({ useRouter: () => ({}), usePathname: () => '' }));
const written = edit as unknown as jest.Mock;

let show: MutableShow;
/** As it comes from the house. */
const comes = (name: string, params: unknown): void =>
  act(() => {
    apply(show, name, params);
    useScreen.setState((s) => ({ revision: s.revision + 1 }));
  });
const close = (): void => undefined;
const level = (number: number, of: number) => ({
  kind: 'level' as const,
  fixtureId: idOf(show, number),
  attribute: 'Dimmer',
  level: of,
});
const lookCalled = (name: string) => {
  const look = [...show.looks.values()].find((l) => l.name === name);
  if (!look) throw new Error(`no look ${name}`);
  return look;
};
const press = (name: string): void => void fireEvent.click(screen.getByRole('button', { name }));
const type = (label: string, value: string): void =>
  void fireEvent.change(screen.getByLabelText(label), { target: { value } });

beforeEach(() => {
  written.mockClear();
  show = exampleShow();
  const you = { ...useScreen.getState().you, role: 'owner' as const };
  useScreen.setState({ show, you, values: new Map(), selection: [] });
  apply(show, 'record-look', { name: 'Quay', items: [level(1, 0.5), level(2, 0.7)] });
  apply(show, 'record-look', { name: 'Deck', items: [level(3, 0.5)] });
  apply(show, 'record-group', { name: 'FOH', fixtures: [1, 2, 3].map((n) => idOf(show, n)) });
});
afterEach(cleanup);

describe('the editor of a look', () => {
  const open = (): void =>
    void render(
      <DoingDialog
        doing={{ do: 'edit', look: lookCalled('Quay') }}
        shelf="looks"
        onClose={close}
      />,
    );

  test('a part that is taken out stays out while another look is changed, and is what is written', async () => {
    open();
    press('Take out 1 intensity 50 %');
    comes('change-look', { id: lookCalled('Deck').id, set: { name: 'Fore deck' } });
    expect(screen.queryByText('1 intensity 50 %')).toBeNull();
    await act(async () => {
      press('Save');
      await Promise.resolve();
    });
    expect(written.mock.calls).toEqual([
      ['record-look', { id: lookCalled('Quay').id, how: 'replace', items: [level(2, 0.7)] }],
    ]);
  });

  test('what nobody has changed here is what others make of it, and is not written', async () => {
    open();
    const { id } = lookCalled('Quay');
    comes('record-look', { id, how: 'replace', items: [level(4, 0.2)] });
    expect(screen.getByText('4 intensity 20 %')).toBeTruthy();
    expect(screen.queryByText('Leave it as it was')).toBeNull();
    type('Name', 'Quay at night');
    await act(async () => {
      press('Save');
      await Promise.resolve();
    });
    expect(written.mock.calls.map(([name]) => name as string)).toEqual(['change-look']);
  });
});

describe('the editor of a group', () => {
  const group = () => {
    const [first] = show.groups.values();
    if (!first) throw new Error('no group');
    return first;
  };
  function Open() {
    useScreen((s) => s.revision);
    return <GroupEditor group={group()} onClose={close} />;
  }

  test('members are moved and taken out; only what was changed is written', async () => {
    render(<Open />);
    comes('change-group', { id: group().id, set: { name: 'Front' } });
    expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Front');
    press('Move FOH 3 up');
    press('Take FOH 1 out');
    comes('change-group', { id: group().id, set: { name: 'Front of house' } });
    await act(async () => {
      press('Save');
      await Promise.resolve();
    });
    const fixtures = [3, 2].map((n) => idOf(show, n));
    expect(written.mock.calls).toEqual([['change-group', { id: group().id, set: { fixtures } }]]);
  });

  test('a new name alone writes nobody in or out', async () => {
    render(<Open />);
    type('Name', 'Front');
    await act(async () => {
      press('Save');
      await Promise.resolve();
    });
    expect(written.mock.calls).toEqual([
      ['change-group', { id: group().id, set: { name: 'Front' } }],
    ]);
  });

  test('who comes into it meanwhile is there', () => {
    render(<Open />);
    comes('change-group', { id: group().id, set: { fixtures: [idOf(show, 4)] } });
    expect(screen.getByText('FOH 4')).toBeTruthy();
    expect(screen.queryByText('FOH 1')).toBeNull();
  });
});

test('a name that is refused is not typed twice: its dialog stays', async () => {
  const answers = [new ApiError(409, 'clash', 'There is one of that name.'), { seq: 4 }];
  const said: string[] = [];
  const closed = jest.fn();
  const onSave = (name: string): Promise<object> => {
    said.push(name);
    return Promise.resolve(answers[said.length - 1] ?? {});
  };
  render(<Rename title="Rename" name="Dusk" onSave={onSave} onClose={closed} />);
  const save = (): Promise<void> =>
    act(async () => {
      press('Save');
      await new Promise((done) => setTimeout(done));
    });
  type('Name', 'Dawn');
  await save();
  expect([said, closed.mock.calls.length]).toEqual([['Dawn'], 0]);
  expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Dawn');
  await save();
  expect([said.length, closed.mock.calls.length]).toEqual([2, 1]);
});

test('a cue gets a palette of its own where the uses of the palette are listed', () => {
  apply(show, 'record-palette', { family: 'intensity', name: 'Low', any: { level: 0.2 } });
  const [palette] = show.palettes.values();
  if (!palette) throw new Error('no palette');
  const value = { fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.2, palette: palette.id };
  const [listId] = show.lists.keys();
  apply(show, 'record-cue', { listId, number: 3000, values: [value] });
  render(<DoingDialog doing={{ do: 'uses', palette }} shelf="intensity" onClose={close} />);
  press('Make its own');
  const [cueId] = show.cues.keys();
  expect(written.mock.calls).toEqual([['own-palette', { cueId, paletteId: palette.id }]]);
});
