/**
 * A fixture type from a maker's file (GDTF 1.2, DIN SPEC 15800). What is odd in it is mended or left out, and said; it is
 * refused only when nothing can be patched from it.
 */
import { toBase64 } from '../formats/base64.ts';
import { Oddities, type Odd } from '../formats/odd.ts';
import { cleanSvg, svgData } from '../formats/svg.ts';
import { entryOf, readZip, type ZipLimits } from '../formats/unzip.ts';
import {
  attr,
  childOf,
  childrenOf,
  decodeXml,
  numberIn,
  readXml,
  type Element,
} from '../formats/xml.ts';
import { isRefusal, refuse, type Result } from '../refusal.ts';
import { attributesOf, isEmitter, isStandard } from '../rig/attributes.ts';
import { checkType } from '../rig/check-type.ts';
import { usualEmitter } from '../rig/make-type.ts';
import { PATTERNS } from '../rig/patterns.ts';
import { PICTURE_LIMIT, type Emitter, type TypeRow } from '../types/rows.ts';
import { bodyPartsOf, isModel } from './body.ts';
import { placesBelow } from './geometry.ts';
import { readMacros } from './macros.ts';
import { readMode, type TypeContext } from './mode.ts';
import { attributeFor, nameFor } from './names.ts';
import { bodyOf, coloursOf, shapeOf, sizeOf, wheelsOf, type PictureOf } from './physical.ts';

/** Bytes of a file; larger ones are refused before they are looked at. */
export const GDTF_LIMIT = 128 * 1024 * 1024;
const ZIP: ZipLimits = { entries: 5000, one: 32 * 1024 * 1024, all: 96 * 1024 * 1024 };
const MOST_MODES = 64;
const DESCRIPTION = 'description.xml';

/** A type as its file says, and what was odd in it. */
export interface ReadType {
  /** Without the id of a row. */
  type: Omit<TypeRow, 'id'>;
  odd: Odd[];
}

/** The kinds of pictures, by how their bytes begin. */
function kindOf(bytes: Uint8Array): 'png' | 'jpeg' | 'webp' | undefined {
  const [a, b, c] = bytes;
  if (a === 0x89 && b === 0x50 && c === 0x4e) return 'png';
  if (a === 0xff && b === 0xd8) return 'jpeg';
  return a === 0x52 && b === 0x49 && bytes[8] === 0x57 ? 'webp' : undefined;
}

/** A picture as a row keeps it. @returns why it cannot, in a few words */
function pictureOf(bytes: Uint8Array): { picture: string } | string {
  const kind = kindOf(bytes);
  const clean = kind ? bytes : cleanSvg(bytes);
  if (isRefusal(clean)) return 'is no picture that Wingman reads';
  const picture = kind ? `data:image/${kind};base64,${toBase64(clean)}` : svgData(clean);
  return picture.length > PICTURE_LIMIT
    ? `has ${Math.round(clean.length / 1000)} kB, more than a picture here may`
    : { picture };
}

const PATTERN = /^pattern-([a-z]+)$/;

/** Pictures of wheels, in the folder that the standard gives them. */
const wheelPictures =
  (files: ReadonlyMap<string, Uint8Array>, odd: Oddities): PictureOf =>
  (media, where) => {
    // Our own drawings are known by their words.
    const drawn = PATTERN.exec(media)?.[1];
    if (drawn !== undefined && drawn in PATTERNS) return `pattern:${drawn}`;
    const bytes = ['', '.png', '.svg', '.jpg', '.jpeg', '.webp']
      .map((end) => entryOf(files, `wheels/${media}${end}`))
      .find((b) => b !== undefined);
    const read = bytes ? pictureOf(bytes) : 'is not in the file';
    if (typeof read === 'object') return read.picture;
    odd.add(where, `its picture “${media}” ${read} and was left out`);
    return undefined;
  };

function thumbnail(
  type: Element,
  files: ReadonlyMap<string, Uint8Array>,
  odd: Oddities,
): string | undefined {
  const name = attr(type, 'Thumbnail') || 'thumbnail';
  const bytes = ['.png', '.svg', '']
    .map((end) => entryOf(files, `${name}${end}`))
    .find((b) => b !== undefined);
  if (!bytes) return undefined;
  const read = pictureOf(bytes);
  if (typeof read === 'object') return read.picture;
  odd.add('the picture of the unit', `${read} and was left out`);
  return undefined;
}

