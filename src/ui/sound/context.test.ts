/** The sound output of a screen: the one that was chosen, and said where it is not. */
const sinks: string[] = [];
const stored = new Map<string, string>();
let there: string[] = [];
let named = true;
let changed: () => void = () => undefined;
const said: string[] = [];

class FakeContext {
  state = 'running';
  setSinkId(id: string): Promise<void> {
    if (id !== '' && !there.includes(id)) return Promise.reject(new Error('NotFoundError'));
    sinks.push(id);
    return Promise.resolve();
  }
}
jest.mock('../parts/keep', () => ({
  keep: {
    getItem: (k: string) => stored.get(k) ?? null,
    setItem: (k: string, v: string) => void stored.set(k, v),
  },
}));
jest.mock('../state/messages', () => ({
  notice: { warning: (text: string) => void said.push(text) },
}));
beforeAll(() => {
  Object.assign(globalThis, { AudioContext: FakeContext });
  Object.defineProperty(globalThis, 'navigator', {
    configurable: true,
    value: {
      mediaDevices: {
        addEventListener: (_: string, heard: () => void) => (changed = heard),
        enumerateDevices: () =>
          Promise.resolve(
            named
              ? there.map((deviceId) => ({ kind: 'audiooutput', deviceId, label: deviceId }))
              : [],
          ),
      },
    },
  });
});
const settle = (): Promise<void> => new Promise((done) => setImmediate(done));

/** A page that is loaded with what the browser kept. */
async function page(device: string) {
  jest.resetModules();
  stored.clear();
  if (device !== '') stored.set('wingman-sound-device', device);
  sinks.splice(0);
  said.splice(0);
  named = true;
  const it = await import('./context');
  it.soundContext();
  await settle();
  return it;
}

test('what was chosen is taken up again, without a word', async () => {
  there = ['desk', 'pa'];
  const { useOutput } = await page('pa');
  expect([sinks, said, useOutput.getState().problem]).toEqual([['pa'], [], null]);
});

test('nothing chosen is the browser’s own, whatever comes and goes', async () => {
  there = ['desk'];
  await page('');
  changed();
  await settle();
  expect([sinks, said]).toEqual([[], []]);
});

test('one that is not there is said once, sounds elsewhere meanwhile, and is taken when it comes', async () => {
  there = ['desk'];
  const { useOutput } = await page('pa');
  expect([sinks, said.length]).toEqual([[''], 1]);
  expect(useOutput.getState().problem).toContain('not there');
  changed();
  await settle();
  expect(said).toHaveLength(1);
  there = ['desk', 'pa'];
  changed();
  await settle();
  expect([sinks.at(-1), useOutput.getState().problem]).toEqual(['pa', null]);
});

test('one that is pulled in the show is said, also to a page that is told no names', async () => {
  for (const names of [true, false]) {
    there = ['desk', 'pa'];
    const { useOutput } = await page('pa');
    named = names;
    there = ['desk'];
    changed();
    await settle();
    expect([said.length, sinks.at(-1)]).toEqual([1, '']);
    expect(useOutput.getState().problem).toContain('not there');
  }
});

test('another one is chosen and kept; one that cannot be is said', async () => {
  there = ['desk', 'pa'];
  const { chooseDevice, useOutput } = await page('');
  await chooseDevice('pa');
  expect([sinks.at(-1), stored.get('wingman-sound-device'), said]).toEqual(['pa', 'pa', []]);
  await chooseDevice('gone');
  expect([sinks.at(-1), said.length, useOutput.getState().device]).toEqual(['', 1, 'gone']);
  await chooseDevice('');
  expect(useOutput.getState().problem).toBeNull();
});
