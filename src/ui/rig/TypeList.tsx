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
import { useParts } from '../state/use-parts';
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

type Picked = { type: TypeRow; mode: Mode };
type Pick = (type: TypeRow, mode: Mode) => Promise<void>;

/** What is found, and under which headings: favourites and what was used lately come first while nothing is searched. */
function useFound(query: string): { found: FoundType[]; sections: [string, FoundType[]][] } {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  const { recent, favourite } = usePreferences();
  const library = useLibrary();
  useEffect(() => {
    void loadPreferences();
    void loadLibrary();
  }, []);
  const index = useMemo(() => {
    void revision;
    return indexTypes(allTypes(show, rowsOfHouse(library)));
  }, [show, revision, library]);
  const found = useMemo(() => findTypes(index, query), [index, query]);
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
  return { found, sections };
}

/** @param onEdit opens the type editor; without it types are only chosen */
export function TypeList({
  picked,
  onPick,
  onEdit,
  onImport,
  carry = false,
}: {
  picked: Picked | null;
  onPick: (picked: Picked) => void;
  onEdit?: (type: TypeRow | null) => void;
  onImport?: () => void;
  carry?: boolean;
}) {
  const editable = mayEdit(useScreen((s) => s.you.role));
  const [query, setQuery] = useState('');
  const [opened, setOpened] = useState<string | null>(picked?.type.id ?? null);
  const { found, sections } = useFound(query);
  /** Of what is only listed the rest is fetched first. */
  const pick: Pick = async (type, mode) => {
    const whole = isListed(type) ? await wholeType(type.id) : type;
    const own = whole?.modes.find((m) => m.name === mode.name);
    if (whole && own) onPick({ type: whole, mode: own });
    else notice.error('This type cannot be had from the library just now.');
  };
  const isSearched = query.trim() !== '';
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center gap-1.5 px-4 pt-3">
        <SearchField query={query} onQuery={setQuery} found={found} />
        {onImport && editable && (
          <HeadButton
            label="Take in makers’ files"
            title="Take in makers’ files (GDTF): choose them, or drop them anywhere"
            onClick={onImport}
          >
            <FileDown size={16} />
          </HeadButton>
        )}
        {onEdit && editable && (
          <HeadButton label="Make a new type" title="Make a new type" onClick={() => onEdit(null)}>
            <Plus size={16} />
          </HeadButton>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto py-2" role="group" aria-label="Fixture types">
        {found.length === 0 && (
          <p className="px-4 text-muted">
            No type is like “{query.trim()}”. Search by maker, type, mode or channel count
            {onEdit && editable ? ', or make it with the plus sign' : ''}.
          </p>
        )}
        {sections.map(([title, types]) => (
          <div key={title} className="pb-1" role="group" aria-label={title}>
            <div className="cap px-4 pt-1.5 pb-0.5">{title}</div>
            {types.map(({ type, modes }) => {
              const key = `${title}/${type.id}`;
              const isOpen =
                opened === key || opened === type.id || (isSearched && found.length <= 4);
              return (
                <TypeEntry
                  key={key}
                  type={type}
                  modes={modes}
                  picked={picked}
                  isOpen={isOpen}
                  onOpen={() => {
                    setOpened(isOpen ? null : key);
                    if (!isOpen && modes[0]) void pick(type, modes[0]);
                  }}
                  pick={pick}
                  carry={carry}
                  onEdit={onEdit}
                />
              );
            })}
          </div>
        ))}
      </div>
    </div>
  );
}

function SearchField({
  query,
  onQuery,
  found,
}: {
  query: string;
  onQuery: (query: string) => void;
  found: readonly FoundType[];
}) {
  const modes = found.reduce((n, f) => n + f.modes.length, 0);
  return (
    <label className="flex h-9 min-w-0 flex-1 items-center gap-2.5 rounded-lg bg-raised px-3">
      <Search size={15} className="flex-none text-muted" />
      <input
        aria-label="Find a fixture type"
        inputMode="search"
        value={query}
        onChange={(e) => onQuery(e.target.value)}
        placeholder="Find a type"
        className="min-w-0 flex-1 bg-transparent text-[13.5px] outline-none placeholder:text-dim"
      />
      <span
        className="text-[11.5px] whitespace-nowrap text-muted"
        title={`${plural(found.length, 'type')}, ${plural(modes, 'mode')}`}
      >
        {found.length}
      </span>
    </label>
  );
}

function HeadButton({
  label,
  title,
  onClick,
  children,
}: {
  label: string;
  title: string;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={title}
      onClick={onClick}
      className="grid size-9 flex-none place-items-center rounded-lg bg-raised text-soft hover:bg-lift"
    >
      {children}
    </button>
  );
}

/** A type, its modes where it is open, and what may be done with it. */
function TypeEntry({
  type,
  modes,
  picked,
  isOpen,
  onOpen,
  pick,
  carry,
  onEdit,
}: {
  type: TypeRow;
  modes: readonly Mode[];
  picked: Picked | null;
  isOpen: boolean;
  onOpen: () => void;
  pick: Pick;
  carry: boolean;
  onEdit: ((type: TypeRow | null) => void) | undefined;
}) {
  const isPicked = picked?.type.id === type.id;
  return (
    <div>
      <div
        className={`group flex h-[30px] items-center pr-2 ${isPicked ? 'text-text' : 'text-soft'} hover:bg-panel`}
      >
        <button
          type="button"
          aria-expanded={isOpen}
          onClick={onOpen}
          className="flex h-full min-w-0 flex-1 items-center gap-2 pl-4 text-left"
        >
          <span className={`truncate ${isPicked ? 'font-semibold' : ''}`}>{type.name}</span>
          <span className="ml-auto text-[11.5px] whitespace-nowrap text-muted">
            {modes.length === 1 ? span(modes) : `${modes.length} modes · ${span(modes)}`}
          </span>
          <ChevronDown size={13} className={`flex-none text-muted ${isOpen ? 'rotate-180' : ''}`} />
        </button>
        <FavouriteStar type={type} />
      </div>
      {isOpen && (
        <>
          <div role="listbox" aria-label={`Modes of ${type.name}`}>
            {modes.map((mode) => (
              <ModeOption
                key={mode.name}
                type={type}
                mode={mode}
                isPicked={isPicked && picked.mode.name === mode.name}
                pick={pick}
                carry={carry}
              />
            ))}
          </div>
          <FromLibrary id={type.id} />
          {onEdit && <TypeWays type={type} onEdit={onEdit} />}
        </>
      )}
    </div>
  );
}

function FavouriteStar({ type }: { type: TypeRow }) {
  const is = usePreferences().favourite.includes(type.id);
  return (
    <button
      type="button"
      aria-label={is ? `${type.name} is a favourite: no longer` : `Make ${type.name} a favourite`}
      aria-pressed={is}
      onClick={() => toggleFavourite(type.id)}
      className={`grid size-7 flex-none place-items-center rounded ${is ? 'text-warning' : 'text-faint opacity-0 group-hover:opacity-100 hover:text-soft focus:opacity-100'}`}
    >
      <Star size={13} fill={is ? 'currentColor' : 'none'} />
    </button>
  );
}

function TypeWays({ type, onEdit }: { type: TypeRow; onEdit: (type: TypeRow) => void }) {
  const show = useShow();
  const { showId, you } = useParts(useScreen, 'showId', 'you');
  const isOwn = show.types.has(type.id);
  return (
    <>
      {isOwn && (
        <a
          href={`/api/shows/${showId}/export/type.gdtf?type=${encodeURIComponent(type.id)}`}
          download
          className="flex h-7 w-full items-center pl-8 text-[12px] text-muted hover:text-soft"
        >
          As a file for other programs (GDTF)
        </a>
      )}
      {mayEdit(you.role) && (
        <button
          type="button"
          onClick={() => onEdit(type)}
          className="flex h-7 w-full items-center pl-8 text-left text-[12px] text-muted hover:text-soft"
        >
          {isOwn ? 'Change this type …' : 'Make one like it …'}
        </button>
      )}
    </>
  );
}

/** @param carry it may be carried to the map of addresses */
function ModeOption({
  type,
  mode,
  isPicked,
  pick,
  carry,
}: Picked & { isPicked: boolean; pick: Pick; carry: boolean }) {
  const start = useRef<{ x: number; y: number } | null>(null);
  const count = channelCount(mode);
  return (
    <button
      type="button"
      role="option"
      aria-selected={isPicked}
      aria-label={`${type.maker} ${type.name}, ${mode.name}, ${plural(count, 'channel')}`}
      title={carry ? 'Click to pick; drag onto the map to patch there' : undefined}
      onClick={() => void pick(type, mode)}
      onPointerDown={(e) => {
        const may = carry && e.button === 0 && !isListed(type);
        start.current = may ? { x: e.clientX, y: e.clientY } : null;
      }}
      onPointerMove={(e) => {
        const s = start.current;
        if (!s || e.buttons !== 1 || Math.hypot(e.clientX - s.x, e.clientY - s.y) < CARRY_PX)
          return;
        start.current = null;
        useRig.setState({
          carrying: { type, mode },
          picked: { type, mode },
          upper: 'addresses',
        });
      }}
      className={`flex h-7 w-full touch-none items-center justify-between gap-2 pr-3 pl-8 text-left select-none ${isPicked ? 'bg-standby-wash text-standby shadow-[inset_2px_0_0_var(--color-standby)]' : 'text-soft hover:bg-panel'}`}
    >
      <span className="truncate">{mode.name}</span>
      <span className="num text-[11.5px] whitespace-nowrap text-muted">{count} ch</span>
    </button>
  );
}
