/** What a table of effects knows of itself. */
import { defineTable, ref } from '../show/define-table.ts';
import { joined, numbered } from '../show/plain-words.ts';
import { EffectRow, stepsOf, type EffectStep } from './rows.ts';

const saySpeed = (speed: EffectRow['speed']): string => {
  if ('hz' in speed) return `${speed.hz} Hz`;
  return 'round_s' in speed ? `${speed.round_s} s a round` : `${speed.beats} beats a round`;
};

/** How an effect is laid over a selection. */
const saySpread = ({ turns, groups, blocks, wings, seed, across }: EffectRow['spread']): string =>
  joined(
    `${turns} ${turns === 1 ? 'round' : 'rounds'} from first to last`,
    groups > 0 ? `repeats after ${groups}` : '',
    blocks > 1 ? `${blocks} neighbours together` : '',
    wings > 1 ? `mirrored in ${wings} parts` : '',
    seed === undefined ? '' : 'by chance',
    across ? 'across the stage' : '',
  );

type Units = NonNullable<EffectStep['units']>;

function withUnits(
  effect: EffectRow,
  change: (units: [string, Units[string]][]) => Units,
): EffectRow {
  const step = (s: EffectStep): EffectStep =>
    s.units ? { ...s, units: change(Object.entries(s.units)) } : s;
  return {
    ...effect,
    tracks: effect.tracks.map((t) => (t.steps ? { ...t, steps: t.steps.map(step) } : t)),
  };
}

/** What a unit that stays had in the steps of another state, laid into the steps of this one, lane by lane. */
function rejoinUnit(now: EffectRow, from: EffectRow, id: string): EffectRow {
  const tracks = now.tracks.map((track) => {
    const other = from.tracks.find((t) => t.attribute === track.attribute)?.steps;
    if (!track.steps || other?.length !== track.steps.length) return track;
    const steps = track.steps.map((s, i) => {
      const own = other[i]?.units?.[id];
      return own === undefined || s.units?.[id] !== undefined
        ? s
        : { ...s, units: { ...s.units, [id]: own } };
    });
    return steps.every((s, i) => s === track.steps?.[i]) ? track : { ...track, steps };
  });
  return tracks.every((t, i) => t === now.tracks[i]) ? now : { ...now, tracks };
}

export const effects = defineTable({
  name: 'effects',
  one: 'effect',
  row: EffectRow,
  section: 'palettes',
  number: {},
  refs: [
    ref('palettes', (e: EffectRow) => stepsOf(e).map((s) => s.palette)),
    ref('fixtures', (e: EffectRow) => stepsOf(e).flatMap((s) => Object.keys(s.units ?? {}))),
  ],
  members: [
    {
      to: ['fixtures'],
      without: (e: EffectRow, there) =>
        stepsOf(e).every((s) => Object.keys(s.units ?? {}).every(there))
          ? e
          : withUnits(e, (units) => Object.fromEntries(units.filter(([id]) => there(id)))),
      rejoin: rejoinUnit,
    },
  ],
  means: true,
  says: { row: (e) => numbered('effect', e) },
  fields: { speed: { say: saySpeed }, spread: { say: saySpread } },
});
