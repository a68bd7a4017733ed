/** Draws the plan on a canvas: the stage once, the light every frame. Metres in, pixels out. */
import { clamp } from '@/core/numbers';
import type { PieceRow } from '@/core/plan/rows';
import { drawPattern } from '../parts/patterns';
import { coloursAt } from '../parts/tokens';
import { landingOf, patternsOf, shineOf, zoomOf, type Lamp, type Shine } from './light';
import { toPixel, type View } from './view';

interface Pixel {
  x: number;
  y: number;
}
const UI_FONT = "11.5px 'Instrument Sans Variable', sans-serif";
const NUMBER_FONT = "11px 'JetBrains Mono Variable', monospace";

/** How a line of the plan is drawn: which ink, how wide in pixels. */
interface Stroke {
  ink: Parameters<ReturnType<typeof coloursAt>>[0];
  width: number;
}
const CHOSEN_LINE: Stroke = { ink: 'standby', width: 2 };
const PLAIN_LINE: Stroke = { ink: 'edge', width: 1 };
const LINES: Partial<Record<PieceRow['kind'], Stroke>> = {
  edge: { ink: 'muted', width: 1.5 },
  cyc: { ink: 'muted', width: 1.5 },
  house: { ink: 'track', width: 1 },
};

/** Bars, booms, set and house: what does not change with light. */
export function drawStage(
  g: CanvasRenderingContext2D,
  view: View,
  pieces: readonly PieceRow[],
  under?: {
    image: CanvasImageSource;
    x: number;
    y: number;
    width_m: number;
    height_m: number;
    opacity: number;
  },
  chosen: string | null = null,
): void {
  const colours = coloursAt(g.canvas);
  if (under) {
    const at = toPixel(view, { x: under.x - under.width_m / 2, y: under.y + under.height_m / 2 });
    g.globalAlpha = under.opacity;
    g.drawImage(under.image, at.x, at.y, under.width_m * view.scale, under.height_m * view.scale);
    g.globalAlpha = 1;
  }
  g.font = UI_FONT;
  for (const piece of pieces) {
    const points = piece.points.map((p) => toPixel(view, p));
    const first = points[0];
    const last = points.at(-1);
    if (!first || !last) continue;
    g.beginPath();
    g.moveTo(first.x, first.y);
    for (const p of points.slice(1)) g.lineTo(p.x, p.y);
    if (piece.kind === 'set' && piece.points.length > 2) {
      g.closePath();
      g.globalAlpha = 0.08;
      g.fillStyle = colours('muted');
      g.fill();
      g.globalAlpha = 1;
    }
    const { ink, width } = piece.id === chosen ? CHOSEN_LINE : (LINES[piece.kind] ?? PLAIN_LINE);
    g.strokeStyle = colours(ink);
    g.lineWidth = width;
    g.setLineDash(piece.kind === 'set' ? [5, 4] : []);
    g.stroke();
    g.setLineDash([]);
  }
  drawNames(g, view, pieces);
}

/** Names of what things hang on matter before those of the set. */
const RANK: Record<PieceRow['kind'], number> = {
  bar: 0,
  boom: 0,
  edge: 1,
  cyc: 1,
  house: 2,
  set: 3,
};
const NAME_HEIGHT_PX = 12;

/** A name that would run into another one is left out, as where the plan is drawn small. */
function drawNames(g: CanvasRenderingContext2D, view: View, pieces: readonly PieceRow[]): void {
  const colours = coloursAt(g.canvas);
  const taken: { x: number; y: number; w: number }[] = [];
  for (const piece of [...pieces].sort((a, b) => RANK[a.kind] - RANK[b.kind])) {
    const points = piece.points.map((p) => toPixel(view, p));
    const first = points[0];
    const last = points.at(-1);
    if (piece.name === '' || !first || !last) continue;
    const { x, y, align } = nameAt(piece.kind, points, first, last);
    const w = g.measureText(piece.name).width;
    const left = x - w * SHARE_LEFT[align];
    if (taken.some((t) => left < t.x + t.w && t.x < left + w && Math.abs(y - t.y) < NAME_HEIGHT_PX))
      continue;
    taken.push({ x: left, y, w });
    g.textAlign = align;
    g.fillStyle = piece.kind === 'set' ? colours('faint') : colours('muted');
    g.fillText(piece.name, x, y);
  }
}

/** Which share of a name stands left of its point. */
const SHARE_LEFT = { left: 0, center: 0.5, right: 1 } as const;

