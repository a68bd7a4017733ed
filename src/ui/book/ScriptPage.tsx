/** The words of a script as a page, with calls in the margin. Used in the Book and, larger, in Run and the booth. */
'use client';
import { useEffect, useMemo, useRef } from 'react';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import { blocksOf, type Block } from '@/core/script/parse';
import type { PromptRow, ScriptRow } from '@/core/script/rows';
import { useShow } from '../state/store';
import type { CuePicture } from './time/ribbon';
import { useStoryboard } from './time/use-ribbons';
import { NO_PROMPTS, type Called } from './use-calls';

const LOOK: Record<Block['kind'], string> = {
  act: 'pt-6 pb-1 font-ui text-[12px] font-semibold uppercase tracking-[0.12em] text-soft',
  scene: 'pt-4 pb-1 font-ui text-[11.5px] uppercase tracking-[0.09em] text-muted',
  speaker: 'pt-2.5 text-[12px] uppercase tracking-[0.08em] text-muted',
  line: 'text-[14.5px] leading-[24px]',
  lyric: 'pl-3 text-[14.5px] italic leading-[24px]',
  action: 'text-[14px] leading-[23px] text-muted',
  item: 'flex items-baseline gap-3 border-b border-line py-1.5 text-[15px]',
};

/** Calls at one line stand so far apart. */
const CALL_PX = 24;

/** What a cue looks like, part by part, as a strip within its flag. */
function Picture({ of, parts }: { of: CuePicture | undefined; parts: readonly string[] }) {
  if (!of || of.length === 0) return null;
  const says = parts
    .map(
      (name, i) =>
        `${name} ${(of[i * 3] ?? 0) + (of[i * 3 + 1] ?? 0) + (of[i * 3 + 2] ?? 0) > 24 ? 'lit' : 'dark'}`,
    )
    .join(', ');
  return (
    <span
      role="img"
      data-testid="cue-picture"
      aria-label={says}
      className="absolute right-[7px] bottom-0 left-0 flex h-1"
    >
      {parts.map((name, i) => (
        <i
          key={name}
          className="flex-1"
          style={{
            background: `rgb(${of[i * 3] ?? 0} ${of[i * 3 + 1] ?? 0} ${of[i * 3 + 2] ?? 0})`,
          }}
        />
      ))}
    </span>
  );
}

/** A run of characters with one look. */
interface Piece {
  from: number;
  to: number;
  called?: Called;
  marked?: boolean;
}

/** A part of a script’s text, in characters. */
export interface Span {
  from: number;
  to: number;
}

/** The pieces, cut once more where a mark begins and ends. */
const withMark = (pieces: readonly Piece[], mark: Span | null | undefined): readonly Piece[] =>
  !mark
    ? pieces
    : pieces.flatMap((p): Piece[] => {
        const [from, to] = [Math.max(p.from, mark.from), Math.min(p.to, mark.to)];
        if (to <= from) return [p];
        return [
          { ...p, to: from },
          { ...p, from, to, marked: true },
          { ...p, from: to },
        ].filter((x) => x.to > x.from);
      });

/** A block's words, cut where calls begin and end. */
function piecesOf(block: Block, calls: readonly Called[]): Piece[] {
  const pieces: Piece[] = [];
  let at = block.from;
  for (const called of calls) {
    const from = Math.max(block.from, called.call.from);
    const to = Math.min(block.to, called.call.to);
    if (to <= from || from < at) continue;
    if (from > at) pieces.push({ from: at, to: from });
    pieces.push({ from, to, called });
    at = to;
  }
  if (at < block.to) pieces.push({ from: at, to: block.to });
  return pieces;
}

/** What stands at a block besides its words. */
interface Beside {
  calls: readonly Called[];
  prompts: readonly PromptRow[];
  standby: CueRow | undefined;
}
const NOTHING: Beside = { calls: [], prompts: [], standby: undefined };

/** By place of the block: what is called there, stood by for, and called by others. */
function useBeside(
  blocks: readonly Block[],
  calls: readonly Called[],
  prompts: readonly PromptRow[],
): ReadonlyMap<number, Beside> {
  return useMemo(() => {
    const map = new Map<number, Beside>();
    const put = (i: number, more: (b: Beside) => Partial<Beside>): void => {
      const before = map.get(i) ?? NOTHING;
      map.set(i, { ...before, ...more(before) });
    };
    const placeOf = (at: number): number =>
      Math.max(
        0,
        blocks.findIndex((b) => b.to > at),
      );
    let i = 0;
    for (const called of calls) {
      while (i < blocks.length - 1 && (blocks[i]?.to ?? 0) <= called.call.from) i++;
      put(i, (b) => ({ calls: [...b.calls, called] }));
      if (called.call.standby !== undefined)
        put(placeOf(called.call.standby), () => ({ standby: called.cue }));
    }
    for (const p of prompts) put(placeOf(p.from), (b) => ({ prompts: [...b.prompts, p] }));
    return map;
  }, [blocks, calls, prompts]);
}

