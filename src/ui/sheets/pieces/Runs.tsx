/** Pieces that a finger slides over: levels, faders, colours, places of the stage floor. */
'use client';
import { clamp } from '@/core/numbers';
import { useState } from 'react';
import { between, displayRGB, hueSaturation, toXYZ, type Chromaticity } from '@/core/color/mix';
import { nameOf, unitsOf } from '@/core/sheets/pieces';
import type { PieceIs, PieceRow, Stop } from '@/core/sheets/rows';
import { Pad } from '../../parts/controls';
import { useFader } from '../../parts/use-fader';
import { streamCommand } from '../../state/commands';
import { levelOfUnit } from '../../state/recording';
import { useLevelTick } from '../../state/levels';
import { useScreen, useShow } from '../../state/store';
import { levelPiece, timed, type Piece } from '../use-piece';
import { NAME, SMALL, TITLE } from './look';

interface Of {
  piece: PieceRow;
  own: Piece;
}

const css = (c: Chromaticity): string => `rgb(${displayRGB(toXYZ({ ...c, Y: 1 })).join(' ')})`;

/** Units that a run is for: its group's, or what is selected; and the numbers that a command names. */
function useUnits(is: PieceIs) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const group = 'group' in is && is.group !== undefined ? show.groups.get(is.group) : undefined;
  const ids = unitsOf(show, is, selection);
  const fixtures = ids.flatMap((id) => show.fixtures.get(id)?.number ?? []);
  return { ids, fixtures, called: group?.name ?? 'what is selected' };
}

function Title({ piece, children }: { piece: PieceRow; children: string }) {
  const show = useShow();
  return (
    <span className={`block truncate text-muted ${TITLE}`}>{nameOf(show, piece) || children}</span>
  );
}

const KNOB_PX = 4;

/** A level that lies: of a group, or of what is selected. */
export function LevelRun({ piece, own }: Of) {
  useLevelTick();
  const { ids, fixtures, called } = useUnits(piece.is);
  const levels = ids.flatMap((id) => levelOfUnit(id, 'Dimmer') ?? []);
  const now = levels.length === 0 ? 0 : levels.reduce((a, b) => a + b, 0) / levels.length;
  const disabled = !own.may || fixtures.length === 0 || own.gone !== undefined;
  const { shown, handlers } = useFader(
    now,
    disabled,
    KNOB_PX,
    (level) => levelPiece(piece, level),
    { lies: true },
  );
  const spread = levels.length > 0 && Math.max(...levels) - Math.min(...levels) > 0.01;
  return (
    <div className="flex size-full flex-col gap-1">
      <span className="flex items-baseline justify-between gap-2">
        <Title piece={piece}>{called}</Title>
        <span className={`num flex-none text-soft ${TITLE}`}>
          {fixtures.length === 0 ? 'nobody' : `${Math.round(shown * 100)} %${spread ? ' ±' : ''}`}
        </span>
      </span>
      <div
        role="slider"
        tabIndex={disabled ? -1 : 0}
        aria-label={`Level of ${called}`}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(shown * 100)}
        aria-disabled={disabled}
        {...handlers}
        className={`relative min-h-7 flex-1 touch-none overflow-hidden rounded-lg bg-gradient-to-r from-well to-knob select-none ${disabled ? 'opacity-40' : ''}`}
      >
        <i
          className="absolute inset-y-0 w-1 rounded bg-lime"
          style={{ left: `calc((100% - ${KNOB_PX}px) * ${shown})` }}
        />
      </div>
    </div>
  );
}

/** A fader's knob along its way, in pixels. */
const KNOB = 18;

/** The way of a fader, up to where it stands. */
function Way({ lies, level, tone }: { lies: boolean; level: number; tone: string }) {
  const long = `${level * 100}%`;
  return (
    <i
      className={`absolute rounded ${tone}`}
      style={
        lies
          ? { left: 0, width: long, top: 'calc(50% - 3px)', height: 6 }
          : { bottom: 0, height: long, left: 'calc(50% - 3px)', width: 6 }
      }
    />
  );
}

