/** A menu at the right mouse button, or at the menu key and Shift F10 where the row has the focus. */
'use client';
import { ContextMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { MENU, MENU_ITEM } from './menu';

/** A line of a row’s menu. */
export interface RowItem {
  label: string;
  /** Begins a new part of the menu. */
  first?: boolean | undefined;
  danger?: boolean | undefined;
  disabled?: boolean | undefined;
  run: () => void;
}

/** @param items asked when the menu opens @param children one element, which takes the pointer */
export function RowMenu({
  label,
  items,
  children,
}: {
  label: string;
  items: () => readonly RowItem[];
  children: ReactNode;
}) {
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content aria-label={label} className={MENU}>
          <Items items={items} />
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}

function Items({ items }: { items: () => readonly RowItem[] }) {
  return items().map((item) => (
    <div key={item.label}>
      {item.first && <ContextMenu.Separator className="my-1 h-px bg-line" />}
      <ContextMenu.Item
        disabled={item.disabled ?? false}
        onSelect={() => setTimeout(item.run)}
        className={`${MENU_ITEM} ${item.danger ? 'text-danger' : ''}`}
      >
        {item.label}
      </ContextMenu.Item>
    </div>
  ));
}
