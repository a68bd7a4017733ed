/** Draws the cells of the cue sheet that are in sight: pills, ties, brackets. */
import { clamp } from '@/core/numbers';
import { CELL, runsTo, type Column, type Sheet } from '@/core/cues/sheet';
import type { Colours } from '../parts/tokens';
import type { Cells } from '../state/book';

/** Height of a cue’s row, in pixels. */
export const ROW = 32;
/** Height of the sheet’s head, in pixels. */
export const HEAD = 46;

/** What of the sheet is drawn. */
export interface Drawn {
  colours: Colours;
  sheet: Sheet;
  columns: readonly Column[];
  wide: number;
  /** Left top corner of what is in sight, in pixels of the cells. */
  x: number;
  y: number;
  width: number;
  height: number;
  hover: { row: number; column: number } | null;
  cells: Cells | null;
  /** Rows: on stage, next, looked at; -1 for none. */
  now: number;
  next: number;
  picked: number;
  /** Columns with values that are not recorded, and the row that they belong to. */
  pending: ReadonlyMap<number, string>;
  pendingRow: number;
  marked: ReadonlySet<number>;
}

/** Words on a swatch, which has the colour that the light has in every theme. */
const ON_BRIGHT = '#10160f';
const ON_DARK = '#e8f0ea';
const FONT = '500 11px "JetBrains Mono Variable", monospace';
const NAME = '500 11px "Instrument Sans Variable", sans-serif';

function pill(g: CanvasRenderingContext2D, cx: number, cy: number, w: number, fill: string): void {
  g.beginPath();
  g.roundRect(cx - w / 2, cy - 10, w, 20, 10);
  g.fillStyle = fill;
  g.fill();
}

/** A level as the strength of a pill. @param strength 0 to 1 */
function mixed(colours: Colours, strength: number): string {
  const share = Math.round(clamp(strength) * 100);
  return `color-mix(in srgb, ${colours('tie-high')} ${share}%, ${colours('tie-low')})`;
}

/** A name cut to the width, with a trace of what is missing. */
function fitted(g: CanvasRenderingContext2D, text: string, width: number): string {
  if (g.measureText(text).width <= width) return text;
  let cut = text;
  while (cut.length > 1 && g.measureText(`${cut}…`).width > width) cut = cut.slice(0, -1);
  return `${cut}…`;
}

