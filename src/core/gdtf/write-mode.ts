/** The channels of a mode as the standard writes them (GDTF 1.2, DMXMode). */
import { make, type Element } from '../formats/xml.ts';
import { baseOf, cellOf, hasVirtualDimmer, scaledByVirtual } from '../rig/attributes.ts';
import { rawOf } from '../rig/channel.ts';
import { canRun, stepsOf } from '../types/macros.ts';
import type { Channel, ChannelFunction, ChannelSet, Mode, TypeRow } from '../types/rows.ts';
import { functionWhere } from './functions.ts';
import { partNames, partOf, regularCells } from './write-geometry.ts';
import { UNUSED, writeDmx } from './values.ts';

interface Context {
  type: Omit<TypeRow, 'id'>;
  mode: Mode;
  index: number;
}

const partIn = (c: Context, channel: Channel): string =>
  partOf(channel, c.type.shape, c.mode, c.index);
const referredAs = (c: Context, channel: Channel): string =>
  `${partIn(c, channel)}_${baseOf(channel.attribute)}`;

/** Sets with the places between them, which have no names. */
function setsOf(
  sets: readonly ChannelSet[],
  range: { from: number; to: number },
  bytes: number,
): Element[] {
  const sorted = [...sets].sort((a, b) => a.from - b.from);
  const out: Element[] = [];
  let next = range.from;
  for (const set of sorted) {
    if (set.from > next) out.push(make('ChannelSet', { Name: '', DMXFrom: writeDmx(next, bytes) }));
    out.push(
      make('ChannelSet', {
        Name: set.name,
        DMXFrom: writeDmx(set.from, bytes),
        WheelSlotIndex: set.slot ?? 0,
      }),
    );
    next = set.to + 1;
  }
  if (sorted.length > 0 && next <= range.to)
    out.push(make('ChannelSet', { Name: '', DMXFrom: writeDmx(next, bytes) }));
  return out;
}

function masterOf(c: Context, f: ChannelFunction): Record<string, string> {
  const master = f.when && c.mode.channels.find((m) => m.attribute === f.when?.attribute);
  if (!f.when || !master) return {};
  const bytes = master.offset.length;
  return {
    ModeMaster: referredAs(c, master),
    ModeFrom: writeDmx(rawOf(master, f.when.from), bytes),
    ModeTo: writeDmx(rawOf(master, f.when.to), bytes),
  };
}

/** How long a head needs for its whole range. */
function fadeOf(type: Omit<TypeRow, 'id'>, channel: Channel): string | undefined {
  const speeds: Record<string, number | undefined> = {
    Pan: type.panSpeed_deg_s,
    Tilt: type.tiltSpeed_deg_s,
  };
  const speed = speeds[channel.attribute];
  return speed === undefined
    ? undefined
    : (Math.abs(channel.physicalTo - channel.physicalFrom) / speed).toFixed(6);
}

function functionElement(c: Context, channel: Channel, f: ChannelFunction, rests: number): Element {
  const base = baseOf(channel.attribute);
  const bytes = channel.offset.length;
  const isIn = rests >= f.from && rests <= f.to;
  return make(
    'ChannelFunction',
    {
      Name: f.name,
      Attribute: f.attribute ?? base,
      OriginalAttribute: '',
      DMXFrom: writeDmx(f.from, bytes),
      Default: writeDmx(isIn ? rests : f.from, bytes),
      PhysicalFrom: f.physicalFrom,
      PhysicalTo: f.physicalTo,
      RealFade: fadeOf(c.type, channel),
      Wheel: f.wheel,
      Emitter: c.type.emitters[base] && f.attribute === undefined ? base : undefined,
      Filter: c.type.filters?.[base] && f.attribute === undefined ? base : undefined,
      ...masterOf(c, f),
    },
    setsOf(f.sets ?? [], f, bytes),
  );
}

/** Functions of one condition, with the places between them. */
function withGaps(functions: readonly ChannelFunction[], top: number): ChannelFunction[] {
  const out: ChannelFunction[] = [];
  const unused = (from: number, to: number, like: ChannelFunction): void => {
    out.push({
      name: UNUSED,
      from,
      to,
      physicalFrom: 0,
      physicalTo: 1,
      attribute: 'NoFeature',
      ...(like.when ? { when: like.when } : {}),
    });
  };
  const sorted = [...functions].sort((a, b) => a.from - b.from);
  sorted.forEach((f, i) => {
    out.push(f);
    const next = sorted[i + 1]?.from ?? top + 1;
    if (f.to + 1 < next) unused(f.to + 1, next - 1, f);
  });
  return out;
}

function functionsOf(channel: Channel): ChannelFunction[] {
  const top = 256 ** channel.offset.length - 1;
  const { functions, physicalFrom, physicalTo } = channel;
  if (!functions || functions.length === 0)
    return [{ name: baseOf(channel.attribute), from: 0, to: top, physicalFrom, physicalTo }];
  const groups = new Map<string, ChannelFunction[]>();
  for (const f of functions) {
    const key = JSON.stringify(f.when ?? null);
    groups.set(key, [...(groups.get(key) ?? []), f]);
  }
  return [...groups.values()].flatMap((g) => withGaps(g, top));
}

