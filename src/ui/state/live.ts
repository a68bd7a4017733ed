/** The live socket: opens, keeps trying, says within two seconds when it is lost, catches up by itself. */
import {
  withSeconds,
  type ClientMessage,
  type ServerMessage,
  type View,
} from '@/core/live/messages';
import type { LiveCommand } from '@/core/live/commands';
import { Silence } from '@/core/live/silence';
import { slotKey } from '@/core/cues/rows';
import { unpackShow, type PackedShow } from '@/core/formats/pack';
import type { Change } from '@/core/show/undo';
import { api, ApiError } from './api';
import { asBefore } from './as-before';
import { tellChanges } from './changes';
import { resetLevels, takeFrame, takeUniverse } from './levels';
import { heardPlayback } from './playback';
import { heardPong, newPlayer } from './player-clock';
import { playSound } from './sound';
import { useSounds } from './sounds';
import { useHands } from './hands';
import { useScreen } from './store';

const LOOK_EVERY_MS = 200;
/** Looks between which nothing came: two seconds at most, and none of those in which this page itself was held up. */
const LOST_AFTER = 10;
/** Every so many looks it is asked whether the other end is there. */
const PING_EACH = 3;
const CLOCK_STEP_MS = 400;
const BACK_OFF_MS = [150, 300, 600, 1000, 2000];

/** Where this screen is. */
export interface Presence {
  place: string;
  /** The cue that it looks at, while it does not go along. */
  cue: string | null;
  device: string;
  hand: string | null;
  doing: string;
}

/** What a live command is answered. */
export type Reply =
  { ok: true; message?: string; warning?: string } | { ok: false; code: string; message: string };

/** What this screen shows beyond levels. */
export interface Watch {
  universes: number[];
  sources: boolean;
  outputs: boolean;
  programmer: string | null;
  /** Plays the sounds of cues. */
  sound: boolean;
  follows: string | null;
}

type Of<T extends ServerMessage['type']> = Extract<ServerMessage, { type: T }>;
type ScreenState = ReturnType<typeof useScreen.getState>;

/** What stands where in frames of levels, from now on. @param more of the same moment */
function takeSlots(keys: string[], version: number, more: Partial<ScreenState> = {}): void {
  useScreen.setState({ ...more, keys, index: indexOf(keys), version });
  resetLevels(keys.length);
}

/** What is told as a whole whenever something of it is different: what is as it was stays the same, and draws nothing. */
function takeAll(told: Partial<ScreenState>): void {
  const was = useScreen.getState();
  const before = Object.fromEntries(
    Object.keys(told).map((name) => [name, was[name as keyof ScreenState]]),
  );
  useScreen.setState(asBefore<Partial<ScreenState>>(before, told));
}

function takeProgrammer({ type: _, changed, gone, ...state }: Of<'programmer'>): void {
  const now = useScreen.getState();
  const values = new Map(now.values);
  for (const key of gone) values.delete(key);
  for (const v of changed) values.set(slotKey(v.fixtureId, v.attribute), v);
  // The same selection stays the same array, so that nothing that depends on it is made again.
  const selection =
    state.selection.join() === now.selection.join() ? now.selection : state.selection;
  useScreen.setState({
    values: changed.length + gone.length > 0 ? values : now.values,
    programmer: { ...state, selection: [...selection] },
    selection,
  });
}

function takePong({ at, ticks, clock, notKept }: Of<'pong'>): void {
  const now = performance.now();
  heardPong(at, ticks, now);
  // Half of the way there and back is how old the answer is; small differences are of the network.
  const ahead = clock + (now - at) / 2 - Date.now();
  const known = useScreen.getState();
  if (Math.abs(ahead - known.clockAhead_ms) > CLOCK_STEP_MS)
    useScreen.setState({ clockAhead_ms: Math.abs(ahead) < CLOCK_STEP_MS ? 0 : ahead });
  if (known.notKept !== notKept) useScreen.setState({ notKept });
}

function answerOf({ ok, code, message, warning }: Of<'reply'>): Reply {
  if (!ok) return { ok, code: code ?? 'refused', message: message ?? 'Refused.' };
  return { ok, ...(message ? { message } : {}), ...(warning ? { warning } : {}) };
}

/** The socket to the player, opened again for as long as this screen is. */
export class LiveConnection {
  private socket: WebSocket | null = null;
  private stopped = false;
  private attempt = 0;
  private pinging: ReturnType<typeof setInterval> | undefined;
  private waiting = new Map<number, (reply: Reply) => void>();
  private readonly underway = new Set<Promise<Reply>>();
  private lastId = 0;
  private presence: Presence = { place: '', cue: null, device: '', hand: null, doing: '' };
  private watch: Watch = {
    universes: [],
    sources: false,
    outputs: false,
    programmer: null,
    sound: false,
    follows: null,
  };
  /** Changes that came before those they follow. */
  private early: Change[] = [];
  private catching = false;

  constructor(
    private readonly showId: string,
    private readonly notice: (message: string) => void,
    private readonly word: (word: Of<'word'>) => void,
    /** Something came into the inbox, or may have while this screen heard nothing. */
    private readonly news: () => void,
  ) {
    void this.start();
  }

