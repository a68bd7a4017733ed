/** A piece of a sheet in use, whatever kind it is. */
'use client';
import { displayRGB, kelvin, toXYZ } from '@/core/color/mix';
import type { PlayedKind } from '@/core/palettes/rows';
import type { PieceIs, PieceRow } from '@/core/sheets/rows';
import type { Show } from '@/core/show/show';
import { useShow } from '../../state/store';
import { LookPicture } from '../../stage/shelf/pictures';
import { usePiece, type Piece } from '../use-piece';
import { ICONS, STRIPES } from './look';
import { PlanPiece } from './PlanPiece';
import { Press } from './Press';
import { ColourField, ColourRun, FaderRun, LevelRun, PositionPad } from './Runs';
import {
  Clock,
  FramePiece,
  LinePiece,
  NotesPiece,
  NowPiece,
  PicturePiece,
  ScriptPiece,
  WordsPiece,
} from './Shows';
import { Unit } from './Unit';

/** The colour that a palette stands for, where it stands for one. */
function Swatch({ id }: { id: string }) {
  const any = useShow().palettes.get(id)?.any;
  const at = any?.kelvin ? kelvin(any.kelvin) : any?.colour;
  if (!at) return null;
  const css = `rgb(${displayRGB(toXYZ({ ...at, Y: 1 })).join(' ')})`;
  return <i aria-hidden="true" className="block size-full" style={{ background: css }} />;
}

/** What a tile stands for, where it has a picture: a palette's colour, the stage with a look on it. */
function TilePicture({ of, id }: { of: PlayedKind; id: string }) {
  const show = useShow();
  const look = of === 'look' ? show.looks.get(id) : undefined;
  const version = `${show.version('looks')}/${show.version('palettes')}/${show.version('fixtures')}`;
  if (of === 'palette') return <Swatch id={id} />;
  // Told of a look by its name alone, there is nothing to show.
  if (!look || look.items.length === 0) return null;
  return (
    <span className="block size-full bg-stage [&>*]:!h-full [&>*]:!rounded-none">
      <LookPicture show={show} look={look} version={version} />
    </span>
  );
}

function hasPicture(show: Show, is: Extract<PieceIs, { kind: 'tile' }>): boolean {
  const any = is.of === 'palette' ? show.palettes.get(is.id)?.any : undefined;
  const isColour = any?.kelvin !== undefined || any?.colour !== undefined;
  return isColour || (is.of === 'look' && (show.looks.get(is.id)?.items.length ?? 0) > 0);
}

function TilePiece({ piece, own }: { piece: PieceRow; own: Piece }) {
  const show = useShow();
  const { is } = piece;
  if (is.kind !== 'tile') return null;
  const picture = hasPicture(show, is) ? <TilePicture of={is.of} id={is.id} /> : undefined;
  return <Press piece={piece} own={own} picture={picture} />;
}

/** Those that show their colour and their icon themselves, or have no room for them. */
function dressesItself(is: PieceIs): boolean {
  switch (is.kind) {
    case 'fader':
      return is.as === 'flash';
    case 'master':
      return is.as === 'blackout';
    default:
      return !DRESSED.has(is.kind);
  }
}
const DRESSED: ReadonlySet<PieceIs['kind']> = new Set([
  'plan',
  'unit',
  'level',
  'colours',
  'field',
  'pad',
  'clock',
  'now',
  'script',
  'notes',
  'words',
  'frame',
  'picture',
]);

/** A piece with its colour along its edge and its icon in a corner, whatever it shows. */
export function PieceView({ piece }: { piece: PieceRow }) {
  const stripe = STRIPES[piece.colour ?? 'plain'];
  const Icon = piece.icon && ICONS[piece.icon];
  const plain = <Shown piece={piece} />;
  if (dressesItself(piece.is) || (stripe === '' && !Icon)) return plain;
  return (
    <div className="relative size-full overflow-hidden rounded-lg">
      {plain}
      {stripe !== '' && (
        <i
          aria-hidden="true"
          data-colour={piece.colour}
          className={`pointer-events-none absolute inset-y-0 left-0 w-1 ${stripe}`}
        />
      )}
      {Icon && (
        <Icon
          aria-hidden="true"
          className="pointer-events-none absolute top-1 right-1 size-[min(22px,30cqh,24cqw)] rounded bg-ink/60 p-0.5 text-soft"
        />
      )}
    </div>
  );
}

function Shown({ piece }: { piece: PieceRow }) {
  const own = usePiece(piece);
  const { is } = piece;
  switch (is.kind) {
    case 'plan':
      return <PlanPiece piece={piece} />;
    case 'unit':
      return <Unit piece={piece} own={own} />;
    case 'tile':
      return <TilePiece piece={piece} own={own} />;
    case 'fader':
      return is.as === 'flash' ? (
        <Press piece={piece} own={own} />
      ) : (
        <FaderRun piece={piece} own={own} />
      );
    case 'master':
      return is.as === 'blackout' ? (
        <Press piece={piece} own={own} />
      ) : (
        <FaderRun piece={piece} own={own} />
      );
    case 'level':
      return <LevelRun piece={piece} own={own} />;
    case 'colours':
      return <ColourRun piece={piece} own={own} />;
    case 'field':
      return <ColourField piece={piece} own={own} />;
    case 'pad':
      return <PositionPad piece={piece} own={own} />;
    case 'clock':
      return <Clock piece={piece} />;
    case 'now':
      return <NowPiece piece={piece} />;
    case 'script':
      return <ScriptPiece piece={piece} />;
    case 'notes':
      return <NotesPiece piece={piece} />;
    case 'words':
      return <WordsPiece piece={piece} />;
    case 'frame':
      return <FramePiece piece={piece} />;
    case 'line':
      return <LinePiece piece={piece} />;
    case 'picture':
      return <PicturePiece piece={piece} />;
    default:
      return <Press piece={piece} own={own} />;
  }
}
