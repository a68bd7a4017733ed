/**
 * Nothing that was typed or sent is lost with a page: fields, and edits that the house has not answered.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { z } from 'zod';
import { kept } from '../parts/keep';
import { useLooked, seenNow } from './looked';
import { useScreen } from './store';
import { fillIn, letTypedGo, useKeepTyped, useTyped } from './typed';
import { dropUnsent, keepUnsent, sendingNow, useUnsent, type Unsent } from './unsent';

function Page({ open = true }: { open?: boolean }) {
  useKeepTyped('ferry', 'mara');
  return (
    <main>
      {open && (
        <section aria-label="Cue 12">
          <label>
            <span>Note</span>
            <textarea />
          </label>
        </section>
      )}
      <div role="dialog" aria-label="Make a palette">
        <input aria-label="Name" />
        <input aria-label="Number" type="number" />
        <input aria-label="Secret" type="password" />
        <input aria-label="Find a type" inputMode="search" />
        <label>
          <span>30</span>
          <input aria-label="Weight" />
        </label>
      </div>
      <input id="command" aria-label="Command line" />
    </main>
  );
}
const type = (label: string, value: string): void => {
  const field = screen.getByLabelText(label);
  field.focus();
  fireEvent.input(field, { target: { value } });
};
/** The page goes, and comes back. */
function reload(): void {
  window.dispatchEvent(new Event('pagehide'));
  cleanup();
  render(<Page />);
}

beforeEach(() => {
  jest.useFakeTimers();
  sessionStorage.clear();
  localStorage.clear();
  useTyped.setState({ offered: [] });
  useUnsent.setState({ all: [], sending: new Set() });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

describe('what stands in fields', () => {
  test('is offered after a reload, with where it stood; secrets and the command line are nobody’s', () => {
    render(<Page />);
    type('Name', 'Lantern');
    type('Number', '12');
    type('Secret', 'tidewater');
    type('Command line', '1 thru 8');
    type('Find a type', 'gull');
    type('Weight', '17.5');
    reload();
    expect(useTyped.getState().offered).toEqual([
      {
        showId: 'ferry',
        userId: 'mara',
        where: 'Make a palette',
        dialog: true,
        fields: [
          { label: 'Name', value: 'Lantern' },
          { label: 'Number', value: '12' },
          // Its own name, not the figure that stands beside it.
          { label: 'Weight', value: '17.5' },
        ],
      },
    ]);
  });

  test('is one place at a time, the newest first, until it is put away', () => {
    render(<Page />);
    type('Note', 'slower');
    reload();
    type('Name', 'Harbour');
    reload();
    const { offered } = useTyped.getState();
    expect(offered.map((t) => t.where)).toEqual(['Make a palette', 'Cue 12']);
    if (offered[0]) letTypedGo(offered[0]);
    reload();
    expect(useTyped.getState().offered.map((t) => t.where)).toEqual(['Cue 12']);
  });

  test('of a field that was emptied nothing is kept', () => {
    render(<Page />);
    type('Note', 'slower');
    type('Note', ' ');
    reload();
    expect(useTyped.getState().offered).toEqual([]);
  });

  test('goes back into fields of the same names, as a hand would type it', () => {
    render(<Page />);
    const heard: string[] = [];
    document.addEventListener('input', (e) => heard.push((e.target as HTMLInputElement).value));
    const filled = fillIn(screen.getByRole('dialog'), [
      { label: 'Name', value: 'Lantern' },
      { label: 'Gone', value: 'x' },
      { label: 'Name', value: 'twice' },
    ]);
    expect([filled, heard]).toEqual([1, ['Lantern']]);
  });
});

const edit = (editId: string): Unsent => ({
  editId,
  showId: 'ferry',
  userId: 'mara',
  edit: 'change-cue',
  params: { id: 'c1' },
  seen: 4,
  summary: 'Changed cue 1',
  at: '2026-01-01T00:00:00.000Z',
});
const inStore = (): string[] =>
  (kept(localStorage, 'wingman-unsent', z.array(z.object({ editId: z.string() }))) ?? []).map(
    (u) => u.editId,
  );

describe('edits without an answer', () => {
  test('are kept in their order, each once, until one is answered', () => {
    for (const id of ['e1', 'e2', 'e1']) expect(keepUnsent(edit(id))).toBe(true);
    expect(inStore()).toEqual(['e1', 'e2']);
    dropUnsent('e1');
    dropUnsent('never there');
    expect([inStore(), useUnsent.getState().all.map((u) => u.editId)]).toEqual([['e2'], ['e2']]);
  });

  test('more than the browser is to keep are refused, and said', () => {
    for (let i = 0; i < 200; i++) keepUnsent(edit(`e${i}`));
    expect(keepUnsent(edit('one more'))).toBe(false);
    expect(inStore()).not.toContain('one more');
  });

  test('of another window are known here; what is broken in the store is nothing', () => {
    localStorage.setItem('wingman-unsent', JSON.stringify([edit('theirs')]));
    act(() => void window.dispatchEvent(new StorageEvent('storage', { key: 'wingman-unsent' })));
    expect(useUnsent.getState().all.map((u) => u.editId)).toEqual(['theirs']);
    localStorage.setItem('wingman-unsent', '[{"editId": 3}]');
    act(() => void window.dispatchEvent(new StorageEvent('storage', { key: 'wingman-unsent' })));
    expect(useUnsent.getState().all).toEqual([]);
  });

  test('that are being sent are marked so', () => {
    sendingNow('e1', true);
    sendingNow('e2', true);
    sendingNow('e1', false);
    expect([...useUnsent.getState().sending]).toEqual(['e2']);
  });
});

describe('what had been seen', () => {
  function Dialog({ open }: { open: boolean }) {
    useLooked(open);
    return <input aria-label="In it" />;
  }

  test('counts from when a dialog was opened, or a field entered, while it lasts', () => {
    useScreen.setState({ seq: 5 });
    const { rerender } = render(<Dialog open />);
    useScreen.setState({ seq: 9 });
    expect(seenNow()).toBe(5);
    rerender(<Dialog open={false} />);
    expect(seenNow()).toBe(9);
    screen.getByLabelText('In it').focus();
    useScreen.setState({ seq: 11 });
    expect(seenNow()).toBe(9);
    screen.getByLabelText('In it').blur();
    // What a field writes as it is left still counts from when it was entered.
    expect(seenNow()).toBe(9);
    jest.advanceTimersByTime(1);
    expect(seenNow()).toBe(11);
  });

  test('a field that goes away while it is written in counts no more', () => {
    useScreen.setState({ seq: 5 });
    const { unmount } = render(<Dialog open={false} />);
    screen.getByLabelText('In it').focus();
    useScreen.setState({ seq: 9 });
    expect(seenNow()).toBe(5);
    unmount();
    expect(seenNow()).toBe(9);
  });
});
