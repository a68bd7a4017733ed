/** The board: who may play what, asking for it, handing it over with a word on what is next, and the owner's taking it. */
'use client';
import { useState } from 'react';
import { boardOver, thingKey } from '@/core/live/boards';
import { type BoardState } from '@/core/live/messages';
import { FADERS_A_PAGE, type Thing } from '@/core/live/thing';
import { Ask } from '../parts/Ask';
import { Button, Choice, Dialog, Field } from '../parts/controls';
import { said } from '../state/commands';
import { mayPlay, useScreen, useShow, usePlayback } from '../state/store';
import { useParts } from '../state/use-parts';

/** What there may be a board of: the show, each list, each page of faders. */
function useThings(): { thing: Thing; words: string }[] {
  const show = useShow();
  const lists = [...show.lists.values()].sort((a, b) => a.number - b.number);
  const last = Math.max(0, ...[...show.faders.values()].map((f) => f.number));
  return [
    { thing: 'show', words: 'The show' },
    ...(lists.length > 1
      ? lists.map((l) => ({ thing: { list: l.id }, words: `List ${l.number} ${l.name}` }))
      : []),
    ...Array.from({ length: Math.ceil(last / FADERS_A_PAGE) }, (_, i) => ({
      thing: { faders: i + 1 },
      words: `Faders ${i * FADERS_A_PAGE + 1}–${(i + 1) * FADERS_A_PAGE}`,
    })),
  ];
}

/** Who may play what, asking for it, handing it over. */
export function BoardDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog
      open={open}
      onOpenChange={(o) => !o && onClose()}
      title="The board"
      about="Exactly one person plays a thing. A list or a page of faders without a board of its own is played by who is on the show’s."
      width="w-[600px]"
    >
      {open && <Boards />}
    </Dialog>
  );
}

/** Everything that has a board. */
export function Boards() {
  const things = useThings();
  return (
    <ul>
      {things.map(({ thing, words }) => (
        <Row key={thingKey(thing)} thing={thing} words={words} />
      ))}
    </ul>
  );
}

function Row({ thing, words }: { thing: Thing; words: string }) {
  const { you, people } = useParts(useScreen, 'you', 'people');
  const { boards } = usePlayback('boards');
  const [handing, setHanding] = useState(false);
  const [taking, setTaking] = useState(false);
  const board: BoardState | undefined = boards.find((b) => thingKey(b.thing) === thingKey(thing));
  const decides = boardOver(boards, thing);
  const mine = board?.userId === you.userId;
  /** Without a board of its own it is played, and given away, by who is on the show's. */
  const shows = !board && thing !== 'show' && decides?.userId === you.userId;
  const asks = !board && decides !== undefined && !shows;
  const others = people.filter((p) => p.userId !== you.userId && mayPlay(p.role));
  const may = mayPlay(you.role);
  const ofOthers = board ? 'text-soft' : 'text-muted';
  const whose = (): string => {
    if (board) return mine ? 'you' : board.name;
    if (thing === 'show') return 'nobody: the first to play takes it';
    const name = shows ? 'you' : decides?.name;
    return name === undefined ? 'with the show' : `with the show: ${name}`;
  };
  return (
    <li data-board={thingKey(thing)} className="border-t border-line py-2 first:border-t-0">
      <div className="flex min-h-9 items-center gap-3">
        <div className="min-w-0 flex-1">
          <div className="truncate font-medium">{words}</div>
          <div className={`truncate text-[12.5px] ${mine ? 'text-standby' : ofOthers}`}>
            {whose()}
            {board && board.freeIn_s !== null && (
              <span className="text-warning">
                {' '}
                lost the connection; free in {Math.ceil(board.freeIn_s)} s
              </span>
            )}
          </div>
        </div>
        {may && !board && !asks && (
          <Button onClick={() => void said({ command: 'board', do: 'take', thing })}>
            {thing === 'show' ? 'Go on the board' : 'A board of its own'}
          </Button>
        )}
        {may && asks && (
          <Button onClick={() => void said({ command: 'board', do: 'ask', thing })}>
            Ask for a board of its own
          </Button>
        )}
        {may && board && !mine && (
          <Button onClick={() => void said({ command: 'board', do: 'ask', thing })}>
            Ask for it
          </Button>
        )}
        {((board && !mine) || asks) && you.role === 'owner' && (
          <Button kind="danger" onClick={() => setTaking(true)}>
            Take it
          </Button>
        )}
        {(mine || shows) && (
          <>
            <Button
              kind={mine ? 'strong' : 'plain'}
              disabled={others.length === 0}
              title={others.length === 0 ? 'Nobody who may play is here' : undefined}
              onClick={() => setHanding(!handing)}
            >
              Hand over …
            </Button>
            {mine && (
              <Button
                kind="quiet"
                onClick={() => void said({ command: 'board', do: 'leave', thing })}
              >
                {thing === 'show' ? 'Leave' : 'Back to the show'}
              </Button>
            )}
          </>
        )}
      </div>
      {(mine || shows) && handing && (
        <Hand thing={thing} others={others} onDone={() => setHanding(false)} />
      )}
      <Ask
        open={taking}
        onClose={() => setTaking(false)}
        title={`Take it from ${decides?.name ?? ''}?`}
        act="Take it"
        keep="Leave it"
        onAct={() => void said({ command: 'board', do: 'take', thing })}
      >
        {decides?.name} plays {thing === 'show' ? 'now' : 'it now'}. What runs goes on; from then on
        only you play{thing === 'show' ? '' : ' it'}, and {decides?.name} is told.
      </Ask>
    </li>
  );
}

function Hand({
  thing,
  others,
  onDone,
}: {
  thing: Thing;
  others: readonly { userId: string; name: string }[];
  onDone: () => void;
}) {
  const show = useShow();
  const list = useScreen(
    (s) =>
      s.playback.lists.find(
        (l) => typeof thing === 'object' && 'list' in thing && l.id === thing.list,
      ) ?? s.playback.lists[0],
  );
  const next = list?.nextId ? show.cues.get(list.nextId) : undefined;
  const [to, setTo] = useState(others[0]?.userId ?? '');
  const [note, setNote] = useState(
    next ? `next is LX ${next.number / 1000}${next.call ? ` on “${next.call}”` : ''}` : '',
  );
  return (
    <form
      className="mt-1 grid grid-cols-[1fr_auto] items-start gap-2 rounded-md bg-ink p-3"
      onSubmit={(e) => {
        e.preventDefault();
        void said({ command: 'board', do: 'hand', thing, to, note }).then((r) => r.ok && onDone());
      }}
    >
      <Choice
        label="To"
        className="col-span-2"
        value={to}
        onChange={(e) => setTo(e.target.value)}
        options={others.map((p) => ({ value: p.userId, label: p.name }))}
      />
      <Field
        label="What to know"
        value={note}
        maxLength={200}
        onChange={(e) => setNote(e.target.value)}
      />
      <Button kind="strong" type="submit" disabled={to === ''} className="mt-5">
        Hand over
      </Button>
    </form>
  );
}
