/** Sound cards of a machine: which there are, and what is opened where one is chosen. */
import { cardNames, type Cards } from './cards.ts';
import { cardInput } from './inputs.ts';
import { cardOutput } from './outputs.ts';

const HZ = 44_100;
const ENDS = [
  { kind: 'audiooutput', label: 'Pit card', deviceId: 'out-1' },
  { kind: 'audiooutput', label: 'Pit card', deviceId: 'out-2' },
  { kind: 'audiooutput', label: '', deviceId: 'out-3' },
  { kind: 'audioinput', label: 'Line in', deviceId: 'in-1' },
  { kind: 'audioinput', label: '', deviceId: 'in-2' },
];

/** Cards that write down what is asked of them; their time is `at.s`. */
function standIn({ ends = ENDS, fails = false } = {}) {
  const did: unknown[] = [];
  const at = { s: 0, latency_s: 0.02 };
  let tap: ((event: unknown) => void) | null = null;
  class AudioContext {
    sampleRate = HZ;
    destination = 'out';
    baseLatency = 0.5;
    constructor(options?: unknown) {
      if (fails) throw new Error('busy');
      did.push(['context', options]);
    }
    get currentTime(): number {
      return at.s;
    }
    get outputLatency(): number {
      return at.latency_s;
    }
    createBufferSource() {
      return {
        buffer: null as AudioBuffer | null,
        connect: (to: unknown) => did.push(['connect', to]),
        start(when: number) {
          did.push(['start', when, this.buffer?.channels]);
        },
      };
    }
    createScriptProcessor(...shape: number[]) {
      did.push(['tap', ...shape]);
      return {
        set onaudioprocess(f: (event: unknown) => void) {
          tap = f;
        },
        connect: (to: unknown) => did.push(['tap to', to]),
      };
    }
    createMediaStreamSource() {
      return { connect: () => did.push(['from the stream']) };
    }
    close() {
      did.push(['closed']);
    }
  }
  class AudioBuffer {
    channels: number[][] = [];
    constructor(readonly shape: { length: number }) {}
    copyToChannel(samples: Float32Array, channel: number) {
      this.channels[channel] = [...samples];
    }
  }
  const cards = {
    AudioContext,
    AudioBuffer,
    mediaDevices: {
      enumerateDevices: () => Promise.resolve(ends),
      getUserMedia: (wanted: unknown) => {
        did.push(['asked', wanted]);
        return Promise.resolve({ getTracks: () => [{ stop: () => did.push(['stopped']) }] });
      },
    },
  } as unknown as Cards;
  return {
    did,
    at,
    cards: () => Promise.resolve(cards),
    hears: (samples: Float32Array) =>
      tap?.({ inputBuffer: { getChannelData: (n: number) => (n === 0 ? samples : []) } }),
  };
}
const noPackage = (): Promise<Cards> => Promise.reject(new Error('no such module'));

test('each name once, inputs and outputs apart; what has no name goes by what the system calls it', async () => {
  const { cards } = standIn();
  expect(await cardNames(cards, 'audiooutput')).toEqual(['Pit card', 'out-3']);
  expect(await cardNames(cards, 'audioinput')).toEqual(['Line in', 'in-2']);
  expect(await cardNames(noPackage, 'audioinput')).toEqual([]);
});

test('every name that is offered can be opened, and it is that one that is', async () => {
  for (const [name, sinkId] of [
    ['Pit card', 'out-1'],
    ['out-3', 'out-3'],
  ] as const) {
    const { cards, did } = standIn();
    expect(typeof (await cardOutput(cards, name))).toBe('object');
    expect(did).toEqual([['context', { latencyHint: 'playback', sinkId }]]);
  }
  for (const [name, deviceId] of [
    ['Line in', 'in-1'],
    ['in-2', 'in-2'],
  ] as const) {
    const { cards, did } = standIn();
    expect(typeof (await cardInput(cards, name, () => undefined))).toBe('object');
    expect(did[0]).toEqual(['asked', { audio: { deviceId } }]);
  }
});

test('without a name the machine chooses', async () => {
  const out = standIn({ ends: [] });
  expect(typeof (await cardOutput(out.cards, null))).toBe('object');
  expect(out.did).toEqual([['context', { latencyHint: 'playback' }]]);
  const into = standIn({ ends: [] });
  expect(typeof (await cardInput(into.cards, '', () => undefined))).toBe('object');
  expect(into.did[0]).toEqual(['asked', { audio: true }]);
});

test('what is not there, and what cannot be opened, is said in a sentence', async () => {
  const { cards } = standIn();
  expect(await cardOutput(cards, 'Line in')).toBe('The output “Line in” is not there.');
  expect(await cardInput(cards, 'Pit card', () => undefined)).toBe(
    'The input “Pit card” is not there.',
  );
  const busy = standIn({ fails: true });
  expect(await cardOutput(busy.cards, 'Pit card')).toBe('This machine has no sound output.');
  expect(await cardInput(busy.cards, 'Line in', () => undefined)).toBe(
    'This machine has no sound input.',
  );
  expect(await cardOutput(noPackage, null)).toMatch(/cannot be used: no such module\./);
  expect(await cardInput(noPackage, '', () => undefined)).toBe('This machine has no sound input.');
});

test('a block is played at its frame, left and right, and heard when the card has brought it out', async () => {
  const { cards, did, at } = standIn();
  let now_ms = 1000;
  const out = await cardOutput(cards, null, () => now_ms);
  if (typeof out === 'string') throw new Error(out);
  expect(out.rate_hz).toBe(HZ);
  out.write(Float32Array.of(0.5, 0.25), Float32Array.of(-0.5, 0), HZ * 2);
  expect(did.slice(1)).toEqual([
    ['connect', 'out'],
    [
      'start',
      2,
      [
        [0.5, 0.25],
        [-0.5, 0],
      ],
    ],
  ]);
  at.s = 0.5;
  now_ms = 1500;
  expect(out.frame()).toBe(HZ / 2);
  expect(out.heardAt(HZ)).toBeCloseTo(2020, 6);
  // A look that comes late makes the card seem early; the least that was seen is the truest.
  now_ms = 1530;
  expect(out.heardAt(HZ)).toBeCloseTo(2020, 1);
  // A card that runs slower is followed, slowly: a fifth of a millisecond a second.
  now_ms = 11_500;
  at.s = 10.4;
  expect(out.heardAt(HZ)).toBeCloseTo(2022, 1);
  at.latency_s = 0;
  expect(out.heardAt(HZ)).toBeCloseTo(2502, 1);
  out.close();
  expect(did.at(-1)).toEqual(['closed']);
});

test('what an input hears comes as blocks of its first channel at the rate of the card; closed, it lets go of it', async () => {
  const { cards, did, hears } = standIn();
  const heard: [number[], number][] = [];
  const input = await cardInput(cards, '', (samples, rate) => heard.push([[...samples], rate]));
  if (typeof input === 'string') throw new Error(input);
  hears(Float32Array.of(0.5, -1));
  expect(heard).toEqual([[[0.5, -1], HZ]]);
  expect(did.slice(2)).toEqual([['tap', 1024, 1, 1], ['from the stream'], ['tap to', 'out']]);
  input.close();
  expect(did.slice(-2)).toEqual([['stopped'], ['closed']]);
});
