/** Differences in words and swatches, by section; with boxes to choose some of them. */
'use client';
import { useMemo, useState } from 'react';
import type { Item } from '@/core/show/compare';
import { SECTIONS, type Section } from '@/core/show/define-table';
import type { PaletteRow } from '@/core/palettes/rows';
import { useShow } from '../state/store';
import { PalettePicture } from '../stage/shelf/pictures';

const SECTION_WORDS: Record<Section, string> = {
  show: 'Show',
  patch: 'Patch',
  palettes: 'Palettes, groups, looks, effects',
  cues: 'Cues',
  times: 'Times',
  script: 'Script and calls',
  playback: 'Lists, faders, pages',
  plan: 'Plan',
  people: 'Parts and notes',
};
const INK: Record<Item['how'], string> = {
  added: 'text-standby',
  removed: 'text-danger',
  changed: 'text-muted',
};
const HOW: Record<Item['how'], string> = { added: 'new', removed: 'gone', changed: 'changed' };
const SHOWN = 60;

/** Palettes of both sides, for the words of values. */
export interface BothPalettes {
  from: PaletteRow[];
  to: PaletteRow[];
}

/** What differs between two shows. */
export function Compared({
  items,
  palettes,
  chosen,
  onChoose,
  before,
  after,
}: {
  items: readonly Item[];
  palettes?: BothPalettes | undefined;
  chosen?: ReadonlySet<string>;
  onChoose?: (keys: ReadonlySet<string>) => void;
  before: string;
  after: string;
}) {
  const sections = useMemo(
    () =>
      SECTIONS.map((s) => [s, items.filter((i) => i.section === s)] as const).filter(
        ([, own]) => own.length > 0,
      ),
    [items],
  );
  if (items.length === 0) return <p className="text-muted">No difference: both say the same.</p>;
  return (
    <div>
      {sections.map(([section, own]) => (
        <SectionOf
          key={section}
          section={section}
          items={own}
          palettes={palettes}
          chosen={chosen}
          onChoose={onChoose}
          before={before}
          after={after}
        />
      ))}
    </div>
  );
}

function SectionOf({
  section,
  items,
  palettes,
  chosen,
  onChoose,
  before,
  after,
}: {
  section: Section;
  items: readonly Item[];
  palettes: BothPalettes | undefined;
  chosen: ReadonlySet<string> | undefined;
  onChoose: ((keys: ReadonlySet<string>) => void) | undefined;
  before: string;
  after: string;
}) {
  const [shown, setShown] = useState(SHOWN);
  const toggle = (keys: readonly string[], on: boolean): void => {
    const next = new Set(chosen);
    for (const key of keys)
      if (on) next.add(key);
      else next.delete(key);
    onChoose?.(next);
  };
  const all = items.every((i) => chosen?.has(i.key));
  return (
    <section aria-label={SECTION_WORDS[section]} className="mb-4">
      <h3 className="flex items-center gap-2 border-b border-line pb-1 text-[13.5px] font-semibold">
        {onChoose && (
          <input
            type="checkbox"
            aria-label={`All of ${SECTION_WORDS[section]}`}
            checked={all}
            onChange={(e) =>
              toggle(
                items.map((i) => i.key),
                e.target.checked,
              )
            }
            className="size-4 accent-[var(--color-standby)]"
          />
        )}
        {SECTION_WORDS[section]}{' '}
        <span className="text-[12px] font-normal text-muted">{items.length}</span>
      </h3>
      <ul>
        {items.slice(0, shown).map((i) => (
          <li key={i.key} data-item={i.key} className="border-b border-raised py-1.5">
            <div className="flex items-center gap-2">
              {onChoose && (
                <input
                  type="checkbox"
                  aria-label={i.title}
                  checked={chosen?.has(i.key) ?? false}
                  onChange={(e) => toggle([i.key], e.target.checked)}
                  className="size-4 flex-none accent-[var(--color-standby)]"
                />
              )}
              <span className="min-w-0 flex-1 truncate font-medium">{i.title}</span>
              <Swatches item={i} palettes={palettes} before={before} after={after} />
              <span className={`w-16 text-right text-[12px] ${INK[i.how]}`}>{HOW[i.how]}</span>
            </div>
            {i.lines.length > 0 && (
              <dl className="mt-0.5 grid grid-cols-[minmax(90px,180px)_1fr] gap-x-3 pl-6 text-[12.5px]">
                {i.lines.map((l, n) => (
                  <div key={n} className="contents">
                    <dt className="truncate text-muted">{l.label}</dt>
                    <dd className="min-w-0">
                      <span className="[overflow-wrap:anywhere] text-dim">{l.before}</span>
                      {l.after !== '' && <span className="text-muted"> → </span>}
                      <span className="[overflow-wrap:anywhere]">{l.after}</span>
                    </dd>
                  </div>
                ))}
              </dl>
            )}
          </li>
        ))}
      </ul>
      {items.length > shown && (
        <button
          type="button"
          onClick={() => setShown(shown + 200)}
          className="h-8 text-[12.5px] text-standby hover:underline"
        >
          {items.length - shown} more
        </button>
      )}
    </section>
  );
}

/** A palette as it is on either side. */
function Swatches({
  item,
  palettes,
  before,
  after,
}: {
  item: Item;
  palettes: BothPalettes | undefined;
  before: string;
  after: string;
}) {
  const show = useShow();
  if (!item.paletteId || !palettes) return null;
  const sides = [
    [before, palettes.from.find((p) => p.id === item.paletteId)],
    [after, palettes.to.find((p) => p.id === item.paletteId)],
  ] as const;
  return (
    <span className="flex gap-1">
      {sides.map(
        ([words, p]) =>
          p && (
            <span
              key={words}
              title={words}
              className="block w-12 overflow-hidden rounded [&>*]:!h-5"
            >
              <PalettePicture show={show} palette={p} version={JSON.stringify(p)} />
            </span>
          ),
      )}
    </span>
  );
}
