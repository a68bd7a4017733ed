/** Hands: MIDI bytes as what a hand does and back, and what each part of one is bound to. */
import fc from 'fast-check';
import { changeOf } from '../show/fields-of.ts';
import { evenly } from '../testing/evenly.ts';
import { apply, cue, exampleShow, idOf, refused, sheet } from '../testing/example.ts';
import { freshMidi, liftAll, readMidi, tellMidi } from './midi.ts';
import { actOn, boundOn, ControlId } from './rows.ts';
import { sayAct, sayControl } from './words.ts';

const read = (...bytes: number[]) => readMidi(freshMidi(), bytes, 0);

describe('MIDI', () => {
  test('notes are pressed and lifted, on their channel; no velocity is a lifting', () => {
    expect(read(0x90, 60, 127)).toEqual([
      { control: 'note.1.60', value: 1, on: true, isKey: true },
    ]);
    expect(read(0x9f, 60, 0)).toMatchObject([{ control: 'note.16.60', on: false }]);
    expect(read(0x83, 7, 64)).toMatchObject([{ control: 'note.4.7', on: false }]);
  });

  test('control changes go from 0 to 1, the fine half after its coarse one as well', () => {
    expect(read(0xb0, 7, 0)).toMatchObject([{ control: 'cc.1.7', value: 0, on: false }]);
    expect(read(0xb0, 7, 127)).toMatchObject([{ value: 1 }]);
    const state = freshMidi();
    readMidi(state, [0xb0, 7, 64], 100);
    const [fine] = readMidi(state, [0xb0, 39, 1], 105);
    expect(fine).toMatchObject({ control: 'cc.1.7', value: ((64 << 7) | 1) / 16383 });
    // Long after it, it is a control of its own.
    expect(readMidi(state, [0xb0, 39, 1], 900)).toMatchObject([{ control: 'cc.1.39' }]);
  });

  test('bends have 14 bits, programs are pressed; what no hand does is nothing', () => {
    expect(read(0xe0, 0, 64)).toMatchObject([{ control: 'bend.1', value: 8192 / 16383 }]);
    expect(read(0xc2, 5)).toMatchObject([{ control: 'program.3.5', on: true }]);
    for (const bytes of [[0xf8], [0xf0, 1, 2, 0xf7], [0x90, 60], [0x90, 200, 3], []])
      expect(read(...bytes)).toEqual([]);
  });

  test('whatever comes, a control is one that can be bound, and its value is from 0 to 1', () =>
    fc.assert(
      fc.property(fc.array(fc.uint8Array({ maxLength: 4 }), { maxLength: 40 }), (messages) => {
        const state = freshMidi();
        messages.forEach((m, i) => {
          for (const { control, value } of readMidi(state, m, i)) {
            expect(ControlId.safeParse(control).success).toBe(true);
            expect(value >= 0 && value <= 1).toBe(true);
          }
        });
      }),
    ));

  test('a hand that goes lifts all that it had down, once', () => {
    const state = freshMidi();
    readMidi(state, [0x90, 60, 100], 0);
    readMidi(state, [0x90, 61, 100], 0);
    readMidi(state, [0x80, 60, 0], 0);
    expect(liftAll(state)).toMatchObject([{ control: 'note.1.61', on: false }]);
    expect(liftAll(state)).toEqual([]);
    readMidi(state, [0x90, 62, 1], 0);
    expect(readMidi(state, [0xb0, 123, 0], 0)).toMatchObject([{ control: 'note.1.62', on: false }]);
  });

  test('what a hand is told comes back as what it would say', () =>
    fc.assert(
      fc.property(
        fc.constantFrom('note', 'cc', 'bend'),
        fc.integer({ min: 1, max: 16 }),
        fc.integer({ min: 64, max: 119 }),
        evenly(0.02, 1),
        (kind, channel, number, level) => {
          const control = kind === 'bend' ? `bend.${channel}` : `${kind}.${channel}.${number}`;
          const [heard] = read(...(tellMidi(control, level) ?? []));
          expect(heard?.control).toBe(control);
          expect(Math.abs((heard?.value ?? 0) - level)).toBeLessThan(0.005);
        },
      ),
    ));

  test('a key of the keyboard is told nothing', () => {
    expect(tellMidi('key.KeyQ', 1)).toBeUndefined();
    expect(tellMidi('program.1.5', 1)).toBeUndefined();
  });
});

