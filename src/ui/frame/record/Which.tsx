/** Which values a record takes: held or lit, of which families, units and attributes. */
'use client';
import { useMemo, useState } from 'react';
import { attributeInfo } from '@/core/rig/attributes';
import { FAMILIES, type Family } from '@/core/show/fields';
import { capital } from '@/core/words';
import { FAMILY_CHOICES } from '../../book/record';
import { Check, Tabs } from '../../parts/controls';
import { recordValues, type RecordFilter } from '../../state/recording';
import { counting } from '../../state/filter';
import { useScreen } from '../../state/store';

const FROM = [
  { value: 'programmer', label: 'What I hold' },
  { value: 'stage', label: 'All that is lit' },
] as const;

/** What is chosen, and what it comes to. A filter that holds is where it begins. */
export function useWhich() {
  const [from, setFrom] = useState<RecordFilter['from']>('programmer');
  const [families, setFamilies] = useState<readonly Family[]>(() =>
    FAMILY_CHOICES.filter((f) => counting()?.includes(f) ?? true),
  );
  const [selected, setSelected] = useState(false);
  const [without, setWithout] = useState<readonly string[]>([]);
  // Control is never chosen by itself: it goes with all of them.
  const wanted = families.length === FAMILY_CHOICES.length ? FAMILIES : families;
  const filter = useMemo<RecordFilter>(
    () => ({ from, selected, without, families: wanted }),
    [from, selected, without, wanted],
  );
  const held = useScreen((s) => s.values);
  const attributes = useMemo(() => {
    void held;
    const all = recordValues({ from, selected, families: wanted }).map((v) => v.attribute);
    return [...new Set(all)].sort();
  }, [from, selected, wanted, held]);
  return {
    filter,
    attributes,
    families,
    setFrom,
    setSelected,
    toggleFamily: (f: Family, on: boolean) =>
      setFamilies((old) => FAMILY_CHOICES.filter((x) => (x === f ? on : old.includes(x)))),
    toggleAttribute: (a: string, on: boolean) =>
      setWithout((old) => (on ? old.filter((x) => x !== a) : [...old, a])),
  };
}

/** Which of what is held is recorded. */
export function Which({ which }: { which: ReturnType<typeof useWhich> }) {
  const selection = useScreen((s) => s.selection);
  const { filter, attributes, families } = which;
  return (
    <>
      <Tabs label="Values from" value={filter.from} options={FROM} onChange={which.setFrom} />
      <Check
        checked={filter.selected ?? false}
        disabled={selection.length === 0}
        onChange={which.setSelected}
      >
        {selection.length === 0
          ? 'Only selected fixtures'
          : `Only the ${selection.length} selected`}
      </Check>
      <span className="flex gap-3">
        {FAMILY_CHOICES.map((f) => (
          <Check
            key={f}
            checked={families.includes(f)}
            onChange={(on) => which.toggleFamily(f, on)}
          >
            {capital(f)}
          </Check>
        ))}
      </span>
      {attributes.length > 1 && (
        <Attributes
          all={attributes}
          without={filter.without ?? []}
          onToggle={which.toggleAttribute}
        />
      )}
    </>
  );
}

function Attributes({
  all,
  without,
  onToggle,
}: {
  all: readonly string[];
  without: readonly string[];
  onToggle: (attribute: string, on: boolean) => void;
}) {
  const taken = all.filter((a) => !without.includes(a)).length;
  return (
    <details className="w-full text-[12.5px] text-muted">
      <summary className="cursor-default">
        {without.length === 0
          ? `All ${all.length} attributes of these`
          : `${taken} of ${all.length} attributes`}
      </summary>
      <span className="mt-1 flex max-h-24 flex-wrap gap-x-3 overflow-y-auto">
        {all.map((a) => (
          <Check key={a} checked={!without.includes(a)} onChange={(on) => onToggle(a, on)}>
            {attributeInfo(a).label}
            {a.includes('@') ? ` ${a.slice(a.indexOf('@') + 1)}` : ''}
          </Check>
        ))}
      </span>
    </details>
  );
}
