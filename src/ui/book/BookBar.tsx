/** The line over the cue sheet: families, the list, whether it goes along, what can be done to cues, files and checks. */
'use client';
import { ChevronDown, Eye, EyeOff, Search } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { Tabs } from '../parts/controls';
import { useBook, useBookList } from '../state/book';
import { mayEdit, useScreen, useShow } from '../state/store';
import { useTrackView } from '../state/track';
import { FAMILY_TABS } from './CueSheet';
import { MENU, MENU_ITEM } from '../parts/menu';
import { useBookDialog, useCueActions, type BookDialog, type MenuItem } from './menu';
import { useParts } from '../state/use-parts';

function Menu({ label, items }: { label: string; items: readonly MenuItem[] }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="flex h-7 max-w-[150px] items-center gap-1 rounded-md px-2 text-[12.5px] whitespace-nowrap text-soft hover:bg-raised">
        <span className="truncate">{label}</span>{' '}
        <ChevronDown size={12} className="flex-none text-muted" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className={`${MENU} max-h-[84vh] overflow-auto`}
        >
          {items.map((item) => (
            <div key={item.label}>
              {item.first && <DropdownMenu.Separator className="my-1 h-px bg-line" />}
              <DropdownMenu.Item
                disabled={item.disabled}
                onSelect={() => setTimeout(item.run)}
                className={MENU_ITEM}
              >
                {item.label}
              </DropdownMenu.Item>
            </div>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** The Book’s head: its list, its families, and what is done with them. */
export function BookBar() {
  const family = useBook((s) => s.family);
  const isTime = useTrackView((s) => s.isOpen);
  return (
    <div className="flex min-h-11 flex-none flex-wrap items-center gap-x-1 border-b border-line px-2 py-1">
      <Tabs
        label="Cues as"
        value={isTime ? 'time' : 'sheet'}
        options={[
          { value: 'sheet', label: 'Sheet' },
          { value: 'time', label: 'Time' },
        ]}
        onChange={(v) => useTrackView.setState({ isOpen: v === 'time' })}
      />
      {!isTime && (
        <Tabs
          label="Family"
          value={family}
          options={FAMILY_TABS}
          onChange={(v) => useBook.setState({ family: v, cells: null })}
        />
      )}
      <span className="ml-auto flex flex-none items-center gap-0.5">
        <Find />
        <Along />
        <Menu {...useLists()} />
        <Menu label="Cues" items={useCueActions()} />
        <Menu label="Files" items={useFiles()} />
      </span>
    </div>
  );
}

const ask = (dialog: BookDialog): void => useBookDialog.setState({ dialog });

/** A cue by its number or words: a field while something is looked for. */
function Find() {
  const search = useBook((s) => s.search);
  const [finding, setFinding] = useState(false);
  if (!finding)
    return (
      <button
        type="button"
        aria-label="Find a cue"
        title="Find a cue"
        onClick={() => setFinding(true)}
        className="grid size-7 place-items-center rounded-md text-soft hover:bg-raised"
      >
        <Search size={14} />
      </button>
    );
  return (
    <input
      autoFocus
      aria-label="Find a cue"
      inputMode="search"
      placeholder="number, name, call, note"
      value={search}
      onChange={(e) => useBook.setState({ search: e.target.value })}
      onBlur={() => search === '' && setFinding(false)}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        useBook.setState({ search: '' });
        setFinding(false);
      }}
      className="h-7 w-40 rounded-md bg-ink px-2 text-[12.5px] shadow-[inset_0_0_0_1.5px_var(--color-standby)] outline-none"
    />
  );
}

/** Whether the Book is where playback is. */
function Along() {
  const follow = useBook((s) => s.follow);
  const { status } = useBookList();
  return (
    <button
      type="button"
      data-testid="book-follow"
      aria-pressed={follow}
      title={
        follow ? 'The Book goes along with playback' : 'The Book stays where it is, whatever plays'
      }
      onClick={() =>
        useBook.setState({
          follow: !follow,
          ...(follow ? { cueId: status?.cueId ?? null } : {}),
        })
      }
      className={`flex h-7 items-center gap-1.5 rounded-md px-2 text-[12.5px] whitespace-nowrap ${follow ? 'text-soft hover:bg-raised' : 'bg-standby-wash text-standby inset-ring inset-ring-standby/40'}`}
    >
      {follow ? <Eye size={13} /> : <EyeOff size={13} />}
      {follow ? 'Goes along' : 'Stays here'}
    </button>
  );
}

function useLists(): { label: string; items: MenuItem[] } {
  const show = useShow();
  const { listId, list } = useBookList();
  const may = mayEdit(useScreen((s) => s.you.role));
  const lists = [...show.lists.values()].sort((a, b) => a.number - b.number);
  return {
    label: list?.name ?? 'List',
    items: [
      ...lists.map((l) => ({
        label: `${l.number} ${l.name}${l.id === listId ? ' ·' : ''}`,
        run: () => useBook.setState({ listId: l.id, cells: null, chosen: [], cueId: null }),
      })),
      { label: 'How this list plays …', first: true, disabled: !may, run: () => ask('list') },
      { label: 'New list …', disabled: !may, run: () => ask('new-list') },
    ],
  };
}

/** What the list goes out as, and what is brought in and looked through. */
function useFiles(): MenuItem[] {
  const show = useShow();
  const { showId, you } = useParts(useScreen, 'showId', 'you');
  const { listId } = useBookList();
  const family = useBook((s) => s.family);
  const open = (file: string): void =>
    void window.open(
      `/api/shows/${showId}/export/${file}${file.includes('?') ? '&' : '?'}list=${listId}`,
      '_blank',
    );
  return [
    { label: 'Cue sheet, PDF', run: () => open('cues.pdf') },
    { label: 'Time sheet, PDF', run: () => open('time.pdf') },
    { label: 'Tracking sheet, PDF', run: () => open(`tracking.pdf?family=${family}`) },
    {
      label: 'Script with calls, PDF',
      disabled: show.scripts.size === 0,
      run: () => open('script.pdf'),
    },
    { label: 'Cue list, CSV', first: true, run: () => open('cues.csv') },
    { label: 'Cue list, ASCII', run: () => open('cues.asc') },
    { label: 'Take in files …', disabled: !mayEdit(you.role), run: () => ask('import') },
    { label: 'Light over the list …', first: true, run: () => ask('light') },
    { label: 'Check before the show …', run: () => ask('findings') },
  ];
}
