/** What is chosen on a sheet: what it is, how it looks, where it lies among the others. */
'use client';
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalSpaceAround,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalSpaceAround,
  BringToFront,
  Combine,
  Copy,
  SendToBack,
  Split,
  Trash2,
  type LucideIcon,
} from 'lucide-react';
import { nameOf } from '@/core/sheets/pieces';
import { aligned, layered, moved, spread, type Alignment } from '@/core/sheets/arrange';
import { PIECE_COLOURS, PIECE_ICONS, type PieceRow, type SheetRow } from '@/core/sheets/rows';
import { plural } from '@/core/words';
import { Field, IconButton } from '../../parts/controls';
import { useWriting } from '../../parts/use-writing';
import { edit } from '../../state/edits';
import { useShow } from '../../state/store';
import { ICONS, STRIPES } from '../pieces/look';
import { KIND_WORDS } from '../words';
import { Options } from './Options';
import { asPut, writePieces, type Arranged } from './use-arranged';

const ALIGN: readonly [Alignment, string, LucideIcon][] = [
  ['left', 'Left edges in a line', AlignStartVertical],
  ['centre', 'Centres in a line, one above the other', AlignCenterVertical],
  ['right', 'Right edges in a line', AlignEndVertical],
  ['top', 'Upper edges in a line', AlignStartHorizontal],
  ['middle', 'Middles in a line, side by side', AlignCenterHorizontal],
  ['foot', 'Lower edges in a line', AlignEndHorizontal],
];

/** A copy lies so many steps lower and to the right. */
const COPY_STEPS = 1;

/** Copies of the chosen, which are chosen then. */
export async function copyPieces(sheet: SheetRow, arranged: Arranged): Promise<void> {
  await arranged.flush();
  const those = arranged.pieces.filter((p) => arranged.chosen.includes(p.id));
  const joins = new Map<string, string>();
  const top = Math.max(0, ...arranged.pieces.map((p) => p.z)) + 1;
  const by = { x: COPY_STEPS, y: COPY_STEPS };
  const copies = moved(those, by, sheet).map(({ id, together, ...piece }, i) => {
    if (together !== undefined && !joins.has(together)) joins.set(together, `${together}-${id}`);
    const joined = together === undefined ? {} : { together: joins.get(together) };
    return { ...piece, ...joined, z: top + i };
  });
  const answer = await edit(
    'put-pieces',
    { sheet: sheet.id, pieces: copies.map(({ sheet: on, ...p }) => (void on, p)) },
    { quiet: true },
  );
  if ('changes' in answer) arranged.choose(answer.changes.map((c) => c.id));
}

function Layers({ sheet, arranged }: { sheet: SheetRow; arranged: Arranged }) {
  const { pieces, chosen } = arranged;
  const those = pieces.filter((p) => chosen.includes(p.id));
  const put = (next: readonly PieceRow[]): void => void writePieces(sheet, next.map(asPut));
  const lay = (to: 'front' | 'back'): void => put(layered(pieces, new Set(chosen), to));
  const isJoined = those.every(
    (p) => p.together !== undefined && p.together === those[0]?.together,
  );
  const join = (): void =>
    put(
      those.map(({ together, ...p }) => {
        void together;
        return isJoined ? p : { ...p, together: `t${chosen[0] ?? ''}`.slice(0, 120) };
      }),
    );
  return (
    <div className="flex flex-wrap gap-0.5">
      <IconButton label="In front of the others" onClick={() => lay('front')}>
        <BringToFront size={15} />
      </IconButton>
      <IconButton label="Behind the others" onClick={() => lay('back')}>
        <SendToBack size={15} />
      </IconButton>
      <IconButton label="A copy (Ctrl D)" onClick={() => void copyPieces(sheet, arranged)}>
        <Copy size={15} />
      </IconButton>
      {chosen.length > 1 && (
        <IconButton label={isJoined ? 'Each by itself again' : 'Move together'} onClick={join}>
          {isJoined ? <Split size={15} /> : <Combine size={15} />}
        </IconButton>
      )}
      <IconButton
        label="Take off the sheet (Delete)"
        className="!text-danger"
        onClick={() => void edit('delete-pieces', { ids: chosen })}
      >
        <Trash2 size={15} />
      </IconButton>
    </div>
  );
}

