/**
 * Things that a hand takes from one place to another.
 * @jest-environment jsdom
 */
import { closestCenter, useDraggable, useDroppable } from '@dnd-kit/core';
import { act, cleanup, render, screen } from '@testing-library/react';
import { DragSpace, type HeldAt } from './drag-space';
import { Sortable, SortableItem } from './sortable';

const WIDTH = 100;
const IDS = ['a', 'b', 'c', 'd'];

beforeEach(() => {
  // jsdom lays nothing out: a row of boxes side by side, in the order in which they stand.
  jest.spyOn(Element.prototype, 'getBoundingClientRect').mockImplementation(function (
    this: Element,
  ) {
    const boxes = [...document.querySelectorAll('[data-box]')];
    const own = boxes.filter((box) => this.contains(box));
    const at = own.length === 1 ? boxes.indexOf(own[0] as Element) : 0;
    return new DOMRect(at * WIDTH, 0, WIDTH, 40);
  });
});
afterEach(() => {
  cleanup();
  jest.restoreAllMocks();
});

const mouse = (on: EventTarget, type: string, x: number): boolean =>
  on.dispatchEvent(
    new MouseEvent(type, { bubbles: true, cancelable: true, button: 0, clientX: x, clientY: 20 }),
  );
/** Each is heard by itself, and what comes of it is drawn before the next. */
async function drawn(...events: (() => unknown)[]): Promise<void> {
  // What waits within is drawn too.
  for (const event of events) await act(() => Promise.resolve(void event()));
}
/** All of them are heard before anything is drawn. */
const atOnce = (...events: (() => unknown)[]): Promise<void> =>
  drawn(() => events.forEach((event) => event()));
const middle = (id: string): number => IDS.indexOf(id) * WIDTH + WIDTH / 2;

describe('a row that is put in order', () => {
  const orders: string[][] = [];
  beforeEach(() => {
    orders.length = 0;
    render(
      <Sortable ids={IDS} onOrder={(ids) => orders.push(ids)}>
        {IDS.map((id) => (
          <SortableItem key={id} id={id}>
            <button type="button" data-box>
              {id}
            </button>
          </SortableItem>
        ))}
      </Sortable>,
    );
  });
  const take = (id: string): Promise<void> =>
    drawn(
      () => mouse(screen.getByText(id), 'mousedown', middle(id)),
      () => mouse(document, 'mousemove', middle(id) + 8),
      () => mouse(document, 'mousemove', middle(id) + 10),
    );

  test('it lies where the hand let go, also when that is heard before its last step is drawn', async () => {
    await take('a');
    await drawn(() => mouse(document, 'mousemove', middle('b')));
    await atOnce(
      () => mouse(document, 'mousemove', middle('d')),
      () => mouse(document, 'mouseup', middle('d')),
    );
    expect(orders).toEqual([['b', 'c', 'd', 'a']]);
  });

  test('and back again, with no move at all between the last that was drawn and the letting go', async () => {
    await take('d');
    await drawn(
      () => mouse(document, 'mousemove', middle('a')),
      () => mouse(document, 'mousemove', middle('c')),
      () => mouse(document, 'mouseup', middle('b')),
    );
    expect(orders).toEqual([['a', 'd', 'b', 'c']]);
  });

  test('back where it was, it changes nothing; the key of escape leaves it there', async () => {
    await take('b');
    await atOnce(
      () => mouse(document, 'mousemove', middle('d')),
      () => mouse(document, 'mousemove', middle('b') + 3),
      () => mouse(document, 'mouseup', middle('b') + 3),
    );
    await take('b');
    await drawn(
      () => mouse(document, 'mousemove', middle('d')),
      () => document.dispatchEvent(new KeyboardEvent('keydown', { code: 'Escape', bubbles: true })),
      () => mouse(document, 'mouseup', middle('d')),
    );
    expect(orders).toEqual([]);
  });
});

test('the finger that took hold leads, whatever another one does meanwhile', async () => {
  jest.useFakeTimers();
  const dropped: number[] = [];
  const Thing = () => {
    const { setNodeRef, listeners } = useDraggable({ id: 'thing' });
    return (
      <button ref={setNodeRef} data-box type="button" {...listeners}>
        thing
      </button>
    );
  };
  const Place = () => <i ref={useDroppable({ id: 'place' }).setNodeRef} data-box />;
  render(
    <DragSpace detect={closestCenter} onDrop={(_, at) => dropped.push(at.box.left)}>
      <Thing />
      <Place />
    </DragSpace>,
  );
  const at = (x: number): object => ({ clientX: x, clientY: 20 });
  const touch = (type: string, touches: object[], changedTouches: object[]): void => {
    const event = new TouchEvent(type, { bubbles: true, cancelable: true });
    Object.defineProperty(event, 'touches', { value: touches });
    Object.defineProperty(event, 'changedTouches', { value: changedTouches });
    screen.getByText('thing').dispatchEvent(event);
  };
  await drawn(
    () => touch('touchstart', [at(50)], [at(50)]),
    () => jest.advanceTimersByTime(300),
    () => touch('touchmove', [at(110)], [at(110)]),
  );
  await atOnce(
    () => touch('touchmove', [at(120), at(390)], [at(390)]),
    () => touch('touchend', [at(120)], [at(390)]),
  );
  expect(dropped).toEqual([70]);
  jest.useRealTimers();
});

test('what is shown on the way is where the thing is, and nothing after it', async () => {
  const seen: (HeldAt | null)[] = [];
  const dropped: string[] = [];
  const Thing = () => {
    const { setNodeRef, listeners } = useDraggable({ id: 'thing' });
    return (
      <button ref={setNodeRef} data-box type="button" {...listeners}>
        thing
      </button>
    );
  };
  const Place = ({ id }: { id: string }) => (
    <i ref={useDroppable({ id }).setNodeRef} data-box>
      {id}
    </i>
  );
  render(
    <DragSpace
      detect={closestCenter}
      onMove={(at) => seen.push(at)}
      onDrop={(thing, at) => dropped.push(`${thing.id} on ${at.over?.id} from ${at.box.left}`)}
    >
      <Thing />
      <Place id="near" />
      <Place id="far" />
    </DragSpace>,
  );
  await drawn(
    () => mouse(screen.getByText('thing'), 'mousedown', 50),
    () => mouse(document, 'mousemove', 60),
    () => mouse(document, 'mousemove', 150),
  );
  expect(seen.at(-1)).toMatchObject({ over: { id: 'near' }, box: { left: 100 } });
  await atOnce(
    () => mouse(document, 'mousemove', 250),
    () => mouse(document, 'mouseup', 256),
  );
  expect(dropped).toEqual(['thing on far from 206']);
  expect(seen.at(-1)).toBeNull();
});
