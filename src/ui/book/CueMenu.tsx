/** The right mouse button on cues. */
'use client';
import { ContextMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { MENU, MENU_ITEM } from '../parts/menu';
import { useCueActions } from './menu';

export function CueMenu({ children }: { children: ReactNode }) {
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU}>
          <Items />
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}

function Items() {
  return useCueActions().map((item) => (
    <div key={item.label}>
      {item.first && <ContextMenu.Separator className="my-1 h-px bg-line" />}
      <ContextMenu.Item disabled={item.disabled} onSelect={() => setTimeout(item.run)} className={MENU_ITEM}>
        {item.label}
      </ContextMenu.Item>
    </div>
  ));
}