function nameAt(
  kind: PieceRow['kind'],
  points: readonly Pixel[],
  first: Pixel,
  last: Pixel,
): Pixel & { align: keyof typeof SHARE_LEFT } {
  const middle = points[Math.floor(points.length / 2)] ?? first;
  switch (kind) {
    case 'boom':
      return { x: first.x, y: first.y - 16, align: 'center' };
    case 'house':
      return { x: middle.x, y: middle.y - 6, align: 'center' };
    case 'cyc':
      return { x: last.x + 8, y: last.y, align: 'left' };
    case 'set':
      return {
        x: points.reduce((s, q) => s + q.x, 0) / points.length,
        y: points.reduce((s, q) => s + q.y, 0) / points.length + 4,
        align: 'center',
      };
    case 'edge':
      return { x: first.x + 2, y: first.y - 7, align: 'left' };
    default:
      return { x: first.x - 10, y: first.y + 4, align: 'right' };
  }
}

/** How far a body glows about itself, across and along, in pixels of a unit of size 1. */
const GLOW: Partial<Record<Lamp['shape'], readonly [number, number]>> = {
  strip: [44, 26],
  house: [34, 34],
};
const PLAIN_GLOW = [24, 24] as const;

/** Soft discs of light by colour, made once each and stretched: a gradient per fixture and frame would be dear. */
const glows = new Map<number, HTMLCanvasElement>();
const GLOW_SIZE = 64;
const GLOWS_KEPT = 600;
function glow([r, g, b]: readonly [number, number, number]): HTMLCanvasElement {
  const key = ((r >> 3) << 10) | ((g >> 3) << 5) | (b >> 3);
  const known = glows.get(key);
  if (known) return known;
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = GLOW_SIZE;
  const context = canvas.getContext('2d');
  if (context) {
    const half = GLOW_SIZE / 2;
    const gradient = context.createRadialGradient(half, half, 0, half, half, half);
    gradient.addColorStop(0, `rgba(${r},${g},${b},0.85)`);
    gradient.addColorStop(0.45, `rgba(${r},${g},${b},0.28)`);
    gradient.addColorStop(1, `rgba(${r},${g},${b},0)`);
    context.fillStyle = gradient;
    context.fillRect(0, 0, GLOW_SIZE, GLOW_SIZE);
  }
  if (glows.size > GLOWS_KEPT) glows.clear();
  glows.set(key, canvas);
  return canvas;
}

function outline(g: CanvasRenderingContext2D, shape: Lamp['shape']): void {
  g.beginPath();
  if (shape === 'profile') {
    g.moveTo(-4, 9);
    g.lineTo(-4, -2.5);
    g.lineTo(-6.5, -9.5);
    g.quadraticCurveTo(0, -11.5, 6.5, -9.5);
    g.lineTo(4, -2.5);
    g.lineTo(4, 9);
    g.quadraticCurveTo(0, 11, -4, 9);
  } else if (shape === 'wash') {
    g.moveTo(-8, 6);
    g.lineTo(-8, -1.5);
    g.quadraticCurveTo(0, -11, 8, -1.5);
    g.lineTo(8, 6);
    g.quadraticCurveTo(0, 9.5, -8, 6);
  } else if (shape === 'strip') g.roundRect(-25, -4.5, 50, 9, 4.5);
  else if (shape === 'house') g.roundRect(-6, -6, 12, 12, 3);
  else if (shape === 'hazer') {
    g.moveTo(-8, 6);
    g.lineTo(-5, -6);
    g.lineTo(5, -6);
    g.lineTo(8, 6);
    g.closePath();
  } else g.arc(0, 0, 8, 0, Math.PI * 2);
}

/** What is marked of the units. */
export interface Marks {
  /** Place in the selection, from 1. */
  selected: ReadonlyMap<string, number>;
  unrecorded: ReadonlySet<string>;
  /** Initials of the others who have it selected. */
  others: ReadonlyMap<string, string>;
  /** Nothing that plays reaches them. */
  guarded: ReadonlySet<string>;
  hover: string | null;
}

/** On a small plan the symbols shrink with it, down to what can still be told apart. */
const unitOf = (view: View): number => clamp(view.scale / 36, 0.62, 1.1);

/** Several cells as one light: the brightness of all, the colour of what shines most. */
function together(faces: readonly Shine[]): Shine {
  const [first] = faces;
  if (faces.length === 1 && first) return first;
  const total = faces.reduce((sum, f) => sum + f.level, 0);
  if (total === 0) return { level: 0, rgb: first?.rgb ?? [0, 0, 0] };
  const mixed = [0, 1, 2].map((k) =>
    Math.round(faces.reduce((sum, f) => sum + (f.rgb[k] ?? 0) * f.level, 0) / total),
  );
  return { level: total / faces.length, rgb: [mixed[0] ?? 0, mixed[1] ?? 0, mixed[2] ?? 0] };
}

