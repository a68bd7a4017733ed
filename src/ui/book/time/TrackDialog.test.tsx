/**
 * How a list goes along its track, as it is typed.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { apply, exampleShow } from '@/core/testing/example';
import type { ListTime } from '@/core/time/rows';
import type { MutableShow } from '@/core/show/show';
import { edit } from '../../state/edits';
import { useScreen } from '../../state/store';
import { TrackDialog } from './TrackDialog';

jest.mock('../../state/edits', () => ({ edit: jest.fn(() => Promise.resolve({ changes: [] })) }));
const written = edit as unknown as jest.Mock;
const time = (): unknown =>
  ((written.mock.calls as unknown[][])[0]?.[1] as { set: { time: unknown } } | undefined)?.set.time;

let show: MutableShow;
beforeEach(() => {
  written.mockClear();
  show = exampleShow();
  useScreen.setState({ show });
});
afterEach(cleanup);

function open(is: Partial<ListTime>): void {
  apply(show, 'change-list', {
    id: 'main',
    set: { time: { on: true, tempo: [], marks: [], ...is } },
  });
  const list = [...show.lists.values()].find((l) => l.number === 1);
  if (!list) throw new Error('no list');
  render(<TrackDialog list={list} onClose={() => undefined} />);
}
const type = (label: string, value: string): void =>
  void fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string): Promise<void> =>
  act(async () => {
    fireEvent.click(screen.getByRole('button', { name }));
    await new Promise((done) => setTimeout(done));
  });
const RUN_ON = 'Without its timecode it runs on for, s';
const GIVES = 'Timecode that it gives at its beginning';

test('its end, what then, and what a GO in between does; what else the track has stays', async () => {
  const marks = [{ at_s: 4, name: 'Verse' }];
  open({ marks });
  type('It ends at', '3:12.5');
  type('At its end', 'loop');
  type('A GO while it plays', 'leave');
  await press('Set it');
  expect(time()).toEqual({
    on: true,
    tempo: [],
    marks,
    end_s: 192.5,
    atEnd: 'loop',
    onGo: 'leave',
  });
});

test('as usual is nothing that is kept', async () => {
  open({
    end_s: 60,
    atEnd: 'loop',
    onGo: 'leave',
    timecode: { from: 'midi', offset_s: 3600, runOn_s: 9 },
  });
  type('It ends at', '');
  type('At its end', 'stop');
  type('A GO while it plays', 'wait');
  type(RUN_ON, '');
  await press('Set it');
  expect(time()).toEqual({
    on: true,
    tempo: [],
    marks: [],
    timecode: { from: 'midi', offset_s: 3600 },
  });
});

test('timecode: how long it runs on without, and at which rate and from where it is given', async () => {
  open({
    timecode: { from: 'ltc', offset_s: 0 },
    gives: { to: ['midi'], rate: '25', offset_s: 0 },
  });
  type(RUN_ON, '5');
  type('Frames a second', '29.97 drop');
  type(GIVES, '01:00:00:00');
  await press('Set it');
  expect(time()).toMatchObject({
    timecode: { from: 'ltc', runOn_s: 5 },
    gives: { to: ['midi'], rate: '29.97 drop' },
  });
  expect((time() as ListTime).gives?.offset_s).toBeCloseTo(3600, 1);
});

test('what is no moment, and no timecode at that rate, is said where it stands; nothing is written', async () => {
  open({
    timecode: { from: 'midi', offset_s: 0 },
    gives: { to: ['midi'], rate: '25', offset_s: 0 },
  });
  type('It ends at', 'late');
  type(RUN_ON, '2:00:00');
  type(GIVES, '00:01:00:00');
  type('Frames a second', '29.97 drop');
  await press('Set it');
  for (const says of ['Like 3:12.5, or nothing: with its last fade.', 'Seconds, up to an hour.'])
    expect(screen.getByText(says)).toBeTruthy();
  type('It ends at', '');
  type(RUN_ON, '');
  await press('Set it');
  expect(screen.getByText(/^There is no such timecode at 29.97 drop/)).toBeTruthy();
  expect(written).not.toHaveBeenCalled();
});

test('a track without timecode asks nothing about it', () => {
  open({});
  expect(screen.queryByLabelText(RUN_ON)).toBeNull();
  expect(screen.queryByLabelText(GIVES)).toBeNull();
});
