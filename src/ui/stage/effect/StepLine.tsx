/** What is chosen in the lanes, in words and numbers: a step with where it goes to and how long it takes, or a whole lane. */
'use client';
import { clamp } from '@/core/numbers';
import { DropdownMenu } from 'radix-ui';
import { ChevronDown, Plus, Trash2 } from 'lucide-react';
import { isFamilyLane, attributesOfLane } from '@/core/effects/lanes';
import { WAVES, type EffectStep, type EffectTrack } from '@/core/effects/rows';
import {
  MOST_STEPS,
  placesOfSteps,
  stepsOfWave,
  withoutStep,
  withStepAt,
  withTakes,
} from '@/core/effects/shape';
import { KNOWN_ATTRIBUTES, baseOf, familyOf } from '@/core/rig/attributes';
import { PALETTE_FAMILIES } from '@/core/palettes/rows';
import { inOrder } from '@/core/plan/edits';
import { slotKey } from '@/core/cues/rows';
import { stepInUnit } from '@/core/rig/unit-value';
import type { HeldValue } from '@/core/live/messages';
import { Button, IconButton, Scrub } from '../../parts/controls';
import { MENU, MENU_ITEM } from '../../parts/menu';
import { notice } from '../../state/messages';
import { useScreen, useShow } from '../../state/store';
import { change, changeLane, choose, LANE, type Trying } from '../../state/trying';
import type { Chosen } from '../deck/chosen';
import { channelFor, laneName, laneUnit, levelOfWords, sayStep, stepInWords } from './words';

const LINE = 'flex flex-none flex-wrap items-center gap-x-4 gap-y-1 px-4 text-[12.5px] text-soft';

/** The step that is chosen, in a line. */
export function StepLine({ trying, chosen }: { trying: Trying; chosen: readonly Chosen[] }) {
  const track = trying.draft.tracks[trying.lane];
  if (!track) return null;
  return (
    <div className="flex-none border-t border-line pt-1.5 pb-2">
      <div className={`${LINE} min-h-8`}>
        {track.wave === 'steps' ? (
          <StepWords trying={trying} track={track} chosen={chosen} />
        ) : (
          <WaveWords track={track} chosen={chosen} />
        )}
      </div>
      <div className={`${LINE} mt-1 !gap-x-2`}>
        <AddLane trying={trying} chosen={chosen} />
        {track.wave === 'steps' && (
          <>
            <HeldStep trying={trying} track={track} chosen={chosen} />
            <PaletteStep trying={trying} track={track} />
          </>
        )}
        {trying.draft.tracks.length > 1 && (
          <Button
            kind="quiet"
            onClick={() => {
              change({ tracks: trying.draft.tracks.filter((_, i) => i !== trying.lane) });
              choose(0, null);
            }}
          >
            Take the lane {laneName(track.attribute)} out
          </Button>
        )}
      </div>
    </div>
  );
}

const signOf = (track: EffectTrack): string =>
  track.mode === 'relative' ? 'from the level beneath' : '';

function StepWords({
  trying,
  track,
  chosen,
}: {
  trying: Trying;
  track: EffectTrack;
  chosen: readonly Chosen[];
}) {
  const show = useShow();
  const steps = track.steps ?? [];
  const at = trying.step;
  const step = at === null ? undefined : steps[at];
  if (at === null || !step)
    return (
      <>
        <span className="text-muted">
          Drag a dot anywhere; double click in the lane for another step.
        </span>
        <Shift track={track} />
        <CurveChoice track={track} />
      </>
    );
  const channel = channelFor(chosen, track.attribute);
  const place = placesOfSteps(steps)[at];
  const set = (fields: Partial<EffectStep>): void =>
    changeLane({ steps: steps.map((s, i) => (i === at ? { ...s, ...fields } : s)) });
  const said = step.palette !== undefined || step.units !== undefined || isFamilyLane(track);
  return (
    <>
      <span className="font-medium text-standby">
        {laneName(track.attribute)} {said && sayStep(show, track, step, channel)}
        {!said && (
          <Scrub
            label={`Step ${at + 1}: where it goes to`}
            value={stepInWords(track, step, channel)}
            unit={`${laneUnit(track.attribute, channel)} ${signOf(track)}`}
            min={-100_000}
            max={100_000}
            digits={0}
            onChange={(v) => set({ level: levelOfWords(track, v, channel) })}
          />
        )}
      </span>
      <span className="flex items-center">
        takes
        <Scrub
          label={`Step ${at + 1}: takes of the round`}
          value={Math.round(((place?.to ?? 0) - (place?.from ?? 0)) * 100)}
          unit="% of the round,"
          min={1}
          max={99}
          onChange={(v) => changeLane({ steps: withTakes(steps, at, v / 100) })}
        />
        moving for
        <Scrub
          label={`Step ${at + 1}: moves for`}
          value={Math.round(step.share * 100)}
          unit="% of that"
          min={0}
          max={100}
          onChange={(v) => set({ share: v / 100 })}
        />
      </span>
      {said && !isFamilyLane(track) && (
        <Button
          kind="quiet"
          onClick={() => {
            const plain: EffectStep = { level: step.level, share: step.share };
            changeLane({
              steps: steps.map((s, i) =>
                i === at ? { ...plain, ...(s.takes === undefined ? {} : { takes: s.takes }) } : s,
              ),
            });
          }}
        >
          Type it instead
        </Button>
      )}
      <IconButton
        label="Take this step out"
        className="!size-7"
        disabled={steps.length <= 2}
        onClick={() => {
          changeLane({ steps: withoutStep(steps, at) });
          choose(trying.lane, null);
        }}
      >
        <Trash2 size={13} />
      </IconButton>
    </>
  );
}

