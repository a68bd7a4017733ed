/**
 * A note of the list.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { edit } from '../state/edits';
import { apply, exampleShow } from '@/core/testing/example';
import type { MutableShow } from '@/core/show/show';
import { useStage } from '../state/stage';
import { useScreen } from '../state/store';
import { NoteRow, Where } from './NoteRow';

jest.mock('../state/edits', () => ({
  ...jest.requireActual<object>('../state/edits'),
  edit: jest.fn(() => Promise.resolve({ seq: 1 })),
}));
const written = edit as unknown as jest.Mock;

const SIZE = { width: 800, height: 400 };
jest.mock('../parts/use-box', () => ({ useBox: () => SIZE }));
// Nothing is drawn here: where things lie is asked.
jest.mock('../plan/use-layers', () => ({ useLayers: () => undefined }));

let show: MutableShow;
beforeEach(() => {
  show = exampleShow();
  const you = { ...useScreen.getState().you, role: 'owner' as const };
  useScreen.setState({ show, you });
});
afterEach(cleanup);

const placed = (): [number, number] => {
  const { style } = screen.getByTestId('where');
  return [parseFloat(style.left), parseFloat(style.top)];
};

test('a place stands on the whole plan, however the stage is looked at just now', () => {
  render(<Where place={{ x: 0, y: 2 }} />);
  const before = placed();
  expect(before[0]).toBeGreaterThan(0);
  expect(before[0]).toBeLessThan(SIZE.width);
  cleanup();
  useStage.setState({ view2d: { x: 12, y: 9, zoom: 6 } });
  render(<Where place={{ x: 0, y: 2 }} />);
  expect(placed()).toEqual(before);
});

function row() {
  const [note] = show.notes.values();
  if (!note) throw new Error('no note');
  cleanup();
  render(<NoteRow note={note} onCue={() => undefined} tall={false} />);
  return screen.getAllByRole<HTMLButtonElement>('button')[0];
}

test('a note about a cue leads to it; of a cue that has gone it says so; one about none is about the show', () => {
  const [list] = show.lists.keys();
  apply(show, 'make-cues', { listId: list, cues: [{ number: 3000 }] });
  const [cueId] = show.cues.keys();
  apply(show, 'add-note', { kind: 'other', text: 'late', cueId });
  expect([row()?.textContent, row()?.disabled]).toEqual(['3', false]);
  cleanup();
  apply(show, 'delete-cue', { id: cueId });
  expect([row()?.textContent, row()?.disabled, row()?.title]).toEqual([
    '3',
    true,
    'this cue has been deleted',
  ]);
  cleanup();
  const [note] = show.notes.keys();
  apply(show, 'delete-note', { id: note });
  apply(show, 'add-note', { kind: 'other', text: 'lunch' });
  expect([row()?.textContent, row()?.title]).toEqual(['show', 'about the show']);
});

test('an open note is given to somebody in the show, and to anybody again', async () => {
  const members = [
    { userId: 'tam', name: 'Tam', role: 'programmer' },
    { userId: 'sue', name: 'Sue', role: 'volunteer' },
  ];
  globalThis.fetch = jest.fn(() =>
    Promise.resolve({ ok: true, json: () => Promise.resolve({ members }) }),
  ) as never;
  useScreen.setState({ showId: 'ferry', people: [] });
  apply(show, 'add-note', { kind: 'other', text: 'late' });
  row();
  const settle = (): Promise<void> => act(() => new Promise<void>((done) => setTimeout(done)));
  const give = async (to: string): Promise<void> => {
    fireEvent.click(screen.getByLabelText('Whom it is for'));
    await settle();
    fireEvent.change(screen.getByLabelText('For whom'), { target: { value: to } });
    await settle();
  };
  await give('tam');
  expect(screen.queryByLabelText('For whom')).toBeNull();
  await give('');
  const [id] = show.notes.keys();
  expect(written.mock.calls.map((c) => (c as unknown[]).slice(0, 2))).toEqual([
    ['give-note', { id, to: { userId: 'tam', name: 'Tam' } }],
    ['give-note', { id, to: null }],
  ]);
  expect(screen.queryByText('for Sue')).toBeNull();
});
