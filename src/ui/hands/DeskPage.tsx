/** A small simulated desk: it sends and hears real MIDI bytes, so that a hand can be tried without one. */
'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { freshMidi, readMidi } from '@/core/hands/midi';
import { useFader } from '../parts/use-fader';
import { useDrag } from '../parts/use-drag';
import { TimecodeMachine } from './TimecodeMachine';
import { DESK, DESK_CHANNEL, type DeskWord } from './desk-words';

const NOTE_ON = 0x90;
const NOTE_OFF = 0x80;
const CONTROL = 0xb0;
const TOP = 127;
/** Bytes that are shown, newest first. */
const SHOWN = 8;

/** What its displays are told: `F0 7D 01`, the part, the letters, `F7`. */
function displayed(bytes: readonly number[]): { part: number; text: string } | undefined {
  const [start, maker, what, part, ...rest] = bytes;
  if (start !== 0xf0 || maker !== 0x7d || what !== 1 || part === undefined) return undefined;
  return { part, text: String.fromCharCode(...rest.slice(0, -1)).trimEnd() };
}

/** Values by control, as bytes say them, whichever side they came from. */
function useDesk() {
  const channel = useRef<BroadcastChannel | null>(null);
  const midi = useRef(freshMidi());
  const [values, setValues] = useState<Readonly<Record<string, number>>>({});
  const [texts, setTexts] = useState<Readonly<Record<number, string>>>({});
  const [lines, setLines] = useState<readonly string[]>([]);
  const note = useCallback((way: string, bytes: readonly number[]) => {
    const hex = bytes.map((b) => b.toString(16).padStart(2, '0')).join(' ');
    setLines((now) => [`${way} ${hex}`, ...now].slice(0, SHOWN));
  }, []);
  useEffect(() => {
    const own = new BroadcastChannel(DESK_CHANNEL);
    channel.current = own;
    const say = (word: DeskWord): void => own.postMessage(word);
    own.onmessage = ({ data }: MessageEvent<DeskWord>) => {
      if (data.says === 'who') say({ says: 'here' });
      if (data.says !== 'bytes' || data.from !== 'show') return;
      note('in', data.bytes);
      const display = displayed(data.bytes);
      if (display) setTexts((now) => ({ ...now, [display.part]: display.text }));
      const heard = readMidi(midi.current, data.bytes, performance.now());
      setValues((now) => ({
        ...now,
        ...Object.fromEntries(heard.map((h) => [h.control, h.value])),
      }));
    };
    say({ says: 'here' });
    const leave = (): void => say({ says: 'gone' });
    window.addEventListener('pagehide', leave);
    return () => {
      leave();
      window.removeEventListener('pagehide', leave);
      own.close();
    };
  }, [note]);
  const send = useCallback(
    (bytes: number[]) => {
      note('out', bytes);
      channel.current?.postMessage({ says: 'bytes', from: 'desk', bytes } satisfies DeskWord);
    },
    [note],
  );
  /** Without a line for each: there are a hundred a second. */
  const quietly = useCallback((bytes: number[]) => {
    channel.current?.postMessage({ says: 'bytes', from: 'desk', bytes } satisfies DeskWord);
  }, []);
  const move = (control: number, value: number): void => {
    setValues((now) => ({ ...now, [`cc.1.${control}`]: value }));
    send([CONTROL, control, Math.round(value * TOP)]);
  };
  return { values, texts, lines, send, quietly, move };
}

/** What stands on the little display of a part. */
function Display({ text }: { text: string | undefined }) {
  return (
    <span
      data-display
      className="num block h-4 w-full truncate rounded bg-ink px-1 text-center text-[11px] leading-4 text-standby"
    >
      {text ?? ''}
    </span>
  );
}

