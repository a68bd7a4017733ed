/** The live socket: opens, keeps trying, says within two seconds when it is lost, catches up by itself. */
import {
  withSeconds,
  type ClientMessage,
  type ServerMessage,
  type View,
} from '@/core/live/messages';
import type { LiveCommand } from '@/core/live/commands';
import { slotKey } from '@/core/cues/rows';
import { unpackShow, type PackedShow } from '@/core/formats/pack';
import type { Change } from '@/core/show/undo';
import { api, ApiError } from './api';
import { tellChanges } from './changes';
import { resetLevels, takeFrame, takeUniverse } from './levels';
import { heardPong, newPlayer } from './player-clock';
import { playSound } from './sound';
import { useSounds } from './sounds';
import { useHands } from './hands';
import { useScreen } from './store';

const PING_EVERY_MS = 700;
const LOST_AFTER_MS = 1800;
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

export class LiveConnection {
  private socket: WebSocket | null = null;
  private stopped = false;
  private attempt = 0;
  private lastHeard = 0;
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
    private readonly word: (word: Extract<ServerMessage, { type: 'word' }>) => void,
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
    this.lastHeard = performance.now();
    socket.onopen = () => {
      this.attempt = 0;
      newPlayer();
      if (this.presence.place) this.setPresence(this.presence);
      this.setWatch(this.watch);
    };
    socket.onmessage = (event: MessageEvent<string | ArrayBuffer>) => {
      this.lastHeard = performance.now();
      if (typeof event.data === 'string') this.heard(JSON.parse(event.data) as ServerMessage);
      else if (!takeUniverse(event.data)) takeFrame(event.data, useScreen.getState().version);
    };
    socket.onclose = () => {
      if (this.socket === socket) this.lost();
    };
    clearInterval(this.pinging);
    this.pinging = setInterval(() => {
      if (socket.readyState === WebSocket.OPEN)
        socket.send(JSON.stringify({ type: 'ping', at: performance.now() }));
      if (performance.now() - this.lastHeard > LOST_AFTER_MS) socket.close();
      if (performance.now() - this.lastHeard > LOST_AFTER_MS && this.socket === socket) this.lost();
    }, PING_EVERY_MS);
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

  private heard(message: ServerMessage): void {
    switch (message.type) {
      case 'welcome':
        useScreen.setState({
          you: message.you,
          connection: 'live',
          keys: message.keys,
          index: indexOf(message.keys),
          version: message.version,
        });
        resetLevels(message.keys.length);
        this.news();
        if (!this.pageOnly && useScreen.getState().loaded) void this.catchUp();
        break;
      case 'slots':
        useScreen.setState({
          keys: message.keys,
          index: indexOf(message.keys),
          version: message.version,
        });
        resetLevels(message.keys.length);
        break;
      case 'change':
        this.take(message.change);
        break;
      case 'playback': {
        const { type, ...playback } = message;
        void type;
        useScreen.setState({ playback, playbackAt: performance.now() });
        break;
      }
      case 'programmer': {
        const { type, changed, gone, ...state } = message;
        void type;
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
        break;
      }
      case 'other':
        useScreen.setState({ other: { userId: message.userId, values: message.values } });
        break;
      case 'others':
        useScreen.setState({ others: message.programmers });
        break;
      case 'over': {
        const { type, ...over } = message;
        void type;
        useScreen.setState({ over });
        break;
      }
      case 'sources':
        useScreen.setState((s) => ({
          sources: new Map(s.sources).set(message.universe, message.runs),
        }));
        break;
      case 'outputs': {
        const { type, ...outputs } = message;
        void type;
        useScreen.setState((s) => ({
          outputs: { ...outputs, seconds: withSeconds(s.outputs?.seconds ?? [], outputs.seconds) },
        }));
        break;
      }
      case 'rdm': {
        const { type, ...rdm } = message;
        void type;
        useScreen.setState({ rdm });
        break;
      }
      case 'inputs':
        useScreen.setState({ inputs: message.inputs });
        break;
      case 'hands': {
        const { type, ...player } = message;
        void type;
        useHands.setState({ player });
        break;
      }
      case 'sounds': {
        const { type, ...player } = message;
        void type;
        useSounds.setState({ player });
        break;
      }
      case 'presence':
        useScreen.setState({ people: message.people });
        break;
      case 'followed':
        useScreen.setState({ followedBy: message.by });
        break;
      case 'view':
        if (useScreen.getState().following === message.userId)
          useScreen.setState({ viewOf: { userId: message.userId, view: message.view } });
        break;
      case 'air': {
        const { type, ...air } = message;
        void type;
        useScreen.setState({ air });
        break;
      }
      case 'role':
        if (message.role === null) {
          this.stop();
          window.location.assign('/');
        } else {
          const { role } = message;
          useScreen.setState((s) => ({ you: { ...s.you, role } }));
          this.notice(`You are ${role} of this show now.`);
          if (role === 'volunteer') window.location.assign(`/shows/${this.showId}/page`);
        }
        break;
      case 'reply':
        if (message.id === null) this.notice(message.message ?? 'The player did not understand.');
        else {
          this.waiting.get(message.id)?.(
            message.ok
              ? {
                  ok: true,
                  ...(message.message ? { message: message.message } : {}),
                  ...(message.warning ? { warning: message.warning } : {}),
                }
              : {
                  ok: false,
                  code: message.code ?? 'refused',
                  message: message.message ?? 'Refused.',
                },
          );
          this.waiting.delete(message.id);
        }
        break;
      case 'word':
        this.word(message);
        break;
      case 'inbox':
        if (message.says !== null) this.notice(message.says);
        this.news();
        break;
      case 'locked':
        useScreen.setState({ screenLocked: message.locked });
        if (!message.locked && !useScreen.getState().loaded && !this.pageOnly)
          void this.load().catch(() => this.again());
        break;
      case 'out':
        this.stop();
        window.location.assign('/sign-in');
        break;
      case 'sound':
        playSound(message.sound);
        break;
      case 'pong': {
        heardPong(message.at, message.ticks, performance.now());
        // Half of the way there and back is how old the answer is; small differences are of the network.
        const ahead = message.clock + (performance.now() - message.at) / 2 - Date.now();
        if (Math.abs(ahead - useScreen.getState().clockAhead_ms) > CLOCK_STEP_MS)
          useScreen.setState({ clockAhead_ms: Math.abs(ahead) < CLOCK_STEP_MS ? 0 : ahead });
        if (useScreen.getState().notKept !== message.notKept)
          useScreen.setState({ notKept: message.notKept });
        break;
      }
    }
  }

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
