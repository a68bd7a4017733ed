/** Tiles of the shelf: what stands on a palette's, a look's and an effect's, and what a press does. */
'use client';
import { useMemo } from 'react';
import type { EffectRow } from '@/core/effects/rows';
import { fixturesOfLook } from '@/core/looks/resolve';
import type { LookRow } from '@/core/looks/rows';
import { referenceCounts } from '@/core/looks/uses';
import type { HeldValue } from '@/core/live/messages';
import { reachOf } from '@/core/palettes/resolve';
import type { PaletteRow } from '@/core/palettes/rows';
import { plural } from '@/core/words';
import { said } from '../../state/commands';
import { PUT_ON_FADER, putOnFader } from '../../state/put-on-fader';
import { PUT_ON_SHEET, putOnSheet } from '../../state/put-on-sheet';
import { openEffect } from '../../state/trying';
import { mayEdit, mayPlay, useScreen, useShow } from '../../state/store';
import { PLAY_S, type PlayedKind } from '@/core/palettes/rows';
import { useStage } from '../../state/stage';
import { playActions, playTile, usePlayed } from './playing';
import type { Doing } from './doing';
import { MovingEffect, LookPicture, PalettePicture } from './pictures';
import { Tile, type TileAction } from './Tile';

/** As the shelf of a sheet has it: a look plays, the others are given to the selection. */
const onSheet = (of: PlayedKind, { id, name }: { id: string; name: string }): TileAction => ({
  label: PUT_ON_SHEET,
  act: () => putOnSheet(name, { kind: 'tile', of, id, press: of === 'look' ? 'play' : 'give' }),
});
const EFFECT_FADE_S = 1;
const PICTURED = ['palettes', 'looks', 'effects', 'groups', 'fixtures', 'types'] as const;

const times = (uses: number): string => `used ${plural(uses, 'time')}`;

type Values = ReadonlyMap<string, HeldValue>;
const leanings = new WeakMap<Values, string>();

/** An effect on one of the units that it is held for. */
const effectOn = (effectId: string, fixtureId: string): string => `${effectId}\t${fixtureId}`;

/** What held values lean on, as one text: the same while their levels move, so that tiles are not drawn with each of them. */
function leaning(values: Values): string {
  const known = leanings.get(values);
  if (known !== undefined) return known;
  const all = new Set<string>();
  for (const { palette, look, effect, fixtureId } of values.values()) {
    if (palette) all.add(palette);
    if (look) all.add(look);
    if (effect) all.add(effect.id).add(effectOn(effect.id, fixtureId));
  }
  const text = [...all].join('\n');
  leanings.set(values, text);
  return text;
}

/** What all tiles need to know of the moment. */
export function useTiles() {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const leans = useScreen((s) => leaning(s.values));
  const others = useScreen((s) => s.others);
  const role = useScreen((s) => s.you.role);
  const version = PICTURED.map((t) => show.version(t)).join();
  const used = (['cues', 'values', 'looks', 'effects', 'faders'] as const)
    .map((t) => show.version(t))
    .join();
  const played = usePlayed();
  const plays = useStage((s) => s.plays);
  const counts = useMemo(() => {
    void used;
    return referenceCounts(show);
  }, [show, used]);
  const followed = useMemo(() => new Set(leans.split('\n')), [leans]);
  return {
    show,
    /** Changes with everything that pictures are made of. */
    version,
    chosen: selection.flatMap((id) => show.fixtures.get(id) ?? []),
    editable: mayEdit(role),
    playable: mayPlay(role),
    cues: (id: string): number => counts.cues.get(id) ?? 0,
    uses: (id: string): number =>
      Object.values(counts).reduce((sum, of) => sum + (of.get(id) ?? 0), 0),
    /** Where, besides in cues; null where nothing else leans on it. */
    elsewhere: (id: string): string | null => {
      if (counts.looks.has(id)) return 'in looks';
      if (counts.effects.has(id)) return 'in effects';
      return counts.faders.has(id) ? 'on a fader' : null;
    },
    pressed: (id: string): boolean => followed.has(id),
    /** An effect is held for one of the selected, or for any where none is. */
    running: (effectId: string): boolean =>
      selection.length === 0
        ? followed.has(effectId)
        : selection.some((id) => followed.has(effectOn(effectId, id))),
    /** It plays by itself. */
    played: (kind: PlayedKind, id: string): boolean => played.has(`${kind}/${id}`),
    /** A press plays it, instead of taking it into the programmer. */
    plays,
    /** Names of others whose values follow it. */
    heldBy: (id: string): string[] =>
      others.filter((o) => o.follows.includes(id)).map((o) => o.name),
  };
}

