/** The shelf under the stage: palettes by family, looks, effects, as tiles in the order that people gave them. */
'use client';
import { ChevronLeft, ChevronRight, ListPlus, Play, Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import type { EffectRow } from '@/core/effects/rows';
import type { LookRow } from '@/core/looks/rows';
import { PALETTE_FAMILIES, type PaletteRow } from '@/core/palettes/rows';
import { inOrder } from '@/core/plan/edits';
import type { Show } from '@/core/show/show';
import { Button, IconButton, Tabs } from '../../parts/controls';
import { Sortable, SortableItem } from '../../parts/sortable';
import { useBox } from '../../parts/use-box';
import { edit } from '../../state/edits';
import { openEffect } from '../../state/trying';
import { useStage, type Shelf as ShelfName } from '../../state/stage';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { DoingDialog, type Doing } from './doing';
import { FAMILY_WORDS } from './PaletteDialogs';
import { Tempo } from './Tempo';
import { EffectTile, LookTile, PaletteTile, useTiles } from './tiles';

/** A tile with the room round it, in pixels. */
const [TILE_W, TILE_H, GAP, MARGINS] = [108, 108, 4, 24];
const FEWEST_COLUMNS = 2;
/** Narrower than this, names of all kinds and words beside them have no room together. */
const ROOMY_W = 720;

const TABS: { value: ShelfName; label: string }[] = [
  ...PALETTE_FAMILIES.map((f) => ({ value: f, label: FAMILY_WORDS[f] })),
  { value: 'looks', label: 'Looks' },
  { value: 'effects', label: 'Effects' },
];

/** What a shelf has, in its order. */
type Shelved =
  | { is: 'palettes'; rows: readonly PaletteRow[] }
  | { is: 'looks'; rows: readonly LookRow[] }
  | { is: 'effects'; rows: readonly EffectRow[] };

function onShelf(show: Show, shelf: ShelfName): Shelved {
  if (shelf === 'looks') return { is: 'looks', rows: inOrder(show.looks.values()) };
  if (shelf === 'effects') return { is: 'effects', rows: inOrder(show.effects.values()) };
  const palettes = [...show.palettes.values()].filter((p) => p.family === shelf);
  return { is: 'palettes', rows: inOrder(palettes) };
}

/** A part of the tiles, as many as there is room for. */
function usePages(rows: number, perPage: number) {
  const [turned, setTurned] = useState(0);
  const pages = Math.max(1, Math.ceil(rows / perPage));
  const page = Math.min(turned, pages - 1);
  const first = page * perPage;
  return { page, pages, first, after: Math.min(rows, first + perPage), turn: setTurned };
}

type Pages = ReturnType<typeof usePages>;

/** @param counted says which tiles are shown, where there is room for the words */
function Turn({ pages, rows, counted }: { pages: Pages; rows: number; counted: boolean }) {
  if (pages.pages <= 1) return null;
  return (
    <>
      <IconButton
        label="The tiles before"
        className="!size-7"
        disabled={pages.page === 0}
        onClick={() => pages.turn(pages.page - 1)}
      >
        <ChevronLeft size={14} />
      </IconButton>
      {counted && (
        <span className="num text-[11.5px] whitespace-nowrap text-muted">
          {pages.first + 1}–{pages.after} of {rows}
        </span>
      )}
      <IconButton
        label="More tiles"
        className="!size-7"
        disabled={pages.page === pages.pages - 1}
        onClick={() => pages.turn(pages.page + 1)}
      >
        <ChevronRight size={14} />
      </IconButton>
    </>
  );
}

function makeWords(shelf: ShelfName): string {
  if (shelf === 'effects') return 'Make an effect';
  return shelf === 'looks' ? 'Record a look of what you hold' : 'Record a palette of what you hold';
}

function Tiles({
  shelved,
  from,
  after,
  begin,
}: {
  shelved: Shelved;
  from: number;
  after: number;
  begin: (doing: Doing) => void;
}) {
  const moment = useTiles();
  const tile = (at: number): React.ReactNode => {
    switch (shelved.is) {
      case 'palettes': {
        const palette = shelved.rows[at];
        return palette && <PaletteTile palette={palette} moment={moment} begin={begin} />;
      }
      case 'looks': {
        const look = shelved.rows[at];
        return look && <LookTile look={look} moment={moment} begin={begin} />;
      }
      case 'effects': {
        const effect = shelved.rows[at];
        return effect && <EffectTile effect={effect} moment={moment} begin={begin} />;
      }
    }
  };
  return shelved.rows.slice(from, after).map(({ id }, i) => (
    <SortableItem key={id} id={id}>
      {tile(from + i)}
    </SortableItem>
  ));
}

/** Palettes, looks and effects, to be given or played. */
export function Shelf() {
  const show = useShow();
  const editable = mayEdit(useScreen((s) => s.you.role));
  const shelf = useStage((s) => s.shelf);
  const plays = useStage((s) => s.plays);
  const [doing, setDoing] = useState<Doing | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const room = useBox(box);
  const columns = Math.max(FEWEST_COLUMNS, Math.floor((room.width - MARGINS) / TILE_W));
  const lines = Math.max(1, Math.floor((room.height + GAP) / TILE_H));
  // All kinds are to be seen; words beside them are not needed as much.
  const isTight = room.width < ROOMY_W;
  const shelved = onShelf(show, shelf);
  const pages = usePages(shelved.rows.length, columns * lines);
  const order = (ids: string[]): void =>
    void edit('order-rows', { table: shelved.is, ids }, { quiet: true });
  return (
    <section
      aria-label="Palettes"
      className="flex h-full flex-col border-t border-line bg-panel/40"
    >
      <div className="flex h-10 flex-none items-center gap-2 overflow-hidden px-3">
        <Tabs<ShelfName>
          label="Shelf"
          value={shelf}
          options={TABS}
          onChange={(value) => {
            useStage.setState({ shelf: value });
            pages.turn(0);
          }}
        />
        {shelf === 'effects' && <Tempo />}
        <span className="ml-auto flex flex-none items-center gap-1">
          <button
            type="button"
            aria-pressed={plays}
            title={
              plays
                ? 'A press plays a tile by itself, a second lets it go; your programmer stays as it is'
                : 'A press takes a tile into your programmer. Press here, and tiles are played by themselves'
            }
            onClick={() => useStage.setState({ plays: !plays })}
            className={`flex h-7 items-center gap-1.5 rounded-md px-2 text-[12px] ${plays ? 'bg-lime-wash text-lime-word' : 'text-muted hover:bg-raised'}`}
          >
            <Play size={12} aria-hidden="true" />
            <span className={isTight ? 'sr-only' : ''}>{plays ? 'A press plays' : 'Play'}</span>
          </button>
          <Turn
            pages={pages}
            rows={shelved.rows.length}
            counted={shelf !== 'effects' && !isTight}
          />
          {editable && shelved.is !== 'effects' && shelved.rows.length > 1 && (
            <IconButton
              label="Make a list of these, a cue for each"
              className="!size-7"
              onClick={() => listOf(shelved)}
            >
              <ListPlus size={15} />
            </IconButton>
          )}
          {editable && (
            <IconButton
              label={makeWords(shelf)}
              className="!size-7"
              onClick={() => (shelf === 'effects' ? openEffect(null) : setDoing({ do: 'record' }))}
            >
              <Plus size={15} />
            </IconButton>
          )}
        </span>
      </div>
      <div ref={box} className="min-h-0 flex-1 overflow-y-auto px-3 pb-2">
        {shelved.rows.length === 0 ? (
          <Empty shelf={shelf} editable={editable} />
        ) : (
          <div
            className="grid gap-2"
            style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
          >
            <Sortable ids={shelved.rows.map((r) => r.id)} onOrder={editable ? order : undefined}>
              <Tiles shelved={shelved} from={pages.first} after={pages.after} begin={setDoing} />
            </Sortable>
          </div>
        )}
      </div>
      {doing && <DoingDialog doing={doing} shelf={shelf} onClose={() => setDoing(null)} />}
    </section>
  );
}

/** A new list of all that is on the shelf, in its order. */
const listOf = ({ is, rows }: Shelved): void =>
  void edit('make-list-of', {
    of: rows.map(({ id }) => ({ kind: is === 'looks' ? 'look' : 'palette', id })),
  });

const SETS: Record<Exclude<ShelfName, 'looks' | 'effects'>, string> = {
  intensity: 'levels',
  position: 'a position',
  colour: 'a colour',
  beam: 'a beam',
};

function Empty({ shelf, editable }: { shelf: ShelfName; editable: boolean }) {
  if (shelf === 'effects')
    return (
      <p className="pt-1 text-[12.5px] text-muted">
        Effects move levels by themselves: circles, waves, breathing.{' '}
        {editable && (
          <Button className="ml-1 !h-7" onClick={() => void edit('add-standard-effects', {})}>
            Add those that come with Wingman
          </Button>
        )}
      </p>
    );
  return (
    <p className="pt-1 text-[12.5px] text-muted">
      {shelf === 'looks'
        ? 'A look is a named picture of levels, palettes and other looks. Make one on the stage and press + to keep it.'
        : `Set ${SETS[shelf]} and press + to keep it as a palette; cues follow it when it changes.`}
    </p>
  );
}
