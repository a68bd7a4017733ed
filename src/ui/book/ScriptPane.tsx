/** The script beside the cues: pages, calls in the margin, a cue dropped on a word, and where the show is now. */
'use client';
import { oneLine } from '@/core/words';
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber, numbersBetween } from '@/core/cues/number';
import { blocksOf, flagsIn, sectionAt } from '@/core/script/parse';
import type { ScriptRow } from '@/core/script/rows';
import type { CueRow } from '@/core/cues/rows';
import { Button } from '../parts/controls';
import { live } from '../state/commands';
import { edit } from '../state/edits';
import { lookAt, useBook, useBookList } from '../state/book';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { MENU, MENU_ITEM } from '../parts/menu';
import { useBookDialog } from './menu';
import { useParts } from '../state/use-parts';
import { Page, placeUnder, type Span } from './ScriptPage';
import { callsIn, useCallsIn, usePrompts, useScript, type Called } from './use-calls';

/** What was selected; a place in the middle of a word is the word, with a sign at its end that is spoken. */
function wordAt(text: string, { from, to }: Span): Span {
  if (from !== to) return { from, to };
  const part = /[\p{L}\p{N}’'\-]/u;
  let [a, b] = [from, to];
  while (a > 0 && part.test(text[a - 1] ?? '')) a--;
  while (b < text.length && part.test(text[b] ?? '')) b++;
  if (/[!?…]/.test(text[b] ?? '')) b++;
  return { from: a, to: b };
}

const ask = (dialog: 'script'): void => useBookDialog.setState({ dialog });

/** The script beside the cues, where calls are put. */
export function ScriptPane() {
  const { scripts, script, choose } = useScript();
  const { listId, list, status, cue } = useBookList();
  const { follow } = useParts(useBook, 'follow');
  const { you } = useParts(useScreen, 'you');
  const may = mayEdit(you.role);
  const calls = useCallsIn(script, listId);
  const prompts = usePrompts(script);
  const [asked, setAsked] = useState<Span | null>(null);
  if (!script) return <NoScript may={may} />;
  // A cue that is not called belongs where the cue before it is.
  const number = follow ? (status?.cueNumber ?? 0) : (cue?.number ?? 0);
  const aim = calls.filter((c) => c.cue.number <= number).at(-1);
  return (
    <section aria-label="Script" className="flex h-full flex-col bg-page">
      <Head script={script} at={aim?.call.from ?? 0}>
        <ScriptMenu
          script={script}
          scripts={scripts}
          choose={choose}
          calls={calls}
          listId={listId}
          may={may}
        />
      </Head>
      <Checks calls={calls.filter((c) => c.call.check)} />
      <div
        className="relative min-h-0 flex-1"
        onDragOver={(e) => may && e.preventDefault()}
        onDrop={(e) => may && dropped(e, script)}
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
            ? { onWord: (from: number, to: number) => setAsked(wordAt(script.text, { from, to })) }
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
      {cue && mayPlay(you.role) && !follow && <GoToIt cue={cue} />}
    </section>
  );
}

function NoScript({ may }: { may: boolean }) {
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

/** @param at place of the script that is looked at */
function Head({ script, at, children }: { script: ScriptRow; at: number; children: ReactNode }) {
  const section = sectionAt(script, at);
  const isOrder = script.format === 'order';
  const total = blocksOf(script).reduce((sum, b) => sum + (b.duration_s ?? 0), 0);
  return (
    <header className="flex h-11 flex-none items-center gap-2 border-b border-line pr-2 pl-4">
      <span className="cap min-w-0 flex-1 truncate">
        {[section.act, section.scene].filter(Boolean).join(' · ') || script.title}
        {isOrder && total > 0 && (
          <span className="num ml-2 normal-case">{formatTime(total)} in all</span>
        )}
      </span>
      <span className="num text-[12px] text-muted">{isOrder ? '' : `p. ${section.page}`}</span>
      {children}
    </header>
  );
}

function sayFlags(missing: number): string {
  if (missing === 0) return 'No cues are named in it that are missing';
  return missing === 1 ? 'Make the cue that it names' : `Make the ${missing} cues that it names`;
}

function ScriptMenu({
  script,
  scripts,
  choose,
  calls,
  listId,
  may,
}: {
  script: ScriptRow;
  scripts: readonly ScriptRow[];
  choose: (id: string) => void;
  calls: readonly Called[];
  listId: string;
  may: boolean;
}) {
  const missing = flagsIn(script.text).filter(
    (f) => !calls.some((c) => c.cue.number === f.number),
  ).length;
  return (
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
            disabled={!may || missing === 0}
            onSelect={() => void edit('cues-from-flags', { scriptId: script.id, listId })}
            className={MENU_ITEM}
          >
            {sayFlags(missing)}
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
  );
}

const CHECKS_SHOWN = 4;
/** Calls whose words a later draft has changed. */
function Checks({ calls }: { calls: readonly Called[] }) {
  if (calls.length === 0) return null;
  return (
    <div
      className="flex h-8 flex-none items-center gap-2 border-b border-line bg-warning-wash px-4 text-[12.5px] text-warning"
      role="status"
    >
      {calls.length === 1 ? 'One call needs a look' : `${calls.length} calls need a look`} after the
      new draft:
      {calls.slice(0, CHECKS_SHOWN).map(({ call, cue }) => (
        <button
          key={call.id}
          type="button"
          title="Right as it is: take it off the list. To move it, choose the cue and click the word."
          onClick={() => void edit('change-call', { id: call.id, checked: true })}
          className="num rounded bg-raised px-1.5 text-text hover:bg-lift"
        >
          {formatCueNumber(cue.number)} ✓
        </button>
      ))}
    </div>
  );
}

function GoToIt({ cue }: { cue: CueRow }) {
  const number = formatCueNumber(cue.number);
  return (
    <footer className="flex h-9 flex-none items-center gap-2 border-t border-line px-3 text-[12.5px] text-muted">
      <span className="num text-standby">LX {number}</span>
      <span className="min-w-0 flex-1 truncate">{cue.name}</span>
      <Button
        kind="quiet"
        onClick={() => void live({ command: 'goto', cue: number, list: cue.listId })}
      >
        Go to it
      </Button>
    </footer>
  );
}

/** A cue dropped on a word. */
function dropped(e: React.DragEvent, script: ScriptRow): void {
  const cueId = e.dataTransfer.getData('text/cue');
  const place = placeUnder(e);
  if (cueId === '' || place === undefined) return;
  e.preventDefault();
  const at = wordAt(script.text, { from: place, to: place });
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

interface Spot {
  from: number;
  to: number;
}

/** Which cues may be called on these words: the one that is offered first, the one that is looked at, a new one. */
function useOffers(script: ScriptRow, listId: string, at: Spot, cue: CueRow | undefined) {
  const show = useShow();
  const calls = callsIn(show, script.id, listId);
  const cues = show.cuesOf(listId);
  const low = calls.filter((c) => c.call.from <= at.from).at(-1)?.cue.number ?? 0;
  const high = cues.find((c) => c.number > low)?.number;
  const offered = nextToHang(cues, calls, at.from, cue);
  return {
    offered,
    isCalled: calls.some((c) => c.cue.id === offered?.id),
    theirs: cue && cue.id !== offered?.id ? cue : undefined,
    /** Between the cue before these words and the one behind it in the list. */
    fresh: numbersBetween(low, high, 1)?.[0],
    /** Where the cue that is looked at is called now. */
    call: calls.find((c) => c.cue.id === cue?.id)?.call,
  };
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
  at: Spot;
  cue: CueRow | undefined;
  onDone: () => void;
}) {
  const words = oneLine(script.text.slice(at.from, at.to));
  const { offered, isCalled, theirs, fresh, call } = useOffers(script, listId, at, cue);
  const drop = async (cueId: string): Promise<void> => {
    onDone();
    lookAt(cueId);
    await edit('set-call', { scriptId: script.id, cueId, ...at });
  };
  const dropNew = async (number: number): Promise<void> => {
    const cues = [{ number, name: words.slice(0, 60) }];
    const made = await edit('make-cues', { listId, cues }, { quiet: true });
    const row = 'changes' in made ? made.changes.find((c) => c.table === 'cues') : undefined;
    if (!row) return;
    useBook.setState({ cueId: row.id, follow: false, chosen: [row.id] });
    await drop(row.id);
  };
  const change = (name: 'change-call' | 'remove-call', params: Record<string, unknown>): void => {
    onDone();
    void edit(name, { id: call?.id, ...params });
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
            {isCalled ? 'Move' : 'Call'} LX {formatCueNumber(offered.number)} {offered.name} here
          </Button>
        )}
        {theirs && (
          <Button onClick={() => void drop(theirs.id)}>
            Move LX {formatCueNumber(theirs.number)} here
          </Button>
        )}
        {fresh !== undefined && (
          <Button kind={offered ? 'line' : 'strong'} onClick={() => void dropNew(fresh)}>
            New LX {formatCueNumber(fresh)} here
          </Button>
        )}
        {call && call.from > at.from && (
          <Button kind="line" onClick={() => change('change-call', { standby: at.from })}>
            Stand by for it here
          </Button>
        )}
        {cue && call && (
          <Button kind="quiet" onClick={() => change('remove-call', {})}>
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
