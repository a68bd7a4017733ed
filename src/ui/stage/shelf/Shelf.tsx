/** The shelf under the stage: palettes by family, looks, effects, as tiles in the order that people gave them. */
'use client';
import { ChevronLeft, ChevronRight, Plus } from 'lucide-react';
import { useLayoutEffect, useRef, useState } from 'react';
import { plural } from '@/core/words';
import { effectUses } from '@/core/effects/edits';
import { paletteUses } from '@/core/palettes/edits';
import { inOrder } from '@/core/plan/edits';
import { fixturesOfLook } from '@/core/looks/resolve';
import { reachOf } from '@/core/palettes/resolve';
import { referenceCounts } from '@/core/looks/uses';
import { PALETTE_FAMILIES, type PaletteRow } from '@/core/palettes/rows';
import type { EffectRow } from '@/core/effects/rows';
import type { LookRow } from '@/core/looks/rows';
import { Ask, Button, IconButton, Tabs } from '../../parts/controls';
import { edit, said } from '../../state/actions';
import { useStage, type Shelf as ShelfName } from '../../state/stage';
import { mayEdit, mayPlay, useScreen, useShow } from '../../state/store';
import { EffectEditor } from './EffectEditor';
import { DeleteLook, LookEditor, RecordLook } from './LookDialogs';
import {
  DeletePalette,
  FAMILY_WORDS,
  RecordPalette,
  Rename,
  UpdatePalette,
  Uses,
} from './PaletteDialogs';
import { EffectPicture, LookPicture, PalettePicture } from './pictures';
import { Tempo } from './Tempo';
import { Tile, type TileAction } from './Tile';

type Doing =
  | { do: 'record' }
  | { do: 'update' | 'delete' | 'rename' | 'uses'; palette: PaletteRow }
  | { do: 'edit' | 'delete'; look: LookRow }
  | { do: 'edit' | 'delete'; effect: EffectRow | null }
  | null;

const TILE_W = 108;
const TABS: { value: ShelfName; label: string }[] = [
  ...PALETTE_FAMILIES.map((f) => ({ value: f, label: FAMILY_WORDS[f] })),
  { value: 'looks', label: 'Looks' },
  { value: 'effects', label: 'Effects' },
];

interface Tiled {
  id: string;
  number: number;
  name: string;
}

/** The order with one row taken before another. */
function reordered(rows: readonly Tiled[], dragged: string, before: string): string[] {
  const ids = rows.map((r) => r.id).filter((id) => id !== dragged);
  ids.splice(ids.indexOf(before), 0, dragged);
  return ids;
}

