/** What counts on this screen, while a filter holds: for recording, taking and applying. Its name is in sight all the time. */
import { capital } from '@/core/words';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import type { Filter } from '@/core/crew/filter';
import type { LiveCommand } from '@/core/live/commands';
import { FAMILIES, type Family } from '@/core/show/fields';
import { useScreen } from './store';

const FAMILIES_OF_LIGHT = ['intensity', 'position', 'colour', 'beam'] as const;

/** Filters that nobody has to make. */
export const PLAIN_FILTERS: readonly Filter[] = [
  ...FAMILIES_OF_LIGHT.map((f) => ({ name: `${capital(f)} only`, families: [f] })),
  { name: 'All but intensity', families: FAMILIES.filter((f) => f !== 'intensity') },
  { name: 'All but position', families: FAMILIES.filter((f) => f !== 'position') },
];

/** The filter that a store goes through. */
export const useFilter = create<{ filter: Filter | null }>()(
  persist(() => ({ filter: null as Filter | null }), {
    name: 'wingman-filter',
    storage: createJSONStorage(() => sessionStorage),
  }),
);

/** Chooses it; null takes everything. */
export function setFilter(filter: Filter | null): void {
  useFilter.setState({ filter });
}

/** Families that count now; undefined: all. */
export const counting = (): readonly Family[] | undefined => useFilter.getState().filter?.families;

const both = (said: readonly Family[] | undefined, counts: readonly Family[]): Family[] =>
  counts.filter((f) => !said || said.includes(f));

/** A command as the filter lets it through, or why it lets nothing of it through. */
export function filtered(command: LiveCommand): { command: LiveCommand } | { stopped: string } {
  const { filter } = useFilter.getState();
  if (!filter) return { command };
  const stopped = (what: string): { stopped: string } => ({
    stopped: `“${filter.name}” holds on this screen: ${what}. Nothing was set.`,
  });
  switch (command.command) {
    case 'take':
    case 'look':
    case 'like': {
      const families = both(command.families, filter.families);
      return families.length > 0
        ? { command: { ...command, families } }
        : stopped(`it leaves out ${(command.families ?? []).join(' and ')}`);
    }
    case 'palette': {
      const palette = useScreen.getState().show.palettes.get(command.palette);
      return !palette || filter.families.includes(palette.family)
        ? { command }
        : stopped(`palette ${palette.number} “${palette.name}” is ${palette.family}`);
    }
    default:
      return { command };
  }
}
