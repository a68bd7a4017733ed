import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { ClientMessage, decodeLevels, encodeLevels } from './messages.ts';
import { LiveCommand } from './commands.ts';

const send = (frame: Uint8Array): ArrayBuffer => frame.slice().buffer;

test('frames carry only what changed, and bring the other side to the same levels', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.array(fc.tuple(fc.nat(49), evenly(0, 1)), {
          maxLength: 60,
        }),
        { maxLength: 6 },
      ),
      (frames) => {
        const here = new Float32Array(50);
        const last = new Uint16Array(50);
        const there = new Float32Array(50);
        for (const changes of frames) {
          for (const [slot, level] of changes) here[slot] = level;
          const frame = encodeLevels(here, last, 7);
          if (frame) expect(decodeLevels(send(frame), there, 7)).toBe(true);
          here.forEach((level, i) => expect(there[i]).toBeCloseTo(level, 4));
        }
      },
    ),
    { numRuns: 50 },
  );
});

test('nothing changed, nothing sent; few changes are sent as pairs', () => {
  const levels = new Float32Array(1000);
  const last = new Uint16Array(1000);
  expect(encodeLevels(levels, last, 1)).toBeNull();
  levels[17] = 0.5;
  expect(encodeLevels(levels, last, 1)?.length).toBe(8 + 6);
  expect(encodeLevels(levels, last, 1, true)?.length).toBe(8 + 2000);
});

test('a frame of another slot table, a cut one and a hostile one are not read', () => {
  const frame =
    encodeLevels(Float32Array.of(1, 0, 0.5), new Uint16Array(3), 4, true) ?? new Uint8Array();
  const levels = new Float32Array(3);
  expect(decodeLevels(send(frame), levels, 5)).toBe(false);
  expect(decodeLevels(send(frame.subarray(0, 9)), levels, 4)).toBe(false);
  const hostile = frame.slice();
  new DataView(hostile.buffer).setUint32(4, 0xffffffff, true);
  expect(decodeLevels(send(hostile), levels, 4)).toBe(false);
  expect(decodeLevels(send(frame), levels, 4)).toBe(true);
});

test('a level of 300, a fixture 0 and an unknown command are not commands', () => {
  for (const command of [
    { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 300 },
    { command: 'set', fixtures: [0], attribute: 'Dimmer', level: 1 },
    { command: 'set', fixtures: [], attribute: 'Dimmer', level: 1 },
    { command: 'explode' },
    { command: 'master', level: NaN },
  ]) {
    expect(LiveCommand.safeParse(command).success).toBe(false);
    expect(ClientMessage.safeParse({ type: 'command', id: 1, command }).success).toBe(false);
  }
});
