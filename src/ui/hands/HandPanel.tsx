/** A hand as a picture of itself: its parts, what each does on this page, where it stands; and learning. */
'use client';
import { ChevronDown, ChevronUp, X } from 'lucide-react';
import {
  actOn,
  boundOn,
  HAND_LISTS,
  type ControlId,
  type HandAct,
  type HandRow,
} from '@/core/hands/rows';
import { sayAct, sayControl } from '@/core/hands/words';
import { aRole } from '@/core/roles';
import type { Show } from '@/core/show/show';
import { Button, IconButton } from '../parts/controls';
import { RowMenu } from '../parts/RowMenu';
import { edit } from '../state/edits';
import { heardOf, holdHand, pageIn, turnPage, useHands } from '../state/hands';
import { useLevelTick } from '../state/levels';
import { mayEdit, useScreen, useShow } from '../state/store';
import { levelOfAct } from './feedback';
import { hearDevices } from './use-hands-running';

/** Parts that are slid or turned; the others are keys. An address of another desk may be either, and is shown as a fader. */
const SLIDES = /^(?:cc|bend|slot|pad\.axis)/;

/** Parts of one kind stand together, in the order of their numbers. */
function inOrder(controls: Iterable<ControlId>): ControlId[] {
  const rank = (c: ControlId): string => (SLIDES.test(c) ? '0' : '1');
  return [...controls].sort((a, b) =>
    (rank(a) + a).localeCompare(rank(b) + b, undefined, { numeric: true }),
  );
}

/** A hand that is away from what it would give: there and here. */
function awayOf(act: HandAct | undefined, heard: number | undefined): string | undefined {
  if (act?.do !== 'fader' || heard === undefined) return undefined;
  const status = useScreen.getState().playback.faders.find((f) => f.id === act.fader);
  return status?.waiting ? `hand at ${Math.round(heard * 100)}` : undefined;
}

function Slide({
  level,
  heard,
  away,
}: {
  level: number;
  heard: number | undefined;
  away: boolean;
}) {
  return (
    <span className="relative block h-[84px] w-9">
      <i className="absolute inset-y-0 left-1/2 w-1 -translate-x-1/2 rounded bg-line" />
      <i
        className="absolute bottom-0 left-1/2 w-1 -translate-x-1/2 rounded bg-lime-past"
        style={{ height: `${level * 100}%` }}
      />
      <i
        className={`absolute left-1 h-3.5 w-7 rounded ${away ? 'inset-ring-2 inset-ring-warning' : 'bg-knob'}`}
        style={{ bottom: `calc(${away ? (heard ?? level) : level} * (100% - 14px))` }}
      />
    </span>
  );
}

function Part({ hand, control, page }: { hand: HandRow; control: ControlId; page: number }) {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  useScreen((s) => s.playback);
  useScreen((s) => s.selection);
  const heard = useHands((s) => heardOf(s, hand.id)?.[control]);
  const act = actOn(hand, page, control);
  const says = act ? sayAct(show, act) : undefined;
  const level = (act && levelOfAct(act)) ?? heard ?? 0;
  const away = awayOf(act, heard);
  const isSlide = SLIDES.test(control);
  const name = says ?? (act ? 'deleted' : 'nothing');
  const unsaid = act ? 'text-warning' : 'text-dim';
  return (
    <RowMenu
      label={sayControl(control)}
      items={() => [
        {
          label: 'Does nothing on this page',
          disabled: !may || !hand.bindings[`${page}:${control}`],
          run: () => void edit('bind', { hand: hand.id, page, control, act: null }),
        },
        {
          label: 'Does this on every page',
          disabled: !may || !act || hand.bindings[`0:${control}`] === act,
          run: () => void edit('bind', { hand: hand.id, page: 0, control, act }),
        },
      ]}
    >
      <div
        tabIndex={0}
        data-part={control}
        title={`${sayControl(control)}: ${name}`}
        className="flex w-[76px] flex-none flex-col items-center gap-0.5"
      >
        <span className={`num text-[12.5px] font-semibold ${away ? 'text-warning' : ''}`}>
          {Math.round(level * 100)}
        </span>
        {isSlide ? (
          <Slide level={level} heard={heard} away={away !== undefined} />
        ) : (
          <span
            className={`mt-3 mb-5 grid h-[52px] w-14 place-items-center rounded-lg ${level > 0 ? 'bg-lime-wash inset-ring-2 inset-ring-lime' : 'bg-raised inset-ring inset-ring-edge'}`}
          />
        )}
        <span
          className={`w-full truncate text-center text-[12px] leading-4 ${says === undefined ? unsaid : ''}`}
        >
          {name}
        </span>
        <span className="num w-full truncate text-center text-[11px] leading-3 text-muted">
          {away ?? sayControl(control)}
        </span>
      </div>
    </RowMenu>
  );
}

