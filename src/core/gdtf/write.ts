/** A fixture type as a file that other programs read (GDTF 1.2, DIN SPEC 15800): everything that the standard has a place for. */
import { zipSync } from 'fflate';
import { fromBase64 } from '../formats/base64.ts';
import { make, writeXml, type Element } from '../formats/xml.ts';
import { attributeInfo, baseOf } from '../rig/attributes.ts';
import { patternSvg } from '../rig/patterns.ts';
import type { Emitter, Mode, TypeRow } from '../types/rows.ts';
import { writeMode } from './write-mode.ts';
import { bodyModels, geometryOf, modelOf } from './write-geometry.ts';
import { writeColour } from './values.ts';

const FEATURES: Record<string, string> = {
  intensity: 'Dimmer.Dimmer',
  position: 'Position.PanTilt',
  colour: 'Color.RGB',
  beam: 'Beam.Beam',
  control: 'Control.Control',
};
const UNITS: Record<string, string> = { '°': 'Angle', K: 'Temperature', Hz: 'Frequency' };

/** Every attribute that channels and their functions have, `Dimmer` among them for what has none of its own. */
function attributesIn(modes: readonly Mode[]): string[] {
  const all = modes.flatMap((m) =>
    m.channels.flatMap((c) => [
      baseOf(c.attribute),
      ...(c.functions ?? []).flatMap((f) =>
        f.attribute === undefined ? [] : [baseOf(f.attribute)],
      ),
    ]),
  );
  return [...new Set([...all, 'Dimmer', 'NoFeature'])];
}

function definitions(modes: readonly Mode[]): Element {
  const groups = [...new Set(Object.values(FEATURES).map((f) => f.split('.')[0] ?? ''))];
  return make('AttributeDefinitions', {}, [
    make('ActivationGroups'),
    make(
      'FeatureGroups',
      {},
      groups.map((name) => {
        const features = Object.values(FEATURES).filter((f) => f.startsWith(`${name}.`));
        return make(
          'FeatureGroup',
          { Name: name, Pretty: name },
          features.map((f) => make('Feature', { Name: f.split('.')[1] })),
        );
      }),
    ),
    make(
      'Attributes',
      {},
      attributesIn(modes).map((name) => {
        const { label, family, unit } = attributeInfo(name);
        return make('Attribute', {
          Name: name,
          Pretty: label,
          Feature: FEATURES[family],
          PhysicalUnit: UNITS[unit] ?? 'None',
        });
      }),
    ),
  ]);
}

const colours = (tag: 'Emitter' | 'Filter', all: Readonly<Record<string, Emitter>>): Element =>
  make(
    `${tag}s`,
    {},
    Object.entries(all).map(([name, color]) =>
      make(tag, { Name: name, Color: writeColour(color) }),
    ),
  );

const EXTENSIONS: Record<string, string> = { 'svg+xml': 'svg', jpeg: 'jpg' };

/** A picture as an entry of the archive. @returns its name without the end */
function addPicture(
  picture: string,
  name: string,
  folder: string,
  files: Map<string, Uint8Array>,
): string {
  const drawn = /^pattern:([a-z]+)$/.exec(picture)?.[1];
  if (drawn !== undefined) {
    files.set(`${folder}pattern-${drawn}.svg`, new TextEncoder().encode(patternSvg(drawn)));
    return `pattern-${drawn}`;
  }
  const [, kind = 'png', data = ''] = /^data:image\/([a-z+]+);base64,(.*)$/.exec(picture) ?? [];
  files.set(`${folder}${name}.${EXTENSIONS[kind] ?? kind}`, fromBase64(data));
  return name;
}

const wheels = (type: Omit<TypeRow, 'id'>, files: Map<string, Uint8Array>): Element =>
  make(
    'Wheels',
    {},
    (type.wheels ?? []).map((wheel, w) =>
      make(
        'Wheel',
        { Name: wheel.name },
        wheel.slots.map((slot, s) =>
          make('Slot', {
            Name: slot.name,
            Color: slot.color && writeColour(slot.color),
            MediaFileName:
              slot.picture === undefined
                ? undefined
                : addPicture(slot.picture, `wheel-${w + 1}-slot-${s + 1}`, 'wheels/', files),
          }),
        ),
      ),
    ),
  );

const physical = (type: Omit<TypeRow, 'id'>): Element =>
  make('PhysicalDescriptions', {}, [
    colours('Emitter', type.emitters),
    colours('Filter', type.filters ?? {}),
    make('Properties', {}, [
      ...(!type.weight_kg ? [] : [make('Weight', { Value: type.weight_kg })]),
      make('PowerConsumption', { Value: type.watts }),
    ]),
  ]);

const revisions = ({ gdtf }: Omit<TypeRow, 'id'>): Element =>
  make(
    'Revisions',
    {},
    gdtf?.at === undefined
      ? []
      : [make('Revision', { Date: gdtf.at, Text: gdtf.says ?? '', UserID: 0 })],
  );

/** @param id of the type for everybody, where the maker's file did not give one @returns the description and what belongs beside it */
function describe(
  type: Omit<TypeRow, 'id'>,
  id: string,
): { root: Element; files: Map<string, Uint8Array> } {
  const files = new Map<string, Uint8Array>();
  if (type.picture !== undefined) addPicture(type.picture, 'thumbnail', '', files);
  const fixture = make(
    'FixtureType',
    {
      Name: type.name,
      ShortName: type.name,
      LongName: type.name,
      Manufacturer: type.maker,
      Description: '',
      FixtureTypeID: type.gdtf?.id ?? id.toUpperCase(),
      Thumbnail: type.picture === undefined ? '' : 'thumbnail',
      RefFT: '',
    },
    [
      definitions(type.modes),
      wheels(type, files),
      physical(type),
      make('Models', {}, [modelOf(), ...bodyModels(type, files)]),
      make(
        'Geometries',
        {},
        type.modes.flatMap((mode, i) => geometryOf(type, mode, i)),
      ),
      make(
        'DMXModes',
        {},
        type.modes.map((mode, i) => writeMode(type, mode, i)),
      ),
      revisions(type),
    ],
  );
  return { root: make('GDTF', { DataVersion: '1.2' }, [fixture]), files };
}

/** A ZIP of the earliest day that one can say, so that the same type is the same file. */
export function writeGdtf(type: Omit<TypeRow, 'id'>, id: string): Uint8Array {
  const { root, files } = describe(type, id);
  files.set('description.xml', new TextEncoder().encode(writeXml(root)));
  return zipSync(Object.fromEntries(files), { mtime: new Date(1980, 0, 2), level: 6 });
}
