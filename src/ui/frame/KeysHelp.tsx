/** All keys and lines, searched by any word; a key is changed by a click on it. */
'use client';
import { firstSo } from '@/core/first-so';
import { useEffect, useState } from 'react';
import { plain } from '@/core/rig/search';
import { Button, Dialog } from '../parts/controls';
import { setOwnKey, usePreferences } from '../state/preferences';
import { keyOf, keyPressed, keyProblem, KEYS, PLACE_KEYS, sayKey, type KeyId } from './key-table';

const LINES: readonly [line: string, does: string][] = [
  ['1 thru 8 at full', 'set a range'],
  ['1 + 3 at 50 time 4', 'set some, with a fade'],
  ['101 pan at 30', 'an attribute, in its unit'],
  ['at +10, at *0.9', 'from where each is'],
  ['at 20 thru 80, fan 40 from middle', 'shared out over the selection'],
  ['time 0 thru 5, delay 0 thru 3', 'times shared out'],
  ['group 2, all, lit, in cue 5, with zoom, type wash 19', 'who'],
  [
    'odd, even, every 3, first half, pairs, across, shuffle, invert',
    'a part or an order of the selection',
  ],
  ['colour "Dusk", white 3200, hue 212 sat 40', 'a colour; one of the show is followed'],
  ['aim at 0 3 1.6, aim at "Bow rail", flip', 'heads look at a place on stage'],
  ['palette 3, look 4, effect 2, effect 2 off', 'a palette, a look, an effect'],
  ['home, highlight, highlight off', 'straight ahead and white; at full over everything'],
  ['take lit, take cue 5 whole', 'into your programmer'],
  ['let go time 5, keep colour, clear, bring back', 'what you hold'],
  ['blind, live', 'what you set is held and does not show; it shows'],
  ['record, record cue 2.5 "Bell" time 5/7', 'what you hold, as a cue'],
  [
    'record 2 only, record cue 5 over, record cue 5 remove',
    'this cue only; in its place; taken out of it',
  ],
  [
    'update, update cue 3, update source',
    'into the cue on stage, into one, back to where it was set',
  ],
  [
    'record colour palette 5 "Dusk", record look 4, record group 7 "Ends"',
    'what you hold, or the selection',
  ],
  ['make 30 cues from 101 "Scene 1, #"', 'many empty cues'],
  ['insert cue after 5 "Bell"', 'one in between'],
  ['move, copy, renumber, join, block, unblock, delete, name cue 5', 'cues, arranged'],
  [
    'cue 5 time 5/7, cue 5 follow 3, cue 5 after 0.5, cue 5 wait',
    'times, and what lets the next one follow',
  ],
  ['go, back, pause, goto 5 time 0, cut to 7, arm 7', 'playing'],
  [
    'list 2 go, list 2 record cue 5, list "Lanterns" …',
    'every word of cues and of playing, in another list',
  ],
  ['rate 150, master at 80, fader 3 at 60 time 5', 'rates and masters'],
  ['release, release list 2 time 3, release all', 'lists let go'],
  ['hold, hold at 70, hold off', 'for focus, whatever plays'],
  ['patch 6 dimmer from 201 at 2.101', 'new fixtures'],
  ['131 thru 136 patch 3.21, patch off, patch back', 'move them, take them off the rig, back'],
  ['5 thru 8 number 105, 102 copy to 103 thru 104', 'renumber, copy programming'],
  ['7 park, 7 park off', 'stays whatever plays'],
  ['place, hang "Bar 2", rotate, lean, align, distribute', 'on the plan'],
  ['undo, redo', 'your last edit'],
];

const GROUPS = ['Go', 'Playback', 'Programmer', 'Show', 'Faders'] as const;
type KeyRow = (typeof KEYS)[number];

/** A key that is waited for: the next one pressed is its own from then on, or said why it cannot be. */
function useLearning() {
  const own = usePreferences((s) => s.keys);
  const [learning, setLearning] = useState<KeyId | null>(null);
  const [problem, setProblem] = useState<{ id: KeyId; text: string } | null>(null);
  useEffect(() => {
    if (learning === null) return;
    const learn = (e: KeyboardEvent): void => {
      e.preventDefault();
      e.stopPropagation();
      if (e.key === 'Escape') return setLearning(null);
      const key = keyPressed(e);
      if (key === undefined) return;
      const wrong = keyProblem(learning, key, own);
      setProblem(wrong === undefined ? null : { id: learning, text: wrong });
      if (wrong === undefined)
        setOwnKey(learning, key === KEYS.find((k) => k.id === learning)?.key ? null : key);
      setLearning(null);
    };
    window.addEventListener('keydown', learn, true);
    return () => window.removeEventListener('keydown', learn, true);
  }, [learning, own]);
  return { own, learning, learn: setLearning, problem };
}
type Learning = ReturnType<typeof useLearning>;

