/** What a filter lets through to the player, and what it says of the rest. */
import { apply, exampleShow, idOf } from '@/core/testing/example';
import { recordValues } from './recording';
import { filtered, PLAIN_FILTERS, setFilter } from './filter';
import { useScreen } from './store';

const show = exampleShow();
apply(show, 'record-palette', { family: 'colour', name: 'Dusk', any: { kelvin: 3200 } });
const palette = [...show.palettes.values()].find((p) => p.name === 'Dusk')?.id ?? '';
useScreen.setState({ show });
const position = PLAIN_FILTERS.find((f) => f.name === 'Position only') ?? null;

afterEach(() => setFilter(null));

test('without one everything passes as it is', () => {
  const take = { command: 'take' as const, what: 'lit' as const, whole: false };
  expect(filtered(take)).toEqual({ command: take });
});

test('taking and looks are narrowed to what counts; what is said besides is narrowed further', () => {
  setFilter(position);
  expect(filtered({ command: 'take', what: 'lit', whole: false })).toMatchObject({
    command: { families: ['position'] },
  });
  setFilter({ name: 'No colour', families: ['intensity', 'position', 'beam'] });
  expect(filtered({ command: 'look', look: 'l', families: ['colour', 'beam'] })).toMatchObject({
    command: { families: ['beam'] },
  });
});

test('what it leaves out whole is not sent, and says why', () => {
  setFilter(position);
  expect(filtered({ command: 'palette', palette: palette })).toEqual({
    stopped: '“Position only” holds on this screen: palette 1 “Dusk” is colour. Nothing was set.',
  });
  expect(filtered({ command: 'like', from: 1, families: ['colour'] })).toMatchObject({
    stopped: expect.stringContaining('it leaves out colour'),
  });
});

test('a record takes what counts, unless families are said', () => {
  const held = (attribute: string) => ({
    fixtureId: idOf(show, 101),
    attribute,
    level: 0.5,
    fade_s: 0,
    delay_s: 0,
    recorded: false,
  });
  useScreen.setState({
    values: new Map(['Dimmer', 'Pan', 'Tilt'].map((a) => [a, held(a)])),
  });
  expect(recordValues()).toHaveLength(3);
  setFilter(position);
  expect(recordValues().map((v) => v.attribute)).toEqual(['Pan', 'Tilt']);
  expect(recordValues({ from: 'programmer', families: ['intensity'] })).toHaveLength(1);
});
