/** What a table of faders knows of itself. */
import type { EffectRow } from '../effects/rows.ts';
import type { GroupRow } from '../groups/rows.ts';
import type { ListRow } from '../lists/rows.ts';
import type { LookRow } from '../looks/rows.ts';
import type { PaletteRow } from '../palettes/rows.ts';
import { defineTable, ownedBy, ref } from '../show/define-table.ts';
import { joined, nameOf, numbered, percent } from '../show/plain-words.ts';
import { FaderRow } from './rows.ts';

interface Needs {
  readonly lists: ReadonlyMap<string, ListRow>;
  readonly looks: ReadonlyMap<string, LookRow>;
  readonly palettes: ReadonlyMap<string, PaletteRow>;
  readonly groups: ReadonlyMap<string, GroupRow>;
  readonly effects: ReadonlyMap<string, EffectRow>;
}
/** When what it holds of other families comes. */
const COMES = { raised: 'as it is raised', travel: 'over its travel' } as const;

type Kind = FaderRow['holds']['kind'];
const held = (kind: Kind) => (f: FaderRow) => [f.holds.kind === kind ? f.holds.id : undefined];

export const faders = defineTable({
  name: 'faders',
  one: 'fader',
  row: FaderRow,
  section: 'playback',
  refs: [
    ownedBy('lists', held('list')),
    ref('looks', held('look')),
    ref('palettes', held('palette')),
    ref('groups', held('group')),
    ref('effects', held('effect')),
  ],
  number: {},
  says: { row: (f) => numbered('fader', f) },
  fields: {
    holds: {
      say: ({ kind, id }: FaderRow['holds'], show: Needs) =>
        `${kind} ${nameOf(show[`${kind}s`].get(id))}`,
    },
    flash: { called: 'key' },
    others: {
      called: 'other families',
      say: ({ come, at, time_s }: NonNullable<FaderRow['others']>) =>
        joined(
          come === 'at' ? `at ${percent(at ?? 0.5)}` : COMES[come],
          time_s === undefined ? '' : `in ${time_s} s`,
        ),
    },
    keepsThroughRelease: { called: 'keeps through release' },
    inListTime: { called: 'comes in its list’s time' },
    startsWhenRaised: { called: 'starts when raised' },
    releasesAtZero: { called: 'releases at zero' },
  },
});