type Moment = ReturnType<typeof useTiles>;
type Begin = (doing: Doing) => void;

const playingOf = (moment: Moment, kind: PlayedKind, id: string): TileAction[] =>
  playActions({ kind, id }, moment.played(kind, id), moment.chosen, moment.playable);

const press = (moment: Moment, kind: PlayedKind, id: string): void =>
  playTile({ kind, id }, !moment.played(kind, id), moment.chosen);

function paletteTitle(palette: PaletteRow, chosen: number, reached: number): string {
  if (chosen === 0) return `Palette ${palette.number}: select fixtures first`;
  return reached === 0
    ? `Palette ${palette.number} says nothing for the selected fixtures`
    : `Palette ${palette.number} for ${reached} of ${chosen} selected`;
}

function paletteActions(moment: Moment, palette: PaletteRow, begin: Begin): TileAction[] {
  const { editable, uses } = moment;
  const playing = playingOf(moment, 'palette', palette.id);
  if (!editable)
    return [...playing, { label: 'Find its uses …', act: () => begin({ do: 'uses', palette }) }];
  return [
    ...playing,
    {
      label: `Time when played: ${palette.play_s ?? PLAY_S} s …`,
      act: () => begin({ do: 'time', kind: 'palette', row: palette }),
    },
    { label: 'Update with what you hold …', act: () => begin({ do: 'update', palette }) },
    { label: 'Rename …', act: () => begin({ do: 'rename', palette }) },
    { label: PUT_ON_FADER, act: () => putOnFader('palette', palette.id) },
    onSheet('palette', palette),
    {
      label: `Find its uses (${uses(palette.id)}) …`,
      act: () => begin({ do: 'uses', palette }),
    },
    { label: 'Delete …', danger: true, act: () => begin({ do: 'delete', palette }) },
  ];
}

/** A palette on the shelf. */
export function PaletteTile({
  palette,
  moment,
  begin,
}: {
  palette: PaletteRow;
  moment: Moment;
  begin: Begin;
}) {
  const { show, chosen } = moment;
  const reached = chosen.filter((f) => reachOf(show, palette, f).size > 0).length;
  const cues = moment.cues(palette.id);
  return (
    <Tile
      of={`palettes/${palette.id}`}
      number={palette.number}
      name={palette.name}
      uses={cues === 0 ? (moment.elsewhere(palette.id) ?? 'not used') : `in ${plural(cues, 'cue')}`}
      pressed={moment.pressed(palette.id)}
      held={moment.heldBy(palette.id)}
      dim={!moment.plays && reached === 0}
      disabled={!moment.playable}
      title={paletteTitle(palette, chosen.length, reached)}
      picture={<PalettePicture show={show} palette={palette} version={moment.version} />}
      actions={paletteActions(moment, palette, begin)}
      played={moment.played('palette', palette.id)}
      onApply={() =>
        moment.plays
          ? press(moment, 'palette', palette.id)
          : void said({ command: 'palette', palette: palette.id })
      }
    />
  );
}