  stop(): void {
    this.stopped = true;
    clearInterval(this.pinging);
    this.socket?.close();
  }

  /** Carried out by the player, or refused in words. Never rejects. */
  send(command: LiveCommand): Promise<Reply> {
    return this.asked((id) => ({ type: 'command', id, command }));
  }

  /** When this comes back, what was sent before is answered, the player has the change, and this screen all that its person holds. */
  async settle(seq: number): Promise<void> {
    await Promise.all(this.underway);
    await this.asked((id) => ({ type: 'settle', id, seq }));
  }

  private asked(message: (id: number) => ClientMessage): Promise<Reply> {
    const { socket } = this;
    if (socket?.readyState !== WebSocket.OPEN)
      return Promise.resolve({
        ok: false,
        code: 'offline',
        message: 'Not connected to the player; nothing was sent.',
      });
    const id = ++this.lastId;
    const reply = new Promise<Reply>((resolve) => {
      this.waiting.set(id, resolve);
      socket.send(JSON.stringify(message(id)));
    });
    this.underway.add(reply);
    void reply.then(() => this.underway.delete(reply));
    return reply;
  }

  setPresence(presence: Presence): void {
    this.presence = presence;
    if (this.socket?.readyState === WebSocket.OPEN)
      this.socket.send(JSON.stringify({ type: 'presence', ...presence }));
  }

  /** What this screen looks at, to those who go along. */
  tellView(view: View): void {
    if (this.socket?.readyState === WebSocket.OPEN)
      this.socket.send(JSON.stringify({ type: 'view', view }));
  }

  setWatch(watch: Watch): void {
    this.watch = watch;
    if (this.socket?.readyState === WebSocket.OPEN)
      this.socket.send(JSON.stringify({ type: 'watch', ...watch }));
  }

  private async start(): Promise<void> {
    if (this.stopped) return;
    try {
      if (!useScreen.getState().loaded && !this.pageOnly) await this.loadUnlessLocked();
      const { ticket } = await api<{ ticket: string }>(`/api/shows/${this.showId}/ticket`, {
        method: 'POST',
        body: '{}',
      });
      this.open(ticket);
    } catch (error) {
      if (error instanceof ApiError && (error.status === 401 || error.status === 404)) {
        window.location.assign('/');
        return;
      }
      this.again();
    }
  }

  /** A control page loads no show: it has what its page says. */
  private get pageOnly(): boolean {
    return /\/page$/.test(window.location.pathname);
  }

  /** A locked screen gets nothing of the show before its PIN is given, and shows what plays. */
  private async loadUnlessLocked(): Promise<void> {
    try {
      await this.load();
    } catch (error) {
      if (!(error instanceof ApiError) || error.code !== 'locked') throw error;
      useScreen.setState({ screenLocked: true });
    }
  }

  private async load(): Promise<void> {
    const { packed, seq } = await api<{ packed: PackedShow; seq: number }>(
      `/api/shows/${this.showId}?packed=1`,
    );
    useScreen.setState((s) => ({
      show: unpackShow(packed),
      seq,
      loaded: true,
      revision: s.revision + 1,
    }));
  }

  private open(ticket: string): void {
    const url = new URL('/live', window.location.href);
    url.protocol = url.protocol === 'https:' ? 'wss:' : 'ws:';
    url.searchParams.set('ticket', ticket);
    const socket = new WebSocket(url);
    socket.binaryType = 'arraybuffer';
    this.socket = socket;
    const silence = new Silence(LOST_AFTER);
    socket.onopen = () => {
      this.attempt = 0;
      newPlayer();
      if (this.presence.place) this.setPresence(this.presence);
      this.setWatch(this.watch);
    };
    socket.onmessage = (event: MessageEvent<string | ArrayBuffer>) => {
      silence.heard();
      if (typeof event.data === 'string') this.heard(JSON.parse(event.data) as ServerMessage);
      else if (!takeUniverse(event.data)) takeFrame(event.data, useScreen.getState().version);
    };
    socket.onclose = () => {
      if (this.socket === socket) this.lost();
    };
    clearInterval(this.pinging);
    let looks = 0;
    this.pinging = setInterval(() => {
      if (looks++ % PING_EACH === 0 && socket.readyState === WebSocket.OPEN)
        socket.send(JSON.stringify({ type: 'ping', at: performance.now() }));
      if (!silence.look()) return;
      // One that is cut off closes much later than it is lost.
      socket.close();
      if (this.socket === socket) this.lost();
    }, LOOK_EVERY_MS);
  }

  private lost(): void {
    clearInterval(this.pinging);
    this.socket = null;
    for (const resolve of this.waiting.values())
      resolve({
        ok: false,
        code: 'offline',
        message: 'The connection was lost; it is not known whether this was carried out.',
      });
    this.waiting.clear();
    if (this.stopped) return;
    useScreen.setState({ connection: 'lost' });
    this.again();
  }

