/** Which sheet is open on this screen, how it is being used, and what is chosen on it while it is arranged. */
import { create } from 'zustand';
import { lightsOn, type Lighting } from '@/core/aim/lights';
import { isWithin, placesIn } from '@/core/areas/within';
import { sayCould, sayGives } from '@/core/aim/light-words';
import type { AreaRow } from '@/core/areas/rows';
import type { StagePoint } from '@/core/show/fields';
import { select } from './commands';
import { levelOfUnit } from './recording';
import { notice } from './messages';
import { useScreen } from './store';

/** A touch selects and plays; or it asks who lights the spot that is touched. */
export type SheetTool = 'select' | 'spot';

/** A place on a sheet’s plan that somebody asked about. */
export interface SpotAsked {
  /** Where, in metres; null where an area was asked for. */
  at: StagePoint | null;
  areaId: string | null;
  lighting: Lighting;
  says: string;
}

/** What Sheets is looking at. */
export interface SheetsState {
  sheetId: string | null;
  arranging: boolean;
  tool: SheetTool;
  /** What is pressed next takes this time; null: its own. */
  time_s: number | null;
  /** Ids of pieces that are chosen while arranging. */
  chosen: readonly string[];
  spot: SpotAsked | null;
  /** The unit of a plan that a hand went down on last. */
  under: string | null;
}

/** The sheet that is open, and what is arranged or asked on it. */
export const useSheets = create<SheetsState>(() => ({
  sheetId: null,
  arranging: false,
  tool: 'select',
  time_s: null,
  chosen: [],
  spot: null,
  under: null,
}));

/** Leaves how the one before was being used: a time or a tool of another sheet would surprise. */
export const openSheet = (sheetId: string | null): void =>
  useSheets.setState({ sheetId, chosen: [], spot: null, time_s: null, tool: 'select' });

/** The area that a place of the floor lies in; of several the one with the highest number, which was drawn last. */
export function areaAt(at: { x: number; y: number }): AreaRow | undefined {
  return [...useScreen.getState().show.areas.values()]
    .filter((a) => isWithin(a.corners, at))
    .sort((a, b) => b.number - a.number)[0];
}

/** Asks who lights some places, selects them in that order, and says so. */
function askWho(
  points: readonly StagePoint[],
  where: string,
  of: Pick<SpotAsked, 'at' | 'areaId'>,
): void {
  const { show } = useScreen.getState();
  const lighting = lightsOn(show, points, levelOfUnit);
  const { gives, could } = lighting;
  const says =
    gives.length > 0
      ? sayGives(show, gives, where)
      : `No unit puts light ${where} now. ${could.length > 0 ? sayCould(could, where) : ''}`.trim();
  useSheets.setState({ spot: { ...of, lighting, says } });
  select(gives.map((g) => g.fixtureId));
  notice(says, { id: 'who-lights' });
}

/** Asks who lights a place, metres. */
export function askSpot(at: { x: number; y: number }): void {
  const point = { x: Math.round(at.x * 100) / 100, y: Math.round(at.y * 100) / 100, z: 0 };
  askWho([point], 'there', { at: point, areaId: null });
}

/** Asks who lights an area. */
export const askArea = (area: AreaRow): void =>
  askWho(placesIn(area.corners), `on “${area.name}”`, { at: null, areaId: area.id });