function lookActions(moment: Moment, look: LookRow, begin: Begin): TileAction[] {
  const { editable, chosen } = moment;
  const actions: TileAction[] = [
    ...playingOf(moment, 'look', look.id),
    {
      label: editable ? 'Open and tweak …' : 'Open …',
      act: () => begin({ do: 'edit', look }),
    },
  ];
  if (chosen.length > 0)
    actions.push({
      label: 'For the selection alone',
      act: () =>
        void said({ command: 'look', look: look.id, fixtures: chosen.map((f) => f.number) }),
    });
  if (editable)
    actions.push(
      {
        label: `Time when played: ${look.play_s ?? PLAY_S} s …`,
        act: () => begin({ do: 'time', kind: 'look', row: look }),
      },
      { label: PUT_ON_FADER, act: () => putOnFader('look', look.id) },
      onSheet('look', look),
      { label: 'Delete …', danger: true, act: () => begin({ do: 'delete', look }) },
    );
  return actions;
}

/** A look on the shelf. */
export function LookTile({ look, moment, begin }: { look: LookRow; moment: Moment; begin: Begin }) {
  const { show } = moment;
  const uses = moment.uses(look.id);
  return (
    <Tile
      of={`looks/${look.id}`}
      number={look.number}
      name={look.name}
      uses={uses === 0 ? plural(fixturesOfLook(show, look).length, 'fixture') : times(uses)}
      pressed={moment.pressed(look.id)}
      held={moment.heldBy(look.id)}
      dim={false}
      disabled={!moment.playable}
      title={`Look ${look.number}: all its fixtures, whatever is selected`}
      picture={<LookPicture show={show} look={look} version={moment.version} />}
      actions={lookActions(moment, look, begin)}
      played={moment.played('look', look.id)}
      onApply={() =>
        moment.plays
          ? press(moment, 'look', look.id)
          : void said({ command: 'look', look: look.id })
      }
    />
  );
}

function effectTitle(effect: EffectRow, chosen: number, running: boolean): string {
  if (chosen === 0) return `Effect ${effect.number}: select fixtures first`;
  return running
    ? 'Press to take it off the selection'
    : `Over the ${chosen} selected, in their order`;
}

const sayPace = ({ speed }: EffectRow): string => {
  if ('hz' in speed) return `${speed.hz.toFixed(2)} Hz`;
  return 'round_s' in speed ? `${speed.round_s} s` : `${speed.beats} beats`;
};

/** An effect on the shelf. */
export function EffectTile({
  effect,
  moment,
  begin,
}: {
  effect: EffectRow;
  moment: Moment;
  begin: Begin;
}) {
  const { chosen, editable } = moment;
  const running = moment.running(effect.id);
  const uses = moment.uses(effect.id);
  const playing = playingOf(moment, 'effect', effect.id);
  const actions: TileAction[] = [
    ...playing,
    { label: 'Open and change …', act: () => openEffect(effect) },
    { label: 'Put its size on a fader', act: () => putOnFader('effect', effect.id) },
    { label: 'Put its speed on a fader', act: () => putOnFader('effect', effect.id, 'rate') },
    onSheet('effect', effect),
    { label: 'Delete …', danger: true, act: () => begin({ do: 'delete', effect }) },
  ];
  return (
    <Tile
      of={`effects/${effect.id}`}
      number={effect.number}
      name={effect.name}
      uses={uses > 0 ? times(uses) : sayPace(effect)}
      pressed={running}
      dim={!moment.plays && chosen.length === 0}
      played={moment.played('effect', effect.id)}
      disabled={!moment.playable}
      title={effectTitle(effect, chosen.length, running)}
      picture={<MovingEffect effect={effect} />}
      actions={editable ? actions : playing}
      onApply={() =>
        moment.plays
          ? press(moment, 'effect', effect.id)
          : void said({ command: 'effect', effect: effect.id, on: !running, fade_s: EFFECT_FADE_S })
      }
    />
  );
}
