/** Finding a type: searched as it is typed, with favourite and recent ones first; a mode is carried to the map or picked. */
'use client';
import { ChevronDown, FileDown, Plus, Search, Star } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { plural } from '@/core/words';
import { channelCount } from '@/core/rig/attributes';
import { libraryTypes } from '@/core/rig/library/index';
import { findTypes, indexTypes, type FoundType } from '@/core/rig/search';
import type { Mode, TypeRow } from '@/core/types/rows';
import type { MutableShow } from '@/core/show/show';
import { isListed, loadLibrary, rowsOfHouse, useLibrary, wholeType } from '../state/library';
import { loadPreferences, toggleFavourite, usePreferences } from '../state/preferences';
import { mayEdit, useScreen, useShow } from '../state/store';
import { notice } from '../state/messages';
import { FromLibrary } from './FromLibrary';
import { useRig } from './rig-state';

/** The show's own types win over those of the house, and these over what ships, which they may have been changed from. */
function allTypes(show: MutableShow, house: readonly TypeRow[]): TypeRow[] {
  return [
    ...new Map(
      [...libraryTypes(), ...house, ...show.types.values()].map((t) => [t.id, t]),
    ).values(),
  ].sort(
    (a, b) =>
      a.maker.localeCompare(b.maker) || a.name.localeCompare(b.name, undefined, { numeric: true }),
  );
}

const CARRY_PX = 6;

const span = (modes: readonly Mode[]): string => {
  const counts = modes.map(channelCount);
  const [low, high] = [Math.min(...counts), Math.max(...counts)];
  return low === high ? `${low} ch` : `${low}–${high} ch`;
};