/** The maker's id, and the newest of the revisions. */
function sourceOf(type: Element): TypeRow['gdtf'] {
  const id = attr(type, 'FixtureTypeID').toUpperCase();
  if (!/^[0-9A-F-]{8,60}$/.test(id)) return undefined;
  const newest = childrenOf(childOf(type, 'Revisions'), 'Revision')
    .map((r) => ({ at: attr(r, 'Date').slice(0, 60), says: nameFor(attr(r, 'Text'), 200) }))
    .sort((a, b) => a.at.localeCompare(b.at))
    .at(-1);
  return {
    id,
    ...(newest && newest.at !== '' ? { at: newest.at } : {}),
    ...(newest && newest.says !== '' ? { says: newest.says } : {}),
  };
}

interface Colours {
  emitters: Record<string, Emitter>;
  filters: Record<string, Emitter>;
}

/** Colours of emitters and filters as functions name them, and what is usual for emitters of which nothing is said. */
function colourContext(type: Element): { colours: Colours; saw: TypeContext['saw'] } {
  const [emitters, filters] = [coloursOf(type, 'Emitter'), coloursOf(type, 'Filter')];
  const colours: Colours = { emitters: {}, filters: {} };
  const saw: TypeContext['saw'] = (attribute, function_) => {
    const own = attributeFor(attr(function_, 'Attribute'));
    if (own !== '' && own !== attribute && own !== 'NoFeature') return;
    const emitter = emitters.get(attr(function_, 'Emitter')) ?? emitters.get(attribute);
    if (isEmitter(attribute)) colours.emitters[attribute] ??= emitter ?? usualEmitter(attribute);
    const filter = filters.get(attr(function_, 'Filter'));
    if (attribute.startsWith('ColorSub_') && filter) colours.filters[attribute] ??= filter;
  };
  return { colours, saw };
}

function sayUnknown(modes: TypeRow['modes'], odd: Oddities): void {
  const unknown = new Set(modes.flatMap((m) => attributesOf(m)).map((a) => a.replace(/@.*/, '')));
  for (const attribute of unknown)
    if (!isStandard(attribute))
      odd.add(
        `“${attribute}”`,
        'is no attribute of the standard; it is kept under its name, among control',
      );
}

function sayRelations(type: Element, odd: Oddities): void {
  for (const mode of childrenOf(childOf(type, 'DMXModes'), 'DMXMode'))
    for (const relation of childrenOf(childOf(mode, 'Relations'), 'Relation'))
      if (!/dimmer/i.test(attr(relation, 'Master')))
        odd.add(
          `mode “${attr(mode, 'Name')}”`,
          `what “${attr(relation, 'Master')}” does to “${attr(relation, 'Follower')}” was left out`,
        );
}

