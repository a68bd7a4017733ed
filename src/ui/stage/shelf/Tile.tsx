/** One tile of the shelf: picture, number, name, what uses it; a menu for the rest. */
'use client';
import { ContextMenu, DropdownMenu } from 'radix-ui';
import { MoreHorizontal } from 'lucide-react';
import type { ReactNode } from 'react';
import { initials } from '../../parts/initials';

/** A line of a tile’s menu. */
export interface TileAction {
  label: string;
  danger?: boolean;
  act: () => void;
}

const MENU = 'z-40 w-56 rounded-lg bg-panel p-1.5 shadow-pop';
const ITEM =
  'flex h-8 cursor-default items-center rounded px-2.5 outline-none data-[highlighted]:bg-standby-wash data-[highlighted]:text-text';
const tone = (a: TileAction): string => (a.danger ? 'text-danger' : 'text-soft');

/** One thing of the shelf. */
export function Tile({
  of,
  number,
  name,
  uses,
  pressed,
  played = false,
  held,
  dim,
  disabled,
  title,
  picture,
  actions,
  onApply,
}: {
  /** `palettes/<id>`, for the marks of others' hands. */ of: string;
  number: number;
  name: string;
  uses: string;
  pressed: boolean;
  /** It plays by itself. */ played?: boolean;
  /** Names of others whose values follow it. */ held?: readonly string[] | undefined;
  dim: boolean;
  disabled: boolean;
  title: string;
  picture: ReactNode;
  actions: readonly TileAction[];
  onApply: () => void;
}) {
  const edge = pressed
    ? 'shadow-[inset_0_0_0_1.5px_var(--color-standby)]'
    : 'shadow-[inset_0_0_0_1px_var(--color-line)]';
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>
        <div
          data-of={of}
          className={`group relative h-[100px] min-w-0 rounded-md bg-panel ${played ? 'shadow-[inset_0_0_0_2px_var(--color-lime)]' : edge}`}
        >
          <button
            type="button"
            data-tile={number}
            disabled={disabled}
            aria-pressed={pressed || played}
            data-played={played}
            title={title}
            onClick={onApply}
            className="block size-full overflow-hidden rounded-md text-left hover:bg-raised"
          >
            <span className={dim ? 'block opacity-50' : 'block'}>{picture}</span>
            <span className="flex items-baseline gap-1.5 px-2 pt-1.5">
              <span className="num text-[11.5px] text-muted">{number}</span>
              <span className={`truncate font-medium ${dim ? 'text-muted' : ''}`}>{name}</span>
            </span>
            <span
              className={`block truncate px-2 text-[11.5px] ${played ? 'text-lime-word' : 'text-muted'}`}
            >
              {played ? 'plays' : uses}
            </span>
          </button>
          {held && held.length > 0 && <HeldBy names={held} />}
          {actions.length > 0 && <More about={name} actions={actions} />}
        </div>
      </ContextMenu.Trigger>
      {actions.length > 0 && (
        <ContextMenu.Portal>
          <ContextMenu.Content className={MENU}>
            {actions.map((a) => (
              <ContextMenu.Item key={a.label} onSelect={a.act} className={`${ITEM} ${tone(a)}`}>
                {a.label}
              </ContextMenu.Item>
            ))}
          </ContextMenu.Content>
        </ContextMenu.Portal>
      )}
    </ContextMenu.Root>
  );
}

/** Whose values follow it, by their initials. */
function HeldBy({ names }: { names: readonly string[] }) {
  return (
    <span
      title={`${names.join(' and ')} ${names.length === 1 ? 'holds' : 'hold'} values that follow it`}
      className="pointer-events-none absolute top-1 left-1 rounded-full bg-stage/75 px-1 text-[11px] leading-4 text-dim"
    >
      {names.slice(0, 2).map(initials).join(' ')}
    </span>
  );
}

/** The tile's menu, where a mouse without a right button or a key finds it. */
function More({ about, actions }: { about: string; actions: readonly TileAction[] }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`More about ${about}`}
        className="absolute top-1 right-1 grid size-7 place-items-center rounded bg-stage/75 text-soft opacity-0 group-hover:opacity-100 focus-visible:opacity-100 data-[state=open]:opacity-100"
      >
        <MoreHorizontal size={14} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className={MENU}>
          {actions.map((a) => (
            <DropdownMenu.Item key={a.label} onSelect={a.act} className={`${ITEM} ${tone(a)}`}>
              {a.label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
