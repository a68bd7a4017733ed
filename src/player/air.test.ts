/** Who may change what is on air, and what is said before it is done. */
import type { HouseRight } from '../core/rights.ts';
import type { Role } from '../core/roles.ts';
import { apply, cue, exampleShow } from '../core/testing/example.ts';
import { mayChangeAir, sayAir } from './air.ts';
import { desk, mara, tam } from './simulated-desk.ts';

const show = (name: string, holder: string | null) => ({
  id: name,
  name,
  holder:
    holder === null
      ? null
      : { userId: holder, name: holder === 'tam' ? 'Tam Brevik' : 'Mara Kell' },
});

test.each<
  [
    what: string,
    house: HouseRight,
    roleNow: Role | null,
    boardNow: string | null,
    boardNext: string | null,
    code: string | undefined,
  ]
>([
  ['a stranger to what is on air', 'maker', null, null, null, 'forbidden'],
  ['somebody who only looks at it', 'maker', 'viewer', null, null, 'forbidden'],
  ['somebody who plays it while its board is free', 'guest', 'operator', null, null, undefined],
  [
    'somebody who plays it while another is on its board',
    'guest',
    'programmer',
    'tam',
    null,
    'board',
  ],
  ['whoever is on its board', 'guest', 'operator', 'mara', null, undefined],
  [
    'whoever is on its board, over a show that another has',
    'guest',
    'operator',
    'mara',
    'tam',
    'board',
  ],
  ['an owner of the house, whoever has what', 'owner', null, 'tam', 'tam', undefined],
])('%s', (_what, house, roleNow, boardNow, boardNext, code) => {
  expect(
    mayChangeAir(
      { actor: mara, house, roleNow },
      show('The Night Ferry', boardNow),
      show('Sunday', boardNext),
    )?.code,
  ).toBe(code);
});

test('where nothing is on air, the board of what comes decides; taking off needs the board of what is on', () => {
  expect(
    mayChangeAir({ actor: mara, house: 'guest', roleNow: null }, undefined, show('Sunday', null)),
  ).toBeNull();
  expect(
    mayChangeAir({ actor: mara, house: 'guest', roleNow: null }, undefined, show('Sunday', 'tam'))
      ?.code,
  ).toBe('board');
  expect(
    mayChangeAir({ actor: mara, house: 'guest', roleNow: 'programmer' }, show('Ferry', 'tam'), null)
      ?.code,
  ).toBe('board');
  expect(
    mayChangeAir(
      { actor: mara, house: 'guest', roleNow: 'programmer' },
      show('Ferry', 'mara'),
      null,
    ),
  ).toBeNull();
});

test('what will happen is said: where both are, what is lit, who plays, which universes end', () => {
  const ferry = exampleShow();
  cue(ferry, 1, { 1: 100, 2: 50 }, { name: 'Quay', up_s: 0 });
  apply(ferry, 'set-route', {
    set: {
      universe: 2,
      protocol: 'sacn',
      destination: 'multicast',
      wire: 2,
      priority: 100,
      on: true,
    },
  });
  const now = desk(ferry);
  now.here.add('tam');
  now.say(tam, { command: 'board', do: 'take' });
  now.say(tam, { command: 'go' });
  now.pass(0.1);
  const sunday = exampleShow();
  apply(sunday, 'change-fixtures', {
    fixtures: [...sunday.fixtures.values()]
      .filter((f) => f.number > 100)
      .map((f) => ({ id: f.id, set: { patch: [] } })),
  });
  for (const r of [...sunday.routes.values()].filter((x) => x.universe === 2))
    apply(sunday, 'delete-route', { id: r.id });
  const comes = desk(sunday);
  expect(sayAir(now.live, comes.live)).toBe(
    '“Harbour lights” is on air (in cue 1 Quay, 2 lights lit; Tam Brevik is on its board). In 2 s the light fades over to “Harbour lights” (in no cue, dark). Universe 2 fades to nothing and ends.',
  );
  expect(sayAir(now.live, null)).toBe(
    '“Harbour lights” is on air (in cue 1 Quay, 2 lights lit; Tam Brevik is on its board). In 2 s its light fades to nothing, and nothing is sent any more.',
  );
  expect(sayAir(undefined, comes.live)).toMatch(
    /^Nothing is on air now\. “Harbour lights” \(in no cue, dark\) fades in over 2 s on universe 1\.$/,
  );
});
