/** What tables of cues and of their values know of themselves. */
import type { EffectRow } from '../effects/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { ListRow } from '../lists/rows.ts';
import type { LookRow } from '../looks/rows.ts';
import type { PaletteRow } from '../palettes/rows.ts';
import { attributeInfo } from '../rig/attributes.ts';
import { defineTable, ownedBy, ref } from '../show/define-table.ts';
import { joined, nameOf, percent, quoted, seconds } from '../show/plain-words.ts';
import { formatCueNumber, freeCueNumber } from './number.ts';
import { CueRow, ValueRow, valueId } from './rows.ts';

/** What words about cues read. */
export interface Cues {
  readonly cues: ReadonlyMap<string, CueRow>;
}
interface Lists extends Cues {
  readonly lists: ReadonlyMap<string, ListRow>;
}
interface Followed extends Cues {
  readonly palettes: ReadonlyMap<string, PaletteRow>;
  readonly looks: ReadonlyMap<string, LookRow>;
  readonly effects: ReadonlyMap<string, EffectRow>;
}

/** The number of a cue, or `?` where it is gone. */
const cueNumber = (id: string | undefined, { cues: all }: Cues): string => {
  const cue = id === undefined ? undefined : all.get(id);
  return cue ? formatCueNumber(cue.number) : '?';
};
/** `cue 5`; of another list than the first with its name. */
export const sayCue = (id: string, show: Cues): string => `cue ${cueNumber(id, show)}`;

/** `cue 2.5`, and of which list where that is not the first. */
function describeCue(cue: CueRow, show: Lists): string {
  const own = show.lists.get(cue.listId);
  const first = [...show.lists.values()].every((l) => l.number >= (own?.number ?? 0));
  return `cue ${formatCueNumber(cue.number)}${own && !first ? ` of ${own.name}` : ''}`;
}

const some = (one: string) => (list: readonly unknown[]) =>
  `${list.length} ${list.length === 1 ? one : `${one}s`}`;
const sayLink = (link: NonNullable<CueRow['link']>, show: Cues): string =>
  `to ${sayCue(link.to, show)}${link.times === undefined ? '' : `, ${link.times} times`}`;

export const cues = defineTable({
  name: 'cues',
  one: 'cue',
  row: CueRow,
  section: 'cues',
  refs: [ownedBy('lists', (c: CueRow) => [c.listId]), ref('cues', (c: CueRow) => [c.link?.to])],
  loosened: (cue, there) => {
    if (!cue.link || there('cues', cue.link.to)) return cue;
    const loose = { ...cue };
    delete loose.link;
    return loose;
  },
  sayLoosened: (cue, show: Lists) =>
    `The link of ${describeCue(cue, show)} is gone: the cue that it led to is.`,
  number: {
    within: (c) => c.listId,
    free: freeCueNumber,
    moved: (c, number) =>
      `Cue ${formatCueNumber(c.number)} “${c.name}” came in as ${formatCueNumber(number)}: there is another cue ${formatCueNumber(c.number)}.`,
  },
  records: { family_s: { deep: 1 }, familyDelay_s: { deep: 1 } },
  about: (c) => ({ cueId: c.id }),
  pictured: 'cueId',
  timesApart: true,
  says: { row: describeCue, called: (c) => c.name },
  fields: {
    number: { say: formatCueNumber },
    listId: { called: 'list', say: (id: string, show: Lists) => show.lists.get(id)?.name ?? id },
    up_s: { called: 'up' },
    down_s: { called: 'down' },
    delay_s: { called: 'delay' },
    family_s: { called: 'family times' },
    familyDelay_s: { called: 'family delays' },
    follow_s: { called: 'follow' },
    after_s: { called: 'after' },
    curve: { time: true },
    clock: { time: true },
    parts: { time: true, say: some('part') },
    link: { time: true, say: sayLink },
    actions: { say: some('action') },
    block: { called: 'complete as it stands' },
    prePosition: { called: 'early moves' },
    operatorNote: { called: 'note for the operator' },
    designerNote: { called: 'note for the designer' },
    call: { called: 'called on' },
  },
});

/** What a value of a cue says: `70 %, 12 Ferry blue, in 3 s`. */
export function sayValue(value: ValueRow | null, show: Followed): string {
  if (!value) return 'not set here';
  if (value.level === null) return 'let go';
  const stands = value.palette === undefined && value.look === undefined;
  return joined(
    stands ? percent(value.level) : '',
    value.look === undefined ? '' : `look ${nameOf(show.looks.get(value.look))}`,
    value.palette === undefined ? '' : nameOf(show.palettes.get(value.palette)),
    value.effect ? `effect ${nameOf(show.effects.get(value.effect.id))}` : '',
    value.fade_s === undefined ? '' : `in ${seconds(value.fade_s)}`,
    value.delay_s === undefined ? '' : `after ${seconds(value.delay_s)}`,
    value.part === undefined ? '' : `part ${value.part}`,
  );
}
const attributeOf = (value: ValueRow): string => attributeInfo(value.attribute).label.toLowerCase();

interface ValueNeeds extends Followed, Lists {
  readonly fixtures: ReadonlyMap<string, FixtureRow>;
}
export const values = defineTable({
  name: 'values',
  one: 'value',
  row: ValueRow,
  section: 'cues',
  refs: [
    ownedBy('cues', (v: ValueRow) => [v.cueId]),
    ownedBy('fixtures', (v: ValueRow) => [v.fixtureId]),
    ref('palettes', (v: ValueRow) => [v.palette]),
    ref('looks', (v: ValueRow) => [v.look]),
    ref('effects', (v: ValueRow) => [v.effect?.id]),
  ],
  cells: {
    of: (v) => v.cueId,
    title: (cueId, show: ValueNeeds) => {
      const cue = show.cues.get(cueId);
      return cue && `${describeCue(cue, show)}${quoted(cue.name)}: what it sets`;
    },
    what: attributeOf,
    unit: (v, show) => show.fixtures.get(v.fixtureId)?.number,
    say: sayValue,
  },
  about: (v) => ({ cueId: v.cueId }),
  idOf: (v) => valueId(v.cueId, v.fixtureId, v.attribute),
  says: {
    row: (v, show) =>
      `${attributeOf(v)} of fixture ${show.fixtures.get(v.fixtureId)?.number ?? '?'} in ${sayCue(v.cueId, show)}`,
    using: (v, show) => sayCue(v.cueId, show),
  },
  fields: {
    palette: { say: (id: string, show: ValueNeeds) => nameOf(show.palettes.get(id)) },
    look: { say: (id: string, show: ValueNeeds) => nameOf(show.looks.get(id)) },
    effect: { say: ({ id }: { id: string }, show: ValueNeeds) => nameOf(show.effects.get(id)) },
  },
});