/** Cells side by side, each with its own light. */
function drawCells(
  g: CanvasRenderingContext2D,
  faces: readonly Shine[],
  at: { x: number; y: number },
  w: number,
  h: number,
  columns: number,
): void {
  const rows = Math.ceil(faces.length / columns);
  const cw = (w * 2) / columns;
  const ch = (h * 2) / rows;
  faces.forEach((face, i) => {
    g.globalAlpha = 0.1 + face.level * 0.84;
    g.fillStyle = `rgb(${face.rgb[0]},${face.rgb[1]},${face.rgb[2]})`;
    g.fillRect(
      at.x - w + (i % columns) * cw + 0.3,
      at.y - h + Math.floor(i / columns) * ch + 0.3,
      cw - 0.6,
      ch - 0.6,
    );
  });
}

/** One frame of light: glows, beams and the bodies' own light. This is all that is drawn again while levels move. */
export function drawLight(
  g: CanvasRenderingContext2D,
  view: View,
  lamps: readonly Lamp[],
  levels: Float32Array,
): void {
  const unit = unitOf(view);
  const lit: Lit[] = [];
  // All glows, then all bodies: a canvas is slow to change how it mixes.
  g.globalCompositeOperation = 'lighter';
  for (const lamp of lamps) {
    const faces = shineOf(lamp, levels);
    const { level, rgb } = together(faces);
    if (level < 0.004) continue;
    const at = toPixel(view, lamp.fixture.position);
    const sprite = glow(rgb);
    const spot = lamp.shape === 'head' ? landingOf(lamp, levels) : undefined;
    lit.push({ lamp, faces, level, rgb, at });
    if (spot) {
      const end = toPixel(view, spot);
      const wide = (0.5 + zoomOf(lamp, levels)) * view.scale * 0.75;
      const dx = end.x - at.x;
      const dy = end.y - at.y;
      const length = Math.hypot(dx, dy) || 1;
      const nx = -dy / length;
      const ny = dx / length;
      const beam = g.createLinearGradient(at.x, at.y, end.x, end.y);
      beam.addColorStop(0, `rgba(${rgb[0]},${rgb[1]},${rgb[2]},${0.42 * level})`);
      beam.addColorStop(1, `rgba(${rgb[0]},${rgb[1]},${rgb[2]},${0.06 * level})`);
      g.fillStyle = beam;
      g.beginPath();
      g.moveTo(at.x + nx * 3, at.y + ny * 3);
      g.lineTo(end.x + nx * wide * 0.55, end.y + ny * wide * 0.55);
      g.lineTo(end.x - nx * wide * 0.55, end.y - ny * wide * 0.55);
      g.lineTo(at.x - nx * 3, at.y - ny * 3);
      g.fill();
      g.globalAlpha = Math.min(1, level);
      g.drawImage(sprite, end.x - wide, end.y - wide * 0.8, wide * 2, wide * 1.6);
      for (const picture of patternsOf(lamp, levels))
        drawPattern(g, picture, end.x, end.y, wide * 1.1);
    }
    g.globalAlpha = Math.min(1, 0.15 + level * 0.75);
    const [wide, high] = GLOW[lamp.shape] ?? PLAIN_GLOW;
    const [rx, ry] = [unit * wide, unit * high];
    g.drawImage(sprite, at.x - rx, at.y - ry, rx * 2, ry * 2);
  }
  g.globalCompositeOperation = 'source-over';
  drawBodies(g, unit, lit);
  g.globalAlpha = 1;
}

interface Lit {
  lamp: Lamp;
  faces: ReturnType<typeof shineOf>;
  level: number;
  rgb: readonly [number, number, number];
  at: { x: number; y: number };
}

/** The bodies' own light: plain shapes under the crisp outlines, which are drawn once on the layer above. Neighbours of one colour are filled at once. */
function drawBodies(g: CanvasRenderingContext2D, unit: number, lit: readonly Lit[]): void {
  let style = '';
  g.beginPath();
  for (const { lamp, faces, level, rgb, at } of lit) {
    const next = `rgba(${rgb[0]},${rgb[1]},${rgb[2]},${(0.12 + level * 0.82).toFixed(3)})`;
    if (next !== style) {
      g.fill();
      g.beginPath();
      g.globalAlpha = 1;
      g.fillStyle = style = next;
    }
    const strip = lamp.shape === 'strip';
    const [w, h] = strip ? [24 * unit, 4 * unit] : [6 * unit, 6 * unit];
    if (faces.length > 1) {
      g.fill();
      g.beginPath();
      g.globalAlpha = 0.12 + level * 0.82;
      drawCells(
        g,
        faces,
        at,
        w,
        strip ? h : w,
        strip ? faces.length : Math.ceil(Math.sqrt(faces.length)),
      );
      style = '';
    } else if (strip) g.rect(at.x - w, at.y - h, w * 2, h * 2);
    else {
      g.moveTo(at.x + w, at.y);
      g.arc(at.x, at.y, w, 0, Math.PI * 2);
    }
  }
  g.fill();
}