function channelElement(c: Context, channel: Channel): Element {
  const bytes = channel.offset.length;
  const base = baseOf(channel.attribute);
  const rests = rawOf(channel, channel.default);
  const functions = functionsOf(channel);
  const initial = functionWhere(
    functions,
    rests,
    (f) => f.physicalFrom === channel.physicalFrom && f.physicalTo === channel.physicalTo,
  );
  const regular = cellOf(channel.attribute) > 0 ? regularCells(c.mode) : undefined;
  const shift = regular?.[0] ? regular[0].offset - 1 : 0;
  return make(
    'DMXChannel',
    {
      DMXBreak: regular ? 'Overwrite' : (channel.break ?? 1),
      Offset: channel.offset.map((o) => o - shift).join(','),
      InitialFunction: `${referredAs(c, channel)}.${base}.${initial?.name ?? ''}`,
      Highlight:
        channel.highlight === undefined
          ? 'None'
          : writeDmx(rawOf(channel, channel.highlight), bytes),
      Geometry: partIn(c, channel),
    },
    [
      make(
        'LogicalChannel',
        {
          Attribute: base,
          Snap: channel.snap ? 'Yes' : 'No',
          Master: base === 'Dimmer' ? 'Grand' : 'None',
          MibFade: 0,
          DMXChangeTimeLimit: 0,
        },
        functions.map((f) => functionElement(c, channel, f, rests)),
      ),
    ],
  );
}

/** A channel that keeps the place of the last one, where nothing else is there. */
function lastPlaces(c: Context): Element[] {
  const footprints = [c.mode.footprint, ...(c.mode.breaks ?? [])];
  return footprints.flatMap((count, i) => {
    const last = Math.max(
      0,
      ...c.mode.channels.filter((x) => (x.break ?? 1) === i + 1).flatMap((x) => x.offset),
    );
    if (last >= count) return [];
    const kept = make('LogicalChannel', { Attribute: 'NoFeature', Snap: 'No', Master: 'None' }, [
      make('ChannelFunction', {
        Name: UNUSED,
        Attribute: 'NoFeature',
        DMXFrom: '0/1',
        Default: '0/1',
      }),
    ]);
    const Geometry = partNames(c.type.shape, c.index).body;
    return [
      make('DMXChannel', { DMXBreak: i + 1, Offset: String(count), Highlight: 'None', Geometry }, [
        kept,
      ]),
    ];
  });
}

/** The intensity that Wingman makes for what has none: a virtual channel that multiplies what it scales. */
function virtualDimmer(c: Context): { channels: Element[]; relations: Element[] } {
  if (!hasVirtualDimmer(c.mode)) return { channels: [], relations: [] };
  const Geometry = partNames(c.type.shape, c.index).body;
  const name = `${Geometry}_Dimmer`;
  const channel = make(
    'DMXChannel',
    {
      DMXBreak: 1,
      Offset: 'None',
      InitialFunction: `${name}.Dimmer.Dimmer`,
      Highlight: '255/1',
      Geometry,
    },
    [
      make('LogicalChannel', { Attribute: 'Dimmer', Snap: 'No', Master: 'Grand' }, [
        make('ChannelFunction', {
          Name: 'Dimmer',
          Attribute: 'Dimmer',
          DMXFrom: '0/1',
          Default: '0/1',
          PhysicalFrom: 0,
          PhysicalTo: 1,
        }),
      ]),
    ],
  );
  const followers = new Set(
    c.mode.channels
      .filter((x) => scaledByVirtual(c.mode, x))
      .map((x) => {
        const [as, base] = [referredAs(c, x), baseOf(x.attribute)];
        return `${as}.${base}.${functionsOf(x)[0]?.name ?? base}`;
      }),
  );
  return {
    channels: [channel],
    relations: [...followers].map((Follower) =>
      make('Relation', {
        Name: `Intensity of ${Follower}`.slice(0, 120),
        Master: name,
        Follower,
        Type: 'Multiply',
      }),
    ),
  };
}

/** Those whose channels the mode has, step by step. */
function macros(c: Context): Element[] {
  return (c.type.macros ?? []).flatMap((macro) => {
    if (!canRun(c.mode, macro)) return [];
    const steps = stepsOf(macro).map(({ values, hold_s }) =>
      make(
        'MacroDMXStep',
        { Duration: hold_s },
        values.flatMap(({ attribute, value }) => {
          const channel = c.mode.channels.find((x) => x.attribute === attribute);
          return channel
            ? [
                make('MacroDMXValue', {
                  Value: writeDmx(value, 1),
                  DMXChannel: referredAs(c, channel),
                }),
              ]
            : [];
        }),
      ),
    );
    return [make('FTMacro', { Name: macro.name }, [make('MacroDMX', {}, steps)])];
  });
}

/** Channels of cells that are all alike are written once. */
const written = (mode: Mode): Channel[] =>
  regularCells(mode) ? mode.channels.filter((c) => cellOf(c.attribute) < 2) : mode.channels;

/** A mode with its channels, functions and relations (GDTF 1.2, DMXMode). */
export function writeMode(type: Omit<TypeRow, 'id'>, mode: Mode, index: number): Element {
  const c: Context = { type, mode, index };
  const virtual = virtualDimmer(c);
  return make(
    'DMXMode',
    { Name: mode.name, Description: '', Geometry: partNames(type.shape, index).body },
    [
      make('DMXChannels', {}, [
        ...virtual.channels,
        ...written(mode).map((x) => channelElement(c, x)),
        ...lastPlaces(c),
      ]),
      make('Relations', {}, virtual.relations),
      make('FTMacros', {}, macros(c)),
    ],
  );
}
