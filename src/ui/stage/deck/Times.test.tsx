/**
 * Times of what is held.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import type { HeldValue } from '@/core/live/messages';
import { useScreen } from '../../state/store';
import type { Chosen } from './chosen';
import { Times } from './Times';

const sent: object[] = [];
jest.mock('../../state/commands', () => ({ said: (command: object) => void sent.push(command) }));
const said: string[] = [];
jest.mock('../../state/messages', () => ({ notice: { error: (text: string) => said.push(text) } }));

/** Three dimmers with these fades, held. */
function open(...fades: number[]): void {
  const held = fades.map((fade_s, i): [string, HeldValue] => [
    `${i}`,
    { fixtureId: `f${i}`, attribute: 'Dimmer', level: 1, fade_s, delay_s: 0 } as HeldValue,
  ]);
  useScreen.setState({ values: new Map(held) });
  const chosen = fades.map((_, i) => ({ fixture: { id: `f${i}` } })) as unknown as Chosen[];
  render(<Times family="intensity" chosen={chosen} disabled={false} />);
  fireEvent.click(screen.getByLabelText('Times of intensity'));
}
const fade = (): HTMLInputElement => screen.getByLabelText('Fade, s');
const leaves = async (text?: string): Promise<void> => {
  act(() => fade().focus());
  if (text !== undefined) fireEvent.change(fade(), { target: { value: text } });
  await act(async () => {
    fireEvent.blur(fade());
    await Promise.resolve();
  });
};

beforeAll(() => {
  globalThis.ResizeObserver = class {
    observe = () => undefined;
    unobserve = () => undefined;
    disconnect = () => undefined;
  };
});
beforeEach(() => {
  sent.length = 0;
  said.length = 0;
});
afterEach(cleanup);

test('times that are spread stay so when the field is only looked at', async () => {
  open(0, 1.5, 3);
  expect([fade().value, fade().placeholder]).toEqual(['', '0–3']);
  await leaves();
  expect([sent, said]).toEqual([[], []]);
  await leaves('2,5');
  expect(sent).toEqual([{ command: 'times', families: ['intensity'], fade_s: 2.5 }]);
});

test('one time of all is shown, and written where another is typed', async () => {
  open(10, 10);
  expect(fade().value).toBe('10');
  await leaves('10');
  expect(sent).toEqual([]);
  await leaves('0');
  expect(sent).toEqual([{ command: 'times', families: ['intensity'], fade_s: 0 }]);
});

test('what is no time is said, and changes nothing', async () => {
  open(4, 4);
  for (const text of ['soon', '-1', '']) await leaves(text);
  expect(sent).toEqual([]);
  expect(said[0]).toBe('“soon” is no time: seconds, from 0 on. Nothing was changed.');
  expect(said).toHaveLength(3);
});