/** What a part may do that is on no sheet. */
function actsOf(show: Show): { says: string; act: HandAct }[] {
  const acts: HandAct[] = [
    ...HAND_LISTS.map((what): HandAct => ({ do: 'list', what })),
    { do: 'master' },
    { do: 'blackout' },
    { do: 'page', by: 1 },
    { do: 'page', by: -1 },
    ...[...show.faders.values()]
      .sort((a, b) => a.number - b.number)
      .flatMap(({ id }): HandAct[] => [
        { do: 'fader', fader: id },
        { do: 'flash', fader: id },
      ]),
  ];
  return acts.flatMap((act) => {
    const says = sayAct(show, act);
    return says === undefined ? [] : [{ says: act.do === 'fader' ? `fader ${says}` : says, act }];
  });
}

function Learn({ hand }: { hand: HandRow }) {
  const show = useShow();
  const learning = useHands((s) => s.learning);
  const isOn = learning?.hand === hand.id;
  const acts = actsOf(show);
  const says = learning?.act ? sayAct(show, learning.act) : undefined;
  // What is moved has to be heard: a hand that is learned with plays from here.
  const begin = (): void => {
    if (hand.at === 'screen') holdHand(hand.id, true);
    useHands.setState({ learning: { hand: hand.id, act: null } });
  };
  if (!isOn)
    return (
      <Button kind="line" onClick={begin}>
        Learn
      </Button>
    );
  return (
    <div className="space-y-1.5">
      <p role="status" data-testid="learning" className="w-44 text-[12px] leading-4 text-standby">
        {says === undefined
          ? 'Touch a piece of the sheet, or choose:'
          : `“${says}”: now move what shall play it.`}
      </p>
      <select
        aria-label="What it shall do"
        value=""
        onChange={(e) => {
          const chosen = acts[Number(e.target.value)];
          if (chosen) useHands.setState({ learning: { hand: hand.id, act: chosen.act } });
        }}
        className="h-8 w-44 rounded-md bg-raised px-1.5 text-[12.5px]"
      >
        <option value="">choose …</option>
        {acts.map((a, i) => (
          <option key={a.says} value={i}>
            {a.says}
          </option>
        ))}
      </select>
      <Button kind="strong" onClick={() => useHands.setState({ learning: null })}>
        Learned
      </Button>
    </div>
  );
}

/** A hand’s parts, what each does, and learning. */
export function HandPanel({ hand }: { hand: HandRow }) {
  useLevelTick();
  const may = mayEdit(useScreen((s) => s.you.role));
  const page = useHands((s) => pageIn(s, hand.id));
  const heard = useHands((s) => heardOf(s, hand.id));
  const { hears, deaf, learning, player, held } = useHands();
  const isThere = hand.at === 'player';
  const isHere = isThere || held.includes(hand.id);
  const here = deaf === null ? [] : [deaf];
  const cannot = isThere ? player.problems : here;
  const isLearning = learning?.hand === hand.id;
  const parts = inOrder(new Set([...boundOn(hand, page).keys(), ...Object.keys(heard ?? {})]));
  const name = hand.pages[page - 1];
  return (
    <section
      aria-label={`Hand ${hand.name}`}
      className="flex h-[168px] flex-none gap-4 overflow-hidden border-t border-line bg-panel px-4 py-3"
    >
      <div className="w-48 flex-none overflow-y-auto">
        <div className="flex items-center">
          <span className="cap min-w-0 flex-1 truncate">{hand.name}</span>
          <IconButton
            label="Put the picture away"
            className="!size-7"
            onClick={() => useHands.setState({ open: null, learning: null })}
          >
            <X size={14} />
          </IconButton>
        </div>
        {!isLearning && (
          <>
            {hand.pages.length > 1 && (
              <p className="flex items-center gap-1 text-[12px] text-muted">
                page {page} of {hand.pages.length}
                {name ? ` “${name}”` : ''}
                {!isThere && (
                  <>
                    <IconButton
                      label="The page before"
                      className="!size-7"
                      onClick={() => turnPage(hand, -1)}
                    >
                      <ChevronUp size={14} />
                    </IconButton>
                    <IconButton
                      label="The next page"
                      className="!size-7"
                      onClick={() => turnPage(hand, 1)}
                    >
                      <ChevronDown size={14} />
                    </IconButton>
                  </>
                )}
              </p>
            )}
            {!isHere && (
              <Button kind="quiet" className="-ml-3" onClick={() => holdHand(hand.id, true)}>
                Play it from this screen
              </Button>
            )}
            {hand.kind === 'midi' && isHere && !isThere && !hears && (
              <Button kind="quiet" className="-ml-3" onClick={() => void hearDevices()}>
                Hear the devices here
              </Button>
            )}
          </>
        )}
        {may && <Learn hand={hand} />}
        {isThere && (
          <p className="text-[12px] leading-4 text-muted">
            at the player’s machine, as {aRole(hand.role ?? 'operator').toLowerCase()}
          </p>
        )}
        {cannot.map((why) => (
          <p key={why} className="text-[11.5px] leading-4 text-warning">
            {why}
          </p>
        ))}
      </div>
      <div className="flex min-w-0 flex-1 gap-1 overflow-x-auto">
        {parts.length === 0 && (
          <p className="m-auto text-[12.5px] text-muted">
            Nothing was heard of it yet, and nothing is bound on this page.
          </p>
        )}
        {parts.map((control) => (
          <Part key={control} hand={hand} control={control} page={page} />
        ))}
      </div>
    </section>
  );
}
