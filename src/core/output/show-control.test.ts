/** MIDI Show Control against bytes that are written by hand from RP-002. */
import fc from 'fast-check';
import {
  readShowControl,
  SHOW_CONTROL_COMMANDS,
  showControlMessage,
  type ShowControl,
} from './show-control.ts';

const hex = (bytes: Uint8Array): string =>
  [...bytes].map((b) => b.toString(16).padStart(2, '0').toUpperCase()).join(' ');
const bytes = (text: string): number[] => text.split(' ').map((b) => parseInt(b, 16));

test('GO of cue 12.5 in list 2 to device 5, as the practice writes it', () => {
  const written = 'F0 7F 05 02 01 01 31 32 2E 35 00 32 F7';
  const go: ShowControl = { device: 5, command: 'go', cue: '12.5', list: '2' };
  expect(hex(showControlMessage(go))).toBe(written);
  expect(readShowControl(bytes(written))).toEqual(go);
});

test('a GO of nothing is the next cue; all types of machine are meant as well', () => {
  expect(readShowControl(bytes('F0 7F 7F 02 01 01 F7'))).toEqual({ device: 127, command: 'go' });
  expect(readShowControl(bytes('F0 7F 00 02 7F 02 F7'))).toEqual({ device: 0, command: 'stop' });
});

test('a timed GO has its time in hours, minutes, seconds, frames and hundredths', () => {
  // 1 min 2 s 15 frames of 30: 62.5 s; the type is in the hours.
  const read = readShowControl(bytes('F0 7F 01 02 01 04 60 01 02 0F 00 37 F7'));
  expect(read).toEqual({ device: 1, command: 'timed-go', time_s: 62.5, cue: '7' });
  // 25 frames a second: 12.5 frames are half a second.
  expect(readShowControl(bytes('F0 7F 01 02 01 04 20 00 00 0C 32 F7'))?.time_s).toBeCloseTo(0.5);
});

test('a set moves a control of 14 bits', () => {
  expect(readShowControl(bytes('F0 7F 01 02 01 06 03 00 00 40 F7'))).toEqual({
    device: 1,
    command: 'set',
    control: 3,
    value: 8192,
  });
});

test('sound, other system messages, what is cut short and what is no number are not taken', () => {
  for (const text of [
    'F0 7F 05 02 10 01 31 F7',
    'F0 7F 05 02 01 01 31',
    'F0 7F 05 01 01 01 31 F7',
    'F0 7E 05 02 01 01 31 F7',
    'F0 7F 05 02 01 01 41 F7',
    'F0 7F 05 02 01 01 B1 F7',
    'F0 7F 05 02 01 05 F7',
    'F0 7F 05 02 01 06 03 00 F7',
    'F0 7F 05 02 01 04 60 01 F7',
    'F0 F7',
  ])
    expect([text, readShowControl(bytes(text))]).toEqual([text, undefined]);
});

const Number = fc
  .tuple(fc.nat(9999), fc.option(fc.integer({ min: 1, max: 999 }), { nil: undefined }))
  .map(([a, b]) => (b === undefined ? `${a}` : `${a}.${b}`));
test('what is written is read', () =>
  fc.assert(
    fc.property(
      fc.constantFrom(...SHOW_CONTROL_COMMANDS),
      fc.nat(127),
      Number,
      fc.option(Number, { nil: undefined }),
      fc.nat(7200 * 30),
      (command, device, cue, list, frames) => {
        const is: ShowControl =
          command === 'set'
            ? { device, command, control: 100, value: 9000 }
            : {
                device,
                command,
                cue,
                ...(list === undefined ? {} : { list }),
                ...(command === 'timed-go' ? { time_s: frames / 30 } : {}),
              };
        const { time_s, ...read } = readShowControl(showControlMessage(is)) ?? {};
        const { time_s: wanted, ...rest } = is;
        expect(read).toEqual(rest);
        if (wanted !== undefined) expect(time_s).toBeCloseTo(wanted, 2);
      },
    ),
  ));

test('whatever comes is read as nothing or as a command, and nothing is thrown', () =>
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 30 }), (data) => {
      const read = readShowControl([0xf0, 0x7f, ...data, 0xf7]);
      if (read) expect(SHOW_CONTROL_COMMANDS).toContain(read.command);
    }),
  ));
