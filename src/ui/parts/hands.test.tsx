/**
 * What a hand does to a fader, and to a value that is written once.
 * @jest-environment jsdom
 */
import { act, cleanup, createEvent, fireEvent, render, screen } from '@testing-library/react';
import { useScreen } from '../state/store';
import { seenNow } from '../state/looked';
import { useFader } from './use-fader';
import { useHold } from './use-hold';
import { useSettling } from './use-settling';

beforeEach(() => {
  Element.prototype.setPointerCapture = () => undefined;
  jest.useFakeTimers();
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

/** jsdom has no pointer events of its own: a mouse event with the pointer's fields. */
function pointer(
  type: 'pointerDown' | 'pointerMove' | 'pointerUp' | 'pointerCancel',
  at: { y?: number; x?: number; id?: number; buttons?: number; button?: number } = {},
): void {
  const track = screen.getByTestId('track');
  const event = createEvent[type](track);
  const { x = 0, y = 0, id = 1, buttons = 1, button = 0 } = at;
  const fields = { clientX: x, clientY: y, pointerId: id, buttons, button };
  for (const [name, value] of Object.entries(fields)) Object.defineProperty(event, name, { value });
  fireEvent(track, event);
}

function Fader({
  level,
  disabled = false,
  onMove,
  lies = false,
}: {
  level: number;
  disabled?: boolean;
  onMove: (level: number) => unknown;
  lies?: boolean;
}) {
  const fader = useFader(level, disabled, 20, onMove, { lies });
  return (
    <div data-testid="track" data-shown={fader.shown} data-held={fader.held} {...fader.handlers} />
  );
}
const shown = (): number => Number(screen.getByTestId('track').dataset.shown);
function faderAt(level: number, onMove: (level: number) => unknown, more = {}): void {
  render(<Fader level={level} onMove={onMove} {...more} />);
  const track = screen.getByTestId('track');
  Object.defineProperty(track, 'clientHeight', { value: 120 });
  Object.defineProperty(track, 'clientWidth', { value: 220 });
}

describe('a fader under a hand', () => {
  test('moves by as much as the hand does; a touch alone changes nothing', () => {
    const moved: number[] = [];
    faderAt(0.5, (level) => moved.push(level));
    pointer('pointerDown', { y: 60 });
    expect(moved).toEqual([]);
    pointer('pointerMove', { y: 50 });
    pointer('pointerMove', { y: 40 });
    expect(moved).toEqual([0.6, 0.7]);
    expect(shown()).toBe(0.7);
    // Beyond its end it stays there, and comes back from where it would be.
    pointer('pointerMove', { y: -900 });
    expect(shown()).toBe(1);
    pointer('pointerMove', { y: 70 });
    expect(moved.at(-1)).toBe(0.4);
    pointer('pointerUp');
    expect(shown()).toBe(0.5);
  });

  test('lies along a line where it is asked to', () => {
    const moved: number[] = [];
    faderAt(0, (level) => moved.push(level), { lies: true });
    pointer('pointerDown', { x: 10 });
    pointer('pointerMove', { x: 60, y: 500 });
    expect(moved).toEqual([0.25]);
  });

  test('belongs to the first finger; another one, the second button and a lost release move nothing', () => {
    const moved: number[] = [];
    faderAt(0.5, (level) => moved.push(level));
    pointer('pointerDown', { y: 60, button: 2 });
    pointer('pointerMove', { y: 10 });
    expect(moved).toEqual([]);
    pointer('pointerDown', { y: 60 });
    pointer('pointerDown', { y: 60, id: 2 });
    pointer('pointerMove', { y: 10, id: 2 });
    expect(moved).toEqual([]);
    pointer('pointerMove', { y: 10, buttons: 0 });
    pointer('pointerMove', { y: 20 });
    expect(moved).toEqual([]);
  });

  test('lets go of a drag that is refused, and shows what is so', () => {
    const moved: number[] = [];
    faderAt(0.5, (level) => {
      moved.push(level);
      return false;
    });
    pointer('pointerDown', { y: 60 });
    pointer('pointerMove', { y: 50 });
    pointer('pointerMove', { y: 40 });
    expect(moved).toEqual([0.6]);
    expect(shown()).toBe(0.5);
  });

  test('goes by keys and wheel in steps, within its ends', () => {
    const moved: number[] = [];
    faderAt(0.995, (level) => moved.push(level));
    const track = screen.getByTestId('track');
    for (const key of ['ArrowUp', 'ArrowDown', 'PageDown', 'Home', 'End', 'Tab'])
      fireEvent.keyDown(track, { key });
    fireEvent.wheel(track, { deltaY: 3 });
    expect(moved).toEqual([1, 0.985, 0.895, 0, 1, 0.985]);
  });

  test('that is not to be moved stays', () => {
    const moved: number[] = [];
    faderAt(0.5, (level) => moved.push(level), { disabled: true });
    pointer('pointerDown', { y: 60 });
    pointer('pointerMove', { y: 10 });
    fireEvent.keyDown(screen.getByTestId('track'), { key: 'End' });
    fireEvent.wheel(screen.getByTestId('track'), { deltaY: -3 });
    expect(moved).toEqual([]);
  });
});

function Settling({ value, write }: { value: number; write: (value: number) => unknown }) {
  const { shown: at, steps, put, settle, leave } = useSettling(value, write);
  return (
    <div data-testid="value" data-shown={at}>
      <button onClick={() => steps(at + 1)}>more</button>
      <button onClick={() => put(at + 10)}>drag</button>
      <button onClick={settle}>let go</button>
      <button onClick={leave}>leave</button>
    </div>
  );
}

describe('a value that is written once', () => {
  const value = (): string | undefined => screen.getByTestId('value').dataset.shown;
  const press = (name: string): void => void fireEvent.click(screen.getByText(name));

  test('a run of steps is one edit when the hand rests', async () => {
    const written: number[] = [];
    render(<Settling value={1} write={(v) => written.push(v)} />);
    for (let i = 0; i < 3; i++) press('more');
    expect(value()).toBe('4');
    await act(() => jest.advanceTimersByTimeAsync(600));
    press('more');
    await act(() => jest.advanceTimersByTimeAsync(600));
    expect(written).toEqual([]);
    await act(() => jest.advanceTimersByTimeAsync(200));
    expect(written).toEqual([5]);
    // The rows have not come: what the house has is shown again.
    await act(() => jest.advanceTimersByTimeAsync(300));
    expect(value()).toBe('1');
  });

  test('a drag is written when it ends, left alone it never was; a part that goes away writes what was put', () => {
    const written: number[] = [];
    const { unmount } = render(<Settling value={1} write={(v) => written.push(v)} />);
    press('drag');
    press('leave');
    press('let go');
    expect([written, value()]).toEqual([[], '1']);
    press('drag');
    press('let go');
    expect(written).toEqual([11]);
    press('more');
    unmount();
    expect(written).toEqual([11, 12]);
  });

  test('counts from what had been seen when the hand began, not from when it let go', () => {
    useScreen.setState({ seq: 7 });
    const seen: number[] = [];
    render(<Settling value={1} write={() => seen.push(seenNow())} />);
    press('drag');
    useScreen.setState({ seq: 12 });
    press('drag');
    press('let go');
    expect(seen).toEqual([7]);
    expect(seenNow()).toBe(12);
  });
});

describe('a key that holds', () => {
  function Key({ onHold }: { onHold: (on: boolean) => void }) {
    return <button data-testid="track" type="button" {...useHold(false, onHold)} />;
  }

  test('goes down and up once for each press, also by the keyboard', () => {
    const held: boolean[] = [];
    render(<Key onHold={(on) => held.push(on)} />);
    pointer('pointerDown');
    pointer('pointerUp', { buttons: 0 });
    const key = screen.getByTestId('track');
    fireEvent.keyDown(key, { key: ' ' });
    fireEvent.keyDown(key, { key: ' ', repeat: true });
    fireEvent.keyUp(key, { key: ' ' });
    expect(held).toEqual([true, false, true, false]);
  });

  test('that goes away under the finger, as when another turns the page, is up', () => {
    const held: boolean[] = [];
    const { unmount } = render(<Key onHold={(on) => held.push(on)} />);
    pointer('pointerDown');
    unmount();
    expect(held).toEqual([true, false]);
    const again = render(<Key onHold={(on) => held.push(on)} />);
    fireEvent.keyDown(screen.getByTestId('track'), { key: 'Enter' });
    again.unmount();
    expect(held).toEqual([true, false, true, false]);
    // Nothing is let go that nobody held.
    render(<Key onHold={(on) => held.push(on)} />).unmount();
    expect(held).toHaveLength(4);
  });
});
