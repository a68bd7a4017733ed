/** The tables of a show, and all that follows from there being just these. */
import { SettingsRow } from '../settings/rows.ts';
import { TypeRow } from '../types/rows.ts';
import { FixtureRow } from '../fixtures/rows.ts';
import { GroupRow } from '../groups/rows.ts';
import { ListRow } from '../lists/rows.ts';
import { CueRow, ValueRow } from '../cues/rows.ts';
import { CallRow, DepartmentRow, PromptRow, ScriptRow } from '../script/rows.ts';
import { FaderRow } from '../faders/rows.ts';
import { SoundRow } from '../sounds/rows.ts';
import { LayoutRow, PictureRow, PieceRow } from '../plan/rows.ts';
import { RouteRow, UniverseRow } from '../routes/rows.ts';
import { CircuitRow } from '../circuits/rows.ts';
import { PaletteRow } from '../palettes/rows.ts';
import { LookRow } from '../looks/rows.ts';
import { EffectRow } from '../effects/rows.ts';
import { PartRow } from '../crew/rows.ts';
import { LikeRow, NoteRow, PhotoRow } from '../notes/rows.ts';
import { PageRow } from '../pages/rows.ts';

export const TABLES = {
  settings: SettingsRow,
  types: TypeRow,
  fixtures: FixtureRow,
  groups: GroupRow,
  lists: ListRow,
  cues: CueRow,
  values: ValueRow,
  scripts: ScriptRow,
  calls: CallRow,
  faders: FaderRow,
  sounds: SoundRow,
  pieces: PieceRow,
  routes: RouteRow,
  universes: UniverseRow,
  circuits: CircuitRow,
  palettes: PaletteRow,
  looks: LookRow,
  effects: EffectRow,
  layouts: LayoutRow,
  pictures: PictureRow,
  parts: PartRow,
  notes: NoteRow,
  pages: PageRow,
  departments: DepartmentRow,
  prompts: PromptRow,
  photos: PhotoRow,
  likes: LikeRow,
} as const;
export type TableName = keyof typeof TABLES;

export const TABLE_NAMES = Object.keys(TABLES) as TableName[];

export interface RowOf {
  settings: SettingsRow;
  types: TypeRow;
  fixtures: FixtureRow;
  groups: GroupRow;
  lists: ListRow;
  cues: CueRow;
  values: ValueRow;
  scripts: ScriptRow;
  calls: CallRow;
  faders: FaderRow;
  sounds: SoundRow;
  pieces: PieceRow;
  routes: RouteRow;
  universes: UniverseRow;
  circuits: CircuitRow;
  palettes: PaletteRow;
  looks: LookRow;
  effects: EffectRow;
  layouts: LayoutRow;
  pictures: PictureRow;
  parts: PartRow;
  notes: NoteRow;
  pages: PageRow;
  departments: DepartmentRow;
  prompts: PromptRow;
  photos: PhotoRow;
  likes: LikeRow;
}
export type AnyRow = RowOf[TableName];