/** A fader upright, lying, or round. */
export function FaderRun({ piece, own }: Of) {
  const show = useShow();
  const { is } = piece;
  const isMaster = is.kind === 'master';
  const status = useScreen((s) =>
    is.kind === 'fader' ? s.playback.faders.find((f) => f.id === is.fader) : undefined,
  );
  const master = useScreen((s) => s.playback.master);
  const level = isMaster ? master : (status?.level ?? 0);
  const as = is.kind === 'fader' || is.kind === 'master' ? is.as : 'upright';
  const lies = as === 'level';
  const disabled = !own.may || own.gone !== undefined;
  const fader = useFader(level, disabled, KNOB, own.setLevel, { lies });
  const name = nameOf(show, piece);
  const slider = {
    role: 'slider',
    tabIndex: disabled ? -1 : 0,
    'aria-label': name,
    'aria-orientation': lies ? ('horizontal' as const) : ('vertical' as const),
    'aria-valuemin': 0,
    'aria-valuemax': 100,
    'aria-valuenow': Math.round(fader.shown * 100),
    'aria-disabled': disabled,
    ...fader.handlers,
  };
  const says = own.gone ?? (status?.waiting ? `hand at ${Math.round(level * 100)}` : '');
  const number = Math.round(fader.shown * 100);
  const tone = status?.waiting ? 'text-warning' : 'text-text';
  return (
    <div className="flex size-full flex-col items-center gap-1">
      <span className={`num font-semibold ${NAME} ${tone}`}>{number}</span>
      {as === 'knob' ? (
        <Knob level={fader.shown} slider={slider} />
      ) : (
        <div
          {...slider}
          className={`relative w-full flex-1 touch-none overflow-hidden rounded-lg bg-well inset-ring inset-ring-line select-none ${disabled ? 'opacity-50' : ''}`}
        >
          <Way lies={lies} level={1} tone="bg-line" />
          <Way lies={lies} level={fader.shown} tone="bg-lime-past" />
          {status?.waiting && (
            <i
              className="absolute bg-warning"
              style={
                lies
                  ? { insetBlock: '20%', width: 2, left: `${status.real * 100}%` }
                  : { insetInline: '20%', height: 2, bottom: `${status.real * 100}%` }
              }
            />
          )}
          <i
            className={`absolute rounded ${status?.waiting ? 'bg-well inset-ring-2 inset-ring-warning' : 'bg-knob'}`}
            style={
              lies
                ? { insetBlock: 4, width: KNOB, left: `calc((100% - ${KNOB}px) * ${fader.shown})` }
                : {
                    insetInline: 'max(4px, 50% - 44px)',
                    height: KNOB,
                    bottom: `calc((100% - ${KNOB}px) * ${fader.shown})`,
                  }
            }
          />
        </div>
      )}
      <span className={`block w-full truncate text-center ${SMALL}`}>{name}</span>
      {says !== '' && <span className="truncate text-[11px] leading-4 text-warning">{says}</span>}
    </div>
  );
}

/** A knob goes round by so much, open at its foot. */
const KNOB_DEG = { from: -135, way: 270 } as const;

function Knob({ level, slider }: { level: number; slider: React.HTMLAttributes<HTMLDivElement> }) {
  return (
    <div
      {...slider}
      className="relative aspect-square max-h-full min-h-0 flex-1 touch-none rounded-full bg-well inset-ring inset-ring-edge select-none"
    >
      <i
        className="absolute inset-0 rounded-full opacity-70"
        style={{
          background: `conic-gradient(from ${KNOB_DEG.from}deg, var(--color-lime-past) ${level * KNOB_DEG.way}deg, transparent 0)`,
        }}
      />
      <i className="absolute inset-[14%] rounded-full bg-raised" />
      <i
        className="absolute top-[6%] left-1/2 h-[38%] w-1 origin-bottom -translate-x-1/2 rounded bg-knob"
        style={{
          rotate: `${KNOB_DEG.from + level * KNOB_DEG.way}deg`,
          transformOrigin: '50% 116%',
        }}
      />
    </div>
  );
}

function setColour(key: string, fixtures: readonly number[], { x, y }: Chromaticity): void {
  streamCommand(key, { command: 'colour', fixtures: [...fixtures], x, y, ...timed('fade_s') });
}

/** Where a run stands: between which two of its colours. */
function colourAt(stops: readonly Stop[], at: number): Chromaticity {
  const place = at * (stops.length - 1);
  const [a, b] = [stops[Math.floor(place)], stops[Math.ceil(place)]];
  return a && b ? between(a, b, place - Math.floor(place)) : { x: 0.3127, y: 0.329 };
}

interface Spot {
  x: number;
  y: number;
}