function Shift({ track }: { track: EffectTrack }) {
  return (
    <span className="flex items-center">
      shifted by
      <Scrub
        label="Shifted against the other lanes"
        value={Math.round(track.offset * 100)}
        unit="% of the round"
        min={0}
        max={100}
        onChange={(v) => changeLane({ offset: v / 100 })}
      />
    </span>
  );
}

function CurveChoice({ track }: { track: EffectTrack }) {
  return (
    <span className="flex gap-1" role="group" aria-label="How steps move">
      {(['straight', 'smooth'] as const).map((curve) => (
        <button
          key={curve}
          type="button"
          aria-pressed={(track.curve ?? 'straight') === curve}
          onClick={() => changeLane({ curve })}
          className={CHIP}
        >
          {curve}
        </button>
      ))}
    </span>
  );
}

/** How a small button of that line looks. */
export const CHIP =
  'h-7 rounded-md bg-raised px-2.5 text-[12.5px] text-soft hover:bg-lift aria-pressed:bg-standby-wash aria-pressed:text-standby aria-pressed:inset-ring aria-pressed:inset-ring-standby';

/** A wave: which, how far, for how much of the round. */
function WaveWords({ track, chosen }: { track: EffectTrack; chosen: readonly Chosen[] }) {
  const channel = channelFor(chosen, track.attribute);
  const perUnit = stepInUnit(track.attribute, channel, 1) || 0.01;
  const unit = laneUnit(track.attribute, channel);
  return (
    <>
      <span className="flex gap-1" role="group" aria-label="Wave">
        {WAVES.filter((w) => w !== 'steps').map((wave) => (
          <button
            key={wave}
            type="button"
            aria-pressed={track.wave === wave}
            onClick={() => changeLane({ wave })}
            className={CHIP}
          >
            {wave}
          </button>
        ))}
      </span>
      <span className="flex items-center">
        over
        <Scrub
          label="How far the wave goes"
          value={track.size / perUnit}
          unit={unit}
          min={-1 / Math.abs(perUnit)}
          max={1 / Math.abs(perUnit)}
          onChange={(v) => changeLane({ size: clamp(v * perUnit, -1) })}
        />
        in
        <Scrub
          label="How much of the round the wave takes"
          value={Math.round(track.width * 100)}
          unit="% of the round"
          min={5}
          max={100}
          onChange={(v) => changeLane({ width: v / 100 })}
        />
      </span>
      <Shift track={track} />
      <Button
        onClick={() =>
          changeLane({
            wave: 'steps',
            steps: stepsOfWave(track.wave),
            curve: track.wave === 'sine' ? 'smooth' : 'straight',
          })
        }
      >
        Make steps of it
      </Button>
    </>
  );
}

const STEPS: EffectStep[] = [
  { level: 1, share: 1, takes: 0.5 },
  { level: 0, share: 1, takes: 0.5 },
];

