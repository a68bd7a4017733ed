/** The storyboard of a list along time, and the small pictures of its cues: two ways to the same light. */
import { nightFerryRows } from '@demo/night-ferry';
import { MutableShow } from '@/core/show/show';
import { apply, exampleShow, idOf } from '@/core/testing/example';
import { timedCues } from '@/core/time/timed';
import { partsOf, picturesOf, ribbonsOf } from './ribbon';

const show = new MutableShow();
show.apply(nightFerryRows());
const list = [...show.lists.values()].find((l) => l.name === 'The ledger waltz')?.id ?? '';
const END_S = 192;
const COUNT = 1920;

test('where nothing moves any more, the strip shows what the picture of its cue shows', () => {
  const ribbons = ribbonsOf(show, list, COUNT, END_S);
  const { parts, pictures } = picturesOf(show, list);
  expect(ribbons.map((r) => r.name)).toEqual(parts);
  const cues = timedCues(show, list);
  cues.forEach((cue, i) => {
    const next_s = cues[i + 1]?.at_s ?? END_S;
    const at = Math.floor(((next_s - 0.3) / END_S) * COUNT);
    ribbons.forEach(({ rgb }, part) => {
      for (let k = 0; k < 3; k++) {
        const [along, alone] = [rgb[at * 3 + k] ?? -1, pictures.get(cue.id)?.[part * 3 + k] ?? -2];
        expect([cue.name, parts[part], Math.abs(along - alone) <= 3]).toEqual([
          cue.name,
          parts[part],
          true,
        ]);
      }
    });
  });
});

test('what tracks is seen in the pictures of the cues after it; a list that lights nothing has none', () => {
  const { parts, pictures } = picturesOf(show, list);
  const cues = show.cuesOf(list);
  const bright = (id: string | undefined, part: string): number => {
    const at = parts.indexOf(part) * 3;
    const rgb = pictures.get(id ?? '');
    return (rgb?.[at] ?? 0) + (rgb?.[at + 1] ?? 0) + (rgb?.[at + 2] ?? 0);
  };
  const lit = cues.findIndex((c) => bright(c.id, 'Back pars') > 40);
  expect(lit).toBeGreaterThanOrEqual(0);
  const stays = cues.slice(lit + 1).find(
    (c) =>
      ![...show.valuesOf(c.id).values()].some((v) =>
        partsOf(show, list)
          .find((p) => p.name === 'Back pars')
          ?.units.includes(v.fixtureId),
      ),
  );
  expect(bright(stays?.id, 'Back pars')).toBeGreaterThan(40);
  expect(picturesOf(show, 'nowhere')).toEqual({ parts: [], pictures: new Map() });
});

test('an effect is seen along the strip as it comes and goes, and in the picture of its cue as much of it as there is', () => {
  const breathing = exampleShow();
  const track = { attribute: 'Dimmer', wave: 'sine', mode: 'absolute', size: 1, base: 0 };
  const { changes } = apply(breathing, 'set-effect', {
    set: {
      name: 'Breathe',
      tracks: [{ ...track, width: 1, offset: 0 }],
      speed: { round_s: 10 },
      direction: 'forward',
      spread: { turns: 0, groups: 0, blocks: 1, wings: 1 },
    },
  });
  apply(breathing, 'record-group', { name: 'One', fixtures: [idOf(breathing, 1)] });
  const runs = { effect: { id: changes[0]?.id, phase: 0 } };
  const dark = { fixtureId: idOf(breathing, 1), attribute: 'Dimmer', level: 0 };
  const record = (number: number, value: object): string =>
    apply(breathing, 'record-cue', {
      listId: 'main',
      number,
      up_s: 0,
      down_s: 0,
      values: [value],
    }).changes.find((c) => c.table === 'cues')?.id ?? '';
  const first = record(1000, { ...dark, ...runs });
  const second = record(2000, dark);
  apply(breathing, 'place-cues', { list: 'main', at: { [first]: 0, [second]: 20 } });
  const [strip] = ribbonsOf(breathing, 'main', 300, 30);
  const at = (s: number): number => strip?.rgb[Math.floor(s * 10) * 3] ?? NaN;
  expect([at(0), at(10), at(25)].map((v) => v < 5)).toEqual([true, true, true]);
  expect(at(5)).toBeGreaterThan(150);
  expect(at(15)).toBeGreaterThan(150);
  const { pictures } = picturesOf(breathing, 'main');
  const [lit, out] = [pictures.get(first)?.[0] ?? NaN, pictures.get(second)?.[0] ?? NaN];
  expect([lit > 40 && lit < at(5), out]).toEqual([true, 0]);
});