/** Outlines, numbers, selection and marks: drawn again when one of them changes, not when light does. */
export function drawFixtures(
  g: CanvasRenderingContext2D,
  view: View,
  lamps: readonly Lamp[],
  marks: Marks,
): void {
  const colours = coloursAt(g.canvas);
  const unit = unitOf(view);
  g.lineJoin = g.lineCap = 'round';
  for (const lamp of lamps) {
    const { fixture } = lamp;
    const at = toPixel(view, fixture.position);
    const order = marks.selected.get(fixture.id);
    g.save();
    g.translate(at.x, at.y);
    g.scale(unit, unit);
    g.save();
    if (fixture.rotation !== 0 && lamp.shape !== 'head')
      g.rotate((fixture.rotation * Math.PI) / 180);
    outline(g, lamp.shape);
    g.strokeStyle = colours('soft');
    g.lineWidth = 1.2;
    g.stroke();
    if (lamp.shape === 'head') {
      g.beginPath();
      g.arc(0, 0, 2.2, 0, Math.PI * 2);
      g.fillStyle = colours('ink');
      g.fill();
    }
    g.restore();
    if (order !== undefined || marks.hover === fixture.id) {
      g.beginPath();
      if (lamp.shape === 'strip') g.roundRect(-30, -9.5, 60, 19, 9.5);
      else g.arc(0, 0, 15.5, 0, Math.PI * 2);
      g.strokeStyle = order === undefined ? colours('dim') : colours('standby');
      g.lineWidth = order === undefined ? 1 : 1.8;
      g.stroke();
    }
    const other = marks.others.get(fixture.id);
    if (other !== undefined) drawOther(g, other, lamp.shape === 'strip');
    if (marks.unrecorded.has(fixture.id)) {
      g.beginPath();
      g.arc(-12, -12, 4, 0, Math.PI * 2);
      g.fillStyle = colours('unrecorded');
      g.fill();
      g.strokeStyle = colours('ink');
      g.lineWidth = 2;
      g.stroke();
    }
    if (marks.guarded.has(fixture.id)) drawGuard(g);
    // Numbers are never drawn too small to read; on a small plan they show for what is pointed at or selected.
    if (unit >= 0.66 || order !== undefined || marks.hover === fixture.id)
      drawNumber(g, lamp, order, marks.selected.size, unit);
    g.restore();
  }
}

/** A bar on either side: what plays does not get in. */
function drawGuard(g: CanvasRenderingContext2D): void {
  g.beginPath();
  for (const x of [-17, 17]) {
    g.moveTo(x, -9);
    g.lineTo(x, 9);
  }
  g.strokeStyle = coloursAt(g.canvas)('warning');
  g.lineWidth = 2;
  g.stroke();
}

/** Somebody else has it selected: faintly, with their initials. */
function drawOther(g: CanvasRenderingContext2D, initials: string, wide: boolean): void {
  const colours = coloursAt(g.canvas);
  g.beginPath();
  if (wide) g.roundRect(-31, -10.5, 62, 21, 10.5);
  else g.arc(0, 0, 17, 0, Math.PI * 2);
  g.strokeStyle = colours('dim');
  g.lineWidth = 1;
  g.setLineDash([2, 3]);
  g.stroke();
  g.setLineDash([]);
  g.font = "600 9.5px 'Instrument Sans Variable', sans-serif";
  g.textAlign = 'left';
  g.fillStyle = colours('soft');
  g.fillText(initials, wide ? 33 : 15, -9);
}

function drawNumber(
  g: CanvasRenderingContext2D,
  lamp: Lamp,
  order: number | undefined,
  selected: number,
  unit: number,
): void {
  const colours = coloursAt(g.canvas);
  g.font = NUMBER_FONT;
  g.textAlign = 'center';
  if (unit < 1) g.scale(1 / unit, 1 / unit);
  const text = String(lamp.fixture.number);
  const plain = order === undefined ? 23 : 28;
  const below = (lamp.shape === 'strip' ? 20 : plain) * Math.min(1, unit);
  g.strokeStyle = colours('ink');
  g.lineWidth = 4;
  g.strokeText(text, 0, below);
  g.fillStyle = order === undefined ? colours('soft') : colours('standby');
  g.fillText(text, 0, below);
  if (order === undefined || selected < 2 || unit < 0.66) return;
  g.beginPath();
  g.arc(13, -13, 8, 0, Math.PI * 2);
  g.fillStyle = colours('standby');
  g.fill();
  g.fillStyle = colours('ink');
  g.font = `700 ${order > 99 ? 8 : 10}px 'JetBrains Mono Variable', monospace`;
  g.fillText(String(order), 13, -9.5);
}
