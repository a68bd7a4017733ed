/** Pieces that show something: the time, what is on and next, what the script says, notes, words, pictures. */
'use client';
import { formatCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import type { PieceRow } from '@/core/sheets/rows';
import { firstList } from '@/core/show/show';
import { useCalls } from '../../book/use-calls';
import { useElapsed } from '../../frame/spine-rows';
import { timeOfDay, useHouseNow } from '../../state/house-clock';
import { useScreen, useShow } from '../../state/store';
import { HEADING, LARGE, NAME, SMALL, TITLE, STRIPES } from './look';

interface Of {
  piece: PieceRow;
}

function WallClock() {
  const now = useHouseNow();
  return (
    <span suppressHydrationWarning className={`num font-semibold ${LARGE}`}>
      {timeOfDay(now)}
    </span>
  );
}

/** What is left of the cue on stage. */
function CueClock() {
  const { elapsed, total, running } = useElapsed();
  return (
    <span className={`num font-semibold ${LARGE} ${running ? 'text-lime-word' : 'text-muted'}`}>
      {running ? `${Math.max(0, total - elapsed).toFixed(1)} s` : 'done'}
    </span>
  );
}

/** The time of day, or of the cue. */
export function Clock({ piece }: Of) {
  const isTime = piece.is.kind === 'clock' && piece.is.shows === 'time';
  return (
    <div className="flex size-full flex-col items-center justify-center rounded-lg bg-well">
      {isTime ? <WallClock /> : <CueClock />}
      {piece.label && <span className={`text-muted ${SMALL}`}>{piece.label}</span>}
    </div>
  );
}

const numbered = (cue: CueRow | undefined): string =>
  cue ? `${formatCueNumber(cue.number)} ${cue.name}`.trim() : '';

/** The cue on stage and the next one, of a list. */
export function NowPiece({ piece }: Of) {
  const show = useShow();
  const id =
    piece.is.kind === 'now' && piece.is.list !== undefined
      ? piece.is.list
      : (firstList(show)?.id ?? '');
  const status = useScreen((s) => s.playback.lists.find((l) => l.id === id));
  const { elapsed, total } = useElapsed(id);
  const share = total > 0 ? elapsed / total : 1;
  const list = show.lists.get(id);
  return (
    <div
      aria-live="polite"
      className="flex size-full flex-col justify-center gap-[3cqh] overflow-hidden rounded-lg bg-well px-[4cqw]"
    >
      <span className={`truncate text-muted ${SMALL}`}>
        {piece.label ?? list?.name ?? 'deleted'}
      </span>
      <span className={`truncate font-semibold text-lime-word ${NAME}`}>
        {numbered(show.cues.get(status?.cueId ?? '')) || 'nothing yet'}
      </span>
      {status?.cueId !== null && status !== undefined && (
        <span aria-hidden="true" className="h-1 flex-none overflow-hidden rounded bg-track">
          <i className="block h-full bg-lime" style={{ width: `${share * 100}%` }} />
        </span>
      )}
      {status?.nextId && (
        <span className={`truncate text-standby ${SMALL}`}>
          next {numbered(show.cues.get(status.nextId))}
        </span>
      )}
    </div>
  );
}

/** Letters of the script before and after the next call. */
const AROUND = { before: 220, after: 80 } as const;

/** What is being said where the next cue is called. */
export function ScriptPiece({ piece }: Of) {
  const list = useScreen((s) => s.playback.lists[0]);
  const { script, calls } = useCalls(list?.id);
  const next = calls.find((c) => c.cue.id === list?.nextId)?.call;
  if (!script || !next)
    return (
      <p className={`m-auto text-center text-muted ${SMALL}`}>
        {script ? 'The next cue is called by no word of the script.' : 'There is no script yet.'}
      </p>
    );
  const { text } = script;
  const whole = Math.max(text.lastIndexOf('\n\n', next.from), next.from - AROUND.before, 0);
  return (
    <div className="size-full overflow-y-auto rounded-lg bg-page px-3 py-2">
      <span className={`block text-muted ${TITLE}`}>{piece.label ?? 'Says the script'}</span>
      <p className="mt-1 font-book text-[clamp(13px,7cqw,19px)] leading-[1.45] whitespace-pre-wrap">
        {text.slice(whole, next.from).trimStart()}
        <mark className="border-b-2 border-standby bg-transparent font-semibold text-standby">
          {text.slice(next.from, next.to)}
        </mark>
        <span className="text-muted">{text.slice(next.to, next.to + AROUND.after)}</span>
      </p>
    </div>
  );
}

/** Open notes of the cue on stage. */
export function NotesPiece({ piece }: Of) {
  const show = useShow();
  const cueId = useScreen((s) => s.playback.lists[0]?.cueId ?? null);
  const notes = [...show.notes.values()].filter((n) => !n.done && n.cueId === cueId);
  return (
    <div className="size-full overflow-y-auto rounded-lg bg-well px-3 py-2">
      <span className={`block text-muted ${TITLE}`}>{piece.label ?? 'Notes on this cue'}</span>
      {notes.length === 0 && <p className="text-[12.5px] text-dim">none</p>}
      <ul>
        {notes.map((n) => (
          <li key={n.id} className="mt-1 text-[13px] leading-[18px]">
            {n.text || n.kind}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Words. */
export function WordsPiece({ piece }: Of) {
  return (
    <p className={`flex size-full items-center overflow-hidden font-semibold text-soft ${HEADING}`}>
      <span className="line-clamp-4 [overflow-wrap:anywhere]">
        {piece.is.kind === 'words' ? piece.is.text : ''}
      </span>
    </p>
  );
}

/** A frame around others. */
export function FramePiece({ piece }: Of) {
  return (
    <div className="size-full rounded-xl border border-edge">
      {piece.label && (
        <span className="ml-3 -translate-y-1/2 bg-ink px-1.5 text-[12px] text-muted">
          {piece.label}
        </span>
      )}
    </div>
  );
}

/** A line between others. */
export function LinePiece({ piece }: Of) {
  const lies = piece.w >= piece.h;
  const ink = STRIPES[piece.colour ?? 'plain'] || 'bg-edge';
  return (
    <i
      aria-hidden="true"
      className={`absolute ${ink} ${lies ? 'inset-x-0 top-1/2 h-px' : 'inset-y-0 left-1/2 w-px'}`}
    />
  );
}

/** A picture. */
export function PicturePiece({ piece }: Of) {
  const show = useShow();
  const picture = piece.is.kind === 'picture' ? show.pictures.get(piece.is.picture) : undefined;
  if (!picture)
    return <p className={`m-auto text-warning ${SMALL}`}>its picture has been deleted</p>;
  return (
    <img src={picture.data} alt={picture.name} className="size-full rounded-lg object-contain" />
  );
}