/** Draws the cells in sight: pills where something is set, lines where it tracks. */
export function drawSheet(g: CanvasRenderingContext2D, d: Drawn): void {
  const { sheet, wide } = d;
  const n = sheet.columns;
  const dark = d.colours('ink');
  g.fillStyle = dark;
  g.fillRect(0, 0, d.width, d.height);
  const r0 = Math.max(0, Math.floor(d.y / ROW));
  const r1 = Math.min(sheet.rows - 1, Math.ceil((d.y + d.height) / ROW));
  const c0 = Math.max(0, Math.floor(d.x / wide));
  const c1 = Math.min(n - 1, Math.ceil((d.x + d.width) / wide));
  for (let r = r0; r <= r1; r++) {
    const y = r * ROW - d.y;
    if (r === d.picked) {
      g.fillStyle = d.colours('standby-wash');
      g.fillRect(0, y, d.width, ROW);
    } else if (d.marked.has(r)) {
      g.fillStyle = d.colours('warning-wash');
      g.fillRect(0, y, d.width, ROW);
    }
    g.fillStyle = d.colours('hair');
    g.fillRect(0, y + ROW - 1, d.width, 1);
  }
  const { hover } = d;
  // The whole run of the value under the pointer, from where it is set to where it ends.
  let run: { column: number; from: number; to: number } | null = null;
  if (hover && hover.row < sheet.rows && hover.column < n) {
    const origin = sheet.origin[hover.row * n + hover.column] as number;
    if (origin >= 0)
      run = { column: hover.column, from: origin, to: runsTo(sheet, hover.row, hover.column) };
    if (run) {
      g.fillStyle = d.colours('raised');
      g.fillRect(
        run.column * wide - d.x,
        run.from * ROW - d.y,
        wide,
        (run.to - run.from + 1) * ROW,
      );
    }
  }
  for (let c = c0; c <= c1; c++) {
    const cx = Math.round(c * wide - d.x + wide / 2) + 0.5;
    for (let r = r0; r <= r1; r++) {
      const flags = sheet.flags[r * n + c] as number;
      if (flags === 0) continue;
      const lit = run?.column === c && r >= run.from && r <= run.to;
      const y = r * ROW - d.y;
      const mid = y + ROW / 2;
      const isSet = (flags & CELL.set) !== 0;
      g.strokeStyle = lit ? d.colours('text') : d.colours('tie');
      g.lineWidth = lit ? 2 : 1;
      g.beginPath();
      if ((flags & CELL.above) !== 0 && sheet.complete[r] === 0) {
        // A line that reaches nothing ends in the middle, with a foot.
        const ends = !isSet && (flags & CELL.below) === 0;
        g.moveTo(cx, y);
        const on = isSet ? mid - 10 : y + ROW;
        g.lineTo(cx, ends ? mid : on);
        if (ends) {
          g.moveTo(cx - 4, mid);
          g.lineTo(cx + 4, mid);
        }
      }
      if (isSet && (flags & CELL.below) !== 0) {
        g.moveTo(cx, mid + 10);
        g.lineTo(cx, y + ROW);
      }
      g.stroke();
      if (isSet) drawPill(g, d, r * sheet.columns + c, cx, mid);
      if ((flags & CELL.early) !== 0) {
        // It moves here already, for the next cue.
        g.fillStyle = d.colours('muted');
        g.beginPath();
        g.moveTo(cx - 4, y + ROW - 9);
        g.lineTo(cx + 4, y + ROW - 9);
        g.lineTo(cx, y + ROW - 3);
        g.fill();
      }
    }
  }
  drawBrackets(g, d, r0, r1);
  drawPending(g, d, c0, c1);
  drawChoice(g, d);
}

function drawPill(
  g: CanvasRenderingContext2D,
  d: Drawn,
  cell: number,
  cx: number,
  mid: number,
): void {
  const { sheet, wide } = d;
  const flags = sheet.flags[cell] as number;
  const w = Math.min(wide - 3, 46);
  const release = (flags & CELL.release) !== 0;
  const label = sheet.labels[sheet.label[cell] as number] ?? '';
  const swatch = sheet.swatch[cell] as number;
  const level = sheet.level[cell] as number;
  g.textAlign = 'center';
  g.textBaseline = 'middle';
  if (release) {
    g.strokeStyle = d.colours('edge');
    g.lineWidth = 1;
    g.beginPath();
    g.arc(cx, mid, 8.5, 0, Math.PI * 2);
    g.moveTo(cx - 4, mid + 4);
    g.lineTo(cx + 4, mid - 4);
    g.stroke();
    return;
  }
  if (swatch !== 0) {
    const css = `#${(swatch & 0xffffff).toString(16).padStart(6, '0')}`;
    pill(g, cx, mid, w, css);
    if (label !== '') {
      const bright =
        ((swatch >> 16) & 255) * 0.3 + ((swatch >> 8) & 255) * 0.59 + (swatch & 255) * 0.11;
      g.font = NAME;
      g.fillStyle = bright > 120 ? ON_BRIGHT : ON_DARK;
      g.fillText(fitted(g, label, w - 7), cx, mid + 0.5);
    }
  } else if (label === '' && level === 0) {
    g.strokeStyle = d.colours('edge');
    g.lineWidth = 1;
    g.beginPath();
    g.roundRect(cx - w / 2 + 4, mid - 9.5, w - 8, 19, 9.5);
    g.stroke();
    g.font = FONT;
    g.fillStyle = d.colours('muted');
    g.fillText('0', cx, mid + 0.5);
  } else {
    pill(g, cx, mid, w, mixed(d.colours, label !== '' && level === 0 ? 0.35 : level));
    g.fillStyle = d.colours('text');
    g.font = label === '' ? FONT : NAME;
    const text = label === '' ? String(Math.round(level * 100)) : fitted(g, label, w - 7);
    g.fillText((flags & CELL.mixed) !== 0 && label === '' ? `≤${text}` : text, cx, mid + 0.5);
  }
  if ((flags & CELL.effect) !== 0) {
    g.strokeStyle = d.colours('soft');
    g.lineWidth = 1;
    g.beginPath();
    for (let i = 0; i <= 12; i++) g.lineTo(cx - 6 + i, mid + 8 + Math.sin(i / 2) * 1.6);
    g.stroke();
  }
  if ((flags & CELL.timed) !== 0) {
    g.fillStyle = d.colours('soft');
    g.fillRect(cx + w / 2 - 9, mid - 9, 4, 2);
  }
}

