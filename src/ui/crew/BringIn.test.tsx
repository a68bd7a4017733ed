/**
 * What of another show is offered to come in.
 * @jest-environment jsdom
 */
import { offered, type Offer } from './BringIn';

const OFFER: Offer = {
  name: 'Harbour light',
  lists: [
    { id: 'main', name: 'Main', cues: [{ id: 'c1', number: 1500, name: 'Dusk' }] },
    { id: 'two', name: 'Haze', cues: [{ id: 'c2', number: 1000, name: 'On' }] },
  ],
  palettes: [{ id: 'p', number: 3, name: 'Rust', family: 'colour' }],
  groups: [{ id: 'g', number: 1, name: 'Front' }],
  looks: [],
  effects: [],
  fixtures: [
    { id: 'f1', number: 1, label: 'FOH 1', type: 'Shoreline 26' },
    { id: 'f2', number: 2, label: 'FOH 2', type: 'Shoreline 26' },
    { id: 'f3', number: 3, label: 'FOH 3', type: 'Shoreline 26' },
  ],
  mapping: { f1: 'ours1', f2: 'ours2', f3: null },
};

test('a fixture for which somebody says that none of ours stands is one to bring in', () => {
  const ids = (own: Record<string, string | null>) =>
    offered(OFFER, 'fixtures', own).map((f) => f.id);
  expect(ids({})).toEqual(['f3']);
  expect(ids({ f1: null })).toEqual(['f1', 'f3']);
  expect(ids({ f3: 'ours9', f2: null })).toEqual(['f2']);
});

test('cues say their list where there are several, palettes their family', () => {
  expect(offered(OFFER, 'cues', {}).map((c) => c.words)).toEqual(['Main 1.5 Dusk', 'Haze 1 On']);
  expect(offered(OFFER, 'palettes', {})).toEqual([{ id: 'p', words: '3 Rust, colour' }]);
  expect(offered(OFFER, 'groups', {})).toEqual([{ id: 'g', words: '1 Front' }]);
});
