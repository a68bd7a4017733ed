/** Who lights a spot, in words. */
import type { Show } from '../show/show.ts';
import { plural } from '../words.ts';
import type { Gives } from './lights.ts';

/** `101 Wash 1 gives 41 % of it`. */
function sayGift(show: Pick<Show, 'fixtures'>, { fixtureId, share }: Gives): string {
  const unit = show.fixtures.get(fixtureId);
  const who = unit ? `${unit.number} ${unit.label}`.trim() : '?';
  return `${who} gives ${share < 0.01 ? 'under 1' : Math.round(share * 100)} % of it`;
}

/** @param where `there`, `on “Deck”` */
export function sayGives(
  show: Pick<Show, 'fixtures'>,
  gives: readonly Gives[],
  where: string,
): string {
  const [first] = gives;
  const puts = gives.length === 1 ? 'puts' : 'put';
  return `${plural(gives.length, 'unit')} ${puts} light ${where}${first ? ` · ${sayGift(show, first)}` : ''} · selected in that order`;
}

/** What is said of dark units that could light a spot. @param where `there`, `on DS` … */
export const sayCould = (ids: readonly string[], where: string): string =>
  `${plural(ids.length, 'unit')} could put light ${where}, the dark ones that look there first`;