/** All keys, and those that a person gave themselves. */
export function KeysHelp({
  open,
  onOpenChange,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  const learning = useLearning();
  const [search, setSearch] = useState('');
  const words = search.trim().split(/\s+/).map(plain).filter(Boolean);
  const fits = (...texts: string[]): boolean =>
    words.every((w) => texts.some((t) => plain(t).includes(w)));
  const keys = KEYS.filter((k) => fits(k.label, k.group, sayKey(keyOf(k.id, learning.own))));
  const there = PLACE_KEYS.filter((row) => fits(...row));
  const lines = LINES.filter((row) => fits(...row));
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="Keys and lines"
      about="Letters and digits typed outside of a field begin a line of the command line. Click a key to take another one for it."
      width="w-[880px]"
    >
      <input
        autoFocus
        aria-label="Search keys and lines"
        inputMode="search"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
        placeholder="A word, a key: record, blind, F9 …"
        className="mb-3 h-9 w-full rounded-md bg-ink px-3 text-[14px] shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none placeholder:text-faint"
      />
      <div className="grid h-[56vh] grid-cols-2 gap-x-8">
        <div className="overflow-y-auto pr-2">
          {GROUPS.map((group) => (
            <Keys
              key={group}
              group={group}
              keys={keys.filter((k) => k.group === group)}
              learning={learning}
            />
          ))}
          {there.length > 0 && <h3 className="cap mb-1">Where the focus or the pointer is</h3>}
          <dl>
            {there.map(([where, pressed, does]) => (
              <div
                key={where + pressed}
                className="grid grid-cols-[96px_minmax(0,1fr)] gap-x-2 py-1 text-[12.5px] leading-[18px]"
              >
                <dt className="text-muted">{where}</dt>
                <dd className="text-soft">
                  <span className="text-text">{pressed}</span>: {does}
                </dd>
              </div>
            ))}
          </dl>
        </div>
        <section tabIndex={0} aria-label="What a line can say" className="overflow-y-auto">
          <h3 className="cap mb-1">Command line</h3>
          <dl>
            {lines.map(([line, what]) => (
              <div key={line} className="py-1">
                <dt className="num text-[12.5px] text-text">{line}</dt>
                <dd className="text-[12px] text-muted">{what}</dd>
              </div>
            ))}
          </dl>
          {keys.length + there.length + lines.length === 0 && (
            <p className="text-muted">Nothing has these words.</p>
          )}
        </section>
      </div>
    </Dialog>
  );
}

function Keys({
  group,
  keys,
  learning,
}: {
  group: string;
  keys: readonly KeyRow[];
  learning: Learning;
}) {
  if (keys.length === 0) return null;
  return (
    <section className="mb-3">
      <h3 className="cap mb-1">{group}</h3>
      <dl>
        {keys.map((k) => (
          <OneKey key={k.id} row={k} learning={learning} />
        ))}
      </dl>
    </section>
  );
}

function OneKey({
  row: k,
  learning: { own, learning, learn, problem },
}: {
  row: KeyRow;
  learning: Learning;
}) {
  const isLearning = learning === k.id;
  const isOwn = own[k.id] !== undefined;
  const look = firstSo(
    [
      [isLearning, 'border-standby text-standby'],
      [isOwn, 'border-standby'],
    ],
    'border-edge enabled:hover:bg-raised',
  );
  return (
    <div className="flex min-h-7 flex-wrap items-center justify-between gap-x-3">
      <dt className="min-w-0 flex-1 text-soft">{k.label}</dt>
      <dd className="flex flex-none items-center gap-1">
        {isOwn && (
          <Button
            kind="quiet"
            className="!h-6 !px-1.5 text-[11.5px]"
            onClick={() => setOwnKey(k.id, null)}
          >
            {sayKey(k.key)} again
          </Button>
        )}
        <button
          type="button"
          data-key={k.id}
          aria-label={`Key for ${k.label}: ${sayKey(keyOf(k.id, own))}`}
          disabled={k.id === 'command'}
          onClick={() => learn(isLearning ? null : k.id)}
          className={`num h-6 rounded border px-1.5 text-[11.5px] ${look}`}
        >
          {isLearning ? 'press a key, or Esc' : sayKey(keyOf(k.id, own))}
        </button>
      </dd>
      {problem?.id === k.id && (
        <p role="alert" className="w-full text-[12px] text-warning">
          {problem.text}
        </p>
      )}
    </div>
  );
}