/** @param files of the archive: pictures @param models of the archive @returns a refusal where nothing can be patched */
function readDescription(
  root: Element,
  files: ReadonlyMap<string, Uint8Array>,
  models: Parameters<typeof bodyPartsOf>[3],
): Result<ReadType> {
  const odd = new Oddities();
  const type = childOf(root, 'FixtureType') ?? (root.tag === 'FixtureType' ? root : undefined);
  if (!type) return refuse('invalid', 'Its description has no fixture type in it.');
  const wheels = wheelsOf(type, wheelPictures(files, odd), odd);
  const { colours, saw } = colourContext(type);
  const elements = childrenOf(childOf(type, 'DMXModes'), 'DMXMode');
  if (elements.length > MOST_MODES)
    odd.add('modes', `there are ${elements.length}; the first ${MOST_MODES} came in`);
  const placesOf = (mode: Element | undefined) => placesBelow(type, attr(mode, 'Geometry'), odd);
  const first = placesOf(elements[0]);
  const taken = new Set<string>();
  const context: TypeContext = { type, wheels, size: sizeOf(type, first[0]), odd, saw };
  const modes = elements.slice(0, MOST_MODES).flatMap((m) => readMode(m, taken, context) ?? []);
  if (modes.length === 0)
    return refuse('invalid', 'None of its modes has a channel that could be patched.');
  sayUnknown(modes, odd);
  sayRelations(type, odd);
  const macros = readMacros(elements, modes, odd);
  const picture = thumbnail(type, files, odd);
  const body = bodyPartsOf(type, elements[0], first, models, odd);
  const gdtf = sourceOf(type);
  const row: Omit<TypeRow, 'id'> = {
    maker: nameFor(attr(type, 'Manufacturer')) || 'Unknown maker',
    name:
      nameFor(attr(type, 'LongName')) ||
      nameFor(attr(type, 'Name')) ||
      nameFor(attr(type, 'ShortName')) ||
      'Unnamed type',
    shape: shapeOf(first, modes),
    modes,
    emitters: colours.emitters,
    ...(Object.keys(colours.filters).length > 0 ? { filters: colours.filters } : {}),
    ...(wheels.length > 0 ? { wheels } : {}),
    ...(macros.length > 0 ? { macros } : {}),
    ...bodyOf(type, first, odd),
    ...speedsOf(elements),
    ...(body ? { body } : {}),
    ...(picture === undefined ? {} : { picture }),
    ...(gdtf ? { gdtf } : {}),
  };
  const [problem] = checkType({ id: 'new', ...row });
  return problem
    ? refuse('invalid', `It cannot be patched: ${problem.message}`)
    : { type: row, odd: odd.all() };
}

/** Degrees a second, from how long a head needs for its whole range (RealFade). */
function speedsOf(modes: readonly Element[]): Pick<TypeRow, 'panSpeed_deg_s' | 'tiltSpeed_deg_s'> {
  const functions = modes
    .flatMap((m) => childrenOf(childOf(m, 'DMXChannels'), 'DMXChannel'))
    .flatMap((c) => childrenOf(c, 'LogicalChannel'))
    .flatMap((l) => childrenOf(l, 'ChannelFunction'));
  const speed = (attribute: string): number | undefined => {
    for (const f of functions) {
      if (attr(f, 'Attribute') !== attribute) continue;
      const [fade, from, to] = ['RealFade', 'PhysicalFrom', 'PhysicalTo'].map(
        (n) => numberIn(attr(f, n)) ?? 0,
      );
      const is = Math.round((Math.abs((to ?? 0) - (from ?? 0)) / (fade ?? 0)) * 10) / 10;
      if (Number.isFinite(is) && is > 0 && is <= 2000) return is;
    }
    return undefined;
  };
  const [pan, tilt] = [speed('Pan'), speed('Tilt')];
  return {
    ...(pan === undefined ? {} : { panSpeed_deg_s: pan }),
    ...(tilt === undefined ? {} : { tiltSpeed_deg_s: tilt }),
  };
}

/** Reads a file in memory. @returns a refusal, in a sentence that goes on after the file's name */
export function readGdtf(bytes: Uint8Array): Result<ReadType> {
  if (bytes.length > GDTF_LIMIT)
    return refuse(
      'too-large',
      `It has ${Math.round(bytes.length / 1e6)} MB; a fixture type has at most ${GDTF_LIMIT / 1024 / 1024}.`,
    );
  const wanted = (name: string): boolean => {
    const plain = name.toLowerCase();
    return plain === DESCRIPTION || plain.startsWith('wheels/') || /^[^/]+\.(png|svg)$/.test(plain);
  };
  const zip = readZip(bytes, wanted, ZIP);
  if (isRefusal(zip)) return zip;
  const description = entryOf(zip.files, DESCRIPTION);
  if (!description)
    return zip.tooLarge.some((n) => n.toLowerCase() === DESCRIPTION)
      ? refuse('too-large', 'Its description is larger than that of any unit.')
      : refuse('invalid', 'It has no description.xml, so it is no fixture type.');
  const root = readXml(decodeXml(description));
  if (isRefusal(root)) return root;
  // By themselves, so that heavy meshes take no room from what the unit is.
  const models = readZip(bytes, isModel, ZIP);
  return readDescription(
    root,
    zip.files,
    isRefusal(models) ? { files: new Map(), tooLarge: [] } : models,
  );
}
