/** Arranging: what is selected put in line, spread, turned, hung; bars and set pieces; the layout and its background. */
'use client';
import { ImagePlus, Trash2 } from 'lucide-react';
import { useRef } from 'react';
import { aligned, alongPiece, distributed } from '@/core/plan/arrange';
import type { FixtureRow } from '@/core/fixtures/rows';
import type { LayoutRow, PieceRow } from '@/core/plan/rows';
import { addPicture } from '../files/add-picture';
import { PictureInput } from '../files/PictureInput';
import { Button, IconButton, Scrub } from '../parts/controls';
import { WrittenCell } from '../parts/WrittenCell';
import { edit } from '../state/edits';
import { setTool, useStage } from '../state/stage';
import { useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

type Place = FixtureRow['position'];

function move(fixtures: readonly FixtureRow[], places: readonly Place[], hang?: string): void {
  void edit(
    'change-fixtures',
    {
      fixtures: fixtures.map((f, i) => ({
        id: f.id,
        set: { position: places[i] ?? f.position, ...(hang === undefined ? {} : { hang }) },
      })),
    },
    { quiet: true },
  );
}
const set = (
  fixtures: readonly FixtureRow[],
  fields: (f: FixtureRow) => Record<string, unknown>,
): Promise<unknown> =>
  edit(
    'change-fixtures',
    { fixtures: fixtures.map((f) => ({ id: f.id, set: fields(f) })) },
    { quiet: true },
  );

const SMALL =
  'h-7 rounded-md bg-raised px-2 text-[12px] text-soft hover:bg-lift disabled:opacity-45';

/** Which tool stands in the bar is of what is chosen: a layout, a piece, or units. */
export function ArrangeBar() {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const { layoutId, pieceId } = useParts(useStage, 'layoutId', 'pieceId');
  const fixtures = selection.flatMap((id) => show.fixtures.get(id) ?? []);
  const piece = pieceId ? show.pieces.get(pieceId) : undefined;
  const layout = layoutId ? show.layouts.get(layoutId) : undefined;
  return (
    <div
      className="flex min-h-10 flex-none flex-wrap items-center gap-1.5 border-b border-line bg-panel px-2.5 py-1.5"
      aria-label="Arrange"
      role="toolbar"
    >
      {layout && <LayoutTools layout={layout} fixtures={fixtures} />}
      {!layout && piece && <PieceTools piece={piece} />}
      {!layout && !piece && (
        <>
          <UnitTools fixtures={fixtures} />
          <DrawTools />
        </>
      )}
    </div>
  );
}

/** What is selected put in line, hung on a bar, turned and lifted. */
function UnitTools({ fixtures }: { fixtures: readonly FixtureRow[] }) {
  const first = fixtures[0];
  const places = fixtures.map((f) => f.position);
  if (!first)
    return (
      <span className="text-[12px] text-muted">
        Drag units onto bars, drag a bar with what hangs on it. Select units to line them up.
      </span>
    );
  return (
    <>
      <span className="num text-[12px] text-muted">
        {fixtures.length === 1 ? first.number : `${fixtures.length} ×`}
      </span>
      <button
        type="button"
        className={SMALL}
        title="On one line across the stage"
        disabled={fixtures.length < 2}
        onClick={() => move(fixtures, aligned(places, 'y'))}
      >
        ↔ line
      </button>
      <button
        type="button"
        className={SMALL}
        title="On one line up the stage"
        disabled={fixtures.length < 2}
        onClick={() => move(fixtures, aligned(places, 'x'))}
      >
        ↕ line
      </button>
      <button
        type="button"
        className={SMALL}
        title="Evenly between the first and the last"
        disabled={fixtures.length < 3}
        onClick={() => move(fixtures, distributed(places))}
      >
        Spread
      </button>
      <AlongBar fixtures={fixtures} />
      <Turns first={first} fixtures={fixtures} />
    </>
  );
}

function AlongBar({ fixtures }: { fixtures: readonly FixtureRow[] }) {
  const bars = [...useShow().pieces.values()].filter(
    (p) => p.name !== '' && (p.kind === 'bar' || p.kind === 'boom'),
  );
  return (
    <select
      aria-label="Hang on a bar"
      value=""
      onChange={(e) => {
        const bar = bars.find((b) => b.id === e.target.value);
        if (bar) move(fixtures, alongPiece(bar, fixtures.length), bar.name);
      }}
      className="h-7 w-[86px] rounded-md bg-raised px-1 text-[12px] text-soft"
    >
      <option value="">Along …</option>
      {bars.map((b) => (
        <option key={b.id} value={b.id}>
          {b.name}
        </option>
      ))}
    </select>
  );
}

function Turns({ first, fixtures }: { first: FixtureRow; fixtures: readonly FixtureRow[] }) {
  const degrees = (label: string, value: number, fields: (v: number) => Partial<FixtureRow>) => (
    <Scrub
      label={label}
      value={value}
      unit="°"
      min={-180}
      max={180}
      step={5}
      onSettled={(v) => set(fixtures, () => fields(Math.round(v)))}
    />
  );
  return (
    <span className="flex items-center text-[12px] text-muted">
      Turn {degrees('Rotation', first.rotation, (rotation) => ({ rotation }))}
      Lean {degrees('Lean', first.lean ?? 0, (lean) => ({ lean }))}
      Up{' '}
      <Scrub
        label="Height"
        value={first.position.z}
        digits={1}
        unit="m"
        min={-5}
        max={30}
        step={0.1}
        onSettled={(v) =>
          set(fixtures, (f) => ({ position: { ...f.position, z: Math.round(v * 100) / 100 } }))
        }
      />
    </span>
  );
}

const DRAWN = [
  { id: 'bar', label: 'Bar', called: 'bar' },
  { id: 'boom', label: 'Boom', called: 'boom' },
  { id: 'set', label: 'Set', called: 'set piece' },
] as const;

function DrawTools() {
  const tool = useStage((s) => s.tool);
  return (
    <span className="ml-auto flex gap-1">
      {DRAWN.map(({ id, label, called }) => (
        <button
          key={id}
          type="button"
          aria-pressed={tool === id}
          title={`Draw a ${called}: drag on the plan`}
          onClick={() => setTool(id)}
          className={`${SMALL} ${tool === id ? '!bg-standby-wash !text-standby shadow-[inset_0_0_0_1px_var(--color-standby)]' : ''}`}
        >
          + {label}
        </button>
      ))}
    </span>
  );
}

function PieceTools({ piece }: { piece: PieceRow }) {
  const { id, ...rest } = piece;
  const change = (fields: Partial<PieceRow>): Promise<unknown> =>
    edit('set-piece', { id, set: { ...rest, ...fields } }, { quiet: true });
  return (
    <>
      <WrittenCell
        label="Name of the piece"
        value={piece.name}
        placeholder="no name"
        write={(text) => change({ name: text.trim() })}
        className="w-36 bg-ink text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-edge)]"
      />
      <select
        aria-label="Kind"
        value={piece.kind}
        onChange={(e) => void change({ kind: e.target.value as PieceRow['kind'] })}
        className="h-7 rounded-md bg-raised px-1 text-[12px] text-soft"
      >
        {(
          [
            ['bar', 'bar'],
            ['boom', 'boom'],
            ['set', 'set piece'],
            ['cyc', 'cyc'],
            ['edge', 'edge'],
            ['house', 'audience'],
          ] as const
        ).map(([value, label]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
      <span className="flex items-center text-[12px] text-muted">
        Up{' '}
        <Scrub
          label="Height over the floor"
          value={piece.z}
          digits={1}
          unit="m"
          min={-5}
          max={30}
          step={0.1}
          onSettled={(v) => change({ z: Math.round(v * 10) / 10 })}
        />
        {(piece.kind === 'set' || piece.kind === 'cyc') && (
          <>
            Tall{' '}
            <Scrub
              label="How tall"
              value={piece.height ?? 0}
              digits={1}
              unit="m"
              min={0}
              max={20}
              step={0.1}
              onSettled={(v) => change({ height: Math.round(v * 10) / 10 })}
            />
          </>
        )}
      </span>
      <Button
        kind="danger"
        className="ml-auto !h-7"
        onClick={() =>
          void edit('delete-piece', { id }).then(() => useStage.setState({ pieceId: null }))
        }
      >
        <Trash2 size={13} /> Take off the plan
      </Button>
    </>
  );
}

type Background = NonNullable<LayoutRow['background']>;

/** Changes a layout; what is arranged is seen, and needs no message. */
const setLayout = (
  layout: LayoutRow,
  set: { places?: LayoutRow['places']; background?: Background | null },
): Promise<unknown> => edit('set-layout', { id: layout.id, set }, { quiet: true });

/** Where a unit stands that a layout did not have: as on stage, one beside the other. */
const besides = ({ position }: FixtureRow, i: number): { x: number; y: number } => ({
  x: position.x + i * 0.01,
  y: position.y,
});

function LayoutTools({ layout, fixtures }: { layout: LayoutRow; fixtures: readonly FixtureRow[] }) {
  const file = useRef<HTMLInputElement>(null);
  const { background, places } = layout;
  const missing = fixtures.filter((f) => places && !places[f.id]);
  const putHere = (): void => {
    const added = missing.map((f, i) => [f.id, besides(f, i)] as const);
    void setLayout(layout, { places: { ...places, ...Object.fromEntries(added) } });
  };
  const remove = (): void =>
    void edit('delete-layout', { id: layout.id }).then(() => useStage.setState({ layoutId: null }));
  return (
    <>
      <button type="button" className={SMALL} disabled={missing.length === 0} onClick={putHere}>
        Put selection here
      </button>
      <button type="button" className={SMALL} onClick={() => file.current?.click()}>
        <span className="flex items-center gap-1.5">
          <ImagePlus size={13} /> {background ? 'Another picture' : 'Background picture'}
        </span>
      </button>
      <PictureInput
        label="Background picture"
        input={file}
        onFile={(chosen) => void addPicture(chosen, layout.id)}
      />
      {background && (
        <BackgroundTools
          background={background}
          onChange={(to) => setLayout(layout, { background: to })}
        />
      )}
      <Button kind="danger" className="ml-auto !h-7" onClick={remove}>
        <Trash2 size={13} /> Delete layout
      </Button>
    </>
  );
}

/** To a tenth of a metre. */
const toTenth = (metres: number): number => Math.round(metres * 10) / 10;

/** How wide the picture is, where it lies and how strongly it shows. */
function BackgroundTools({
  background,
  onChange,
}: {
  background: Background;
  /** What it returns is waited for, before the value in the hand gives way to the row's. */
  onChange: (to: Background | null) => Promise<unknown>;
}) {
  const put = (fields: Partial<Background>): Promise<unknown> =>
    onChange({ ...background, ...fields });
  const metres = { digits: 1, unit: 'm', step: 0.1 } as const;
  return (
    <span className="flex items-center text-[12px] text-muted">
      Wide{' '}
      <Scrub
        {...metres}
        label="Width of the picture"
        value={background.width_m}
        min={0.5}
        max={200}
        onSettled={(v) => put({ width_m: toTenth(v) })}
      />
      x{' '}
      <Scrub
        {...metres}
        label="Picture across"
        value={background.x}
        min={-100}
        max={100}
        onSettled={(v) => put({ x: toTenth(v) })}
      />
      y{' '}
      <Scrub
        {...metres}
        label="Picture up"
        value={background.y}
        min={-100}
        max={100}
        onSettled={(v) => put({ y: toTenth(v) })}
      />
      <Scrub
        label="Strength of the picture"
        value={Math.round(background.opacity * 100)}
        unit="%"
        min={5}
        max={100}
        step={5}
        onSettled={(v) => put({ opacity: v / 100 })}
      />
      <IconButton
        label="Take the picture away"
        className="!size-7"
        onClick={() => void onChange(null)}
      >
        <Trash2 size={13} />
      </IconButton>
    </span>
  );
}
