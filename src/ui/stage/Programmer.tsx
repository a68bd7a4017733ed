/** The programmer strip: what you hold, what of it is not recorded, live or blind, and the ways out. */
'use client';
import { useDeferredValue, useMemo } from 'react';
import { DropdownMenu, RadioGroup } from 'radix-ui';
import { ChevronDown, ListTree } from 'lucide-react';
import { plural } from '@/core/words';
import { attributeInfo } from '@/core/rig/attributes';
import { FAMILIES, type Family } from '@/core/show/fields';
import type { CueRow } from '@/core/cues/rows';
import type { HeldValue } from '@/core/live/messages';
import { cueCalled, sayNumbers } from '@/core/cues/called';
import { formatCueNumber } from '@/core/cues/number';
import { Button } from '../parts/controls';
import { FilterMenu } from './FilterMenu';
import { askToRecord } from '../frame/ask';
import { useKeyName } from '../frame/keys';
import { live, said } from '../state/commands';
import { record } from '../state/recording';
import { planRecord } from '../state/planned';
import { useStage } from '../state/stage';
import { mayEdit, mayPlay, unrecordedCount, useList, useScreen, useShow } from '../state/store';

/** Families as people read them. */
export const FAMILY_NAMES: Record<Family, string> = {
  intensity: 'Intensity',
  position: 'Position',
  colour: 'Colour',
  beam: 'Beam',
  control: 'Control',
};
const ITEM =
  'flex h-8 cursor-default items-center rounded px-2.5 text-soft outline-none data-[disabled]:text-dim data-[highlighted]:bg-standby-wash data-[highlighted]:text-text';

/** What of a family is held, in a word: one level, one palette, or how many. */
function useSays(): (family: Family, of: readonly HeldValue[]) => string {
  const show = useShow();
  return (family, of) => {
    const [first] = of;
    if (!first) return '';
    const look = of.every((v) => v.look === first.look)
      ? show.looks.get(first.look ?? '')
      : undefined;
    const palette = of.every((v) => v.palette === first.palette)
      ? show.palettes.get(first.palette ?? '')
      : undefined;
    const effect = of.every((v) => v.effect?.id === first.effect?.id)
      ? show.effects.get(first.effect?.id ?? '')
      : undefined;
    const level =
      family === 'intensity' && of.every((v) => Math.abs(v.level - first.level) < 0.0005)
        ? `${Math.round(first.level * 100)} %`
        : undefined;
    return [
      look?.name ?? palette?.name ?? level ?? (effect ? undefined : String(of.length)),
      effect?.name,
    ]
      .filter(Boolean)
      .join(' + ');
  };
}

/** Puts what is held into the cue on stage; what that changes later is said before. */
function Update({ cue, fresh }: { cue: CueRow | undefined; fresh: number }) {
  const show = useShow();
  // While a control is dragged the sentence may come a moment later.
  const values = useDeferredValue(useScreen((s) => s.values));
  const revision = useScreen((s) => s.revision);
  const plan = useMemo(() => {
    void [values, revision];
    return cue && fresh > 0
      ? planRecord(
          { listId: cue.listId, number: cue.number, mode: 'track', existing: 'must' },
          { from: 'programmer' },
          'track',
          'palette',
        )
      : undefined;
  }, [cue, fresh, values, revision]);
  const others = plan?.others ?? [];
  return (
    <span className="flex flex-none items-center gap-1.5">
      {plan && (
        <span
          data-testid="update-also"
          title={plan.problem}
          className={`line-clamp-2 max-w-[132px] text-right text-[11.5px] leading-[14px] ${others.length > 0 ? 'text-warning' : 'text-muted'}`}
        >
          {plan.problem ??
            (others.length > 0
              ? `also changes LX ${sayNumbers(show, others)}`
              : 'no other cue changes')}
        </span>
      )}
      <Button
        kind="line"
        disabled={fresh === 0 || !cue}
        title={cue ? `Put what you hold into ${cueCalled(show, cue)}` : 'No cue is on stage'}
        onClick={() =>
          cue &&
          void record({ listId: cue.listId, number: cue.number, mode: 'track', existing: 'must' })
        }
      >
        Update{cue ? ` ${formatCueNumber(cue.number)}` : ''}
      </Button>
    </span>
  );
}

