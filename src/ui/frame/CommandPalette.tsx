'use client';
import { Command } from 'cmdk';
import { membersOf } from '@/core/groups/members';
import { formatCueNumber } from '@/core/cues/number';
import { Dialog } from '../parts/controls';
import { live, select } from '../state/commands';
import { useBook } from '../state/book';
import { useList, useShow } from '../state/store';
import { KEYS } from './key-table';
import { RUNS, useKeyName, type KeyTools } from './keys';

const ITEM =
  'flex h-9 cursor-pointer items-center justify-between rounded-md px-2.5 text-soft data-[selected=true]:bg-standby-wash data-[selected=true]:text-text';

/** Finds every action by its words and shows its key; cues and groups as well. */
export function CommandPalette({
  open,
  onOpenChange,
  tools,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  tools: KeyTools;
}) {
  const show = useShow();
  const list = useList();
  const keyName = useKeyName();
  const run = (act: () => void) => () => {
    onOpenChange(false);
    act();
  };
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Find an action" width="w-[560px]">
      <Command label="Find an action" className="[&_[cmdk-group-heading]]:cap">
        <Command.Input
          autoFocus
          placeholder="Type a word: record, group, cue …"
          className="mb-2 h-9 w-full rounded-md bg-ink px-3 text-[14px] shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none placeholder:text-faint"
        />
        <Command.List className="max-h-[46vh] overflow-auto">
          <Command.Empty className="p-3 text-muted">Nothing is called that.</Command.Empty>
          <Command.Group heading="Actions">
            {KEYS.filter((k) => k.id !== 'palette').map((k) => (
              <Command.Item
                key={k.id}
                value={k.label}
                onSelect={run(() => RUNS[k.id](tools))}
                className={ITEM}
              >
                {k.label}
                <kbd className="num text-[11.5px] text-muted">{keyName(k.id)}</kbd>
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading="Lists">
            {[...show.lists.values()]
              .sort((a, b) => a.number - b.number)
              .map((l) => (
                <Command.Item
                  key={l.id}
                  value={`show list ${l.number} ${l.name} in the book`}
                  onSelect={run(
                    () => (
                      useBook.setState({ listId: l.id, cells: null, chosen: [], cueId: null }),
                      tools.goTo('book')
                    ),
                  )}
                  className={ITEM}
                >
                  Show list {l.number} {l.name} in the Book
                </Command.Item>
              ))}
          </Command.Group>
          <Command.Group heading="Groups">
            {[...show.groups.values()].map((g) => (
              <Command.Item
                key={g.id}
                value={`select group ${g.number} ${g.name}`}
                onSelect={run(() => select(membersOf(show, g)))}
                className={ITEM}
              >
                Select {g.name}
                <span className="num text-[11.5px] text-muted">{membersOf(show, g).length}</span>
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading="Cues">
            {(list ? show.cuesOf(list.id) : []).map((c) => (
              <Command.Item
                key={c.id}
                value={`go to cue ${formatCueNumber(c.number)} ${c.name}`}
                onSelect={run(() => void live({ command: 'goto', cue: formatCueNumber(c.number) }))}
                className={ITEM}
              >
                Go to cue {formatCueNumber(c.number)} {c.name}
              </Command.Item>
            ))}
          </Command.Group>
        </Command.List>
      </Command>
    </Dialog>
  );
}
