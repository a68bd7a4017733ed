/** What a plan has (MVR 1.6, GeneralSceneDescription.xml): read into plain records, with placements of groups multiplied. */
import { attr, childOf, childrenOf, numberIn, WORDS, type Element } from '../formats/xml.ts';
import type { Oddities } from '../formats/odd.ts';
import { frameIn, isSound, UNMOVED, within, type Frame } from './space.ts';

/** A fixture of a scene, as it is written. */
export interface PlanFixture {
  uuid: string;
  name: string;
  spec: string;
  mode: string;
  /** As it is written; a number, mostly. */
  number: string;
  numeric: string;
  unit: string;
  /** Uuids of the bar it hangs on, of its class and of what it is focused on. */
  position: string;
  class: string;
  focus: string;
  layer: string;
  frame: Frame;
  addresses: { break: number; text: string }[];
  invertPan: boolean;
  invertTilt: boolean;
}
/** A piece of set, or a truss. */
export interface PlanThing {
  kind: 'set' | 'truss';
  uuid: string;
  name: string;
  frame: Frame;
  /** Meshes, by their file in the archive and where they stand in the thing. */
  meshes: { file: string; frame: Frame }[];
}
/** What a scene has that matters to a rig. */
export interface Plan {
  fixtures: PlanFixture[];
  things: PlanThing[];
  points: { uuid: string; name: string; frame: Frame }[];
  /** Names by uuid. */
  positions: Map<string, string>;
  classes: Map<string, string>;
}

const MOST_DEEP = 64;
const MOST_THINGS = 50_000;

const words = (element: Element, tag: string): string => childText(childOf(element, tag));
const childText = (element: Element | undefined): string => attr(element, WORDS);
const isYes = (text: string): boolean => /^(true|1|yes)$/i.test(text);

const named = (aux: Element | undefined, tag: string): Map<string, string> =>
  new Map(childrenOf(aux, tag).map((e) => [attr(e, 'uuid').toLowerCase(), attr(e, 'name')]));

/** A frame of its own in that of what holds it; what mirrors or is flat keeps only its place. */
function frameOf(element: Element, outer: Frame, where: string, odd: Oddities): Frame {
  const text = words(element, 'Matrix');
  const own = text === '' ? UNMOVED : frameIn(text);
  if (!own) {
    odd.add(where, 'its matrix is none; it lies where what holds it lies');
    return outer;
  }
  if (isSound(own)) return within(outer, own);
  odd.add(where, 'its matrix mirrors or flattens it; its place counts, its turn does not');
  return within(outer, { ...UNMOVED, at: own.at });
}

function fixtureOf(element: Element, frame: Frame, layer: string): PlanFixture {
  const addresses = childrenOf(childOf(element, 'Addresses'), 'Address').map((a) => ({
    break: numberIn(attr(a, 'break')) ?? 0,
    text: childText(a),
  }));
  return {
    uuid: attr(element, 'uuid').toLowerCase(),
    name: attr(element, 'name'),
    spec: words(element, 'GDTFSpec'),
    mode: words(element, 'GDTFMode'),
    number: words(element, 'FixtureID'),
    numeric: words(element, 'FixtureIDNumeric'),
    unit: words(element, 'UnitNumber'),
    position: words(element, 'Position').toLowerCase(),
    class: words(element, 'Classing').toLowerCase(),
    focus: words(element, 'Focus').toLowerCase(),
    layer,
    frame,
    addresses,
    invertPan: isYes(words(element, 'DMXInvertPan')),
    invertTilt: isYes(words(element, 'DMXInvertTilt')),
  };
}

/** Meshes of a thing, its own and those of the symbols that it shows. */
function meshesOf(
  element: Element,
  symbols: ReadonlyMap<string, Element>,
  odd: Oddities,
  deep = 0,
): PlanThing['meshes'] {
  const kids = childOf(element, 'Geometries')?.kids ?? childOf(element, 'ChildList')?.kids ?? [];
  return kids.flatMap((kid) => {
    const frame = frameOf(kid, UNMOVED, `mesh “${attr(kid, 'fileName')}”`, odd);
    if (kid.tag === 'Geometry3D') return [{ file: attr(kid, 'fileName'), frame }];
    const symbol =
      kid.tag === 'Symbol' && deep < 8 ? symbols.get(attr(kid, 'symdef').toLowerCase()) : undefined;
    return symbol
      ? meshesOf(symbol, symbols, odd, deep + 1).map((m) => ({
          ...m,
          frame: within(frame, m.frame),
        }))
      : [];
  });
}

const THINGS: Record<string, PlanThing['kind']> = {
  SceneObject: 'set',
  Truss: 'truss',
  Support: 'truss',
  VideoScreen: 'set',
  Projector: 'set',
};

/** Everything that a plan has, in the order of its layers. */
export function readScene(root: Element, odd: Oddities): Plan {
  const scene = childOf(root, 'Scene');
  const aux = childOf(scene, 'AUXData');
  const plan: Plan = {
    fixtures: [],
    things: [],
    points: [],
    positions: named(aux, 'Position'),
    classes: named(aux, 'Class'),
  };
  const symbols = new Map(childrenOf(aux, 'Symdef').map((s) => [attr(s, 'uuid').toLowerCase(), s]));
  let count = 0;
  const walk = (holder: Element, outer: Frame, layer: string, deep: number): void => {
    for (const element of childOf(holder, 'ChildList')?.kids ?? []) {
      if (++count > MOST_THINGS || deep > MOST_DEEP)
        return odd.add(
          'the plan',
          `has more than ${MOST_THINGS} things, or groups in groups without end; the rest was left out`,
        );
      const name = attr(element, 'name') || attr(element, 'uuid');
      const frame = frameOf(element, outer, `${element.tag} “${name}”`, odd);
      const uuid = attr(element, 'uuid').toLowerCase();
      if (element.tag === 'Fixture') plan.fixtures.push(fixtureOf(element, frame, layer));
      else if (element.tag === 'FocusPoint')
        plan.points.push({ uuid, name: attr(element, 'name'), frame });
      const kind = THINGS[element.tag];
      if (kind)
        plan.things.push({
          kind,
          uuid,
          name: attr(element, 'name'),
          frame,
          meshes: meshesOf(element, symbols, odd),
        });
      walk(element, frame, layer, deep + 1);
    }
  };
  for (const layer of childrenOf(childOf(scene, 'Layers'), 'Layer')) {
    const name = attr(layer, 'name');
    walk(layer, frameOf(layer, UNMOVED, `layer “${name}”`, odd), name, 0);
  }
  return plan;
}
