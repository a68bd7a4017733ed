/** Which filter holds on this screen: chosen, made, and taken away again. */
'use client';
import { capital } from '@/core/words';
import { DropdownMenu } from 'radix-ui';
import { Filter as FilterIcon, X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Filter, FILTERS_KEPT } from '@/core/crew/filter';
import { FAMILIES } from '@/core/show/fields';
import { Button, Check, Dialog } from '../parts/controls';
import { FormField, useSchemaForm } from '../parts/form';
import { MENU, MENU_ITEM } from '../parts/menu';
import { PLAIN_FILTERS, setFilter, useFilter } from '../state/filter';
import { keepFilters, usePreferences } from '../state/preferences';

/** Chooses the filter that holds on this screen. */
export function FilterMenu() {
  const filter = useFilter((s) => s.filter);
  const own = usePreferences((s) => s.filters);
  const [making, setMaking] = useState(false);
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label="What counts: record, take, apply"
          title={
            filter
              ? `Only ${filter.families.join(', ')} count: for recording, taking and applying`
              : 'Everything counts: for recording, taking and applying'
          }
          className={`grid size-8 flex-none place-items-center rounded-md ${filter ? 'bg-warning text-ink' : 'text-soft hover:bg-raised'}`}
        >
          <FilterIcon size={15} />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" side="top" sideOffset={6} className={MENU}>
            <DropdownMenu.Item className={MENU_ITEM} onSelect={() => setFilter(null)}>
              Everything counts{filter ? '' : ' ·'}
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            {[...PLAIN_FILTERS, ...own].map((f) => (
              <DropdownMenu.Item key={f.name} className={MENU_ITEM} onSelect={() => setFilter(f)}>
                {f.name}
                {filter?.name === f.name ? ' ·' : ''}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            <DropdownMenu.Item
              className={MENU_ITEM}
              onSelect={() => setTimeout(() => setMaking(true))}
            >
              My filters …
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {making && <MyFilters onClose={() => setMaking(false)} />}
    </>
  );
}

const sameName = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

function MyFilters({ onClose }: { onClose: () => void }) {
  const own = usePreferences((s) => s.filters);
  const schema = useMemo(
    () =>
      Filter.refine((f) => ![...PLAIN_FILTERS, ...own].some((x) => sameName(x.name, f.name)), {
        path: ['name'],
        message: 'There is one of this name.',
      }),
    [own],
  );
  const form = useSchemaForm(schema, { name: '', families: ['position'] });
  const families = form.watch('families');
  const keep = form.handleSubmit((filter) => {
    keepFilters([...own, filter]);
    setFilter(filter);
    onClose();
  });
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="My filters"
      about="Yours on every machine. While one holds, only its families are recorded, taken and applied on this screen."
      width="w-[420px]"
    >
      {own.length > 0 && (
        <ul className="mb-3 space-y-1">
          {own.map((f) => (
            <li key={f.name} className="flex h-8 items-center gap-2">
              <span className="min-w-0 flex-1 truncate">{f.name}</span>
              <span className="text-[12px] text-muted">{f.families.join(', ')}</span>
              <button
                type="button"
                aria-label={`Take “${f.name}” away`}
                onClick={() => keepFilters(own.filter((x) => x.name !== f.name))}
                className="grid size-7 place-items-center rounded text-muted hover:bg-raised hover:text-text"
              >
                <X size={14} />
              </button>
            </li>
          ))}
        </ul>
      )}
      <form onSubmit={(e) => void keep(e)}>
        <FormField
          form={form}
          name="name"
          label="A new one"
          placeholder="Colour and beam"
          maxLength={40}
        />
        <div className="mt-2 flex flex-wrap gap-x-4">
          {FAMILIES.map((f) => (
            <Check
              key={f}
              checked={families.includes(f)}
              onChange={(on) =>
                form.setValue(
                  'families',
                  FAMILIES.filter((x) => (x === f ? on : families.includes(x))),
                )
              }
            >
              {capital(f)}
            </Check>
          ))}
        </div>
        <div className="mt-4 flex justify-end">
          <Button
            kind="strong"
            type="submit"
            disabled={families.length === 0 || own.length >= FILTERS_KEPT}
          >
            Keep it, and use it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
