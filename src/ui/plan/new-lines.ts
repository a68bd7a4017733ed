/** A line drawn on the plan by hand: a bar, a boom, a set piece, or where heads shall look along. */
import type { PieceRow } from '@/core/plan/rows';
import type { Show } from '@/core/show/show';
import { said } from '../state/commands';
import { edit } from '../state/edits';
import { setTool, type useStage } from '../state/stage';
import { cm } from './moving';

type Tool = ReturnType<typeof useStage.getState>['tool'];
interface Metre {
  x: number;
  y: number;
}

/** A shorter line was no line. */
const SHORT_M = 0.2;
const BAR_HIGH_M = 6;
const BOOM_HIGH_M = 2;
const MOST_NAMED = 99;

/** The first of `Bar 1`, `Bar 2` … that no line of the plan is called. */
function freeName(show: Show, word: string): string {
  const taken = new Set([...show.pieces.values()].map((p) => p.name));
  let n = 1;
  while (n < MOST_NAMED && taken.has(`${word} ${n}`)) n++;
  return `${word} ${n}`;
}

function lineOf(tool: Tool, show: Show, from: Metre, to: Metre): Omit<PieceRow, 'id'> | undefined {
  if (tool === 'bar')
    return { name: freeName(show, 'Bar'), kind: 'bar', points: [from, to], z: BAR_HIGH_M };
  if (tool === 'boom')
    return { name: freeName(show, 'Boom'), kind: 'boom', points: [from, to], z: BOOM_HIGH_M };
  if (tool === 'set')
    return {
      name: 'Set piece',
      kind: 'set',
      points: [from, { x: to.x, y: from.y }, to, { x: from.x, y: to.y }],
      z: 0,
      height: 1,
    };
  return undefined;
}

/** Does with a drawn line what the tool is for, and puts the tool away; heads can be aimed again and again. */
export function drawn(tool: Tool, show: Show, from: Metre, to: Metre): void {
  const far = Math.hypot(to.x - from.x, to.y - from.y) > SHORT_M;
  if (tool === 'line') {
    const points = [from, to].map((p) => ({ x: cm(p.x), y: cm(p.y), z: 0 }));
    if (far) void said({ command: 'aim', points, flip: false });
    return;
  }
  const set = far ? lineOf(tool, show, from, to) : undefined;
  if (set) void edit('set-piece', { set });
  setTool('select');
}