/** @param within its text @returns a place of the script */
function placeOf(node: Node | null, within: number): number | undefined {
  const span = node?.parentElement?.closest<HTMLElement>('[data-from]');
  return span ? Number(span.dataset.from) + within : undefined;
}

/** The place of the script under the pointer. */
export function placeUnder(e: { clientX: number; clientY: number }): number | undefined {
  const caret = (
    document as Document & {
      caretPositionFromPoint?: (
        x: number,
        y: number,
      ) => { offsetNode: Node; offset: number } | null;
    }
  ).caretPositionFromPoint?.(e.clientX, e.clientY);
  return caret ? placeOf(caret.offsetNode, caret.offset) : undefined;
}

/** Places of the script that were selected, or that one under the pointer. */
function wordsUnder(e: React.MouseEvent): Span | undefined {
  const selection = window.getSelection();
  if (selection && !selection.isCollapsed) {
    const a = placeOf(selection.anchorNode, selection.anchorOffset);
    const b = placeOf(selection.focusNode, selection.focusOffset);
    return a === undefined || b === undefined || a === b
      ? undefined
      : { from: Math.min(a, b), to: Math.max(a, b) };
  }
  const at = placeUnder(e);
  return at === undefined ? undefined : { from: at, to: at };
}

interface PageProps {
  script: ScriptRow;
  calls: readonly Called[];
  /** Calls of other departments. */
  prompts?: readonly PromptRow[];
  now: string | null;
  next: string | null;
  picked?: string | null;
  /** Words that something is asked about. */
  marked?: Span | null;
  big?: boolean;
  onWord?: (from: number, to: number) => void;
  onCall: (called: Called) => void;
  /** A line was clicked: where it ends. */
  onLine?: (at: number) => void;
}

/** Beside the words, however long the numbers of cues are. */
function marginFor(calls: readonly Called[], big: boolean): number {
  const longest = Math.max(1, ...calls.map(({ cue }) => formatCueNumber(cue.number).length));
  return big ? Math.max(92, 62 + longest * 9.5) : Math.max(66, 54 + longest * 7);
}

/** A script as a page, with calls in its margin. */
export function Page(props: PageProps) {
  const { script, calls, prompts = NO_PROMPTS, now, next, big = false, onWord } = props;
  const blocks = useMemo(() => blocksOf(script), [script]);
  const story = useStoryboard(calls[0]?.cue.listId);
  const scroll = useRef<HTMLDivElement>(null);
  const beside = useBeside(blocks, calls, prompts);
  const aim = next ?? now;
  useEffect(() => {
    scroll.current
      ?.querySelector(`[data-call-of="${aim ?? ''}"]`)
      ?.scrollIntoView({ block: 'center', behavior: 'smooth' });
  }, [aim, script.id]);
  const margin = marginFor(calls, big);
  return (
    <div
      ref={scroll}
      data-testid="script-page"
      data-scroll="script"
      className={`h-full overflow-y-auto bg-page font-book text-text ${big ? 'px-6 py-4' : 'py-3 pr-3'}`}
      onMouseUp={(e) => {
        const span = onWord && wordsUnder(e);
        if (span) onWord?.(span.from, span.to);
      }}
    >
      {blocks.map((block, i) => (
        <BlockOf
          key={block.from}
          block={block}
          beside={beside.get(i) ?? NOTHING}
          isNewPage={i > 0 && block.page !== blocks[i - 1]?.page}
          margin={margin}
          story={story}
          page={props}
        />
      ))}
      <div className="h-40" />
    </div>
  );
}

