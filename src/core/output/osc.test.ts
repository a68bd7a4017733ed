import fc from 'fast-check';
import { oscCommand } from '../live/osc-commands.ts';
import { exampleShow } from '../testing/example.ts';
import { midiMessage, readMidi } from './midi.ts';
import { oscMessage, readOsc } from './osc.ts';

const hex = (bytes: Uint8Array): string => Buffer.from(bytes).toString('hex');

test('an OSC message is padded to four bytes, type tags first, numbers with the high byte first', () => {
  expect(hex(oscMessage('/go', []))).toBe('2f676f00' + '2c000000');
  expect(hex(oscMessage('/a/1', [1, 0.5, 'ok']))).toBe(
    '2f612f3100000000' + '2c69667300000000' + '00000001' + '3f000000' + '6f6b0000',
  );
});

test('what is written is read back, and nothing else is taken for a message', () => {
  const arg = fc.oneof(
    fc.integer({ min: -(2 ** 31) + 1, max: 2 ** 31 - 1 }),
    fc.string({ unit: fc.constantFrom('a', 'B', ' ', '7', '/'), maxLength: 12 }),
    fc.constant(0.25),
  );
  fc.assert(
    fc.property(fc.array(arg, { maxLength: 8 }), (args) =>
      expect(readOsc(oscMessage('/wingman/x', args))).toEqual({ address: '/wingman/x', args }),
    ),
  );
  fc.assert(
    fc.property(
      fc.uint8Array({ maxLength: 40 }),
      (bytes) => readOsc(bytes) === undefined || bytes[0] === 0x2f,
    ),
  );
});

test('yes and no are 1 and 0; blobs, bundles, and what is cut short are not taken; old senders leave the tags out', () => {
  const of = (text: string): Uint8Array => Uint8Array.from(Buffer.from(text, 'latin1'));
  expect(readOsc(of('/a\0\0,TF\0'))).toEqual({ address: '/a', args: [1, 0] });
  expect(readOsc(of('/a\0\0,b\0\0\0\0\0\0'))).toBeUndefined();
  expect(readOsc(of('#bundle\0\0\0\0\0\0\0\0\x01'))).toBeUndefined();
  expect(readOsc(of('/a\0\0,i\0\0\0\0'))).toBeUndefined();
  expect(readOsc(of('/go\0'))).toEqual({ address: '/go', args: [] });
  expect(readOsc(oscMessage('/go', ['héllo']))).toEqual({ address: '/go', args: ['h?llo'] });
});

test.each<[string, (number | string)[], unknown]>([
  ['/wingman/go', [], { command: 'go' }],
  ['/wingman/go', [1], { command: 'go' }],
  ['/wingman/go', [0], null],
  ['/wingman/list/1/back', [], { command: 'back', list: 'main' }],
  ['/wingman/list/9/go', [], undefined],
  ['/wingman/goto', ['12.5'], { command: 'goto', cue: '12.5' }],
  ['/wingman/goto', [], undefined],
  ['/wingman/fader/3', [0.5], { command: 'fader', fader: 3, level: 0.5 }],
  ['/wingman/fader/3', [7], { command: 'fader', fader: 3, level: 1 }],
  ['/wingman/fader/x', [1], undefined],
  ['/wingman/flash/2', [0], { command: 'flash', fader: 2, on: false }],
  ['/wingman/master', [0.8], { command: 'master', level: 0.8 }],
  ['/wingman/blackout', [], { command: 'blackout', on: true }],
  ['/other/go', [], undefined],
  ['/wingman/explode', [], undefined],
])('%s %j is %j', (address, args, command) =>
  expect(oscCommand(exampleShow(), address, args)).toEqual(command),
);

test('MIDI bytes: the channel in the status, a program change in two bytes', () => {
  expect(hex(midiMessage({ kind: 'note-on', channel: 1, number: 60, value: 127 }))).toBe('903c7f');
  expect(hex(midiMessage({ kind: 'control', channel: 16, number: 7, value: 0 }))).toBe('bf0700');
  expect(hex(midiMessage({ kind: 'program', channel: 2, number: 5, value: 0 }))).toBe('c105');
  expect(readMidi(Uint8Array.of(0x80, 60, 0))).toEqual({
    kind: 'note-off',
    channel: 1,
    number: 60,
    value: 0,
  });
  expect(readMidi(Uint8Array.of(0x80, 60))).toBeUndefined();
});