  private again(): void {
    const wait = BACK_OFF_MS[Math.min(this.attempt++, BACK_OFF_MS.length - 1)] ?? 2000;
    setTimeout(() => void this.start(), wait);
  }

  private heard<T extends ServerMessage['type']>(message: Of<T>): void {
    // A house that was renewed meanwhile may say more than this page knows.
    if (message.type in this.on) this.on[message.type](message);
  }

  /** What each message does here; the type checker finds one that is missing. */
  private readonly on: { [T in ServerMessage['type']]: (message: Of<T>) => void } = {
    welcome: ({ you, keys, version }) => {
      takeSlots(keys, version, { you, connection: 'live' });
      this.news();
      if (!this.pageOnly && useScreen.getState().loaded) void this.catchUp();
    },
    slots: ({ keys, version }) => takeSlots(keys, version),
    change: ({ change }) => this.take(change),
    playback: ({ type: _, ...told }) =>
      useScreen.setState(({ playback }) => {
        const playbackAt = performance.now();
        return { playback: heardPlayback(playback, told, playbackAt), playbackAt };
      }),
    programmer: takeProgrammer,
    other: ({ userId, values }) => useScreen.setState({ other: { userId, values } }),
    others: ({ programmers }) => takeAll({ others: programmers }),
    over: ({ type: _, ...over }) => takeAll({ over }),
    sources: ({ universe, runs }) =>
      useScreen.setState((s) => ({ sources: new Map(s.sources).set(universe, runs) })),
    outputs: ({ type: _, ...outputs }) =>
      useScreen.setState((s) => ({
        outputs: { ...outputs, seconds: withSeconds(s.outputs?.seconds ?? [], outputs.seconds) },
      })),
    rdm: ({ type: _, ...rdm }) => takeAll({ rdm }),
    inputs: ({ inputs }) => takeAll({ inputs }),
    hands: ({ type: _, ...player }) => useHands.setState({ player }),
    sounds: ({ type: _, ...player }) => useSounds.setState({ player }),
    presence: ({ people }) => takeAll({ people }),
    followed: ({ by }) => takeAll({ followedBy: by }),
    view: ({ userId, view }) => {
      if (useScreen.getState().following === userId)
        useScreen.setState({ viewOf: { userId, view } });
    },
    air: ({ type: _, ...air }) => takeAll({ air }),
    role: ({ role }) => {
      if (role === null) {
        this.stop();
        window.location.assign('/');
        return;
      }
      useScreen.setState((s) => ({ you: { ...s.you, role } }));
      this.notice(`You are ${role} of this show now.`);
      if (role === 'volunteer') window.location.assign(`/shows/${this.showId}/page`);
    },
    reply: (reply) => {
      if (reply.id === null) this.notice(reply.message ?? 'The player did not understand.');
      else {
        this.waiting.get(reply.id)?.(answerOf(reply));
        this.waiting.delete(reply.id);
      }
    },
    word: (message) => this.word(message),
    inbox: ({ says }) => {
      if (says !== null) this.notice(says);
      this.news();
    },
    locked: ({ locked }) => {
      useScreen.setState({ screenLocked: locked });
      if (!locked && !useScreen.getState().loaded && !this.pageOnly)
        void this.load().catch(() => this.again());
    },
    out: () => {
      this.stop();
      window.location.assign('/sign-in');
    },
    sound: ({ sound }) => playSound(sound),
    pong: takePong,
  };

  /** Looks at the show as it was; what is edited meanwhile waits. Null: back to now. */
  async lookBack(past: { seq: number; name: string } | null): Promise<void> {
    const query = past ? `&at=${past.seq}` : '';
    const { packed, seq } = await api<{ packed: PackedShow; seq: number }>(
      `/api/shows/${this.showId}?packed=1${query}`,
    );
    useScreen.setState((s) => ({ show: unpackShow(packed), past, seq, revision: s.revision + 1 }));
    if (!past) await this.catchUp();
  }

  /** Applies a change if it is the next one; otherwise fetches what is missing in between. */
  private take(change: Change): void {
    const { seq, show, past } = useScreen.getState();
    if (change.seq <= seq || past) return;
    if (change.seq > seq + 1) {
      this.early.push(change);
      void this.catchUp();
      return;
    }
    show.apply(change.rows);
    tellChanges(change.rows);
    useScreen.setState((s) => ({ seq: change.seq, revision: s.revision + 1 }));
    const next = this.early.find((c) => c.seq === change.seq + 1);
    this.early = this.early.filter((c) => c.seq > change.seq + 1);
    if (next) this.take(next);
  }

  private async catchUp(): Promise<void> {
    if (this.catching || useScreen.getState().past) return;
    this.catching = true;
    try {
      const { changes } = await api<{ changes: Change[] }>(
        `/api/shows/${this.showId}/changes?after=${useScreen.getState().seq}`,
      );
      this.catching = false;
      for (const change of changes) this.take(change);
    } catch {
      this.catching = false;
    }
  }
}

const indexOf = (keys: readonly string[]): Map<string, number> =>
  new Map(keys.map((key, i) => [key, i]));
