/** The script beside the cues: pages, calls in the margin, a cue dropped on a word, and where the show is now. */
'use client';
import { oneLine } from '@/core/words';
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import { blocksOf, flagsIn, sectionAt, type Block } from '@/core/script/parse';
import type { PromptRow, ScriptRow } from '@/core/script/rows';
import type { CueRow } from '@/core/cues/rows';
import { Button } from '../parts/controls';
import { edit, live } from '../state/actions';
import { lookAt, useBook, useBookList } from '../state/book';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { MENU, MENU_ITEM } from '../parts/menu';
import { useBookDialog } from './menu';
import { useParts } from '../state/use-parts';
import type { CuePicture } from './time/ribbon';
import { useStoryboard } from './time/use-ribbons';
import { callsIn, NO_PROMPTS, useCallsIn, usePrompts, useScript, type Called } from './use-calls';

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

interface Span {
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

/** The words of a script as a page. Used in the Book and, larger, in Run. */
export function Page({
  script,
  calls,
  prompts = NO_PROMPTS,
  now,
  next,
  picked,
  marked,
  big = false,
  onWord,
  onCall,
  onLine,
}: {
  script: ScriptRow;
  calls: readonly Called[];
  /** Calls of other departments. */ prompts?: readonly PromptRow[];
  now: string | null;
  next: string | null;
  picked?: string | null;
  /** Words that something is asked about. */ marked?: Span | null;
  big?: boolean;
  onWord?: (from: number, to: number) => void;
  onCall: (called: Called) => void;
  /** A line was clicked: where it ends. */ onLine?: (at: number) => void;
}) {
  const blocks = useMemo(() => blocksOf(script), [script]);
  const story = useStoryboard(calls[0]?.cue.listId);
  const scroll = useRef<HTMLDivElement>(null);
  const byBlock = useMemo(() => {
    const map = new Map<number, Called[]>();
    let i = 0;
    for (const called of calls) {
      while (i < blocks.length - 1 && (blocks[i]?.to ?? 0) <= called.call.from) i++;
      map.set(i, [...(map.get(i) ?? []), called]);
    }
    return map;
  }, [blocks, calls]);
  const standbys = useMemo(
    () =>
      new Map(
        calls.flatMap(({ call, cue }) =>
          call.standby === undefined
            ? []
            : [
                [
                  Math.max(
                    0,
                    blocks.findIndex((b) => b.to > (call.standby ?? 0)),
                  ),
                  cue,
                ] as const,
              ],
        ),
      ),
    [blocks, calls],
  );
  const others = useMemo(() => {
    const map = new Map<number, PromptRow[]>();
    for (const p of prompts) {
      const i = Math.max(
        0,
        blocks.findIndex((b) => b.to > p.from),
      );
      map.set(i, [...(map.get(i) ?? []), p]);
    }
    return map;
  }, [blocks, prompts]);
  const show = useShow();
  const aim = next ?? now;

  useEffect(() => {
    scroll.current
      ?.querySelector(`[data-call-of="${aim ?? ''}"]`)
      ?.scrollIntoView({ block: big ? 'center' : 'center', behavior: 'smooth' });
  }, [aim, big, script.id]);

  const wordUnder = (e: React.MouseEvent): void => {
    if (!onWord) return;
    const selection = window.getSelection();
    const offsets = (node: Node | null, offset: number): number | undefined => {
      const span = node?.parentElement?.closest<HTMLElement>('[data-from]');
      return span ? Number(span.dataset.from) + offset : undefined;
    };
    if (selection && !selection.isCollapsed) {
      const [a, b] = [
        offsets(selection.anchorNode, selection.anchorOffset),
        offsets(selection.focusNode, selection.focusOffset),
      ];
      if (a !== undefined && b !== undefined && a !== b) onWord(Math.min(a, b), Math.max(a, b));
      return;
    }
    const caret = (
      document as Document & {
        caretPositionFromPoint?: (
          x: number,
          y: number,
        ) => { offsetNode: Node; offset: number } | null;
      }
    ).caretPositionFromPoint?.(e.clientX, e.clientY);
    const at = caret ? offsets(caret.offsetNode, caret.offset) : undefined;
    if (at !== undefined) onWord(at, at);
  };

  // Beside the words, however long the numbers are.
  const longest = Math.max(1, ...calls.map(({ cue }) => formatCueNumber(cue.number).length));
  const margin = big ? Math.max(92, 62 + longest * 9.5) : Math.max(66, 54 + longest * 7);
  let page = 0;
  return (
    <div
      ref={scroll}
      data-testid="script-page"
      data-scroll="script"
      className={`h-full overflow-y-auto bg-page font-book text-text ${big ? 'px-6 py-4' : 'py-3 pr-3'}`}
      onMouseUp={wordUnder}
    >
      {blocks.map((b, i) => {
        const here = byBlock.get(i) ?? [];
        const standby = standbys.get(i);
        const newPage = b.page !== page;
        page = b.page;
        return (
          <div
            key={b.from}
            onClick={
              onLine && b.kind !== 'act' && b.kind !== 'scene' ? () => onLine(b.to) : undefined
            }
            className={`relative ${onLine ? 'cursor-pointer hover:bg-page-lift' : ''} ${newPage && i > 0 ? 'pr-10' : ''}`}
            style={{ paddingLeft: margin }}
          >
            {newPage && i > 0 && (
              <i className="absolute top-0 right-0 font-num text-[11px] text-dim not-italic">
                p. {b.page}
              </i>
            )}
            {standby && (
              <span className="absolute top-1 left-1 font-ui text-[11px] text-dim">
                stand by {formatCueNumber(standby.number)}
              </span>
            )}
            {here.map(({ call, cue }, n) => {
              const isNow = cue.id === now;
              const isNext = cue.id === next;
              return (
                <button
                  key={call.id}
                  type="button"
                  data-call-of={cue.id}
                  draggable={onWord !== undefined}
                  onDragStart={(e) => e.dataTransfer.setData('text/cue', cue.id)}
                  onClick={(e) => {
                    e.stopPropagation();
                    onCall({ call, cue });
                  }}
                  onMouseUp={(e) => e.stopPropagation()}
                  title={`LX ${formatCueNumber(cue.number)} ${cue.name}${call.check ? ': needs a look, a later draft has changed these words' : ''}`}
                  className={`absolute left-2 z-10 flex h-[22px] items-center rounded-l px-1.5 font-num text-[11.5px] font-medium [clip-path:polygon(0_0,calc(100%-6px)_0,100%_50%,calc(100%-6px)_100%,0_100%)] ${big ? 'h-8 pr-4 text-[15px]' : 'pr-3'} ${isNow ? 'bg-lime text-lime-ink' : isNext ? 'bg-standby text-ink' : call.check ? 'bg-warning text-ink' : picked === cue.id ? 'bg-standby-wash text-text inset-ring inset-ring-standby' : 'bg-edge text-soft'}`}
                  style={{ top: n * CALL_PX + (b.kind === 'speaker' ? 10 : 2) }}
                >
                  LX {formatCueNumber(cue.number)}
                  <Picture of={story.pictures.get(cue.id)} parts={story.parts} />
                </button>
              );
            })}
            {others.get(i)?.map((p) => (
              <span
                key={p.id}
                data-prompt={p.id}
                title={`${p.label}, on “${p.quote}”${p.check ? ': needs a look, a later draft has changed these words' : ''}`}
                className={`mr-2 inline-flex h-[18px] max-w-full items-center gap-1.5 truncate rounded border px-1.5 font-ui text-[11.5px] ${p.check ? 'border-warning text-warning' : 'border-edge text-soft'}`}
              >
                <b className="font-semibold">{show.departments.get(p.department)?.name}</b>{' '}
                {p.label} <span className="truncate font-book text-muted">“{p.quote}”</span>
              </span>
            ))}
            <div className={`${LOOK[b.kind]} ${big ? '[zoom:1.4]' : ''}`}>
              {b.kind === 'item' && (
                <span className="num w-14 flex-none text-right text-[12.5px] text-muted">
                  {b.duration_s === undefined ? '' : formatTime(b.duration_s)}
                </span>
              )}
              <span className={b.kind === 'item' ? 'flex-1' : ''}>
                {withMark(piecesOf(b, here), marked).map((p) => (
                  <span
                    key={p.from}
                    data-from={p.from}
                    onDragOver={(e) => onWord && e.preventDefault()}
                    data-marked={p.marked}
                    className={
                      p.marked
                        ? 'rounded-sm bg-standby text-ink'
                        : p.called
                          ? `underline underline-offset-4 ${p.called.cue.id === now ? 'text-lime-word decoration-lime-word' : p.called.cue.id === next ? 'font-semibold text-standby decoration-standby' : 'text-text decoration-faint'}`
                          : ''
                    }
                  >
                    {script.text.slice(p.from, p.to)}
                  </span>
                ))}
              </span>
              {b.kind === 'item' && <span className="text-[13px] text-muted">{b.leader}</span>}
            </div>
          </div>
        );
      })}
      <div className="h-40" />
    </div>
  );
}

export function ScriptPane() {
  const { scripts, script, choose } = useScript();
  const { listId, list, status, cue } = useBookList();
  const { follow } = useParts(useBook, 'follow');
  const { you } = useParts(useScreen, 'you');
  const may = mayEdit(you.role);
  const calls = useCallsIn(script, listId);
  const prompts = usePrompts(script);
  const [asked, setAsked] = useState<{ from: number; to: number } | null>(null);
  const checks = calls.filter((c) => c.call.check);
  const ask = (dialog: 'script'): void => useBookDialog.setState({ dialog });
  if (!script) {
    return (
      <div className="grid h-full place-items-center bg-page p-6 text-center">
        <div className="max-w-60">
          <p className="font-book text-[17px]">No script yet</p>
          <p className="mt-2 text-[12.5px] leading-[18px] text-muted">
            Take in a script as plain text, Markdown or Fountain, or an order of service, and drop
            cues on its words.
          </p>
          {may && (
            <Button kind="strong" className="mt-4" onClick={() => ask('script')}>
              Take in a script …
            </Button>
          )}
        </div>
      </div>
    );
  }
  // A cue that is not called belongs where the cue before it is.
  const number = follow ? (status?.cueNumber ?? 0) : (cue?.number ?? 0);
  const aim = calls.filter((c) => c.cue.number <= number).at(-1);
  const section = sectionAt(script, aim?.call.from ?? 0);
  const flags = flagsIn(script.text).filter(
    (f) => !calls.some((c) => c.cue.number === f.number),
  ).length;
  const total = blocksOf(script).reduce((sum, b) => sum + (b.duration_s ?? 0), 0);
  const sure = (from: number, to: number): { from: number; to: number } => {
    const part = /[\p{L}\p{N}’'\-]/u;
    let [a, b] = [from, to];
    if (a === b) {
      while (a > 0 && part.test(script.text[a - 1] ?? '')) a--;
      while (b < script.text.length && part.test(script.text[b] ?? '')) b++;
      if (/[!?…]/.test(script.text[b] ?? '')) b++;
    }
    return { from: a, to: b };
  };
  return (
    <section aria-label="Script" className="flex h-full flex-col bg-page">
      <header className="flex h-11 flex-none items-center gap-2 border-b border-line pr-2 pl-4">
        <span className="cap min-w-0 flex-1 truncate">
          {[section.act, section.scene].filter(Boolean).join(' · ') || script.title}
          {script.format === 'order' && total > 0 && (
            <span className="num ml-2 normal-case">{formatTime(total)} in all</span>
          )}
        </span>
        <span className="num text-[12px] text-muted">
          {script.format === 'order' ? '' : `p. ${section.page}`}
        </span>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger
            aria-label="Script: drafts and calls"
            className="grid size-7 place-items-center rounded-md text-soft hover:bg-raised"
          >
            <ChevronDown size={14} />
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" className={MENU}>
              {scripts.map((s) => (
                <DropdownMenu.Item key={s.id} onSelect={() => choose(s.id)} className={MENU_ITEM}>
                  {s.title}, draft {s.draft}
                  {s.id === script.id ? ' ·' : ''}
                </DropdownMenu.Item>
              ))}
              <DropdownMenu.Separator className="my-1 h-px bg-line" />
              <DropdownMenu.Item
                disabled={!may}
                onSelect={() => setTimeout(() => ask('script'))}
                className={MENU_ITEM}
              >
                Take in a script or a later draft …
              </DropdownMenu.Item>
              <DropdownMenu.Item
                disabled={!may || flags === 0}
                onSelect={() => void edit('cues-from-flags', { scriptId: script.id, listId })}
                className={MENU_ITEM}
              >
                {flags === 0
                  ? 'No cues are named in it that are missing'
                  : flags === 1
                    ? 'Make the cue that it names'
                    : `Make the ${flags} cues that it names`}
              </DropdownMenu.Item>
              <DropdownMenu.Item
                disabled={!may}
                onSelect={() => void edit('delete-script', { id: script.id })}
                className={MENU_ITEM}
              >
                Delete this script; its cues stay
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </header>
      {checks.length > 0 && (
        <div
          className="flex h-8 flex-none items-center gap-2 border-b border-line bg-warning-wash px-4 text-[12.5px] text-warning"
          role="status"
        >
          {checks.length === 1 ? 'One call needs a look' : `${checks.length} calls need a look`}{' '}
          after the new draft:
          {checks.slice(0, 4).map(({ call, cue: c }) => (
            <button
              key={call.id}
              type="button"
              title="Right as it is: take it off the list. To move it, choose the cue and click the word."
              onClick={() => void edit('change-call', { id: call.id, checked: true })}
              className="num rounded bg-raised px-1.5 text-text hover:bg-lift"
            >
              {formatCueNumber(c.number)} ✓
            </button>
          ))}
        </div>
      )}
      <div
        className="relative min-h-0 flex-1"
        onDragOver={(e) => may && e.preventDefault()}
        onDrop={(e) => may && dropped(e, script, sure)}
      >
        <Page
          script={script}
          calls={calls}
          prompts={prompts}
          now={status?.cueId ?? null}
          next={status?.nextId ?? null}
          picked={cue?.id ?? null}
          marked={asked}
          onCall={({ cue: c }) => lookAt(c.id)}
          {...(may
            ? { onWord: (from: number, to: number) => setAsked(sure(from, to)) }
            : {
                onLine: (at: number) => {
                  const called = calls.filter((c) => c.call.from < at).at(-1);
                  if (called) lookAt(called.cue.id);
                },
              })}
        />
        {asked && asked.to > asked.from && (
          <Drop
            script={script}
            listId={listId}
            listName={list?.name ?? ''}
            at={asked}
            cue={cue}
            onDone={() => setAsked(null)}
          />
        )}
      </div>
      {cue && mayPlay(you.role) && !follow && (
        <footer className="flex h-9 flex-none items-center gap-2 border-t border-line px-3 text-[12.5px] text-muted">
          <span className="num text-standby">LX {formatCueNumber(cue.number)}</span>
          <span className="min-w-0 flex-1 truncate">{cue.name}</span>
          <Button
            kind="quiet"
            onClick={() =>
              void live({ command: 'goto', cue: formatCueNumber(cue.number), list: cue.listId })
            }
          >
            Go to it
          </Button>
        </footer>
      )}
    </section>
  );
}

function dropped(
  e: React.DragEvent,
  script: ScriptRow,
  sure: (from: number, to: number) => { from: number; to: number },
): void {
  const cueId = e.dataTransfer.getData('text/cue');
  const caret = (
    document as Document & {
      caretPositionFromPoint?: (
        x: number,
        y: number,
      ) => { offsetNode: Node; offset: number } | null;
    }
  ).caretPositionFromPoint?.(e.clientX, e.clientY);
  const span = caret?.offsetNode.parentElement?.closest<HTMLElement>('[data-from]');
  if (cueId === '' || !caret || !span) return;
  e.preventDefault();
  const at = sure(
    Number(span.dataset.from) + caret.offset,
    Number(span.dataset.from) + caret.offset,
  );
  if (at.to > at.from) void edit('set-call', { scriptId: script.id, cueId, ...at });
}

/**
 * The cue that a clicked word is most likely for: the one that is looked at, where it is not called yet; else the next of
 * the list after what is called before these words, so that calls are hung one after the other.
 */
function nextToHang(
  cues: readonly CueRow[],
  calls: readonly Called[],
  at: number,
  looked: CueRow | undefined,
): CueRow | undefined {
  const called = new Set(calls.map((c) => c.cue.id));
  if (looked && !called.has(looked.id)) return looked;
  const before = calls.filter((c) => c.call.from <= at).at(-1)?.cue.number ?? 0;
  return cues.find((c) => c.number > before && !called.has(c.id)) ?? looked;
}

/** What the clicked words are for: the cue that is looked at, or a new one. */
function Drop({
  script,
  listId,
  listName,
  at,
  cue,
  onDone,
}: {
  script: ScriptRow;
  listId: string;
  listName: string;
  at: { from: number; to: number };
  cue: CueRow | undefined;
  onDone: () => void;
}) {
  const show = useShow();
  const words = oneLine(script.text.slice(at.from, at.to));
  const calls = callsIn(show, script.id, listId);
  const before = calls.filter((c) => c.call.from <= at.from).at(-1);
  const cues = show.cuesOf(listId);
  const low = before?.cue.number ?? 0;
  const high = cues.find((c) => c.number > low)?.number;
  const fresh = high === undefined ? (Math.floor(low / 1000) + 1) * 1000 : undefined;
  const between = [500, 100, 10, 1]
    .map((step) => (Math.floor(low / step) + 1) * step)
    .find((n) => n > low && (high === undefined || n < high));
  const number = fresh ?? between;
  const offered = nextToHang(cues, calls, at.from, cue);
  const theirs = cue && cue.id !== offered?.id ? cue : undefined;
  const drop = async (cueId: string): Promise<void> => {
    onDone();
    lookAt(cueId);
    await edit('set-call', { scriptId: script.id, cueId, ...at });
  };
  return (
    <div
      role="dialog"
      aria-label="A cue on these words"
      className="absolute inset-x-3 bottom-3 z-20 rounded-lg bg-panel p-3 font-ui text-[13px] shadow-pop"
      onMouseUp={(e) => e.stopPropagation()}
      onKeyDown={(e) => e.key === 'Escape' && onDone()}
    >
      <p className="truncate">
        On <b className="font-book font-medium">“{words}”</b>
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {offered && (
          <Button kind="strong" autoFocus onClick={() => void drop(offered.id)}>
            {calls.some((c) => c.cue.id === offered.id) ? 'Move' : 'Call'} LX{' '}
            {formatCueNumber(offered.number)} {offered.name} here
          </Button>
        )}
        {theirs && (
          <Button onClick={() => void drop(theirs.id)}>
            Move LX {formatCueNumber(theirs.number)} here
          </Button>
        )}
        {number !== undefined && (
          <Button
            kind={offered ? 'line' : 'strong'}
            onClick={() =>
              void (async () => {
                const made = await edit(
                  'make-cues',
                  { listId, cues: [{ number, name: words.slice(0, 60) }] },
                  { quiet: true },
                );
                const row =
                  'changes' in made ? made.changes.find((c) => c.table === 'cues') : undefined;
                if (row) {
                  useBook.setState({ cueId: row.id, follow: false, chosen: [row.id] });
                  await drop(row.id);
                }
              })()
            }
          >
            New LX {formatCueNumber(number)} here
          </Button>
        )}
        {cue &&
          callsIn(show, script.id).some((c) => c.cue.id === cue.id && c.call.from > at.from) && (
            <Button
              kind="line"
              onClick={() => {
                const call = calls.find((c) => c.cue.id === cue.id)?.call;
                onDone();
                if (call) void edit('change-call', { id: call.id, standby: at.from });
              }}
            >
              Stand by for it here
            </Button>
          )}
        {cue && calls.some((c) => c.cue.id === cue.id) && (
          <Button
            kind="quiet"
            onClick={() => {
              const call = calls.find((c) => c.cue.id === cue.id)?.call;
              onDone();
              if (call) void edit('remove-call', { id: call.id });
            }}
          >
            Take LX {formatCueNumber(cue.number)} off the script
          </Button>
        )}
        <OtherCall script={script} at={at} onDone={onDone} />
        <Button kind="quiet" onClick={onDone}>
          Not now
        </Button>
      </div>
      <p className="mt-2 text-[12px] text-muted">
        Cues of {listName}. A call can also be dragged to its word from the margin.
      </p>
    </div>
  );
}

/** These words are for another department: called here, or taken off again. */
function OtherCall({
  script,
  at,
  onDone,
}: {
  script: ScriptRow;
  at: { from: number; to: number };
  onDone: () => void;
}) {
  const show = useShow();
  const departments = [...show.departments.values()].sort((a, b) => a.name.localeCompare(b.name));
  const here = usePrompts(script).filter((p) => p.from < at.to && p.to > at.from);
  const [to, setTo] = useState(departments[0]?.id ?? '');
  const [label, setLabel] = useState('');
  if (departments.length === 0) return null;
  return (
    <form
      className="flex basis-full items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        onDone();
        void edit('set-prompt', {
          set: { scriptId: script.id, department: to, label: label.trim(), ...at },
        });
      }}
    >
      <select
        aria-label="Or a department"
        value={to}
        onChange={(e) => setTo(e.target.value)}
        className="h-8 rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)]"
      >
        {departments.map((d) => (
          <option key={d.id} value={d.id}>
            {d.name}
          </option>
        ))}
      </select>
      <input
        aria-label="What it is called for"
        placeholder="Q 7, thunder"
        value={label}
        maxLength={120}
        onChange={(e) => setLabel(e.target.value)}
        className="h-8 min-w-0 flex-1 rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)]"
      />
      <Button type="submit" disabled={label.trim() === ''}>
        Call here
      </Button>
      {here.map((p) => (
        <Button
          key={p.id}
          kind="quiet"
          title={`${show.departments.get(p.department)?.name}, ${p.label}`}
          onClick={() => (onDone(), void edit('remove-prompt', { id: p.id }))}
        >
          Take {p.label} off
        </Button>
      ))}
    </form>
  );
}
