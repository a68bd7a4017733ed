/** What a table of effects knows of itself. */
import { defineTable } from '../show/define-table.ts';
import { joined, numbered } from '../show/plain-words.ts';
import { EffectRow } from './rows.ts';

const saySpeed = (speed: EffectRow['speed']): string =>
  'hz' in speed ? `${speed.hz} Hz` : `${speed.beats} beats a cycle`;

/** How an effect is laid over a selection. */
const saySpread = ({ turns, groups, blocks, wings, seed }: EffectRow['spread']): string =>
  joined(
    `${turns} ${turns === 1 ? 'cycle' : 'cycles'} from first to last`,
    groups > 0 ? `repeats after ${groups}` : '',
    blocks > 1 ? `${blocks} neighbours together` : '',
    wings > 1 ? `mirrored in ${wings} parts` : '',
    seed === undefined ? '' : 'by chance',
  );

export const effects = defineTable({
  name: 'effects',
  one: 'effect',
  row: EffectRow,
  section: 'palettes',
  number: {},
  means: true,
  says: { row: (e) => numbered('effect', e) },
  fields: { speed: { say: saySpeed }, spread: { say: saySpread } },
});
