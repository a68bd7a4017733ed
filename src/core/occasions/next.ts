/** When occasions come: in the time of the machine that plays, with the sun at the house’s place (`suncalc`). */
import { addDays, format, startOfDay } from 'date-fns';
import { getTimes } from 'suncalc';
import { momentOfDay } from './look.ts';
import type { OccasionRow } from './rows.ts';

/** Where the house stands, in degrees; north and east count up. */
export interface HousePlace {
  latitude: number;
  longitude: number;
}

/** No occasion is looked for further on than this: every date comes again within it. */
const FAR_DAYS = 400;

const dayOf = (at: Date): string => format(at, 'yyyy-MM-dd');

/** Whether it is meant for this day, skipped or not. */
function isOn({ days, from, to }: OccasionRow, day: Date): boolean {
  const date = dayOf(day);
  return (
    (days?.includes(day.getDay()) ?? true) &&
    (from === undefined || from <= date) &&
    (to === undefined || date <= to)
  );
}

/** When it comes on a day; undefined where it does not, or where the sun does no such thing there. */
export function momentOn(
  o: OccasionRow,
  day: Date,
  place: HousePlace | undefined,
): Date | undefined {
  if (!isOn(o, day)) return undefined;
  if (o.at.by === 'clock') return momentOfDay(o.at.time, day);
  if (!place) return undefined;
  // By the sun’s noon of that day: at midnight the answer may be of the day before.
  const noon = new Date(day.getFullYear(), day.getMonth(), day.getDate(), 12);
  const at = getTimes(noon, place.latitude, place.longitude)[o.at.event];
  // Where it is always day, or always night, there is none.
  return at ? new Date(at.getTime() + o.at.plus_min * 60_000) : undefined;
}

/** An occasion that comes, and when. */
export interface Coming {
  occasion: OccasionRow;
  at: Date;
  day: string;
  isSkipped: boolean;
}

/** The next ones of all that are switched on, in their order. @param most how many */
export function coming(
  occasions: Iterable<OccasionRow>,
  after: Date,
  place: HousePlace | undefined,
  most: number,
): Coming[] {
  const all: Coming[] = [];
  for (const occasion of occasions) {
    if (!occasion.on) continue;
    let found = 0;
    // From the day before: sunset and so many minutes may lie after midnight.
    for (let n = -1; n < FAR_DAYS && found < most; n++) {
      const day = addDays(startOfDay(after), n);
      const at = momentOn(occasion, day, place);
      if (!at || at <= after) continue;
      all.push({ occasion, at, day: dayOf(day), isSkipped: occasion.skipped.includes(dayOf(day)) });
      found++;
    }
  }
  return all.sort((a, b) => a.at.getTime() - b.at.getTime()).slice(0, most);
}

/** Those whose moment lies after `from` and not after `to`, and that are not skipped. */
export const dueBetween = (
  occasions: Iterable<OccasionRow>,
  from: Date,
  to: Date,
  place: HousePlace | undefined,
): OccasionRow[] =>
  [...occasions]
    .filter((o) => o.on)
    .flatMap((o) =>
      [-1, 0].flatMap((n) => {
        const day = addDays(startOfDay(to), n);
        const at = momentOn(o, day, place);
        return at && at > from && at <= to && !o.skipped.includes(dayOf(day)) ? [{ o, at }] : [];
      }),
    )
    .sort((a, b) => a.at.getTime() - b.at.getTime() || a.o.number - b.o.number)
    .map(({ o }) => o);