const WAY =
  'flex h-7 items-center gap-1.5 rounded-[5px] px-2 text-[12.5px] text-muted hover:text-soft';

/** How much is held, and how much of it no cue has yet. */
function Count({ held, fresh }: { held: readonly HeldValue[]; fresh: number }) {
  const fixtures = new Set(held.map((v) => v.fixtureId)).size;
  const recorded = fresh < held.length ? `, ${held.length - fresh} recorded` : '';
  return (
    <>
      <i
        className={`size-2 flex-none rounded-full ${fresh > 0 ? 'bg-unrecorded' : 'border border-edge'}`}
      />
      <b className="text-[13.5px] font-semibold whitespace-nowrap">Your programmer</b>
      <span data-testid="programmer-count" className="whitespace-nowrap text-muted">
        {held.length === 0
          ? 'empty'
          : `${plural(held.length, 'value')}, ${plural(fixtures, 'fixture')}${recorded}`}
      </span>
    </>
  );
}

/** What of each family is held; pressed, it is let go of alone. */
function FamiliesHeld({ held, playable }: { held: readonly HeldValue[]; playable: boolean }) {
  const says = useSays();
  const families = FAMILIES.map((family) => ({
    family,
    of: held.filter((v) => attributeInfo(v.attribute).family === family),
  })).filter((f) => f.of.length > 0);
  return families.map(({ family, of }) => (
    <button
      key={family}
      type="button"
      disabled={!playable}
      title={`Let go of ${FAMILY_NAMES[family].toLowerCase()} alone; with Alt keep it alone`}
      onClick={(e) =>
        void (e.altKey
          ? live({ command: 'keep', families: [family] })
          : live({ command: 'letgo', fade_s: 0, families: [family] }))
      }
      className={`flex h-7 flex-none items-center gap-1.5 rounded-full border px-2.5 text-[12px] whitespace-nowrap ${of.some((v) => !v.recorded) ? 'border-dashed border-unrecorded' : 'border-edge'}`}
    >
      <span className="text-muted">{FAMILY_NAMES[family]}</span>
      <span className="num max-w-[120px] truncate text-[11.5px]">{says(family, of)}</span>
    </button>
  ));
}

function OthersHold() {
  const holding = useScreen((s) => s.others).filter((o) => o.values > 0);
  if (holding.length === 0) return null;
  return (
    <span className="truncate text-[12px] text-muted">
      {holding
        .map((o) => `${o.name} holds ${plural(o.values, 'value')}${o.blind ? ', blind' : ''}`)
        .join(' · ')}
    </span>
  );
}

function SheetSwitch() {
  const sheet = useStage((s) => s.sheet);
  return (
    <button
      type="button"
      aria-pressed={sheet}
      aria-label="What is held, line by line"
      title="What is held, line by line: yours and the others’"
      onClick={() => useStage.setState({ sheet: !sheet })}
      className={`grid size-8 flex-none place-items-center rounded-md ${sheet ? 'bg-lift text-text' : 'text-soft hover:bg-raised'}`}
    >
      <ListTree size={15} />
    </button>
  );
}

