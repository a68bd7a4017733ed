/** What can be done with the chosen cells, and what can be typed into them. */
'use client';
import { ContextMenu } from 'radix-ui';
import type { Family } from '@/core/show/fields';
import { useShow } from '../../state/store';

/** What can be typed into a cell besides numbers. */
export function PaletteNames({ family }: { family: Family }) {
  const show = useShow();
  return (
    <datalist id="cell-palettes">
      {[...show.palettes.values()]
        .filter((p) => p.family === family)
        .map((p) => (
          <option key={p.id} value={p.name} />
        ))}
    </datalist>
  );
}

/** What can be done with the cells that are chosen. */
export function CellMenu({
  disabled,
  onType,
  onWrite,
  onTimes,
}: {
  disabled: boolean;
  onType: () => void;
  onWrite: (text: string) => void;
  onTimes: () => void;
}) {
  const entries: readonly (readonly [label: string, key: string, act: () => void])[] = [
    ['Type a value …', 'Enter', onType],
    ['Take out: what tracks shows through', 'Del', () => onWrite('')],
    ['Let go here', '', () => onWrite('release')],
    ['Times of these cells …', '', onTimes],
  ];
  return (
    <ContextMenu.Portal>
      <ContextMenu.Content className="z-50 min-w-52 rounded-lg bg-panel p-1 text-[13px] shadow-pop">
        {entries.map(([label, key, act]) => (
          <ContextMenu.Item
            key={label}
            disabled={disabled}
            onSelect={() => setTimeout(act)}
            className="flex h-8 cursor-default items-center justify-between gap-6 rounded px-2.5 outline-none data-[disabled]:text-faint data-[highlighted]:bg-lift"
          >
            {label}
            <kbd className="text-[11px] text-muted">{key}</kbd>
          </ContextMenu.Item>
        ))}
      </ContextMenu.Content>
    </ContextMenu.Portal>
  );
}
