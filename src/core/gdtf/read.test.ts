/** Makers' files: golden ones written by hand from the standard, odd ones, and hostile ones. */
import fc from 'fast-check';
import { zipSync } from 'fflate';
import { isRefusal } from '../refusal';
import { checkType } from '../rig/check-type';
import { counts, meaningOf, sayLevel, sayWhen, wheelSlotAt } from '../rig/channel';
import { isOpen, strobeLevel } from '../rig/shutter';
import type { Channel, TypeRow } from '../types/rows';
import { gdtfOf, HEAD, headFile, PNG } from './golden';
import { readGdtf, type ReadType } from './read';
import { colourIn, dmxValue, matrixIn, placeOf } from './values';
import { writeGdtf } from './write';

const read = (bytes: Uint8Array): ReadType => {
  const answer = readGdtf(bytes);
  if (isRefusal(answer)) throw new Error(answer.message);
  return answer;
};
const changed = (...pairs: [string | RegExp, string][]): ReadType =>
  read(gdtfOf(pairs.reduce((text, [from, to]) => text.replace(from, to), HEAD)));
const channel = (type: Omit<TypeRow, 'id'>, attribute: string): Channel => {
  const found = type.modes[0]?.channels.find((c) => c.attribute === attribute);
  if (!found) throw new Error(`no ${attribute}`);
  return found;
};
const lines = ({ odd }: ReadType): string => odd.map((o) => `${o.where}: ${o.text}`).join('\n');

