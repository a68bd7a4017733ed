/** Which pages are in sight, by their names; another, and what this one is called. */
'use client';
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { MENU, MENU_ITEM } from '../../parts/menu';

/** Goes to another page of faders. */
export function PagesMenu({
  says,
  screens,
  at,
  onTurn,
  onName,
}: {
  says: string;
  screens: readonly string[];
  at: number;
  onTurn: (to: number) => void;
  onName: (() => void) | undefined;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`Pages of faders: ${says}`}
        className="mr-auto ml-1 flex h-6 min-w-0 items-center gap-1 rounded px-1.5 text-[12px] text-soft hover:bg-raised"
      >
        <span className="truncate">{says}</span> <ChevronDown size={12} className="flex-none" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" className={MENU}>
          {screens.map((s, i) => (
            <DropdownMenu.Item key={s} className={MENU_ITEM} onSelect={() => onTurn(i)}>
              {s}
              {i === at ? ' ·' : ''}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          <DropdownMenu.Item
            disabled={!onName}
            className={MENU_ITEM}
            onSelect={() => onName && setTimeout(onName)}
          >
            {onName ? 'Name this page …' : 'Name this page … (open the lock first)'}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