/** Where a finger was last on a pad, 0…1 from the left and from the top; arrow keys go on from there. */
function useSpot(onPoint: (at: Spot) => void) {
  const [at, setAt] = useState<Spot | null>(null);
  const put = (to: Spot): void => {
    const spot = {
      x: clamp(to.x),
      y: clamp(to.y),
    };
    setAt(spot);
    onPoint(spot);
  };
  const from = at ?? { x: 0.5, y: 0.5 };
  return {
    at,
    onPoint: (x: number, y: number) => put({ x, y }),
    onStep: (dx: number, dy: number) =>
      put({ x: from.x + dx * PAD_STEP, y: from.y - dy * PAD_STEP }),
  };
}
const PAD_STEP = 0.02;

function Dot({ at }: { at: Spot | null }) {
  if (!at) return null;
  return (
    <i
      className="pointer-events-none absolute size-4 -translate-1/2 rounded-full border-2 border-light shadow-[0_0_0_1px_var(--color-stage)]"
      style={{ left: `${at.x * 100}%`, top: `${at.y * 100}%` }}
    />
  );
}

/** Colours from one to another: a finger slides over them. */
export function ColourRun({ piece, own }: Of) {
  const { fixtures, called } = useUnits(piece.is);
  const stops = piece.is.kind === 'colours' ? piece.is.stops : [];
  const disabled = !own.may || fixtures.length === 0 || own.gone !== undefined;
  const { at, ...pad } = useSpot(({ x }) =>
    setColour(`run/${piece.id}`, fixtures, colourAt(stops, x)),
  );
  return (
    <div className="flex size-full flex-col gap-1">
      <Title piece={piece}>{called}</Title>
      <Pad
        label={`Colour of ${called}`}
        says="from this to that"
        disabled={disabled}
        {...pad}
        className={`min-h-7 flex-1 overflow-hidden rounded-lg ${disabled ? 'opacity-40' : ''}`}
        style={{ background: `linear-gradient(to right, ${stops.map(css).join(', ')})` }}
      >
        <Dot at={at && { x: at.x, y: 0.5 }} />
      </Pad>
    </div>
  );
}

const HUES_DEG = [0, 60, 120, 180, 240, 300, 360];

/** Every hue, weaker towards the foot. */
export function ColourField({ piece, own }: Of) {
  const { fixtures, called } = useUnits(piece.is);
  const disabled = !own.may || fixtures.length === 0 || own.gone !== undefined;
  const { at, ...pad } = useSpot(({ x, y }) =>
    setColour(`run/${piece.id}`, fixtures, hueSaturation(x * 360, 1 - y)),
  );
  return (
    <div className="flex size-full flex-col gap-1">
      <Title piece={piece}>{called}</Title>
      <Pad
        label={`Hue of ${called}`}
        says="hue across, weaker towards the foot"
        disabled={disabled}
        {...pad}
        className={`min-h-7 flex-1 overflow-hidden rounded-lg ${disabled ? 'opacity-40' : ''}`}
        style={{
          background: `linear-gradient(to top, var(--color-light), transparent), linear-gradient(to right, ${HUES_DEG.map((h) => css(hueSaturation(h, 1))).join(', ')})`,
        }}
      >
        <Dot at={at} />
      </Pad>
    </div>
  );
}

/** A part of the stage floor over which a finger aims. */
export function PositionPad({ piece, own }: Of) {
  const { fixtures, called } = useUnits(piece.is);
  const is = piece.is as Extract<PieceIs, { kind: 'pad' }>;
  const disabled = !own.may || fixtures.length === 0 || own.gone !== undefined;
  const { at, ...pad } = useSpot(({ x, y }) =>
    streamCommand(`run/${piece.id}`, {
      command: 'aim',
      fixtures,
      points: [{ x: is.left + (is.right - is.left) * x, y: is.far + (is.near - is.far) * y, z: 0 }],
      flip: false,
      ...timed('fade_s'),
    }),
  );
  return (
    <div className="flex size-full flex-col gap-1">
      <Title piece={piece}>{called}</Title>
      <Pad
        label={`Aim ${called}`}
        says="a place of the stage floor, upstage above"
        disabled={disabled}
        {...pad}
        className={`min-h-7 flex-1 rounded-lg bg-well inset-ring inset-ring-line ${disabled ? 'opacity-40' : ''}`}
      >
        <i className="absolute inset-x-2 top-1/2 h-px bg-line" />
        <i className="absolute inset-y-2 left-1/2 w-px bg-line" />
        <span className="absolute bottom-1 left-1/2 -translate-x-1/2 text-[11px] text-dim">
          house
        </span>
        <Dot at={at} />
      </Pad>
    </div>
  );
}