describe('bindings', () => {
  const made = () => {
    const show = exampleShow();
    cue(show, 1, { 1: 10 });
    apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1)] });
    const group = [...show.groups.keys()][0] ?? '';
    apply(show, 'set-fader', {
      set: {
        name: 'Front',
        holds: { kind: 'group', id: group },
        mode: 'inhibiting',
        flash: 'full',
      },
    });
    apply(show, 'set-hand', {
      set: { name: 'Fader wing', kind: 'midi', port: '', pages: ['', 'Act one'] },
    });
    return { show, hand: [...show.hands.keys()][0] ?? '', fader: [...show.faders.keys()][0] ?? '' };
  };

  test('a control does one thing on a page; on page 0 it does it wherever nothing else is bound', () => {
    const { show, hand, fader } = made();
    apply(show, 'bind', { hand, page: 0, control: 'note.1.60', act: { do: 'list', what: 'go' } });
    const by = apply(show, 'bind', {
      hand,
      page: 2,
      control: 'note.1.60',
      act: { do: 'flash', fader },
    });
    expect(by.summary).toBe('Bound note 60 of “Fader wing” to flash Front');
    const row = show.hands.get(hand);
    if (!row) throw new Error('no hand');
    expect([actOn(row, 1, 'note.1.60')?.do, actOn(row, 2, 'note.1.60')?.do]).toEqual([
      'list',
      'flash',
    ]);
    expect(boundOn(row, 1).size).toBe(1);
    const again = apply(show, 'bind', {
      hand,
      page: 2,
      control: 'note.1.60',
      act: { do: 'blackout' },
    });
    expect(again.summary).toContain('instead of flash Front');
    apply(show, 'bind', { hand, page: 2, control: 'note.1.60', act: null });
    expect(actOn(show.hands.get(hand) ?? row, 2, 'note.1.60')?.do).toBe('list');
    expect(refused(show, 'bind', { hand, page: 2, control: 'note.1.60', act: null }).code).toBe(
      'nothing',
    );
  });

  test('what is gone, a page that is not there, and a part that no hand has are refused', () => {
    const { show, hand } = made();
    const to = (more: object) =>
      refused(show, 'bind', { hand, page: 1, control: 'cc.1.7', act: { do: 'master' }, ...more });
    expect(to({ act: { do: 'fader', fader: 'none' } }).code).toBe('not-found');
    expect(to({ page: 3 }).message).toBe('“Fader wing” has no page 3.');
    expect(to({ control: 'cc.17.7' }).code).toBe('invalid');
    expect(to({ control: 'note.1.128' }).code).toBe('invalid');
    expect(to({ hand: 'none' }).code).toBe('not-found');
    expect(
      refused(show, 'set-hand', {
        set: { name: 'fader WING', kind: 'midi', port: '', pages: [''] },
      }).code,
    ).toBe('clash');
  });

  test('parts and what they do are said as people say them', () => {
    const { show, fader } = made();
    expect(['note.1.60', 'cc.2.7', 'bend.1', 'key.KeyQ', 'key.Shift+F5'].map(sayControl)).toEqual([
      'note 60',
      'control 7, channel 2',
      'bend',
      'Q',
      'Shift F5',
    ]);
    const key = { kind: 'fader', fader, as: 'flash' };
    const { pieces } = sheet(show, 'House', [{ kind: 'words', text: 'Port' }, key]);
    expect(sayAct(show, { do: 'piece', piece: pieces[0] ?? '' })).toBe('Port');
    // Under its fader a key may be called as one likes; in a picture of the hand it says whose it is.
    const words = (): string | undefined => sayAct(show, { do: 'piece', piece: pieces[1] ?? '' });
    expect(words()).toBe('Front');
    const row = show.sheetpieces.get(pieces[1] ?? '');
    if (row) show.apply([changeOf('sheetpieces', row, { ...row, label: 'Flash' })]);
    expect(words()).toBe('Flash Front');
    expect(sayAct(show, { do: 'fader', fader })).toBe('Front');
    expect(sayAct(show, { do: 'piece', piece: 'gone' })).toBeUndefined();
    apply(show, 'delete-fader', { id: fader });
    expect(sayAct(show, { do: 'flash', fader })).toBeUndefined();
  });
});