/** A complete cue: a bracket over its row, past which nothing reaches. */
function drawBrackets(g: CanvasRenderingContext2D, d: Drawn, r0: number, r1: number): void {
  for (let r = r0; r <= r1; r++) {
    if (d.sheet.complete[r] === 0) continue;
    const y = r * ROW - d.y + 2.5;
    const right = Math.min(d.width - 2, d.sheet.columns * d.wide - d.x - 1);
    g.strokeStyle = d.colours('soft');
    g.lineWidth = 1.5;
    g.beginPath();
    g.moveTo(1, y + 7);
    g.lineTo(1, y);
    g.lineTo(right, y);
    g.lineTo(right, y + 7);
    g.stroke();
  }
}

/** Values that are held and not recorded, in the row of the cue that would take them. */
function drawPending(g: CanvasRenderingContext2D, d: Drawn, c0: number, c1: number): void {
  if (d.pendingRow < 0) return;
  const y = d.pendingRow * ROW - d.y;
  if (y < -ROW || y > d.height) return;
  for (let c = c0; c <= c1; c++) {
    const text = d.pending.get(c);
    if (text === undefined) continue;
    const cx = Math.round(c * d.wide - d.x + d.wide / 2);
    const w = Math.min(d.wide - 3, 46);
    g.setLineDash([3, 2]);
    g.strokeStyle = d.colours('unrecorded');
    g.lineWidth = 1.2;
    g.beginPath();
    g.roundRect(cx - w / 2, y + 6, w, 20, 10);
    g.fillStyle = d.colours('ink');
    g.fill();
    g.stroke();
    g.setLineDash([]);
    g.fillStyle = d.colours('text');
    g.font = FONT;
    g.textAlign = 'center';
    g.textBaseline = 'middle';
    g.fillText(fitted(g, text, w - 6), cx, y + ROW / 2 + 0.5);
    g.fillStyle = d.colours('unrecorded');
    g.beginPath();
    g.arc(cx + w / 2 - 2, y + 8, 3, 0, Math.PI * 2);
    g.fill();
  }
}

function drawChoice(g: CanvasRenderingContext2D, d: Drawn): void {
  if (!d.cells) return;
  const [r0, r1] = [Math.min(d.cells.row, d.cells.toRow), Math.max(d.cells.row, d.cells.toRow)];
  const [c0, c1] = [
    Math.min(d.cells.column, d.cells.toColumn),
    Math.max(d.cells.column, d.cells.toColumn),
  ];
  g.strokeStyle = d.colours('standby');
  g.lineWidth = 1.5;
  g.beginPath();
  g.roundRect(
    c0 * d.wide - d.x + 1,
    r0 * ROW - d.y + 1,
    (c1 - c0 + 1) * d.wide - 2,
    (r1 - r0 + 1) * ROW - 2,
    6,
  );
  g.stroke();
}
