/** How the stage is looked at on this screen: which view, which layout, what the pointer does, which tiles are shown. */
import { create } from 'zustand';
import type { PaletteFamily } from '@/core/palettes/rows';

/** How Stage shows the rig. */
export type StageView = 'plan' | '3d' | 'grid' | 'list';
/** `select` also drags; `aim` and `line` point heads at what is clicked; the others draw pieces. */
export type Tool = 'select' | 'lasso' | 'spot' | 'aim' | 'line' | 'bar' | 'boom' | 'set';
/** What lies on Stage’s shelf. */
export type Shelf = PaletteFamily | 'looks' | 'effects';

/** What Stage is looking at. */
export interface StageState {
  view: StageView;
  /** null: the plan of the stage itself. */
  layoutId: string | null;
  tool: Tool;
  /** Units and pieces are moved instead of selected by a box. */
  arrange: boolean;
  shelf: Shelf;
  /** A press on a tile plays it, instead of taking it into the programmer. */
  plays: boolean;
  /** The bar or set piece that is chosen while arranging. */
  pieceId: string | null;
  /** Zoom over what fits, and metres in the middle of the picture; null fits all. */
  view2d: { zoom: number; x: number; y: number } | null;
  camera: 'front' | 'seat' | 'side' | 'top' | 'free';
  /** Shown beside the programmer. */
  sheet: boolean;
}

/** Its view, layout, shelf and tool. */
export const useStage = create<StageState>(() => ({
  view: 'plan',
  layoutId: null,
  tool: 'select',
  arrange: false,
  shelf: 'colour',
  plays: false,
  pieceId: null,
  view2d: null,
  camera: 'front',
  sheet: false,
}));

/** Takes a tool; the same again puts it away. */
export const setTool = (tool: Tool): void =>
  useStage.setState((s) => ({ tool: s.tool === tool ? 'select' : tool }));
