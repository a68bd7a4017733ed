/** How many are selected, of what; parts of the selection, one by one through it, highlight, home. */
'use client';
import { DropdownMenu } from 'radix-ui';
import { ChevronDown, ChevronLeft, ChevronRight, House, Lightbulb } from 'lucide-react';
import {
  acrossStage,
  everyNth,
  half,
  inChance,
  inverted,
  mirroredPairs,
  movedBy,
} from '@/core/select/select';
import { live, said, select } from '../../state/commands';
import { lit } from '../../state/recording';
import type { PieceIs } from '@/core/sheets/rows';
import { plural } from '@/core/words';
import { useKeyName } from '../../frame/keys';
import { PUT_ON_SHEET, putOnSheet } from '../../state/put-on-sheet';
import { mayEdit, useList, useScreen, useShow } from '../../state/store';
import type { Chosen } from './chosen';

const ITEM =
  'flex h-8 cursor-default items-center rounded px-2.5 text-soft outline-none data-[disabled]:text-dim data-[highlighted]:bg-standby-wash data-[highlighted]:text-text';
const BUTTON =
  'flex h-7 items-center justify-center rounded-[5px] text-[12.5px] font-medium text-muted hover:bg-lift hover:text-text disabled:text-faint disabled:hover:bg-transparent';

/** Ways to choose that need nothing selected. */
function guardSelected(on: boolean): void {
  const { show, selection } = useScreen.getState();
  const fixtures = selection.flatMap((id) => show.fixtures.get(id)?.number ?? []);
  void said({ command: 'guard', fixtures, on });
}

/** Selects by what units are or do. */
export function ChooseMenu({ label }: { label: string }) {
  const show = useShow();
  const list = useList();
  const selection = useScreen((s) => s.selection);
  const role = useScreen((s) => s.you.role);
  const guarded = useScreen((s) => s.over.guarded);
  const allGuarded =
    selection.length > 0 && selection.every((id) => guarded.some((g) => g.fixtureId === id));
  const cueId = list?.cueId ?? null;
  const first = show.fixtures.get(selection[0] ?? '');
  const items: [string, (() => readonly string[]) | null][] = [
    ['What is lit', () => lit()],
    ['What this cue moves', cueId ? () => movedBy(show, cueId) : null],
    ['All', () => inverted(show, [])],
    ['Everything else', selection.length > 0 ? () => inverted(show, selection) : null],
    ['First half', selection.length > 1 ? () => half(selection, 'first') : null],
    ['Second half', selection.length > 1 ? () => half(selection, 'second') : null],
    ['Every third', selection.length > 2 ? () => everyNth(selection, 3) : null],
    [
      'Mirrored pairs, outside in',
      selection.length > 1 ? () => mirroredPairs(show, selection).flat() : null,
    ],
    ['In order across the stage', selection.length > 1 ? () => acrossStage(show, selection) : null],
    ['Reverse the order', selection.length > 1 ? () => [...selection].reverse() : null],
    [
      'Order of chance',
      selection.length > 1 ? () => inChance(selection, Date.now() % 100_000) : null,
    ],
    ['None', selection.length > 0 ? () => [] : null],
  ];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={`${BUTTON} gap-1 px-2`} aria-label={label}>
        {label} <ChevronDown size={12} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 w-56 rounded-lg bg-panel p-1.5 shadow-pop"
        >
          {items.map(([text, act]) => (
            <DropdownMenu.Item
              key={text}
              disabled={act === null}
              onSelect={() => act && select(act())}
              className={ITEM}
            >
              {text}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          <DropdownMenu.Item
            disabled={first === undefined || selection.length < 2}
            onSelect={() =>
              first !== undefined && void said({ command: 'like', from: first.number })
            }
            className={ITEM}
          >
            All like {first ? first.number : 'the first'}
          </DropdownMenu.Item>
          <DropdownMenu.Item
            disabled={selection.length === 0}
            onSelect={() => guardSelected(!allGuarded)}
            className={ITEM}
          >
            {allGuarded ? 'Let off their guard' : 'Guard from what plays'}
          </DropdownMenu.Item>
          {mayEdit(role) && (
            <DropdownMenu.Item
              disabled={selection.length === 0}
              onSelect={() =>
                putOnSheet(
                  plural(selection.length, 'unit'),
                  ...selection.map((fixture): PieceIs => ({
                    kind: 'unit',
                    fixture,
                  })),
                )
              }
              className={ITEM}
            >
              {PUT_ON_SHEET}
            </DropdownMenu.Item>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** What is selected, and stepping through it. */
export function SelectBar({ chosen, disabled }: { chosen: readonly Chosen[]; disabled: boolean }) {
  const selection = useScreen((s) => s.selection);
  const programmer = useScreen((s) => s.programmer);
  const keyName = useKeyName();
  const types = [...new Set(chosen.map((c) => `${c.type.maker} ${c.type.name}`))];
  const { stepping } = programmer;
  const step = (by: 1 | -1 | 0): void => void live({ command: 'step', by });
  return (
    <div className="px-4 pt-3 pb-3">
      <div className="mb-2 flex h-7 items-center gap-2">
        <b
          data-testid="selected-count"
          className="text-[16px] font-[650] whitespace-nowrap text-standby"
        >
          {stepping ? `${stepping.at + 1} of ${stepping.all.length}` : `${chosen.length} selected`}
        </b>
        <span className="min-w-0 flex-1 truncate text-soft">
          {types.length === 1 ? types[0] : `${types.length} types`}
        </span>
        <button
          type="button"
          aria-pressed={programmer.highlight}
          disabled={disabled}
          aria-label="Highlight"
          title={`Highlight: at full in white, over everything that plays (${keyName('highlight')})`}
          onClick={() => void live({ command: 'highlight' })}
          className={`grid size-7 flex-none place-items-center rounded-md ${programmer.highlight ? 'bg-warning text-ink' : 'bg-raised text-soft hover:bg-lift'}`}
        >
          <Lightbulb size={14} />
        </button>
        <button
          type="button"
          disabled={disabled}
          aria-label="Home"
          title="Home: at full, straight ahead, open white"
          onClick={() => void said({ command: 'home' })}
          className="grid size-7 flex-none place-items-center rounded-md bg-raised text-soft hover:bg-lift"
        >
          <House size={14} />
        </button>
      </div>
      <div className="flex h-8 items-center rounded-md bg-ink p-0.5 shadow-[inset_0_0_0_1px_var(--color-line)]">
        <button
          type="button"
          className={`${BUTTON} flex-1 ${stepping ? 'text-standby' : ''}`}
          title="All of it again"
          disabled={!stepping}
          onClick={() => step(0)}
        >
          All
        </button>
        <button
          type="button"
          className={`${BUTTON} flex-1`}
          disabled={chosen.length < 2}
          onClick={() => select(everyNth(selection, 2, 1))}
        >
          Odd
        </button>
        <button
          type="button"
          className={`${BUTTON} flex-1`}
          disabled={chosen.length < 2}
          onClick={() => select(everyNth(selection, 2, 2))}
        >
          Even
        </button>
        <button
          type="button"
          className={`${BUTTON} w-7`}
          aria-label="The one before"
          title="One by one, back (Page Up)"
          onClick={() => step(-1)}
        >
          <ChevronLeft size={14} />
        </button>
        <button
          type="button"
          className={`${BUTTON} w-7`}
          aria-label="The next one"
          title="One by one through the selection (Page Down)"
          onClick={() => step(1)}
        >
          <ChevronRight size={14} />
        </button>
        <ChooseMenu label="More" />
      </div>
    </div>
  );
}