function Fader({
  name,
  value,
  onMove,
  text,
  lies = false,
}: {
  name: string;
  text: string | undefined;
  value: number;
  onMove: (value: number) => void;
  lies?: boolean;
}) {
  const { shown, handlers } = useFader(value, false, 20, onMove, { lies });
  const at = `calc(${shown} * (100% - 20px))`;
  return (
    <div className={`flex flex-col items-center gap-1 ${lies ? 'w-20' : 'w-12'}`}>
      <div
        role="slider"
        tabIndex={0}
        aria-label={name}
        aria-valuemin={0}
        aria-valuemax={TOP}
        aria-valuenow={Math.round(shown * TOP)}
        {...handlers}
        className={`relative touch-none rounded-lg bg-well inset-ring inset-ring-line select-none ${lies ? 'h-10 w-20' : 'h-56 w-12'}`}
      >
        <i
          className="absolute rounded bg-knob"
          style={
            lies
              ? { insetBlock: 4, width: 20, left: at }
              : { insetInline: 4, height: 20, bottom: at }
          }
        />
      </div>
      <span className="num text-[12px] text-muted">{Math.round(shown * TOP)}</span>
      <Display text={text} />
    </div>
  );
}

function DeskKey({
  name,
  text,
  lit,
  onKey,
}: {
  name: string;
  text: string | undefined;
  lit: boolean;
  onKey: (on: boolean) => void;
}) {
  const drag = useDrag<true>({
    begin: () => (onKey(true), true),
    move: () => undefined,
    end: () => onKey(false),
  });
  return (
    <button
      type="button"
      aria-label={name}
      aria-pressed={lit}
      {...drag}
      className={`h-12 touch-none rounded-lg text-[12px] select-none ${lit ? 'bg-lime text-lime-ink' : 'bg-raised text-soft'}`}
    >
      {text ? <span className="block truncate px-1">{text}</span> : name.replace('Key ', '')}
    </button>
  );
}

const range = (n: number): number[] => Array.from({ length: n }, (_, i) => i);

/** A simulated hand: faders, keys and displays that send real MIDI. */
export function DeskPage() {
  const { values, texts, lines, send, quietly, move } = useDesk();
  const at = (control: number): number => values[`cc.1.${control}`] ?? 0;
  return (
    <main className="mx-auto max-w-4xl p-6">
      <h1 className="text-[20px] font-semibold">Simulated desk</h1>
      <p className="mt-1 text-muted">
        Eight faders, four knobs and sixteen keys with lights and displays, as MIDI on channel 1.
        Windows of this browser that have a show open hear it as the port “Simulated desk”.
      </p>
      <div className="mt-6 flex gap-10">
        <div>
          <div className="flex gap-3">
            {range(DESK.faders).map((i) => (
              <Fader
                key={i}
                name={`Fader ${i + 1}`}
                value={at(DESK.firstFader + i)}
                onMove={(v) => move(DESK.firstFader + i, v)}
                text={texts[DESK.firstFader + i]}
              />
            ))}
          </div>
          <div className="mt-5 flex gap-5">
            {range(DESK.knobs).map((i) => (
              <Fader
                key={i}
                lies
                name={`Knob ${i + 1}`}
                value={at(DESK.firstKnob + i)}
                onMove={(v) => move(DESK.firstKnob + i, v)}
                text={texts[DESK.firstKnob + i]}
              />
            ))}
          </div>
        </div>
        <div>
          <div className="grid grid-cols-4 gap-2">
            {range(DESK.keys).map((i) => (
              <DeskKey
                key={i}
                name={`Key ${i + 1}`}
                text={texts[DESK.firstKey + i]}
                lit={(values[`note.1.${DESK.firstKey + i}`] ?? 0) > 0}
                onKey={(on) => send([on ? NOTE_ON : NOTE_OFF, DESK.firstKey + i, on ? TOP : 0])}
              />
            ))}
          </div>
          <section aria-label="Bytes" className="mt-6 w-64">
            <h2 className="cap mb-1">Bytes, newest first</h2>
            {lines.map((line, i) => (
              <p key={i} className="num text-[12.5px] leading-5 text-soft">
                {line}
              </p>
            ))}
          </section>
        </div>
      </div>
      <TimecodeMachine send={quietly} />
    </main>
  );
}