export function Shelf() {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const you = useScreen((s) => s.you);
  const values = useScreen((s) => s.values);
  const others = useScreen((s) => s.others);
  const heldBy = (id: string): string[] =>
    others.filter((o) => o.follows.includes(id)).map((o) => o.name);
  const shelf = useStage((s) => s.shelf);
  const [page, setPage] = useState(0);
  const [doing, setDoing] = useState<Doing>(null);
  const [room, setRoom] = useState({ columns: 6, rows: 1 });
  const box = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const measure = (): void =>
      setRoom({
        columns: Math.max(2, Math.floor((element.clientWidth - 24) / TILE_W)),
        rows: Math.max(1, Math.floor((element.clientHeight + 4) / 108)),
      });
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    measure();
    return () => observer.disconnect();
  }, []);
  const editable = mayEdit(you.role);
  const playable = mayPlay(you.role);
  const version = ['palettes', 'looks', 'effects', 'groups', 'fixtures', 'types']
    .map((t) => show.version(t as 'palettes'))
    .join();
  const chosen = selection.flatMap((id) => show.fixtures.get(id) ?? []);
  const followed = new Set([...values.values()].flatMap((v) => [v.palette, v.look, v.effect?.id]));
  const isPalette = shelf !== 'looks' && shelf !== 'effects';
  const rows: readonly Tiled[] = isPalette
    ? inOrder([...show.palettes.values()].filter((p) => p.family === shelf))
    : inOrder<LookRow | EffectRow>(show[shelf].values());
  const perPage = room.columns * room.rows;
  const pages = Math.max(1, Math.ceil(rows.length / perPage));
  const at = Math.min(page, pages - 1);
  const close = (): void => setDoing(null);
  const table = isPalette ? 'palettes' : shelf;
  const drop = editable
    ? (id: string) => (dragged: string) =>
        void edit('order-rows', { table, ids: reordered(rows, dragged, id) }, { quiet: true })
    : undefined;

  const counts = referenceCounts(show);
  const usedBy = (id: string): number => (counts.cues.get(id) ?? 0) + (counts.looks.get(id) ?? 0);
  const paletteTile = (p: PaletteRow): React.ReactNode => {
    const reached = chosen.filter((f) => reachOf(show, p, f).size > 0).length;
    const none = chosen.length > 0 && reached === 0;
    const cues = counts.cues.get(p.id) ?? 0;
    const uses = cues + (counts.looks.get(p.id) ?? 0);
    const actions: TileAction[] = editable
      ? [
          {
            label: 'Update with what you hold …',
            act: () => setDoing({ do: 'update', palette: p }),
          },
          { label: 'Rename …', act: () => setDoing({ do: 'rename', palette: p }) },
          { label: `Find its uses (${uses}) …`, act: () => setDoing({ do: 'uses', palette: p }) },
          { label: 'Delete …', danger: true, act: () => setDoing({ do: 'delete', palette: p }) },
        ]
      : [{ label: 'Find its uses …', act: () => setDoing({ do: 'uses', palette: p }) }];
    return (
      <Tile
        key={p.id}
        id={p.id}
        of={`palettes/${p.id}`}
        number={p.number}
        name={p.name}
        uses={cues === 0 ? (uses === 0 ? 'not used' : 'in looks') : `in ${plural(cues, 'cue')}`}
        pressed={followed.has(p.id)}
        held={heldBy(p.id)}
        dim={none || chosen.length === 0}
        disabled={!playable}
        title={
          chosen.length === 0
            ? `Palette ${p.number}: select fixtures first`
            : none
              ? `Palette ${p.number} says nothing for the selected fixtures`
              : `Palette ${p.number} for ${reached} of ${chosen.length} selected`
        }
        picture={<PalettePicture show={show} palette={p} version={version} />}
        actions={actions}
        onApply={() => void said({ command: 'palette', palette: p.id })}
        onDropOn={drop?.(p.id)}
      />
    );
  };
  const lookTile = (l: LookRow): React.ReactNode => {
    const cues = usedBy(l.id);
    return (
      <Tile
        key={l.id}
        id={l.id}
        of={`looks/${l.id}`}
        number={l.number}
        name={l.name}
        uses={
          cues === 0
            ? `${plural(fixturesOfLook(show, l).length, 'fixture')}`
            : `used ${cues} ${cues === 1 ? 'time' : 'times'}`
        }
        pressed={followed.has(l.id)}
        held={heldBy(l.id)}
        dim={false}
        disabled={!playable}
        title={`Look ${l.number}: all its fixtures, whatever is selected`}
        picture={<LookPicture show={show} look={l} version={version} />}
        actions={[
          {
            label: editable ? 'Open and tweak …' : 'Open …',
            act: () => setDoing({ do: 'edit', look: l }),
          },
          ...(chosen.length > 0
            ? [
                {
                  label: 'For the selection alone',
                  act: () =>
                    void said({
                      command: 'look',
                      look: l.id,
                      fixtures: chosen.map((f) => f.number),
                    }),
                },
              ]
            : []),
          ...(editable
            ? [{ label: 'Delete …', danger: true, act: () => setDoing({ do: 'delete', look: l }) }]
            : []),
        ]}
        onApply={() => void said({ command: 'look', look: l.id })}
        onDropOn={drop?.(l.id)}
      />
    );
  };
  const effectTile = (e: EffectRow): React.ReactNode => {
    const running = [...values.values()].some(
      (v) => v.effect?.id === e.id && (chosen.length === 0 || selection.includes(v.fixtureId)),
    );
    const uses = usedBy(e.id);
    return (
      <Tile
        key={e.id}
        id={e.id}
        of={`effects/${e.id}`}
        number={e.number}
        name={e.name}
        uses={
          uses > 0
            ? `used ${uses} ${uses === 1 ? 'time' : 'times'}`
            : 'hz' in e.speed
              ? `${e.speed.hz.toFixed(2)} Hz`
              : `${e.speed.beats} beats`
        }
        pressed={running}
        dim={chosen.length === 0}
        disabled={!playable}
        title={
          chosen.length === 0
            ? `Effect ${e.number}: select fixtures first`
            : running
              ? 'Press to take it off the selection'
              : `Over the ${chosen.length} selected, in their order`
        }
        picture={<EffectPicture effect={e} />}
        actions={
          editable
            ? [
                { label: 'Open and change …', act: () => setDoing({ do: 'edit', effect: e }) },
                {
                  label: 'Delete …',
                  danger: true,
                  act: () => setDoing({ do: 'delete', effect: e }),
                },
              ]
            : []
        }
        onApply={() => void said({ command: 'effect', effect: e.id, on: !running, fade_s: 1 })}
        onDropOn={drop?.(e.id)}
      />
    );
  };
  const tile = (r: Tiled): React.ReactNode => {
    if (isPalette) return paletteTile(r as PaletteRow);
    return shelf === 'looks' ? lookTile(r as LookRow) : effectTile(r as EffectRow);
  };

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
          onChange={(value) => (useStage.setState({ shelf: value }), setPage(0))}
        />
        {shelf === 'effects' && <Tempo />}
        <span className="ml-auto flex flex-none items-center gap-1">
          {pages > 1 && (
            <>
              <IconButton
                label="The tiles before"
                className="!size-7"
                disabled={at === 0}
                onClick={() => setPage(at - 1)}
              >
                <ChevronLeft size={14} />
              </IconButton>
              <span className="num text-[11.5px] whitespace-nowrap text-muted">
                {shelf !== 'effects' &&
                  `${at * perPage + 1}–${Math.min(rows.length, (at + 1) * perPage)} of ${rows.length}`}
              </span>
              <IconButton
                label="More tiles"
                className="!size-7"
                disabled={at >= pages - 1}
                onClick={() => setPage(at + 1)}
              >
                <ChevronRight size={14} />
              </IconButton>
            </>
          )}
          {editable && (
            <IconButton
              label={
                shelf === 'effects'
                  ? 'Make an effect'
                  : shelf === 'looks'
                    ? 'Record a look of what you hold'
                    : 'Record a palette of what you hold'
              }
              className="!size-7"
              onClick={() =>
                setDoing(shelf === 'effects' ? { do: 'edit', effect: null } : { do: 'record' })
              }
            >
              <Plus size={15} />
            </IconButton>
          )}
        </span>
      </div>
      <div ref={box} className="min-h-0 flex-1 overflow-y-auto px-3 pb-2">
        {rows.length === 0 ? (
          <Empty shelf={shelf} editable={editable} />
        ) : (
          <div
            className="grid gap-2"
            style={{ gridTemplateColumns: `repeat(${room.columns}, minmax(0, 1fr))` }}
          >
            {rows.slice(at * perPage, (at + 1) * perPage).map(tile)}
          </div>
        )}
      </div>
      {doing?.do === 'record' &&
        (isPalette ? (
          <RecordPalette family={shelf} onClose={close} />
        ) : (
          <RecordLook onClose={close} />
        ))}
      {doing && 'palette' in doing && doing.do === 'update' && (
        <UpdatePalette palette={doing.palette} onClose={close} />
      )}
      {doing && 'palette' in doing && doing.do === 'delete' && (
        <DeletePalette palette={doing.palette} onClose={close} />
      )}
      {doing && 'palette' in doing && doing.do === 'rename' && (
        <Rename
          of={`palettes/${doing.palette.id}`}
          title={`Rename palette ${doing.palette.number}`}
          name={doing.palette.name}
          onSave={(name) => void edit('change-palette', { id: doing.palette.id, set: { name } })}
          onClose={close}
        />
      )}
      {doing && 'palette' in doing && doing.do === 'uses' && (
        <Uses
          title={`Palette ${doing.palette.number} “${doing.palette.name}” is used in`}
          uses={paletteUses(show, doing.palette.id)}
          onClose={close}
        />
      )}
      {doing && 'look' in doing && doing.do === 'edit' && (
        <LookEditor
          key={`${doing.look.id}${show.version('looks')}`}
          look={show.looks.get(doing.look.id) ?? doing.look}
          onClose={close}
        />
      )}
      {doing && 'look' in doing && doing.do === 'delete' && (
        <DeleteLook look={doing.look} onClose={close} />
      )}
      {doing && 'effect' in doing && doing.do === 'edit' && (
        <EffectEditor effect={doing.effect} onClose={close} />
      )}
      {doing && 'effect' in doing && doing.do === 'delete' && doing.effect && (
        <Ask
          open
          onClose={close}
          title={`Delete effect ${doing.effect.number} “${doing.effect.name}”?`}
          act="Delete"
          onAct={() => void edit('delete-effect', { id: doing.effect?.id })}
        >
          <p>
            {effectUses(show, doing.effect.id).length === 0
              ? 'Nothing runs it.'
              : `${effectUses(show, doing.effect.id).slice(0, 8).join(', ')} keep their levels without it.`}
          </p>
        </Ask>
      )}
    </section>
  );
}

function Empty({ shelf, editable }: { shelf: ShelfName; editable: boolean }) {
  return (
    <p className="pt-1 text-[12.5px] text-muted">
      {shelf === 'effects' ? (
        <>
          Effects move levels by themselves: circles, waves, breathing.{' '}
          {editable && (
            <Button className="ml-1 !h-7" onClick={() => void edit('add-standard-effects', {})}>
              Add those that come with Wingman
            </Button>
          )}
        </>
      ) : shelf === 'looks' ? (
        'A look is a named picture of levels, palettes and other looks. Make one on the stage and press + to keep it.'
      ) : (
        `Set ${shelf === 'intensity' ? 'levels' : shelf === 'position' ? 'a position' : shelf === 'colour' ? 'a colour' : 'a beam'} and press + to keep it as a palette; cues follow it when it changes.`
      )}
    </p>
  );
}