/** @param onEdit opens the type editor; without it types are only chosen */
export function TypeList({
  picked,
  onPick,
  onEdit,
  onImport,
  carry = false,
}: {
  picked: { type: TypeRow; mode: Mode } | null;
  onPick: (picked: { type: TypeRow; mode: Mode }) => void;
  onEdit?: (type: TypeRow | null) => void;
  onImport?: () => void;
  carry?: boolean;
}) {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  const you = useScreen((s) => s.you);
  const showId = useScreen((s) => s.showId);
  const { recent, favourite } = usePreferences();
  const [query, setQuery] = useState('');
  const [opened, setOpened] = useState<string | null>(picked?.type.id ?? null);
  const start = useRef<{ x: number; y: number; type: TypeRow; mode: Mode } | null>(null);
  const library = useLibrary();
  useEffect(() => {
    void loadPreferences();
    void loadLibrary();
  }, []);
  /** Of what is only listed the rest is fetched first. */
  const pick = async (type: TypeRow, mode: Mode): Promise<void> => {
    const whole = isListed(type) ? await wholeType(type.id) : type;
    const own = whole?.modes.find((m) => m.name === mode.name);
    if (whole && own) onPick({ type: whole, mode: own });
    else notice.error('This type cannot be had from the library just now.');
  };

  const index = useMemo(() => {
    void revision;
    return indexTypes(allTypes(show, rowsOfHouse(library)));
  }, [show, revision, library]);
  const found = useMemo(() => findTypes(index, query), [index, query]);
  const modes = found.reduce((n, f) => n + f.modes.length, 0);
  const sections: [string, FoundType[]][] = [];
  if (query.trim() === '') {
    const byId = new Map(found.map((f) => [f.type.id, f]));
    const named = (ids: readonly string[]): FoundType[] => ids.flatMap((id) => byId.get(id) ?? []);
    if (favourite.length > 0) sections.push(['Favourites', named(favourite)]);
    const fresh = recent.filter((id) => !favourite.includes(id)).slice(0, 4);
    if (fresh.length > 0) sections.push(['Used lately', named(fresh)]);
  }
  for (const maker of new Set(found.map((f) => f.type.maker)))
    sections.push([maker, found.filter((f) => f.type.maker === maker)]);

  const modeRow = (type: TypeRow, mode: Mode, section: string): React.ReactNode => {
    const on = picked?.type.id === type.id && picked.mode.name === mode.name;
    return (
      <button
        key={`${section}/${type.id}/${mode.name}`}
        type="button"
        role="option"
        aria-selected={on}
        aria-label={`${type.maker} ${type.name}, ${mode.name}, ${plural(channelCount(mode), 'channel')}`}
        title={carry ? 'Click to pick; drag onto the map to patch there' : undefined}
        onClick={() => void pick(type, mode)}
        onPointerDown={(e) =>
          (start.current =
            carry && e.button === 0 && !isListed(type)
              ? { x: e.clientX, y: e.clientY, type, mode }
              : null)
        }
        onPointerMove={(e) => {
          const s = start.current;
          if (!s || e.buttons !== 1 || Math.hypot(e.clientX - s.x, e.clientY - s.y) < CARRY_PX)
            return;
          start.current = null;
          useRig.setState({
            carrying: { type: s.type, mode: s.mode },
            picked: { type: s.type, mode: s.mode },
            upper: 'addresses',
          });
        }}
        className={`flex h-7 w-full touch-none items-center justify-between gap-2 pr-3 pl-8 text-left select-none ${on ? 'bg-standby-wash text-standby shadow-[inset_2px_0_0_var(--color-standby)]' : 'text-soft hover:bg-panel'}`}
      >
        <span className="truncate">{mode.name}</span>
        <span className="num text-[11.5px] whitespace-nowrap text-muted">
          {channelCount(mode)} ch
        </span>
      </button>
    );
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center gap-1.5 px-4 pt-3">
        <label className="flex h-9 min-w-0 flex-1 items-center gap-2.5 rounded-lg bg-raised px-3">
          <Search size={15} className="flex-none text-muted" />
          <input
            aria-label="Find a fixture type"
            inputMode="search"
            value={query}
            onChange={(e) => setQuery(e.target.value)}
            placeholder="Find a type"
            className="min-w-0 flex-1 bg-transparent text-[13.5px] outline-none placeholder:text-dim"
          />
          <span
            className="text-[11.5px] whitespace-nowrap text-muted"
            title={`${found.length} types, ${modes} modes`}
          >
            {found.length}
          </span>
        </label>
        {onImport && mayEdit(you.role) && (
          <button
            type="button"
            aria-label="Take in makers’ files"
            title="Take in makers’ files (GDTF): choose them, or drop them anywhere"
            onClick={onImport}
            className="grid size-9 flex-none place-items-center rounded-lg bg-raised text-soft hover:bg-lift"
          >
            <FileDown size={16} />
          </button>
        )}
        {onEdit && mayEdit(you.role) && (
          <button
            type="button"
            aria-label="Make a new type"
            title="Make a new type"
            onClick={() => onEdit(null)}
            className="grid size-9 flex-none place-items-center rounded-lg bg-raised text-soft hover:bg-lift"
          >
            <Plus size={16} />
          </button>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto py-2" role="group" aria-label="Fixture types">
        {found.length === 0 && (
          <p className="px-4 text-muted">
            No type is like “{query.trim()}”. Search by maker, type, mode or channel count
            {onEdit && mayEdit(you.role) ? ', or make it with the plus sign' : ''}.
          </p>
        )}
        {sections.map(([title, types]) => (
          <div key={title} className="pb-1" role="group" aria-label={title}>
            <div className="cap px-4 pt-1.5 pb-0.5">{title}</div>
            {types.map(({ type, modes: own }) => {
              const key = `${title}/${type.id}`;
              const open =
                opened === key || opened === type.id || (query.trim() !== '' && found.length <= 4);
              const mine = picked?.type.id === type.id;
              return (
                <div key={key}>
                  <div
                    className={`group flex h-[30px] items-center pr-2 ${mine ? 'text-text' : 'text-soft'} hover:bg-panel`}
                  >
                    <button
                      type="button"
                      aria-expanded={open}
                      onClick={() => {
                        setOpened(open ? null : key);
                        const first = own[0];
                        if (!open && first) void pick(type, first);
                      }}
                      className="flex h-full min-w-0 flex-1 items-center gap-2 pl-4 text-left"
                    >
                      <span className={`truncate ${mine ? 'font-semibold' : ''}`}>{type.name}</span>
                      <span className="ml-auto text-[11.5px] whitespace-nowrap text-muted">
                        {own.length === 1 ? span(own) : `${own.length} modes · ${span(own)}`}
                      </span>
                      <ChevronDown
                        size={13}
                        className={`flex-none text-muted ${open ? 'rotate-180' : ''}`}
                      />
                    </button>
                    <button
                      type="button"
                      aria-label={
                        favourite.includes(type.id)
                          ? `${type.name} is a favourite: no longer`
                          : `Make ${type.name} a favourite`
                      }
                      aria-pressed={favourite.includes(type.id)}
                      onClick={() => toggleFavourite(type.id)}
                      className={`grid size-7 flex-none place-items-center rounded ${favourite.includes(type.id) ? 'text-warning' : 'text-faint opacity-0 group-hover:opacity-100 hover:text-soft focus:opacity-100'}`}
                    >
                      <Star
                        size={13}
                        fill={favourite.includes(type.id) ? 'currentColor' : 'none'}
                      />
                    </button>
                  </div>
                  {open && (
                    <div role="listbox" aria-label={`Modes of ${type.name}`}>
                      {own.map((mode) => modeRow(type, mode, title))}
                    </div>
                  )}
                  {open && <FromLibrary id={type.id} />}
                  {open && onEdit && show.types.has(type.id) && (
                    <a
                      href={`/api/shows/${showId}/export/type.gdtf?type=${encodeURIComponent(type.id)}`}
                      download
                      className="flex h-7 w-full items-center pl-8 text-[12px] text-muted hover:text-soft"
                    >
                      As a file for other programs (GDTF)
                    </a>
                  )}
                  {open && onEdit && mayEdit(you.role) && (
                    <button
                      type="button"
                      onClick={() => onEdit(type)}
                      className="flex h-7 w-full items-center pl-8 text-left text-[12px] text-muted hover:text-soft"
                    >
                      {show.types.has(type.id) ? 'Change this type …' : 'Make one like it …'}
                    </button>
                  )}
                </div>
              );
            })}
          </div>
        ))}
      </div>
    </div>
  );
}
