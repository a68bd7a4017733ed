/**
 * The sounds of a show, called by name.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { exampleShow } from '@/core/testing/example';
import { SoundRow } from '@/core/sounds/rows';
import { insertRow } from '@/core/edits/define-edit';
import { edit } from '../../state/edits';
import { useScreen } from '../../state/store';
import { SoundList } from './SoundList';

jest.mock('../../state/edits', () => ({ edit: jest.fn(() => Promise.resolve({ seq: 1 })) }));
const written = edit as unknown as jest.Mock;

afterEach(cleanup);

test('they are renamed and deleted where they are listed; a show without any has no list', async () => {
  const show = exampleShow();
  const you = { ...useScreen.getState().you, role: 'programmer' as const };
  useScreen.setState({ show, you });
  const { container } = render(<SoundList />);
  expect(container.textContent).toBe('');
  cleanup();
  const waltz = SoundRow.parse({
    id: 'waltz',
    name: 'waltz, take 3',
    file: {
      sha256: 'a'.repeat(64),
      bytes: 3 * 1024 * 1024,
      kind: 'flac',
      length_s: 192,
      rate_hz: 48_000,
      channels: 2,
    },
  });
  show.apply([insertRow('sounds', waltz)]);
  render(<SoundList />);
  fireEvent.click(screen.getByText('Name and delete the show’s 1 sound'));
  expect(screen.getByText('3:12.00, 3.0 MB')).toBeTruthy();
  const name = screen.getByLabelText('Name of waltz, take 3');
  act(() => name.focus());
  fireEvent.change(name, { target: { value: 'waltz, take 4 ' } });
  await act(async () => {
    fireEvent.keyDown(name, { key: 'Enter' });
    await Promise.resolve();
  });
  fireEvent.click(screen.getByLabelText('Delete waltz, take 3'));
  expect(written.mock.calls).toEqual([
    ['change-sound', { id: 'waltz', name: 'waltz, take 4' }],
    ['delete-sound', { id: 'waltz' }],
  ]);
});