function BlockOf({
  block,
  beside: { calls, prompts, standby },
  isNewPage,
  margin,
  story,
  page,
}: {
  block: Block;
  beside: Beside;
  isNewPage: boolean;
  margin: number;
  story: ReturnType<typeof useStoryboard>;
  page: PageProps;
}) {
  const { big = false, onLine, script, marked } = page;
  const isLine = block.kind !== 'act' && block.kind !== 'scene';
  const isItem = block.kind === 'item';
  return (
    <div
      onClick={onLine && isLine ? () => onLine(block.to) : undefined}
      className={`relative ${onLine ? 'cursor-pointer hover:bg-page-lift' : ''} ${isNewPage ? 'pr-10' : ''}`}
      style={{ paddingLeft: margin }}
    >
      {isNewPage && (
        <i className="absolute top-0 right-0 font-num text-[11px] text-dim not-italic">
          p. {block.page}
        </i>
      )}
      {standby && (
        <span className="absolute top-1 left-1 font-ui text-[11px] text-dim">
          stand by {formatCueNumber(standby.number)}
        </span>
      )}
      {calls.map((called, n) => (
        <Flag
          key={called.call.id}
          called={called}
          top={n * CALL_PX + (block.kind === 'speaker' ? 10 : 2)}
          story={story}
          page={page}
        />
      ))}
      {prompts.map((p) => (
        <Prompt key={p.id} prompt={p} />
      ))}
      <div className={`${LOOK[block.kind]} ${big ? '[zoom:1.4]' : ''}`}>
        {isItem && (
          <span className="num w-14 flex-none text-right text-[12.5px] text-muted">
            {block.duration_s === undefined ? '' : formatTime(block.duration_s)}
          </span>
        )}
        <span className={isItem ? 'flex-1' : ''}>
          {withMark(piecesOf(block, calls), marked).map((p) => (
            <span
              key={p.from}
              data-from={p.from}
              onDragOver={(e) => page.onWord && e.preventDefault()}
              data-marked={p.marked}
              className={inkOf(p, page)}
            >
              {script.text.slice(p.from, p.to)}
            </span>
          ))}
        </span>
        {isItem && <span className="text-[13px] text-muted">{block.leader}</span>}
      </div>
    </div>
  );
}

/** How words look that are called on, or asked about. */
function inkOf({ marked, called }: Piece, { now, next }: PageProps): string {
  if (marked) return 'rounded-sm bg-standby text-ink';
  if (!called) return '';
  const line = 'underline underline-offset-4';
  if (called.cue.id === now) return `${line} text-lime-word decoration-lime-word`;
  if (called.cue.id === next) return `${line} font-semibold text-standby decoration-standby`;
  return `${line} text-text decoration-faint`;
}

function groundOf({ call, cue }: Called, { now, next, picked }: PageProps): string {
  if (cue.id === now) return 'bg-lime text-lime-ink';
  if (cue.id === next) return 'bg-standby text-ink';
  if (call.check) return 'bg-warning text-ink';
  return picked === cue.id
    ? 'bg-standby-wash text-text inset-ring inset-ring-standby'
    : 'bg-edge text-soft';
}

const CHANGED = ': needs a look, a later draft has changed these words';

/** A cue in the margin, at its words. */
function Flag({
  called,
  top,
  story,
  page,
}: {
  called: Called;
  top: number;
  story: ReturnType<typeof useStoryboard>;
  page: PageProps;
}) {
  const { call, cue } = called;
  const number = formatCueNumber(cue.number);
  return (
    <button
      type="button"
      data-call-of={cue.id}
      draggable={page.onWord !== undefined}
      onDragStart={(e) => e.dataTransfer.setData('text/cue', cue.id)}
      onClick={(e) => {
        e.stopPropagation();
        page.onCall(called);
      }}
      onMouseUp={(e) => e.stopPropagation()}
      title={`LX ${number} ${cue.name}${call.check ? CHANGED : ''}`}
      className={`absolute left-2 z-10 flex h-[22px] items-center rounded-l px-1.5 font-num text-[11.5px] font-medium [clip-path:polygon(0_0,calc(100%-6px)_0,100%_50%,calc(100%-6px)_100%,0_100%)] ${page.big ? 'h-8 pr-4 text-[15px]' : 'pr-3'} ${groundOf(called, page)}`}
      style={{ top }}
    >
      LX {number}
      <Picture of={story.pictures.get(cue.id)} parts={story.parts} />
    </button>
  );
}

/** A call of another department. */
function Prompt({ prompt: p }: { prompt: PromptRow }) {
  const department = useShow().departments.get(p.department)?.name;
  return (
    <span
      data-prompt={p.id}
      title={`${p.label}, on “${p.quote}”${p.check ? CHANGED : ''}`}
      className={`mr-2 inline-flex h-[18px] max-w-full items-center gap-1.5 truncate rounded border px-1.5 font-ui text-[11.5px] ${p.check ? 'border-warning text-warning' : 'border-edge text-soft'}`}
    >
      <b className="font-semibold">{department}</b> {p.label}{' '}
      <span className="truncate font-book text-muted">“{p.quote}”</span>
    </span>
  );
}
