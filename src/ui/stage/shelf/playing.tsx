/** Playing what is on the shelf by itself, without the programmer; and the time that each of them takes. */
'use client';
import { z } from 'zod';
import { seconds } from '@/core/cues/clock';
import { PLAY_S, type PlayedKind } from '@/core/palettes/rows';
import { takesSelection } from '@/core/palettes/resolve';
import type { FixtureRow } from '@/core/fixtures/rows';
import { Button, Dialog } from '../../parts/controls';
import { FormField, typedTime, useSchemaForm } from '../../parts/form';
import { said } from '../../state/commands';
import { edit } from '../../state/edits';
import { useScreen } from '../../state/store';
import type { TileAction } from './Tile';

interface Thing {
  kind: PlayedKind;
  id: string;
}

/** @param chosen on these units; none: on those that it was made for */
const play = (thing: Thing, on: boolean, chosen: readonly FixtureRow[]): void =>
  void said({
    command: 'play',
    ...thing,
    on,
    ...(on && chosen.length > 0 ? { fixtures: chosen.map((f) => f.number) } : {}),
  });

const onSelection = (thing: Thing): boolean => takesSelection(useScreen.getState().show, thing);

/** A press: on its units; a second lets it go. */
export const playTile = (thing: Thing, on: boolean, chosen: readonly FixtureRow[]): void =>
  play(thing, on, onSelection(thing) ? chosen : []);

/** Lines of a menu that play something, or end it. */
export function playActions(
  thing: Thing,
  plays: boolean,
  chosen: readonly FixtureRow[],
  able: boolean,
): TileAction[] {
  if (!able) return [];
  if (plays) return [{ label: 'Let it go', act: () => play(thing, false, []) }];
  const onSelected: TileAction[] =
    chosen.length > 0
      ? [
          {
            label: `Play it on the ${chosen.length} selected`,
            act: () => play(thing, true, chosen),
          },
        ]
      : [];
  return onSelection(thing) && chosen.length > 0
    ? onSelected
    : [{ label: 'Play it', act: () => play(thing, true, []) }, ...onSelected];
}

/** What plays, by `kind/id`. */
export function usePlayed(): ReadonlySet<string> {
  const played = useScreen((s) => s.playback.played);
  return new Set(played.map((p) => `${p.kind}/${p.id}`));
}

/** Empty: as all others. */
const Draft = z.object({
  time: typedTime(true).transform((t) => (t === '' ? null : (seconds(t) ?? null))),
});

/** The time in which something plays by itself. */
export function PlayTime({
  kind,
  row,
  onClose,
}: {
  kind: 'palette' | 'look';
  row: { id: string; number: number; name: string; play_s?: number | undefined };
  onClose: () => void;
}) {
  const form = useSchemaForm(Draft, { time: String(row.play_s ?? '') });
  const save = form.handleSubmit(async ({ time }) => {
    const answer = await edit(`change-${kind}`, { id: row.id, set: { play_s: time } });
    if ('seq' in answer) onClose();
  });
  return (
    <Dialog
      of={`${kind}s/${row.id}`}
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Time of ${kind} ${row.number} “${row.name}” when played`}
      about="In which it comes in by itself, and lets go. Cues, looks and your programmer have their own times."
      width="w-[360px]"
    >
      <form onSubmit={(e) => void save(e)}>
        <FormField
          form={form}
          name="time"
          label="Seconds"
          number
          autoFocus
          placeholder={String(PLAY_S)}
        />
        <div className="mt-4 flex justify-end">
          <Button kind="strong" type="submit">
            Keep it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
