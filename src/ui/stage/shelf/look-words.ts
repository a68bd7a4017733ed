/** The parts of a look, as people read them. */
import { numberRanges } from '@/core/words';
import { attributeInfo } from '@/core/rig/attributes';
import type { LookItem } from '@/core/looks/rows';
import type { Show } from '@/core/show/show';

/** A part of a look in words. */
function sayItem(show: Show, item: LookItem): string {
  const whom = (ids: readonly string[]): string =>
    ids.map((id) => show.groups.get(id)?.name ?? show.fixtures.get(id)?.number ?? '?').join(', ');
  switch (item.kind) {
    case 'level':
      return `${show.fixtures.get(item.fixtureId)?.number ?? '?'} ${attributeInfo(item.attribute).label.toLowerCase()} ${Math.round(item.level * 100)} %`;
    case 'palette':
      return `palette ${show.palettes.get(item.palette)?.name ?? '?'} on ${whom(item.members)}`;
    case 'effect':
      return `effect ${show.effects.get(item.effect)?.name ?? '?'} over ${whom(item.members)}`;
    case 'look':
      return `look ${show.looks.get(item.look)?.name ?? '?'}`;
  }
}

/** A line of what a look says. */
export interface LookLine {
  text: string;
  items: LookItem[];
}

/** Levels of many units as one line each attribute, so that a look of a hundred levels can be read. */
export function linesOf(show: Show, items: readonly LookItem[]): LookLine[] {
  const found: LookLine[] = [];
  const levels = new Map<string, LookItem[]>();
  for (const item of items) {
    if (item.kind !== 'level') {
      found.push({ text: sayItem(show, item), items: [item] });
      continue;
    }
    const key = `${item.attribute}/${Math.round(item.level * 1000)}`;
    levels.set(key, [...(levels.get(key) ?? []), item]);
  }
  for (const group of levels.values()) {
    const [first] = group;
    if (first?.kind !== 'level') continue;
    const numbers = group.flatMap((i) =>
      i.kind === 'level' ? (show.fixtures.get(i.fixtureId)?.number ?? []) : [],
    );
    found.push({
      text: `${numberRanges(numbers)} ${attributeInfo(first.attribute).label.toLowerCase()} ${Math.round(first.level * 100)} %`,
      items: group,
    });
  }
  return found;
}
