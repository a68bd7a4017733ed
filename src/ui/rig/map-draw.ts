/** Draws one universe as 16 rows of 32 addresses. Absolute addresses in, pixels out; knows no show and no hand. */
import { UNIVERSE_SLOTS } from '@/core/dmx';
import type { TypeRow } from '@/core/types/rows';
import type { Colours, Token } from '../parts/tokens';

const COLUMNS = 32;
const ROWS = UNIVERSE_SLOTS / COLUMNS;
const LEFT = 36;
const TOP = 18;
const RIGHT = 6;
const BOTTOM = 4;
const TALLEST = 26;

/** Where the map lies, in pixels. */
export interface Grid {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** As large as there is room. */
export const gridIn = (width: number, height: number): Grid => ({
  x: LEFT,
  y: TOP,
  w: (width - LEFT - RIGHT) / COLUMNS,
  h: Math.min(TALLEST, (height - TOP - BOTTOM) / ROWS),
});

/** Address 1…512 under a point; undefined beside the grid. */
export function cellAt(grid: Grid, x: number, y: number): number | undefined {
  const column = Math.floor((x - grid.x) / grid.w);
  const row = Math.floor((y - grid.y) / grid.h);
  return column >= 0 && column < COLUMNS && row >= 0 && row < ROWS
    ? row * COLUMNS + column + 1
    : undefined;
}

/** The middle of an address's cell. */
export const middleOf = (grid: Grid, cell: number): { x: number; y: number } => ({
  x: grid.x + (((cell - 1) % COLUMNS) + 0.5) * grid.w,
  y: grid.y + (Math.floor((cell - 1) / COLUMNS) + 0.5) * grid.h,
});

/** Units are told apart by what they are, in the quiet colours of a rig plan; the number says which. */
export const unitToken = (shape: TypeRow['shape']): Token => `unit-${shape}`;

/** A run of addresses that is drawn as one. */
export interface Block {
  /** Addresses 1…512, both ends in it. */
  from: number;
  to: number;
  number: string;
  shape: TypeRow['shape'];
  selected: boolean;
  /** Goes on from the universe before or into the next one: never in a valid patch, but shown if it happens. */
  faded: boolean;
}
/** Where a hand would put one. */
export interface Ghost {
  from: number;
  to: number;
  number: string;
  /** Addresses that are taken by others. */
  clash: (address: number) => boolean;
}

interface Segment {
  x: number;
  y: number;
  w: number;
  first: boolean;
  last: boolean;
}

/** A block as one piece per row that it touches. */
function segments(grid: Grid, from: number, to: number): Segment[] {
  const result: Segment[] = [];
  const low = Math.max(1, from);
  const high = Math.min(UNIVERSE_SLOTS, to);
  for (let at = low; at <= high;) {
    const row = Math.floor((at - 1) / COLUMNS);
    const end = Math.min(high, (row + 1) * COLUMNS);
    result.push({
      x: grid.x + ((at - 1) % COLUMNS) * grid.w,
      y: grid.y + row * grid.h,
      w: (end - at + 1) * grid.w,
      first: at === from,
      last: end === to,
    });
    at = end + 1;
  }
  return result;
}

const GAP = 1;
const RADIUS = 3;

function shape(g: CanvasRenderingContext2D, s: Segment, h: number): void {
  const left = s.first ? RADIUS : 0;
  const right = s.last ? RADIUS : 0;
  g.beginPath();
  g.roundRect(s.x + GAP, s.y + GAP, s.w - GAP * 2, h - GAP * 2, [left, right, right, left]);
}

/** One outline round a block that spans rows: no lines where it goes on. */
function outline(g: CanvasRenderingContext2D, parts: readonly Segment[], h: number): void {
  g.beginPath();
  for (const s of parts) {
    const [x1, y1, x2, y2] = [
      s.x + GAP + 0.5,
      s.y + GAP + 0.5,
      s.x + s.w - GAP - 0.5,
      s.y + h - GAP - 0.5,
    ];
    g.moveTo(x1, y1);
    g.lineTo(x2, y1);
    g.moveTo(x1, y2);
    g.lineTo(x2, y2);
    if (s.first) {
      g.moveTo(x1, y1);
      g.lineTo(x1, y2);
    }
    if (s.last) {
      g.moveTo(x2, y1);
      g.lineTo(x2, y2);
    }
  }
  g.stroke();
}

function hatch(
  g: CanvasRenderingContext2D,
  colours: Colours,
  x: number,
  y: number,
  w: number,
  h: number,
): void {
  g.save();
  g.beginPath();
  g.rect(x, y, w, h);
  g.clip();
  g.fillStyle = colours('danger-wash');
  g.fillRect(x, y, w, h);
  g.strokeStyle = colours('danger');
  g.lineWidth = 1.5;
  g.beginPath();
  for (let d = -h; d < w; d += 6) {
    g.moveTo(x + d, y + h);
    g.lineTo(x + d + h, y);
  }
  g.stroke();
  g.restore();
}

const NUMBER_FONT = "500 11px 'JetBrains Mono Variable', monospace";

function label(
  g: CanvasRenderingContext2D,
  text: string,
  s: Segment | undefined,
  h: number,
  colour: string,
): void {
  if (!s) return;
  g.font = NUMBER_FONT;
  if (g.measureText(text).width > s.w - 2) return;
  g.fillStyle = colour;
  g.textAlign = 'left';
  g.textBaseline = 'middle';
  g.fillText(text, s.x + Math.min(5, (s.w - g.measureText(text).width) / 2), s.y + h / 2 + 0.5);
}

/** What the map shows. */
export interface MapPicture {
  colours: Colours;
  blocks: readonly Block[];
  ghosts: readonly Ghost[];
  /** The patch that is prepared (dashed) or units under the hand (solid). */
  carried: boolean;
  hover: number | undefined;
  cursor: number | undefined;
}

/** Draws it. */
export function drawMap(
  g: CanvasRenderingContext2D,
  width: number,
  height: number,
  { colours, blocks, ghosts, carried, hover, cursor }: MapPicture,
): void {
  const grid = gridIn(width, height);
  g.clearRect(0, 0, width, height);
  g.font = NUMBER_FONT;
  g.textBaseline = 'middle';
  g.fillStyle = colours('dim');
  g.textAlign = 'center';
  for (const c of [1, 4, 8, 12, 16, 20, 24, 28, 32])
    g.fillText(String(c), grid.x + (c - 0.5) * grid.w, TOP / 2);
  g.textAlign = 'right';
  for (let r = 0; r < ROWS; r++)
    g.fillText(String(r * COLUMNS + 1), LEFT - 8, grid.y + (r + 0.5) * grid.h);
  g.fillStyle = colours('hair');
  for (let i = 0; i < UNIVERSE_SLOTS; i++)
    g.fillRect(
      grid.x + (i % COLUMNS) * grid.w + GAP,
      grid.y + Math.floor(i / COLUMNS) * grid.h + GAP,
      grid.w - GAP * 2,
      grid.h - GAP * 2,
    );

  for (const b of blocks) {
    const parts = segments(grid, b.from, b.to);
    g.globalAlpha = b.faded ? 0.45 : 1;
    g.fillStyle = colours(unitToken(b.shape));
    for (const s of parts) {
      shape(g, s, grid.h);
      g.fill();
    }
    if (b.selected) {
      g.strokeStyle = colours('standby');
      g.lineWidth = 1.6;
      outline(g, parts, grid.h);
    }
    label(g, b.number, parts[0], grid.h, colours('text'));
    g.globalAlpha = 1;
  }
  for (const ghost of ghosts) {
    const parts = segments(grid, ghost.from, ghost.to);
    if (carried) {
      g.fillStyle = colours('brim');
      for (const s of parts) {
        shape(g, s, grid.h);
        g.fill();
      }
    }
    let bad = false;
    for (let a = Math.max(1, ghost.from); a <= Math.min(UNIVERSE_SLOTS, ghost.to); a++) {
      if (!ghost.clash(a)) continue;
      bad = true;
      hatch(
        g,
        colours,
        grid.x + ((a - 1) % COLUMNS) * grid.w + GAP,
        grid.y + Math.floor((a - 1) / COLUMNS) * grid.h + GAP,
        grid.w - GAP * 2,
        grid.h - GAP * 2,
      );
    }
    g.strokeStyle =
      bad || ghost.to > UNIVERSE_SLOTS || ghost.from < 1 ? colours('danger') : colours('standby');
    g.lineWidth = 1.3;
    g.setLineDash(carried ? [] : [4, 3]);
    outline(g, parts, grid.h);
    g.setLineDash([]);
    label(g, ghost.number, parts[0], grid.h, colours('text'));
  }
  for (const [at, colour] of [
    [hover, colours('faint')],
    [cursor, colours('text')],
  ] as const) {
    if (at === undefined) continue;
    g.strokeStyle = colour;
    g.lineWidth = 1.4;
    g.strokeRect(
      grid.x + ((at - 1) % COLUMNS) * grid.w + 1,
      grid.y + Math.floor((at - 1) / COLUMNS) * grid.h + 1,
      grid.w - 2,
      grid.h - 2,
    );
  }
}