/** Lanes that the selection can have and this effect has not. */
function AddLane({ trying, chosen }: { trying: Trying; chosen: readonly Chosen[] }) {
  const show = useShow();
  const { tracks } = trying.draft;
  const has = (attribute: string): boolean => tracks.some((t) => t.attribute === attribute);
  const able = new Set(chosen.flatMap((c) => c.attributes.map(baseOf)));
  const attributes = (chosen.length > 0 ? [...able] : [...KNOWN_ATTRIBUTES]).filter((a) => !has(a));
  const families = PALETTE_FAMILIES.filter(
    (f) => !has(f) && [...show.palettes.values()].some((p) => p.family === f),
  );
  const add = (track: EffectTrack): void => {
    change({ tracks: [...tracks, track] });
    choose(tracks.length, track.wave === 'steps' ? 0 : null);
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button disabled={tracks.length >= 16}>
          <Plus size={14} /> Lane
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          aria-label="Another lane"
          className={`${MENU} max-h-80 overflow-y-auto`}
          side="top"
        >
          {families.map((family) => {
            const first = inOrder(
              [...show.palettes.values()].filter((p) => p.family === family),
            ).slice(0, 2);
            return (
              <DropdownMenu.Item
                key={family}
                className={MENU_ITEM}
                onSelect={() =>
                  add({
                    ...LANE,
                    attribute: family,
                    wave: 'steps',
                    mode: 'absolute',
                    size: 1,
                    steps: [0, 1].map((i) => {
                      const palette = (first[i] ?? first[0])?.id;
                      return {
                        level: 0,
                        share: 1,
                        takes: 0.5,
                        ...(palette === undefined ? {} : { palette }),
                      };
                    }),
                  })
                }
              >
                {laneName(family)}, from palette to palette
              </DropdownMenu.Item>
            );
          })}
          {attributes.map((attribute) => (
            <DropdownMenu.Item
              key={attribute}
              className={MENU_ITEM}
              onSelect={() =>
                add(
                  familyOf(attribute) === 'intensity'
                    ? { ...LANE, attribute, wave: 'steps', mode: 'absolute', size: 1, steps: STEPS }
                    : {
                        ...LANE,
                        attribute,
                        wave: 'steps',
                        size: 0.2,
                        steps: STEPS,
                        curve: 'smooth',
                      },
                )
              }
            >
              {laneName(attribute)}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** In the middle of the longest step, where there is most room. */
function roomIn(steps: readonly EffectStep[]): number {
  const places = placesOfSteps(steps);
  const longest = [...places].sort((a, b) => b.to - b.from - (a.to - a.from))[0];
  return longest ? (longest.from + longest.to) / 2 : 0.5;
}

/** Puts a step into the lane: in place of the chosen one, or as another. */
function put(trying: Trying, track: EffectTrack, fresh: Omit<EffectStep, 'share' | 'takes'>): void {
  const steps = track.steps ?? [];
  const set = (next: EffectStep[]): void =>
    changeLane({
      steps: next,
      ...(track.mode === 'relative' ? { mode: 'absolute', size: 1, base: 0 } : {}),
    });
  if (trying.step === null) return set(withStepAt(steps, roomIn(steps), fresh));
  set(
    steps.map((s, i) =>
      i === trying.step
        ? { ...fresh, share: s.share, ...(s.takes === undefined ? {} : { takes: s.takes }) }
        : s,
    ),
  );
}

/** What the selected units hold, or stand at, of the lane’s attributes. */
function HeldStep({
  trying,
  track,
  chosen,
}: {
  trying: Trying;
  track: EffectTrack;
  chosen: readonly Chosen[];
}) {
  const values = useScreen((s) => s.values);
  const take = (): void => {
    const held = chosen.flatMap((c) =>
      attributesOfLane(c.mode, track).flatMap((attribute): HeldValue[] => {
        const v = values.get(slotKey(c.fixture.id, attribute));
        return v ? [v] : [];
      }),
    );
    const [first] = held;
    if (!first) {
      notice.warning(
        `You hold no ${laneName(track.attribute).toLowerCase()} of the selected units.`,
      );
      return;
    }
    const palettes = new Set(held.map((v) => v.palette));
    if (first.palette !== undefined && palettes.size === 1) {
      put(trying, track, { level: first.level, palette: first.palette });
      return;
    }
    const units: Record<string, Record<string, number>> = {};
    for (const v of held) (units[v.fixtureId] ??= {})[v.attribute] = v.level;
    const isOne = !isFamilyLane(track) && held.every((v) => v.level === first.level);
    put(trying, track, { level: first.level, ...(isOne ? {} : { units }) });
  };
  const full = (track.steps?.length ?? 0) >= MOST_STEPS && trying.step === null;
  return (
    <Button disabled={chosen.length === 0 || full} onClick={take}>
      {trying.step === null ? 'Step from what I hold' : 'This step from what I hold'}
    </Button>
  );
}

function PaletteStep({ trying, track }: { trying: Trying; track: EffectTrack }) {
  const show = useShow();
  const family = isFamilyLane(track) ? track.attribute : familyOf(track.attribute);
  const palettes = inOrder([...show.palettes.values()].filter((p) => p.family === family));
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button disabled={palettes.length === 0}>
          {trying.step === null ? 'Step from a palette' : 'This step from a palette'}{' '}
          <ChevronDown size={13} />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          aria-label="Palettes"
          side="top"
          className={`${MENU} max-h-80 overflow-y-auto`}
        >
          {palettes.map((p) => (
            <DropdownMenu.Item
              key={p.id}
              className={MENU_ITEM}
              onSelect={() => put(trying, track, { level: 0, palette: p.id })}
            >
              <span className="num text-muted">{p.number}</span> {p.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
