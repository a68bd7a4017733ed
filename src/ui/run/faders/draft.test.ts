/** A fader that is opened and kept as it was is the same; what its kind has not goes. */
import { FaderRow } from '@/core/faders/rows';
import { draftOf, FaderDraft, modesFor, setOf } from './draft';

const row = (more: object): FaderRow =>
  FaderRow.parse({
    id: 'f',
    number: 3,
    name: 'Storm',
    holds: { kind: 'look', id: 'l' },
    mode: 'proportional',
    flash: 'full',
    ...more,
  });

test.each<[string, FaderRow]>([
  ['a plain look', row({})],
  ['a look over the travel', row({ others: { come: 'travel' } })],
  ['a look at a level', row({ others: { come: 'at', at: 0.35, time_s: 2.5 } })],
  ['a look in its own time', row({ others: { come: 'raised', time_s: 4 }, priority: 70 })],
  [
    'a list with all that it can have',
    row({
      holds: { kind: 'list', id: 'm' },
      flash: 'go',
      startsWhenRaised: true,
      inListTime: true,
      releasesAtZero: true,
      keepsThroughRelease: true,
    }),
  ],
  ['an effect', row({ holds: { kind: 'effect', id: 'e' }, mode: 'rate' })],
])('%s', (_what, fader) => {
  const { id, ...set } = fader;
  void id;
  expect(setOf(FaderDraft.parse(draftOf(fader, '')), 'Thing')).toEqual(set);
});

test('what another kind had goes with it', () => {
  const draft = draftOf(
    row({ holds: { kind: 'list', id: 'm' }, flash: 'go', startsWhenRaised: true }),
    '',
  );
  expect(setOf({ ...draft, kind: 'group', id: 'g', name: '' }, 'Front')).toEqual({
    name: 'Front',
    number: 3,
    holds: { kind: 'group', id: 'g' },
    mode: 'proportional',
    flash: 'full',
  });
  const look = draftOf(row({ others: { come: 'travel' } }), '');
  expect(setOf({ ...look, mode: 'inhibiting' }, '')).not.toHaveProperty('others');
});

test.each<[Partial<FaderDraft>, string]>([
  [{ number: '0' }, 'A number from 1 to 999.'],
  [{ priority: '101' }, 'From 0 to 100.'],
  [{ at: 'half' }, 'From 0 to 100 %.'],
  [{ own: 'soon' }, 'no time'],
])('%o is refused in words', (wrong, says) => {
  const read = FaderDraft.safeParse({ ...draftOf(null, 'm'), ...wrong });
  expect(read.error?.issues[0]?.message).toContain(says);
});

test('each kind has its ways', () => {
  expect(modesFor('effect')).toEqual(['size', 'rate']);
  expect(modesFor('list')).toContain('rate');
  expect(modesFor('palette')).not.toContain('rate');
});
