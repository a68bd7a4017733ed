/** A cue's row of the sheet: number, name, times and trigger; its values are drawn beside it. */
'use client';
import { firstSo } from '@/core/first-so';
import { same } from '@/core/same';
import { Award, Zap } from 'lucide-react';
import { memo, type ReactNode } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import { cueTimes, Others } from '../../frame/spine-rows';
import { useShow } from '../../state/store';
import { ROW } from '../draw-sheet';
import type { CellStep } from '../../parts/CellEditor';
import { RowCell, type RowField } from '../RowCell';
import { actionWords } from '@/core/cues/action-words';
import { triggerOf } from '../words';
import { LEFT } from './use-canvas';
import { CueHandle, useCuePlace } from './MovedCues';
import type { Liked } from './use-marks';

/** How a cue’s row stands. */
export interface LineState {
  /** On stage. */
  now: boolean;
  next: boolean;
  /** Looked at. */
  picked: boolean;
  chosen: boolean;
  /** Found, or one that a change would touch. */
  marked: boolean;
  /** Played already. */
  past: boolean;
}

function ground({ picked, chosen, marked }: LineState): string {
  if (picked) return 'bg-standby-wash';
  if (marked) return 'bg-warning-wash';
  return chosen ? 'bg-standby-wash' : 'bg-ink hover:bg-panel';
}

function Number_({ cue, state }: { cue: CueRow; state: LineState }) {
  const look = firstSo(
    [
      [state.now, 'bg-lime font-semibold text-lime-ink'],
      [state.next, 'text-standby inset-ring inset-ring-standby'],
    ],
    '',
  );
  return (
    <span className={`num w-fit rounded px-1.5 text-[12.5px] leading-[22px] ${look}`}>
      {formatCueNumber(cue.number)}
    </span>
  );
}

function Name({
  cue,
  state,
  liked,
  here,
}: {
  cue: CueRow;
  state: LineState;
  liked: Liked | undefined;
  here: readonly string[] | undefined;
}) {
  const show = useShow();
  const notes = [cue.name, cue.note, cue.operatorNote, cue.designerNote];
  return (
    <span
      className={`block truncate pr-1 ${state.now ? 'font-semibold' : ''}`}
      title={notes.filter(Boolean).join(' · ')}
    >
      {liked && (
        <Award
          size={12}
          role="img"
          aria-label={liked.words}
          className={`mr-1 inline ${liked.lost ? 'text-warning' : 'text-lime-word'}`}
        />
      )}
      {cue.name || 'Unnamed'}
      {cue.actions && (
        <Zap
          size={11}
          role="img"
          aria-label={cue.actions.map((a) => actionWords(show, a)).join('; ')}
          className="ml-1 inline text-muted"
        />
      )}
      {here && (
        <span className="ml-1">
          <Others marks={here} />
        </span>
      )}
    </span>
  );
}

function Trigger({ cue, before }: { cue: CueRow; before: CueRow | undefined }) {
  const trigger = triggerOf(cue, before);
  return (
    <span
      className={`block truncate pr-2 text-[12px] text-muted ${trigger.spoken ? 'font-book' : ''}`}
      title={trigger.long}
    >
      {trigger.short}
    </span>
  );
}

interface LineProps {
  cue: CueRow;
  /** The one before it in the list. */
  before: CueRow | undefined;
  /** In pixels, under the head. */
  top: number;
  template: string;
  state: LineState;
  liked: Liked | undefined;
  here: readonly string[] | undefined;
  /** The field that is written in. */
  editing: RowField | null;
  /** All that are chosen. */
  chosen: readonly string[];
  onBegin: (id: string, what: RowField) => void;
  onDone: () => void;
  onStep: (step: CellStep) => void;
  onPick: (e: React.MouseEvent, id: string) => void;
}

const isSameLine = (a: LineProps, b: LineProps): boolean =>
  (Object.keys(b) as (keyof LineProps)[]).every((k) =>
    k === 'state' ? same(a.state, b.state) : Object.is(a[k], b[k]),
  );

/** Drawn again where something of this cue changes, and not with what hands hold (drawn.test.tsx). */
export const CueLine = memo(function CueLine({
  cue,
  before,
  top,
  template,
  state,
  liked,
  here,
  editing,
  chosen,
  onBegin,
  onDone,
  onStep,
  onPick,
}: LineProps) {
  const field = (what: RowField, children: ReactNode): ReactNode => (
    <RowCell
      cue={cue}
      before={before}
      what={what}
      editing={editing === what}
      chosen={chosen}
      begin={onBegin}
      onDone={onDone}
      onStep={onStep}
    >
      {children}
    </RowCell>
  );
  const place = useCuePlace(cue.id);
  return (
    <div
      ref={place}
      role="row"
      data-sheet-cue={formatCueNumber(cue.number)}
      data-of={`cues/${cue.id}`}
      aria-selected={state.picked || state.chosen}
      onClick={(e) => onPick(e, cue.id)}
      onContextMenu={(e) => !state.chosen && onPick(e, cue.id)}
      className={`absolute left-0 grid cursor-default items-center border-b border-hair pl-3 ${ground(state)} ${state.past ? 'text-dim' : ''}`}
      style={{ width: LEFT, height: ROW, top, gridTemplateColumns: template }}
    >
      {field(
        'number',
        <CueHandle id={cue.id}>
          <Number_ cue={cue} state={state} />
        </CueHandle>,
      )}
      {field('name', <Name cue={cue} state={state} liked={liked} here={here} />)}
      {field(
        'times',
        <span className="num block pr-2 text-right text-[12px] text-muted">{cueTimes(cue)}</span>,
      )}
      {field('trigger', <Trigger cue={cue} before={before} />)}
    </div>
  );
}, isSameLine);