function Alignments({ sheet, arranged }: { sheet: SheetRow; arranged: Arranged }) {
  const those = arranged.pieces.filter((p) => arranged.chosen.includes(p.id));
  const put = (next: readonly PieceRow[]): void => void writePieces(sheet, next.map(asPut));
  return (
    <div className="flex flex-wrap gap-0.5">
      {ALIGN.map(([how, label, Icon]) => (
        <IconButton key={how} label={label} onClick={() => put(aligned(those, how))}>
          <Icon size={15} />
        </IconButton>
      ))}
      <IconButton
        label="The same room between them, across"
        disabled={those.length < 3}
        onClick={() => put(spread(those, 'across'))}
      >
        <AlignHorizontalSpaceAround size={15} />
      </IconButton>
      <IconButton
        label="The same room between them, down"
        disabled={those.length < 3}
        onClick={() => put(spread(those, 'down'))}
      >
        <AlignVerticalSpaceAround size={15} />
      </IconButton>
    </div>
  );
}

/** Colour and icon of all that are chosen. */
function Dress({ those, put }: { those: readonly PieceRow[]; put: (next: PieceRow[]) => void }) {
  const [first] = those;
  const dress = (set: Partial<PieceRow>): void => put(those.map((p) => ({ ...p, ...set })));
  const bare = (field: 'colour' | 'icon'): void =>
    put(
      those.map((p) => {
        const { [field]: old, ...rest } = p;
        void old;
        return rest;
      }),
    );
  return (
    <>
      <div role="group" aria-label="Colour" className="flex flex-wrap gap-1">
        {PIECE_COLOURS.map((colour) => (
          <button
            key={colour}
            type="button"
            aria-label={colour}
            aria-pressed={(first?.colour ?? 'plain') === colour}
            onClick={() => (colour === 'plain' ? bare('colour') : dress({ colour }))}
            className={`size-7 rounded-md inset-ring inset-ring-edge aria-pressed:inset-ring-2 aria-pressed:inset-ring-standby ${STRIPES[colour] || 'bg-raised'}`}
          />
        ))}
      </div>
      <div role="group" aria-label="Icon" className="grid grid-cols-6 gap-0.5">
        {PIECE_ICONS.map((icon) => {
          const Icon = ICONS[icon];
          const isOn = first?.icon === icon;
          return (
            <button
              key={icon}
              type="button"
              aria-label={icon}
              aria-pressed={isOn}
              onClick={() => (isOn ? bare('icon') : dress({ icon }))}
              className="grid size-7 place-items-center rounded-md bg-raised text-soft hover:bg-lift aria-pressed:bg-standby-wash aria-pressed:text-standby"
            >
              <Icon size={14} />
            </button>
          );
        })}
      </div>
    </>
  );
}

function NameOnIt({ piece, sheet }: { piece: PieceRow; sheet: SheetRow }) {
  const show = useShow();
  const { label, ...rest } = piece;
  const { field, problem } = useWriting('Name on it', label ?? '', (text) =>
    writePieces(sheet, [text.trim() === '' ? rest : { ...rest, label: text.trim() }].map(asPut)),
  );
  return (
    <Field
      label="Name on it"
      maxLength={60}
      {...field}
      problem={problem}
      placeholder={nameOf(show, { is: piece.is })}
    />
  );
}

/** Pieces that are chosen, in their fields. */
export function Properties({ sheet, arranged }: { sheet: SheetRow; arranged: Arranged }) {
  const show = useShow();
  const those = arranged.pieces.filter((p) => arranged.chosen.includes(p.id));
  const [first] = those;
  const put = (next: readonly PieceRow[]): void => void writePieces(sheet, next.map(asPut));
  if (!first)
    return (
      <aside className="w-52 flex-none border-l border-line p-3 text-[12.5px] leading-[18px] text-muted">
        Drag pieces from the left, or press one. On the sheet: drag to move, a corner for its size,
        a box round several; arrow keys step, with Shift a tenth; Alt while dragging leaves the
        grid.
      </aside>
    );
  return (
    <aside
      aria-label="What is chosen"
      className="w-52 flex-none space-y-3 overflow-y-auto border-l border-line p-3"
    >
      <h2 className="truncate text-[14px] font-semibold">
        {those.length === 1
          ? nameOf(show, first) || KIND_WORDS[first.is.kind]
          : plural(those.length, 'piece')}
      </h2>
      <Layers sheet={sheet} arranged={arranged} />
      {those.length > 1 && <Alignments sheet={sheet} arranged={arranged} />}
      {those.length === 1 && (
        <>
          <NameOnIt key={first.id} piece={first} sheet={sheet} />
          <Options key={first.id} piece={first} put={(is) => put([{ ...first, is }])} />
        </>
      )}
      <Dress those={those} put={put} />
    </aside>
  );
}