/** What is on stage, or was cleared, taken into it. @param on the cue on stage */
function TakeMenu({ on }: { on: CueRow | undefined }) {
  const cleared = useScreen((s) => s.programmer.cleared);
  const cue = on && formatCueNumber(on.number);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="flex h-8 flex-none items-center gap-1 rounded-md px-2 text-[12.5px] text-soft hover:bg-raised">
        Take <ChevronDown size={12} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          side="top"
          sideOffset={6}
          className="z-40 w-64 rounded-lg bg-panel p-1.5 shadow-pop"
        >
          <DropdownMenu.Item
            className={ITEM}
            onSelect={() => void said({ command: 'take', what: 'lit', whole: false })}
          >
            What is lit, as it is on stage
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={ITEM}
            disabled={cue === undefined}
            onSelect={() =>
              cue !== undefined && void said({ command: 'take', what: 'cue', cue, whole: false })
            }
          >
            What {cue === undefined ? 'the cue' : `cue ${cue}`} sets
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={ITEM}
            disabled={cleared === 0}
            onSelect={() => void said({ command: 'bring-back' })}
          >
            Bring back what was cleared
            {cleared > 0 ? ` (${cleared})` : ''}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Emptied at once, or faded back. */
function WaysOut({ isEmpty }: { isEmpty: boolean }) {
  const keyName = useKeyName();
  return (
    <>
      <Button
        kind="quiet"
        className="!px-2"
        disabled={isEmpty}
        title="Empty it; bring back undoes it"
        onClick={() => void live({ command: 'clear' })}
      >
        Clear
      </Button>
      <Button
        kind="quiet"
        className="!px-2"
        disabled={isEmpty}
        title={`Fade back to playback in two seconds (${keyName('letgo')})`}
        onClick={() => void live({ command: 'letgo', fade_s: 2 })}
      >
        Let go
      </Button>
    </>
  );
}

function LiveOrBlind() {
  const blind = useScreen((s) => s.programmer.blind);
  const keyName = useKeyName();
  return (
    <RadioGroup.Root
      aria-label="Live or blind"
      orientation="horizontal"
      value={blind ? 'blind' : 'live'}
      onValueChange={(way) => void live({ command: 'blind', on: way === 'blind' })}
      className="flex flex-none rounded-md bg-ink p-0.5 inset-ring inset-ring-line"
    >
      <RadioGroup.Item
        value="live"
        title="Live: what you hold shows on stage"
        className={`${WAY} data-[state=checked]:bg-lift data-[state=checked]:text-text`}
      >
        <i className={`size-1.5 rounded-full ${blind ? 'bg-faint' : 'bg-lime'}`} />
        Live
      </RadioGroup.Item>
      <RadioGroup.Item
        value="blind"
        title={`Blind: what you set is kept and does not show on stage (${keyName('blind')})`}
        className={`${WAY} data-[state=checked]:bg-standby data-[state=checked]:text-ink`}
      >
        Blind
      </RadioGroup.Item>
    </RadioGroup.Root>
  );
}

/** What is held, in short, and what is done with it. */
export function Programmer() {
  const show = useShow();
  const values = useScreen((s) => s.values);
  const role = useScreen((s) => s.you.role);
  const blind = useScreen((s) => s.programmer.blind);
  const list = useList();
  const keyName = useKeyName();
  const held = [...values.values()];
  const fresh = unrecordedCount(values);
  const on = list?.cueId ? show.cues.get(list.cueId) : undefined;
  const playable = mayPlay(role);
  return (
    <section
      aria-label="Your programmer"
      className={`flex h-12 flex-none items-center gap-2.5 border-t pr-3 pl-4 ${blind ? 'border-standby bg-standby-wash' : 'border-line bg-panel'}`}
    >
      <Count held={held} fresh={fresh} />
      <span className="ml-1 flex min-w-0 flex-1 items-center gap-1.5 overflow-hidden">
        <FamiliesHeld held={held} playable={playable} />
        <OthersHold />
      </span>
      <SheetSwitch />
      {playable && (
        <>
          <FilterMenu />
          <TakeMenu on={on} />
          <WaysOut isEmpty={held.length === 0} />
        </>
      )}
      {mayEdit(role) && (
        <>
          <Update cue={on} fresh={fresh} />
          <Button kind="strong" title={`Record a cue (${keyName('record')})`} onClick={askToRecord}>
            Record
          </Button>
        </>
      )}
      {playable && <LiveOrBlind />}
    </section>
  );
}
