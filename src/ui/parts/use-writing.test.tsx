/**
 * A field that is written when it is left.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { ApiError } from '../state/api';
import { useScreen } from '../state/store';
import { useTyped } from '../state/typed';
import { useWriting, type Written } from './use-writing';

interface Of {
  value: string;
  write: (text: string) => Written;
}
function Named({ value, write }: Of) {
  const { field, problem } = useWriting(`Name of ${value}`, value, write);
  return (
    <>
      <input aria-label="Name" {...field} />
      <p role="alert">{problem}</p>
    </>
  );
}
const field = () => screen.getByLabelText<HTMLInputElement>('Name');
const type = (value: string): void => {
  act(() => field().focus());
  fireEvent.change(field(), { target: { value } });
};
const key = (name: string): void => void fireEvent.keyDown(field(), { key: name });
const leave = (): void => act(() => field().blur());
function begin(of: Of) {
  const shown = render(<Named {...of} />);
  return (more: Partial<Of>): void => shown.rerender(<Named {...of} {...more} />);
}
const settle = () => act(() => Promise.resolve());

let write: jest.Mock<Written, [string]>;
beforeEach(() => {
  write = jest.fn((text: string): Written => Promise.resolve({ seq: 1, text }));
  useScreen.setState({ showId: 'show' });
  useTyped.setState({ offered: [] });
});
afterEach(cleanup);

test('what others change meanwhile leaves the words and the focus where they are', async () => {
  const now = begin({ value: 'Bridge', write });
  type('Bridge, far');
  now({ value: 'Bridge 2' });
  expect(field().value).toBe('Bridge, far');
  expect(document.activeElement).toBe(field());
  // It is the same field, whatever it is called now: nothing of it has gone.
  expect(useTyped.getState().offered).toEqual([]);
  key('Enter');
  expect(write.mock.calls).toEqual([['Bridge, far']]);
  now({ value: 'Bridge, far' });
  await settle();
  now({ value: 'Bridge, near' });
  expect(field().value).toBe('Bridge, near');
});

test('a field that nobody has typed into follows, and writes nothing when it is left', () => {
  const now = begin({ value: '16', write });
  now({ value: '32' });
  expect(field().value).toBe('32');
  act(() => field().focus());
  leave();
  type(' 32 ');
  leave();
  expect(write).not.toHaveBeenCalled();
  expect(field().value).toBe('32');
});

test('Esc puts back and leaves; other keys write nothing', () => {
  begin({ value: '16', write });
  type('32');
  key('x');
  expect(document.activeElement).toBe(field());
  key('Escape');
  expect(field().value).toBe('16');
  expect(document.activeElement).not.toBe(field());
  expect(write).not.toHaveBeenCalled();
});

test('what cannot be stands there to be mended, and says why; so does what is refused', async () => {
  write.mockReturnValueOnce('1 to 512');
  begin({ value: '16', write });
  type('513');
  leave();
  expect([field().value, screen.getByRole('alert').textContent]).toEqual(['513', '1 to 512']);
  write.mockReturnValueOnce(Promise.resolve(new ApiError(409, 'clash', '512 is taken.')));
  type('512');
  expect(screen.getByRole('alert').textContent).toBe('');
  leave();
  await settle();
  expect([field().value, screen.getByRole('alert').textContent]).toEqual(['512', '512 is taken.']);
  type('511');
  leave();
  await settle();
  expect([field().value, screen.getByRole('alert').textContent]).toEqual(['16', '']);
});

test('who leaves it as the others made it is shown that', async () => {
  write.mockReturnValueOnce(Promise.resolve(new ApiError(409, 'unseen', 'Changed meanwhile.')));
  const now = begin({ value: 'Bridge', write });
  type('Bridge, far');
  leave();
  now({ value: 'Bridge 2' });
  await settle();
  expect([field().value, screen.getByRole('alert').textContent]).toEqual(['Bridge 2', '']);
});

test('who types on while it is written keeps what they type', async () => {
  begin({ value: 'a', write });
  type('ab');
  leave();
  type('abc');
  await settle();
  expect(field().value).toBe('abc');
});

test('words about a row that goes are offered to their author; those that are being written are not', async () => {
  begin({ value: 'Bridge', write });
  type('Bridge, far');
  cleanup();
  expect(useTyped.getState().offered).toMatchObject([
    { fields: [{ label: 'Name of Bridge', value: 'Bridge, far' }] },
  ]);
  useTyped.setState({ offered: [] });
  begin({ value: 'Bridge', write });
  type('Bridge, near');
  leave();
  cleanup();
  await settle();
  expect(useTyped.getState().offered).toEqual([]);
});
