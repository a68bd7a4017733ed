/** Types leave as files and come back the same: ours out and in, theirs in, out and in. */
import fc from 'fast-check';
import { isRefusal } from '../refusal';
import { rawOf } from '../rig/channel';
import { libraryTypes } from '../rig/library/index';
import type { Channel, TypeRow } from '../types/rows';
import { gdtfOf, HEAD, roofGlb } from './golden';
import { readGdtf, type ReadType } from './read';
import { writeGdtf } from './write';

const ID = '0b2d6f8a-1c3e-4f50-8a9b-c0d1e2f30415';
const read = (bytes: Uint8Array): ReadType => {
  const answer = readGdtf(bytes);
  if (isRefusal(answer)) throw new Error(answer.message);
  return answer;
};

/** Places of cells, as finely as they are written. */
const tenth = (share: number): number => Math.round(share * 1e4) / 1e4;

/**
 * Levels as they are sent, since files have no others. Left out is what the standard has no place for: what a unit draws
 * while dark, and that a value is taken at the end of a move.
 */
function comparable({ idle_W, gdtf, weight_kg, ...type }: Omit<TypeRow, 'id'>): unknown {
  void [idle_W, gdtf];
  const functions = (c: Channel): Channel => {
    const { snap, functions, highlight, ...rest } = c;
    return {
      ...rest,
      default: rawOf(c, c.default),
      ...(highlight === undefined ? {} : { highlight: rawOf(c, highlight) }),
      ...(snap ? { snap: true } : {}),
      ...(functions ? { functions } : {}),
    };
  };
  return {
    ...type,
    // 0 kg is not known.
    ...(weight_kg ? { weight_kg } : {}),
    modes: type.modes.map((m) => ({
      ...m,
      ...(m.cells ? { cells: m.cells.map((c) => ({ ...c, x: tenth(c.x), y: tenth(c.y) })) } : {}),
      channels: m.channels
        .map(functions)
        .sort((a, b) => (a.break ?? 1) - (b.break ?? 1) || (a.offset[0] ?? 0) - (b.offset[0] ?? 0)),
    })),
  };
}

test.each(libraryTypes().map((t) => [`${t.maker} ${t.name}`, t] as const))(
  '%s, out and in',
  (_, { id, ...type }) => {
    void id;
    const back = read(writeGdtf(type, ID));
    expect(comparable(back.type)).toEqual(comparable(type));
  },
);

test('the meshes of a head: by what moves them, where their parts are, and the same once out and in again', () => {
  const models = ['Base', 'Yoke', 'Head'].map(
    (name) =>
      `<Model Name="${name}" Length="0.3" Width="0.4" Height="0.2" File="${name}" PrimitiveType="Undefined"/>`,
  );
  const xml = HEAD.replace(/<Models>.*<\/Models>/, `<Models>${models.join('')}</Models>`)
    .replace('Axis Name="Yoke"', 'Axis Name="Yoke" Model="Yoke"')
    .replace('Axis Name="Head"', 'Axis Name="Head" Model="Head"');
  const { type, odd } = read(
    gdtfOf(xml, {
      'models/gltf/Base.glb': roofGlb(),
      'models/gltf_low/Yoke.glb': roofGlb(),
      'models/gltf/head.glb': roofGlb(),
    }),
  );
  expect(odd.filter((o) => o.where.startsWith('mesh'))).toEqual([]);
  expect(type.body?.map((p) => [p.moves, p.mesh.low[2], p.mesh.high[2]])).toEqual([
    ['still', 0, 0.2],
    ['pan', -0.1, 0.1],
    ['tilt', -0.35, -0.15],
  ]);
  const back = read(writeGdtf(type, ID));
  expect(back.type.body).toEqual(type.body);
  expect(back.type.reach_m).toBe(0.35);
  expect(comparable(back.type)).toEqual(comparable(type));
});

test('a mesh that is not there is nobody’s loss, a broken one is said, and neither keeps the unit out', () => {
  const { type, odd } = read(gdtfOf(HEAD, { 'models/gltf/base.glb': new Uint8Array(64) }));
  expect(type.body).toBeUndefined();
  expect(odd).toContainEqual({
    where: 'mesh “base”',
    text: 'cannot be read and was left out; the unit is drawn plainly there',
  });
  expect(read(gdtfOf(HEAD)).odd.filter((o) => o.where.startsWith('mesh'))).toEqual([]);
});

test('a command of several steps on several channels: as it is, and the same once out and in again', () => {
  const value = (channel: string, v: number): string =>
    `<MacroDMXValue Value="${v}/1" DMXChannel="${channel}"/>`;
  const steps = [
    '<MacroDMXStep Duration="1"/>',
    `<MacroDMXStep Duration="2">${value('Lens_Control1', 10)}${value('Lens_Shutter1', 0)}</MacroDMXStep>`,
    '<MacroDMXStep Duration="0.5"/>',
    `<MacroDMXStep Duration="3">${value('Lens_Control1', 255)}</MacroDMXStep>`,
  ];
  const xml = HEAD.replace(/<MacroDMX>.*<\/MacroDMX>/, `<MacroDMX>${steps.join('')}</MacroDMX>`);
  const { type } = read(gdtfOf(xml));
  expect(type.macros).toEqual([
    {
      name: 'Reset',
      attribute: 'Control1',
      value: 10,
      hold_s: 2,
      also: [{ attribute: 'Shutter1', value: 0 }],
      then: [
        { values: [], hold_s: 0.5 },
        { values: [{ attribute: 'Control1', value: 255 }], hold_s: 3 },
      ],
    },
  ]);
  expect(read(writeGdtf(type, ID)).type.macros).toEqual(type.macros);
});

