/** A hand that is taken along from one show to another. */
import { apply, exampleShow, sheet } from '../testing/example.ts';
import { bindingsHere, keptHand, KeptHand } from './kept.ts';

function showWith(faders: readonly string[], sheetName?: string) {
  const show = exampleShow();
  for (const name of faders)
    apply(show, 'set-fader', {
      set: { name, holds: { kind: 'list', id: 'main' }, mode: 'proportional', flash: 'full' },
    });
  const pieces = sheetName
    ? sheet(show, sheetName, [{ kind: 'master', as: 'blackout' }], ['All dark']).pieces
    : [];
  return { show, faders: [...show.faders.keys()], pieces };
}

test('faders and lists are found by their numbers, pieces by sheet and name; what is not there is told', () => {
  const one = showWith(['A', 'B'], 'Band');
  apply(one.show, 'set-hand', { set: { name: 'Wing', kind: 'midi', port: '', pages: ['', 'x'] } });
  const hand = [...one.show.hands.keys()][0] ?? '';
  const bind = (page: number, control: string, act: object): unknown =>
    apply(one.show, 'bind', { hand, page, control, act });
  bind(1, 'cc.1.1', { do: 'fader', fader: one.faders[0] });
  bind(1, 'cc.1.2', { do: 'fader', fader: one.faders[1] });
  bind(2, 'note.1.1', { do: 'piece', piece: one.pieces[0] });
  bind(0, 'note.1.2', { do: 'list', what: 'go', list: 'main' });
  bind(1, 'note.1.3', { do: 'line', text: 'all at full' });
  const row = one.show.hands.get(hand);
  if (!row) throw new Error('no hand');
  const kept = KeptHand.parse(JSON.parse(JSON.stringify(keptHand(one.show, row))));

  const other = showWith(['Other'], 'Band');
  const { bindings, lost } = bindingsHere(other.show, kept);
  expect(lost).toBe(1);
  expect(bindings).toEqual({
    '1:cc.1.1': { do: 'fader', fader: other.faders[0] },
    '2:note.1.1': { do: 'piece', piece: other.pieces[0] },
    '0:note.1.2': { do: 'list', what: 'go', list: 'main' },
    '1:note.1.3': { do: 'line', text: 'all at full' },
  });
  // A hand is made of it by one edit.
  apply(other.show, 'set-hand', {
    set: { name: 'Wing', kind: 'midi', port: '', pages: ['', 'x'] },
    bindings,
  });
  expect([...other.show.hands.values()][0]?.bindings).toEqual(bindings);
});
