/** @jest-environment jsdom */
/** A record says and takes what is held as it is pressed, however long its dialog was open. */
import { act, renderHook } from '@testing-library/react';
import type { HeldValue } from '@/core/live/messages';
import { cue, exampleShow, idOf } from '@/core/testing/example';
import type { RecordFilter } from '../../state/recording';
import { useScreen } from '../../state/store';
import { useRecord } from './use-record';

const FILTER: RecordFilter = { from: 'programmer' };

test('what comes into the hand, and what others write, is in the plan of a dialog that is open', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  cue(show, 2, { 2: 20 });
  useScreen.setState({
    show,
    loaded: true,
    connection: 'live',
    you: { userId: 'y', name: 'Yana Orr', role: 'owner' },
    values: new Map(),
  });
  const dialog = renderHook(() => useRecord(FILTER, () => undefined));
  act(() => dialog.result.current.put({ listId: 'main', number: '1' }));
  expect(dialog.result.current.count).toBe(0);
  expect(dialog.result.current.may).toBe(false);
  const held: HeldValue = {
    fixtureId: idOf(show, 1),
    attribute: 'Dimmer',
    level: 0.37,
    recorded: false,
    fade_s: 0,
    delay_s: 0,
  };
  act(() => useScreen.setState({ values: new Map([[`${held.fixtureId}:Dimmer`, held]]) }));
  expect(dialog.result.current.count).toBe(1);
  expect(dialog.result.current.may).toBe(true);
  expect(dialog.result.current.plan?.others.map((c) => c.number)).toEqual([2000]);
  // Somebody sets that level in the next cue: nothing tracks into it any more.
  act(() => {
    cue(show, 2, { 1: 10 });
    useScreen.setState((s) => ({ revision: s.revision + 1 }));
  });
  expect(dialog.result.current.plan?.others).toEqual([]);
});