/** Channels as a maker could write them: functions in any order, with masters, named ranges, wheels; in cells or not. */
const someFunction = fc.record({
  at: fc.nat(255),
  does: fc.constantFrom('', '', 'Shutter1Strobe', 'Gobo1Pos', 'Effects1', 'NoFeature'),
  physical: fc.tuple(fc.integer({ min: -300, max: 300 }), fc.integer({ min: -300, max: 300 })),
  sets: fc.array(
    fc.record({ at: fc.nat(255), name: fc.constantFrom('', 'slow', 'fast'), slot: fc.nat(4) }),
    { maxLength: 3 },
  ),
  wheel: fc.boolean(),
  rests: fc.nat(255),
  /** Which channel it depends on, and between what. */
  when: fc.option(fc.record({ of: fc.nat(4), from: fc.nat(255), to: fc.nat(255) }), { freq: 2 }),
});
const someChannel = fc.record({
  bytes: fc.integer({ min: 1, max: 3 }),
  gap: fc.nat(2),
  break: fc.integer({ min: 1, max: 2 }),
  isInCell: fc.boolean(),
  snap: fc.boolean(),
  highlight: fc.option(fc.nat(255)),
  initial: fc.nat(3),
  functions: fc.array(someFunction, { minLength: 1, maxLength: 4 }),
});
type SomeChannel = (typeof someChannel extends fc.Arbitrary<infer Made> ? Made : never) & {
  base: string;
};
const BASES = [
  'Dimmer',
  'Pan',
  'Zoom',
  'Color1',
  'Gobo1',
  'Shutter1',
  'Iris',
  'Control1',
  'Frost1',
];
const someUnit: fc.Arbitrary<SomeChannel[]> = fc
  .tuple(
    fc.shuffledSubarray(BASES, { minLength: 1, maxLength: 5 }),
    fc.array(someChannel, { minLength: 5, maxLength: 5 }),
  )
  .map(([bases, channels]) =>
    channels.flatMap((c, i) => (bases[i] === undefined ? [] : [{ ...c, base: bases[i] }])),
  );

function channelsXml(unit: readonly SomeChannel[]): string {
  const parts = unit.map((c) => `${c.isInCell ? 'Ring' : 'Lens'}_${c.base}`);
  const next = { cell: 1, 1: 1, 2: 1 };
  return unit
    .map((c, n) => {
      const start = c.break === 1 ? 1 : 2;
      const where = c.isInCell ? 'cell' : start;
      const first = next[where] + (c.isInCell ? 0 : c.gap);
      next[where] = first + c.bytes;
      const offset = Array.from({ length: c.bytes }, (_, i) => first + i);
      const functions = c.functions.map((f, i) => {
        const sets = f.sets.map(
          (s) => `<ChannelSet Name="${s.name}" DMXFrom="${s.at}/1" WheelSlotIndex="${s.slot}"/>`,
        );
        const master = f.when && parts[f.when.of];
        const when =
          f.when && master
            ? `ModeMaster="${master}" ModeFrom="${f.when.from}/1" ModeTo="${f.when.to}/1"`
            : '';
        return `<ChannelFunction Name="F ${i}" Attribute="${f.does || c.base}" DMXFrom="${f.at}/1" Default="${f.rests}/1" PhysicalFrom="${f.physical[0]}" PhysicalTo="${f.physical[1]}" ${f.wheel ? 'Wheel="Colours"' : ''} ${when}>${sets.join('')}</ChannelFunction>`;
      });
      const initial = `${parts[n]}.${c.base}.F ${c.initial % functions.length}`;
      return `<DMXChannel DMXBreak="${c.isInCell ? 'Overwrite' : c.break}" Offset="${offset.join(',')}" InitialFunction="${initial}" Highlight="${c.highlight === null ? 'None' : `${c.highlight}/1`}" Geometry="${c.isInCell ? 'Ring' : 'Lens'}"><LogicalChannel Attribute="${c.base}" Snap="${c.snap ? 'Yes' : 'No'}">${functions.join('')}</LogicalChannel></DMXChannel>`;
    })
    .join('');
}

test('any unit of a maker: in, out and in again it is the same', () => {
  const places = [101, 141].map(
    (at, i) =>
      `<GeometryReference Name="Cell ${i}" Geometry="Ring"><Break DMXBreak="1" DMXOffset="${at}"/></GeometryReference>`,
  );
  fc.assert(
    fc.property(someUnit, (unit) => {
      const xml = HEAD.replace(/<GeometryReference.*<\/GeometryReference>/gs, places.join(''))
        .replace(
          /<DMXChannels>.*<\/DMXChannels>/s,
          `<DMXChannels>${channelsXml(unit)}</DMXChannels>`,
        )
        .replace(/<Relations>.*<\/FTMacros>/s, '');
      const answer = readGdtf(gdtfOf(xml));
      if (isRefusal(answer)) return;
      const back = read(writeGdtf(answer.type, ID));
      expect(comparable(back.type)).toEqual(comparable(answer.type));
    }),
    { numRuns: Number(process.env.RUNS ?? 200) },
  );
});