describe('values as the standard writes them', () => {
  test.each([
    ['128/1', 1, 128],
    ['128/1', 2, 0x8080],
    ['128/1s', 2, 0x8000],
    ['32768/2', 1, 128],
    ['32768/2', 2, 32768],
    ['255/1', 3, 0xffffff],
    ['4660/2', 3, 0x123412],
    ['300/1', 1, 255],
    ['7', 1, 7],
    ['', 1, undefined],
    ['None', 1, undefined],
    ['-1/1', 1, undefined],
    ['1/9', 1, undefined],
  ])('%s at %d bytes is %s', (text, bytes, is) => expect(dmxValue(text, bytes)).toBe(is));

  test('colours with Y of 100; matrices by columns and by rows', () => {
    expect(colourIn('0.3127,0.3290,50')).toEqual({ x: 0.3127, y: 0.329, Y: 0.5 });
    expect(colourIn('0,31;0,33;50')).toEqual({ x: 0.31, y: 0.33, Y: 0.5 });
    expect([colourIn(''), colourIn('1,2'), colourIn('2,0.3,1'), colourIn('0.3,0,1')]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
    const columns = matrixIn('{1,0,0,2}{0,1,0,3}{0,0,1,4}{0,0,0,1}');
    const rows = matrixIn('{1,0,0,0}{0,1,0,0}{0,0,1,0}{2,3,4,1}');
    expect(columns && placeOf(columns)).toEqual({ x: 2, y: 3, z: 4 });
    expect(rows).toEqual(columns);
    expect(matrixIn('{1,0}{0}')).toBeUndefined();
  });
});

test('cells in parts that are referred to themselves stand where all their references put them', () => {
  const reference = (name: string, to: string, offset: number): string =>
    `<GeometryReference Name="${name}" Geometry="${to}"><Break DMXBreak="1" DMXOffset="${offset}"/></GeometryReference>`;
  const channel = (attribute: string, offset: number): string =>
    `<DMXChannel DMXBreak="1" Offset="${offset}" Geometry="Pixel"><LogicalChannel Attribute="${attribute}"><ChannelFunction Name="${attribute}" Attribute="${attribute}" DMXFrom="0/1"/></LogicalChannel></DMXChannel>`;
  const xml = `<GDTF DataVersion="1.2"><FixtureType Name="Arms" Manufacturer="Quillon"><Geometries>
      <Geometry Name="Base">${reference('Arm A', 'Arm', 1)}${reference('Arm B', 'Arm', 7)}</Geometry>
      <Geometry Name="Arm">${reference('Inner', 'Pixel', 1)}${reference('Outer', 'Pixel', 4)}</Geometry>
      <Geometry Name="Pixel"/>
    </Geometries><DMXModes><DMXMode Name="All" Geometry="Base"><DMXChannels>
      ${channel('ColorAdd_R', 1)}${channel('ColorAdd_G', 2)}${channel('ColorAdd_B', 3)}
    </DMXChannels></DMXMode></DMXModes></FixtureType></GDTF>`;
  const [mode] = read(gdtfOf(xml)).type.modes;
  expect(mode?.cells).toHaveLength(4);
  const red = mode?.channels.filter((c) => c.attribute.startsWith('ColorAdd_R'));
  expect(red?.map((c) => [c.attribute, c.offset[0]])).toEqual([
    ['ColorAdd_R@1', 1],
    ['ColorAdd_R@2', 4],
    ['ColorAdd_R@3', 7],
    ['ColorAdd_R@4', 10],
  ]);
  expect(mode?.footprint).toBe(12);
});

describe('a head with a ring of cells', () => {
  const { type, odd } = read(headFile());

  test('who made it, what it weighs and draws, where its axes meet, its beam', () => {
    expect(type).toMatchObject({
      maker: 'Quillon',
      name: 'Oriel 300 wash',
      shape: 'head',
      weight_kg: 12.5,
      watts: 410,
      lamp_K: 6500,
      beam_deg: 22,
      lumens: 9000,
      reach_m: 0.35,
      body: [
        { moves: 'still', mesh: expect.objectContaining({ low: [-0.15, -0.2, 0] }) as unknown },
      ],
      panSpeed_deg_s: 200,
      gdtf: {
        id: '5C1F6F0E-7D0A-4A53-9C11-AA0102030405',
        at: '2026-03-02T08:30:00',
        says: 'ring added',
      },
    });
    expect(type.picture).toMatch(/^data:image\/png/);
  });

  test('channels, bytes, cells where references put them, and the places that nothing uses', () => {
    const [mode] = type.modes;
    expect(mode?.footprint).toBe(14);
    expect(mode?.channels.map((c) => `${c.attribute} ${c.offset.join()}`)).toEqual([
      'Pan 1,2',
      'Tilt 3,4',
      'Shutter1 5',
      'ColorAdd_R 6',
      'ColorAdd_G 7',
      'Color1 8',
      'Control1 9',
      'ColorAdd_R@1 11',
      'ColorAdd_R@2 13',
      'ColorAdd_G@1 12',
      'ColorAdd_G@2 14',
    ]);
    expect(mode?.cells).toEqual([
      { name: 'Ring left', x: 0.25, y: 0.5 },
      { name: 'Ring right', x: 0.75, y: 0.5 },
    ]);
    expect(channel(type, 'Pan')).toMatchObject({ physicalFrom: 270, physicalTo: -270 });
    expect(Math.round(channel(type, 'Pan').default * 65535)).toBe(32768);
    expect(Math.round(channel(type, 'Tilt').default * 65535)).toBe(0x8080);
    expect(channel(type, 'Tilt').physicalTo).toBe(135.5);
  });

  test('functions end where the next begins within their condition, and count while it holds', () => {
    const shutter = channel(type, 'Shutter1');
    expect(shutter.functions?.map((f) => [f.name, f.from, f.to, f.attribute])).toEqual([
      ['Shutter 1', 0, 255, undefined],
      ['Strobe 1', 50, 255, 'Shutter1Strobe'],
      ['Random 1', 50, 255, 'Shutter1StrobeRandom'],
    ]);
    const at = (control: number) => (a: string) => (a === 'Control1' ? control / 255 : undefined);
    expect(meaningOf(shutter, 100 / 255, at(99)).function?.name).toBe('Strobe 1');
    expect(meaningOf(shutter, 100 / 255, at(100)).function?.name).toBe('Random 1');
    expect(meaningOf(shutter, 100 / 255).function?.name).toBe('Shutter 1');
    expect(sayLevel(undefined, shutter, 1, undefined, at(200))).toBe('Random 1 10');
    const [, strobe] = shutter.functions ?? [];
    expect(strobe && [counts(strobe, at(0)), counts(strobe, at(200)), counts(strobe)]).toEqual([
      true,
      false,
      false,
    ]);
    expect(strobe?.when && sayWhen(strobe.when)).toBe('only while Unit control is at 0 to 39 %');
    expect(shutter.functions?.[0]?.sets).toEqual([
      { name: 'Closed', from: 0, to: 19 },
      { name: 'Open', from: 20, to: 255 },
    ]);
  });

  test('its shutter is known as open, closed, strobing, whatever its ranges are called', () => {
    const shutter = channel(type, 'Shutter1');
    expect([0, 10, 25].map((raw) => isOpen(shutter, raw / 255))).toEqual([false, false, true]);
    expect(Math.round((strobeLevel(shutter, 20) ?? 0) * 255)).toBe(255);
  });

  test('wheels with colours and pictures; a set without a name ends the one before', () => {
    const wheel = channel(type, 'Color1');
    expect(wheel.functions?.[0]?.sets?.map((s) => [s.name, s.from, s.to, s.slot])).toEqual([
      ['Open', 0, 9, 1],
      ['Red', 10, 19, 2],
      ['Tide', 30, 127, 3],
    ]);
    expect(type.wheels?.[0]?.slots[1]).toEqual({
      name: 'Harbour red',
      color: { x: 0.64, y: 0.33, Y: 0.125 },
    });
    expect(wheelSlotAt({ id: 'x', ...type }, wheel, 40 / 255)?.is.picture).toBe(
      `data:image/png;base64,${PNG.toString('base64')}`,
    );
    expect(wheel.snap).toBe(true);
  });

  test('emitters by what their functions name; the dimmer that only multiplies is the one that Wingman makes itself', () => {
    expect(type.emitters).toEqual({
      ColorAdd_R: { x: 0.7006, y: 0.2993, Y: 0.21 },
      ColorAdd_G: { x: 0.1547, y: 0.8059, Y: 0.715 },
    });
    expect(type.macros).toEqual([{ name: 'Reset', attribute: 'Control1', value: 200, hold_s: 5 }]);
    expect(odd).toEqual([
      {
        where: 'mode “Basic”',
        text: 'rests without any colour; it rests white here, so that its intensity alone gives light',
      },
    ]);
    expect(channel(type, 'ColorAdd_G@2').default).toBe(1);
  });

  test('out and in again it is the same', () => {
    const again = read(writeGdtf(type, 'x'));
    expect(again.type).toEqual(type);
    expect(again.odd).toEqual([]);
  });
});

describe('files from the world', () => {
  test.each([
    ['an unknown attribute', [[/Color1"/g, 'Wobble"']], /“Wobble”: is no attribute/],
    [
      'no initial function',
      [[/InitialFunction="[^"]*"/g, '']],
      /^mode “Basic”: rests without any colour[^\n]*$/m,
    ],
    ['an offset past the end', [['Offset="9"', 'Offset="600"']], /Control1: is on channel 600/],
    [
      'two on one channel',
      [['Offset="9"', 'Offset="8"']],
      /Control1: is on channel 8, where Color1 is/,
    ],
    ['an offset that is none', [['Offset="9"', 'Offset="nine"']], /its offset “nine” is none/],
    ['an empty wheel', [[/<Slot [^>]*>/g, '']], /wheel “Colours”: is empty/],
    [
      'a wheel that is not there',
      [['Wheel="Colours"', 'Wheel="Other"']],
      /names the wheel “Other”/,
    ],
    [
      'a picture that is not there',
      [['MediaFileName="tide"', 'MediaFileName="ebb"']],
      /its picture “ebb” is not in the file/,
    ],
    [
      'a part that is not there',
      [
        [
          'Geometry="Lens" InitialFunction="Lens_Control1',
          'Geometry="Lid" InitialFunction="Lid_Control1',
        ],
      ],
      /belongs to “Lid”/,
    ],
    [
      'a reference to nothing',
      [['<Geometry Name="Ring"/>', '']],
      /refers to “Ring”, which the file does not have/,
    ],
    [
      'a condition on nothing',
      [[/ModeMaster="Lens_Control1"/g, 'ModeMaster="Lens_Zoom"']],
      /depends on “Lens_Zoom”/,
    ],
    [
      'a command that holds nothing',
      [[/<MacroDMXValue[^>]*>/g, '']],
      /command “Reset”: holds nothing/,
    ],
    [
      'a command of more steps than anybody waits for',
      [[/(<MacroDMXStep.*<\/MacroDMXStep>)/, '$1'.repeat(40)]],
      /command “Reset”: is 40 steps/,
    ],
    [
      'two functions at one place',
      [['DMXFrom="128/1" Wheel', 'DMXFrom="0/1" Wheel']],
      /begins where another function does/,
    ],
    [
      'no weight and no watts',
      [[/<Properties>.*<\/Properties>/, '']],
      /does not say what it draws/,
    ],
    ['a virtual channel', [['Offset="9"', 'Offset="None"']], /Control1: is virtual/],
  ] as [string, [string | RegExp, string][], RegExp][])(
    '%s: mended or left out, and said',
    (_, pairs, says) => {
      const answer = changed(...pairs);
      expect(lines(answer)).toMatch(says);
      expect(checkType({ id: 'x', ...answer.type })).toEqual([]);
    },
  );

  test('a byte-order mark, UTF-16, another case of the name, a mode without channels beside one that has some', () => {
    const plain = read(gdtfOf(HEAD)).type.modes;
    for (const bytes of [Buffer.from(`\ufeff${HEAD}`), Buffer.from(`\ufeff${HEAD}`, 'utf16le')])
      expect(read(gdtfOf(bytes)).type.modes).toEqual(plain);
    expect(read(zipSync({ 'Description.XML': Buffer.from(HEAD) })).type.modes).toEqual(plain);
    const more = changed(['<DMXModes>', '<DMXModes><DMXMode Name="Basic" Geometry="Base"/>']);
    expect(more.type.modes.map((m) => m.name)).toEqual(['Basic 2']);
    expect(lines(more)).toMatch(/mode “Basic”: has no channels/);
  });

  test('a virtual master that nobody can set decides what counts once and for all', () => {
    const { type } = changed(['DMXBreak="1" Offset="9"', 'DMXBreak="1" Offset="None"']);
    expect(channel(type, 'Shutter1').functions?.map((f) => [f.name, f.from, f.to, f.when])).toEqual(
      [
        ['Shutter 1', 0, 49, undefined],
        ['Strobe 1', 50, 255, undefined],
      ],
    );
  });

  test('a shutter that rests closed rests open here', () => {
    const answer = changed(['Default="25/1"', 'Default="0/1"']);
    expect(isOpen(channel(answer.type, 'Shutter1'), channel(answer.type, 'Shutter1').default)).toBe(
      true,
    );
    expect(lines(answer)).toMatch(/rests with its shutter closed/);
  });

  test('a drawing on a wheel is made safe', () => {
    const svg = Buffer.from(
      '<svg viewBox="0 0 1 1"><script>x()</script><path d="M0 0L1 1"/></svg>',
    );
    const { type } = read(gdtfOf(HEAD, { 'wheels/tide.svg': svg }));
    const picture = type.wheels?.[0]?.slots[2]?.picture ?? '';
    const text = Buffer.from(
      picture.replace('data:image/svg+xml;base64,', ''),
      'base64',
    ).toString();
    expect(text).toContain('M0 0L1 1');
    expect(text).not.toContain('script');
  });

  test('separate parts of one kind are cells as well, and what holds them is the whole', () => {
    const beam = (n: number): string =>
      `<Beam Name="Eye ${n}" Position="{1,0,0,${n}}{0,1,0,0}{0,0,1,0}{0,0,0,1}"/>`;
    const dimmer = (part: string, offset: number): string =>
      `<DMXChannel DMXBreak="1" Offset="${offset}" Geometry="${part}"><LogicalChannel Attribute="Dimmer"><ChannelFunction Name="Dimmer" Attribute="Dimmer" DMXFrom="0/1"/></LogicalChannel></DMXChannel>`;
    const xml = `<GDTF><FixtureType Name="Four eyes" Manufacturer="Pellworth"><Geometries><Geometry Name="Body">${[1, 2, 3, 4].map(beam).join('')}</Geometry></Geometries><DMXModes><DMXMode Name="All" Geometry="Body"><DMXChannels>${dimmer('Body', 1)}${[1, 2, 3, 4].map((n) => dimmer(`Eye ${n}`, n + 1)).join('')}</DMXChannels></DMXMode></DMXModes></FixtureType></GDTF>`;
    const { type } = read(gdtfOf(xml));
    expect(type.modes[0]?.channels.map((c) => c.attribute)).toEqual([
      'Dimmer',
      'Dimmer@1',
      'Dimmer@2',
      'Dimmer@3',
      'Dimmer@4',
    ]);
    expect(type.modes[0]?.cells?.map((c) => c.x)).toEqual([0.125, 0.375, 0.625, 0.875]);
    expect(type.shape).toBe('strip');
  });
});

describe('files that are meant to harm', () => {
  const refused = (bytes: Uint8Array): string => {
    const answer = readGdtf(bytes);
    return isRefusal(answer) ? answer.message : 'was read';
  };
  const channels = (n: number): string =>
    `<GDTF><FixtureType Name="x"><DMXModes><DMXMode Name="m"><DMXChannels>${'<DMXChannel Offset="1" DMXBreak="1"><LogicalChannel Attribute="Dimmer"/></DMXChannel>'.repeat(n)}</DMXChannels></DMXMode></DMXModes></FixtureType></GDTF>`;

  test('fifty thousand channels: those that fit are patched, and the rest is said', () => {
    const answer = read(gdtfOf(channels(50_000)));
    expect(answer.type.modes[0]?.channels).toHaveLength(1);
    expect(answer.odd.length).toBeGreaterThan(0);
  });

  test('parts that refer to each other without end', () => {
    const answer = changed([
      '<Geometry Name="Ring"/>',
      '<Geometry Name="Ring"><GeometryReference Name="a" Geometry="Ring"/><GeometryReference Name="b" Geometry="Ring"/></Geometry>',
    ]);
    expect(lines(answer)).toMatch(/without end/);
  });

  test('entities, no description, no ZIP, nothing in it', () => {
    expect(refused(gdtfOf(`<!DOCTYPE a [<!ENTITY b "c">]>${HEAD}`))).toMatch(/entities/);
    expect(refused(zipSync({ 'other.xml': PNG }))).toMatch(/no description\.xml/);
    expect(refused(PNG)).toMatch(/no ZIP/);
    expect(refused(new Uint8Array(0))).toMatch(/no ZIP/);
    expect(refused(gdtfOf('<GDTF/>'))).toMatch(/no fixture type/);
    expect(refused(gdtfOf(HEAD.replace(/<DMXModes>.*<\/DMXModes>/s, '')))).toMatch(
      /None of its modes/,
    );
  });

  test('a bomb in a ZIP is not unpacked, nor a mesh, nor what leads out of it', () => {
    const bomb = zipSync({ 'description.xml': new Uint8Array(40 * 1024 * 1024) });
    expect(bomb.length).toBeLessThan(100_000);
    expect(refused(bomb)).toMatch(/larger than that of any unit/);
    const { odd } = read(
      gdtfOf(HEAD, {
        'models/3ds/base.3ds': new Uint8Array(30_000_000),
        '../wheels/tide.png': PNG,
        'oriel.png': PNG,
      }),
    );
    expect(odd.map((o) => o.text).join()).toMatch(/“tide” is not in the file/);
    const many = Object.fromEntries(
      Array.from({ length: 5001 }, (_, i) => [`wheels/${i}`, new Uint8Array(0)]),
    );
    expect(refused(gdtfOf(HEAD, many))).toMatch(/more than 5000 entries/);
  });

  test('noise in a description never throws, and what comes of it can be patched', () => {
    const cut = fc.tuple(
      fc.nat(HEAD.length),
      fc.nat(60),
      fc.constantFrom('', '"', '<', '>', '/', '{', '999999999', '-1', 'None', '&', 'é', '/1'),
    );
    fc.assert(
      fc.property(fc.array(cut, { minLength: 1, maxLength: 12 }), (cuts) => {
        const text = cuts.reduce(
          (t, [at, length, by]) => t.slice(0, at) + by + t.slice(at + length),
          HEAD,
        );
        const answer = readGdtf(gdtfOf(text));
        if (!isRefusal(answer)) expect(checkType({ id: 'x', ...answer.type })).toEqual([]);
        else expect(answer.message).toMatch(/\.$/);
      }),
      { numRuns: 300 },
    );
  });
});
