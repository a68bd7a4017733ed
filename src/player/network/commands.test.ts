/** Live commands about the network: what is done, what is written down, and what is refused without a trace. */
import { exampleShow, idOf } from '../../core/testing/example.ts';
import type { InputRow } from '../../core/inputs/rows.ts';
import { desk, mara } from '../simulated-desk.ts';
import { askUnits, renameNode, takeIn } from './commands.ts';

const UID = '7ff1:00000001';

function network(rdm: object | null = null, renames = true) {
  const noted: [string, string][] = [];
  const asked: unknown[][] = [];
  const parts = {
    network: {
      rdm: () => rdm as never,
      rename: (...what: unknown[]) => (asked.push(what), renames),
    },
    note: (
      showId: string,
      entry: { kind: string; userId: string; userName: string; text: string },
    ) => void noted.push([showId, `${entry.kind} ${entry.userName}: ${entry.text}`]),
  };
  return { parts, noted, asked, d: desk() };
}

test('units are asked by whoever is on air; what is set is written down, what only shows itself is not', async () => {
  const off = network();
  expect(await askUnits(off.parts, off.d.live, mara, { command: 'rdm', do: 'look' })).toMatchObject(
    {
      code: 'unavailable',
    },
  );
  const asked: unknown[][] = [];
  const set = (...what: unknown[]): Promise<unknown> => (
    asked.push(what),
    Promise.resolve(what[2] === 600 ? { refused: true, code: 'invalid' } : null)
  );
  const on = network({ look: () => (asked.push(['look']), Promise.resolve()), set });
  const ask = (command: object) =>
    askUnits(on.parts, on.d.live, mara, { command: 'rdm', ...command } as never);
  expect(await ask({ do: 'look' })).toEqual({ ok: true });
  expect(await ask({ do: 'identify', uid: UID, value: 1 })).toEqual({ ok: true });
  expect(on.noted).toEqual([]);
  expect(await ask({ do: 'address', uid: UID, value: 41 })).toEqual({ ok: true });
  expect(on.noted).toEqual([
    [on.d.live.id, `air Mara Kell: Set the address of the unit ${UID} to 41`],
  ]);
  expect(await ask({ do: 'address', uid: UID, value: 600 })).toMatchObject({ code: 'invalid' });
  expect(await ask({ do: 'address', uid: UID })).toMatchObject({ fields: { uid: 'Which unit?' } });
  expect(await ask({ do: 'address', value: 3 })).toMatchObject({ code: 'invalid' });
  expect([asked.length, on.noted.length]).toEqual([4, 1]);
});

test('a node is called by what it is given, by its long name where it has no short one', () => {
  const to = { command: 'rename-node', address: '10.0.0.20', bindIndex: 2 } as const;
  const on = network();
  const rename = (shortName: string, longName: string, of = on) =>
    renameNode(of.parts, of.d.live, mara, { ...to, shortName, longName });
  expect(rename('', '')).toMatchObject({ code: 'invalid', fields: { shortName: 'Empty.' } });
  expect(rename('Bridge', 'Bridge, left')).toEqual({ ok: true });
  expect(rename('', 'Bridge, left')).toEqual({ ok: true });
  expect(on.asked).toEqual([
    ['10.0.0.20', 2, { shortName: 'Bridge', longName: 'Bridge, left' }],
    ['10.0.0.20', 2, { shortName: '', longName: 'Bridge, left' }],
  ]);
  expect(on.noted.map(([, text]) => text)).toEqual([
    'air Mara Kell: Called the Art-Net node at 10.0.0.20 “Bridge”',
    'air Mara Kell: Called the Art-Net node at 10.0.0.20 “Bridge, left”',
  ]);
  const gone = network(null, false);
  expect(rename('Bridge', '', gone)).toMatchObject({
    code: 'not-found',
    message: 'No Art-Net node answers at 10.0.0.20 now. Nothing was changed.',
  });
  expect(gone.noted).toEqual([]);
});

test('what another desk shows becomes values in hand, of what is patched where it is merged', () => {
  const show = exampleShow();
  const input: InputRow = {
    id: 'in',
    name: 'Guest desk',
    port: 'sacn/7',
    universe: 1,
    mode: 'merge',
  } as unknown as InputRow;
  show.apply([
    { table: 'inputs', id: 'in', before: null, after: input },
    { table: 'inputs', id: 'off', before: null, after: { ...input, id: 'off', universe: 9 } },
  ]);
  const d = desk(show);
  const heard = new Uint8Array(512);
  heard[0] = 255;
  const from = (levels: Uint8Array | null, id = 'in') =>
    takeIn({ levels: () => levels }, d.live, mara, id);
  expect(from(heard, 'gone')).toMatchObject({ code: 'not-found' });
  expect(from(null)).toMatchObject({
    code: 'nothing',
    message: 'Nothing is heard of “Guest desk”. Nothing was changed.',
  });
  expect(from(heard, 'off')).toMatchObject({ message: 'Nothing is patched in universe 9.' });
  expect(d.live.held('mara').values).toEqual([]);
  expect(from(heard)).toMatchObject({ ok: true });
  const held = d.live.held('mara').values.find((v) => v.fixtureId === idOf(show, 1));
  expect(held).toMatchObject({ attribute: 'Dimmer', level: 1 });
});
