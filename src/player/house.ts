/**
 * The house: every open show, who is connected to it, what is on air. Joins clock, database feed and sockets, and
 * saves what plays.
 */
import { timeOfDay } from '../core/dates.ts';
import { sql } from 'kysely';
import type { Logger } from 'pino';
import { readCommand } from '../core/command/command.ts';
import { formatCueNumber } from '../core/cues/number.ts';
import { PLAYERS } from '../core/roles.ts';
import { plural } from '../core/words.ts';
import { recordedValue } from '../core/live/held.ts';
import { oscCommand } from '../core/live/osc-commands.ts';
import type { AirState, OutputState, Person, ServerMessage, View } from '../core/live/messages.ts';
import { LIVE, type LiveCommand } from '../core/live/commands.ts';
import { isRefusal, refuse, type Refusal } from '../core/refusal.ts';
import { familyOf } from '../core/rig/attributes.ts';
import { type MutableShow } from '../core/show/show.ts';
import { advance, ShowStore } from '../store/commit.ts';
import type { Database } from '../store/database.ts';
import { AIR_CHANNEL, MEMBERS_CHANNEL } from '../store/channels.ts';
import { type Feed } from '../store/feed.ts';
import { KEPT_REFUSALS, note, refusals, type Happened } from '../store/journal.ts';
import { endedSessions, houseRight, standingOf } from '../store/rights.ts';
import { airShow, changesAfter, loadShow, membership, type Membership } from '../store/shows.ts';
import { keepVersion } from '../store/versions.ts';
import { AIR_FADE_S, mayChangeAir, sayAir } from './air.ts';
import type { Clock } from './clock-client.ts';
import type { FromClock } from './clock-messages.ts';
import type { Client } from './client.ts';
import type { Discovery } from './discovery.ts';
import type { Actor } from './actor.ts';
import type { Outside } from './cue-actions.ts';
import type { InboxKind } from '../core/live/inbox.ts';
import { tell } from '../store/inbox.ts';
import type { Word } from './together.ts';
import type { Keeping } from './keeping.ts';
import { LiveShow, type SavedShow } from './live-show.ts';
import type { Answer } from './playbacks.ts';
import { mayNotCommand } from './may.ts';

const SAVE_FAILED_MS = 1000;
const SAVE_SOON_MS = 150;
/** Who is where is told at most this often, to each screen of a show. */
const PRESENCE_EVERY_MS = 150;
/** While fades run their clock is saved this often; heavier shows less often, by the time a save takes. */
const SAVE_FADING_MS = 250;
const SAVE_SHARE = 10;

/** What the database tells of people: a place in a show, or a session that was locked, opened or ended. */
interface PeopleNews {
  show?: string | null;
  user?: string;
  session?: string;
  locked?: boolean;
  ended?: boolean;
  /** Whose inbox has something new, of which show, and its first sight. */
  inbox?: string;
  of?: string | null;
  says?: string | null;
}

/** Words that are kept in an inbox. That two hold the same light, or that a page plays over a board, is of its moment. */
const WORD_KINDS: Partial<Record<Word['kind'], InboxKind>> = {
  asked: 'asked',
  handed: 'handed',
  taken: 'taken',
  declined: 'answered',
};

interface Saving {
  timer: NodeJS.Timeout | null;
  running: boolean;
  /** Something changed while it was being saved: save again in so many ms. */
  again_ms: number | null;
  took_ms: number;
}

export class House {
  readonly clients = new Set<Client>();
  private readonly shows = new Map<string, LiveShow>();
  private readonly opening = new Map<string, Promise<LiveShow | undefined>>();
  private readonly saving = new Map<string, Saving>();
  private readonly store: ShowStore;
  private airId: string | null = null;
  private problem: string | null = null;
  /** Set once this player holds the installation's advisory lock. */
  private mayOutput = false;
  feed: Feed | null = null;

  constructor(
    readonly db: Database,
    readonly clock: Clock,
    private readonly log: Logger,
    private readonly playerId: string,
    private readonly keeping: Keeping,
    private readonly outside?: Outside,
  ) {
    this.store = new ShowStore(db);
  }

  /** Why nothing is being kept, in a sentence; null while all is. */
  get notKept(): string | null {
    return this.keeping.problem(this.feed?.connected() ?? false);
  }

  // --- shows ---

  async open(showId: string): Promise<LiveShow | undefined> {
    const known = this.shows.get(showId);
    if (known) return known;
    const opening =
      this.opening.get(showId) ?? this.load(showId).finally(() => this.opening.delete(showId));
    this.opening.set(showId, opening);
    return opening;
  }

  private async load(showId: string): Promise<LiveShow | undefined> {
    const loaded = await this.rowsOf(showId);
    if (!loaded) return undefined;
    const saved = await this.keeping.read(showId);
    const inShow = (act: (client: Client) => void): void => this.in(showId, act);
    const show: LiveShow = new LiveShow(
      showId,
      loaded,
      this.clock,
      {
        playback: () => inShow((c) => c.sendPlayback(show)),
        programmer: (userId) =>
          inShow((c) => (c.actor.userId === userId ? c.sendProgrammer(show) : c.sendOthers(show))),
        slots: () => inShow((c) => c.sendSlots(show)),
        over: () => inShow((c) => c.sendOver(show)),
        changed: (change) => inShow((c) => c.send({ type: 'change', change })),
        touched: (urgency) => this.save(showId, urgency === 'now' ? 0 : SAVE_SOON_MS),
        sound: (soundId) => {
          const listening = [...this.clients].filter(
            (c) => c.showId === showId && c.watching.sound,
          );
          for (const c of listening) c.send({ type: 'sound', sound: soundId });
          return listening.length;
        },
        present: (userId) =>
          [...this.clients].some((c) => c.showId === showId && c.actor.userId === userId),
        people: () => [...this.clients].filter((c) => c.showId === showId).map((c) => c.actor),
        word: (userId, word) => {
          inShow((c) => c.actor.userId === userId && c.send(word));
          this.intoInbox(show, userId, word);
        },
        journal: ({ kind, by, text, data }) =>
          this.note(showId, {
            kind,
            userId: by.userId,
            userName: by.name,
            text,
            ...(data ? { data } : {}),
          }),
        version: (name, by) => {
          keepVersion(this.db, showId, {
            name,
            seq: show.copy.seq,
            kind: 'board',
            userId: by.userId,
            userName: by.name,
          }).catch((error: unknown) =>
            this.log.warn({ error: String(error) }, 'could not keep a version'),
          );
        },
      },
      saved,
      this.outside,
    );
    this.shows.set(showId, show);
    return show;
  }

  /** Written when the database has time; playing never waits for it. */
  private note(showId: string, happened: Happened): void {
    note(this.db, showId, { ...happened, at: new Date() }).catch((error: unknown) =>
      this.log.warn({ error: String(error), text: happened.text }, 'could not write the journal'),
    );
  }

  /** What somebody wants of another, or has done to what is theirs, is read later as well. */
  private intoInbox(show: LiveShow, userId: string, word: Word): void {
    const kind = WORD_KINDS[word.kind];
    if (kind === undefined) return;
    const ask =
      word.kind !== 'asked'
        ? undefined
        : word.part !== undefined
          ? { part: word.part }
          : word.thing !== undefined
            ? { thing: word.thing }
            : undefined;
    const place = {
      place: 'crew' as const,
      view: word.part === undefined ? ('board' as const) : ('people' as const),
    };
    tell(this.db, { showId: show.id, showName: show.name, from: word.from }, [
      { userId, kind, text: word.text, place, quiet: true, ...(ask ? { ask } : {}) },
    ]).catch((error: unknown) =>
      this.log.warn({ error: String(error) }, 'could not write an inbox'),
    );
  }

  private in(showId: string, act: (client: Client) => void): void {
    for (const client of this.clients) if (client.showId === showId) act(client);
  }

  clockSaid(message: FromClock): void {
    if (message.is === 'output') {
      this.problem = message.problem;
      this.tellAir();
    } else if (
      message.is !== 'stopped' &&
      message.is !== 'copied' &&
      message.is !== 'framed' &&
      message.is !== 'seconds' &&
      message.is !== 'stats'
    )
      this.shows.get(message.showId)?.heard(message);
  }

  // --- commands ---

  async command(showId: string, actor: Actor, command: LiveCommand): Promise<Answer> {
    const show = await this.open(showId);
    if (!show) return refuse('not-found', 'This show does not exist.');
    const answer = await this.carryOut(show, actor, command);
    if (isRefusal(answer) && KEPT_REFUSALS.has(answer.code))
      this.refused(showId, actor, command.command, answer);
    return answer;
  }

  private refused(showId: string, actor: Actor, what: string, { code, message }: Refusal): void {
    if (refusals.take(actor.userId, performance.now()))
      this.note(showId, {
        kind: 'refused',
        userId: actor.userId,
        userName: actor.name,
        text: message,
        data: { code, command: what, from: actor.via ?? 'a screen' },
      });
  }

  private async carryOut(show: LiveShow, actor: Actor, command: LiveCommand): Promise<Answer> {
    const no = mayNotCommand(actor, command.command, show.remotes);
    if (no) return no;
    if (command.command === 'air')
      return this.setAir(show, actor, command.on, command.preview ?? false);
    if (command.command === 'type') return this.type(show, actor, command.text);
    const answer = show.command(actor, command);
    return LIVE[command.command].goesOn ? this.knowingAir(show, answer) : answer;
  }

  /** Whoever plays a show that others believe to be on air is told each time. */
  private knowingAir(show: LiveShow, answer: Answer): Answer {
    if (isRefusal(answer) || show.id === this.airId) return answer;
    const other = this.airId === null ? undefined : this.shows.get(this.airId);
    if (!other && !this.wasOnAir.has(show.id)) return answer;
    return {
      ...answer,
      warning: `“${show.name}” is not on air: nobody sees this on stage. ${other ? `“${other.name}” is on air.` : 'Nothing is on air.'}`,
    };
  }
  private readonly wasOnAir = new Set<string>();

  /** The command line, for scripts and remotes: live commands and edits alike. */
  private async type(show: LiveShow, actor: Actor, text: string): Promise<Answer> {
    const held = show.held(actor.userId);
    // What the line was read against.
    const { seq: seen } = show.copy;
    const read = readCommand(text, {
      show: show.show,
      selection: held.selection,
      listId: null,
      cueOn: (id) => show.playback().lists.find((l) => l.id === id)?.cueId ?? null,
      unrecorded: held.values.filter((v) => !v.recorded).length,
      held: (family) =>
        held.values.filter((v) => !family || familyOf(v.attribute) === family).length,
      lit: () => show.lit(),
    });
    if (!read.ok)
      return refuse('invalid', read.message === '' ? 'Nothing was typed.' : read.message, {
        text: read.message,
      });
    const { intent } = read;
    switch (intent.kind) {
      case 'live':
        return this.command(show.id, actor, intent.command);
      case 'select-and-set': {
        // The same selection again does not end a step through it.
        const selected =
          intent.select.join() === held.selection.join()
            ? ({ ok: true } as const)
            : show.command(actor, { command: 'select', fixtures: intent.select });
        let answer =
          intent.command && !isRefusal(selected)
            ? await this.command(show.id, actor, intent.command)
            : selected;
        for (const command of intent.then ?? [])
          if (!isRefusal(answer)) answer = await this.command(show.id, actor, command);
        return answer;
      }
      case 'record-held':
        return this.edited(
          show,
          await this.store.edit(show.id, actor, {
            edit: intent.edit,
            params: {
              ...intent.params,
              values: held.values
                .filter((v) => intent.edit !== 'update-source' || !v.recorded)
                .map(recordedValue),
            },
            editId: newEditId(),
            seen,
          }),
        );
      case 'undo':
      case 'redo':
        return this.edited(
          show,
          await this.store.reverse(show.id, actor, intent.kind, newEditId()),
        );
      case 'edit':
        return this.edited(
          show,
          await this.store.edit(show.id, actor, {
            edit: intent.edit,
            params: intent.params,
            editId: newEditId(),
            seen,
          }),
        );
      case 'record': {
        const values = held.values.filter((v) => !v.recorded).map(recordedValue);
        const { kind, ...rest } = intent;
        void kind;
        return this.edited(
          show,
          await this.store.edit(show.id, actor, {
            edit: 'record-cue',
            params: { values, ...rest },
            editId: newEditId(),
            seen,
          }),
        );
      }
    }
  }

  /** OSC from a remote control plays the show on air, while its remotes are switched on. */
  remote(address: string, args: (number | string)[]): void {
    const show = this.airId ? this.shows.get(this.airId) : undefined;
    const command = show ? oscCommand(show.show, address, args) : undefined;
    if (!show || !command) return;
    const answer = show.fromRemote(command);
    if (isRefusal(answer))
      this.refused(
        show.id,
        { userId: 'remote', name: 'a remote control', role: 'operator', via: 'OSC' },
        address,
        answer,
      );
  }

  private clockWas = timeOfDay(new Date());

  /** Lets cues go whose time of day has come. */
  lookAtClock(): void {
    const now = timeOfDay(new Date());
    if (now === this.clockWas) return;
    const from = this.clockWas;
    this.clockWas = now;
    for (const show of this.shows.values()) {
      if (now < from) show.lists.clockCame(from, '23:59:59');
      show.lists.clockCame(now < from ? '' : from, now);
    }
  }

  private async edited(
    show: LiveShow,
    result: { summary: string } | Refusal,
  ): Promise<{ ok: true; message: string } | Refusal> {
    if (isRefusal(result)) return result;
    await this.catchUp(show.id);
    return { ok: true, message: result.summary };
  }

  // --- on air ---

  air(): AirState {
    const show = this.airId ? this.shows.get(this.airId) : undefined;
    const routes = show?.sent() ?? [];
    const universes = new Set(routes.map((r) => r.universe)).size;
    return {
      showId: this.airId,
      showName: show?.name ?? null,
      universes,
      onlyNode: routes.every((r) => r.destination === 'node'),
      problem: this.mayOutput ? this.problem : 'another player has the output',
    };
  }

  private airTold = '';

  private tellAir(): void {
    const air = this.air();
    this.airTold = JSON.stringify(air);
    for (const client of this.clients) client.send({ type: 'air', ...air });
  }

  private async setAir(
    show: LiveShow,
    actor: Actor,
    on: boolean,
    preview: boolean,
  ): Promise<Answer> {
    if (!on && this.airId !== show.id) return refuse('nothing', `“${show.name}” is not on air.`);
    if (on && this.airId === show.id) return refuse('nothing', `“${show.name}” is on air already.`);
    const now = this.airId === null ? undefined : await this.open(this.airId);
    const comes = on ? show : null;
    const changing = {
      actor,
      house: await houseRight(this.db, actor.userId),
      roleNow: now ? ((await membership(this.db, now.id, actor.userId))?.role ?? null) : null,
    };
    const no = mayChangeAir(changing, now, comes);
    if (no) return no;
    if (preview) return { ok: true, message: sayAir(now, comes) };
    await this.db
      .updateTable('installation')
      .set({ air_show_id: comes?.id ?? null })
      .where('id', '=', 1)
      .execute();
    this.putOnAir(comes?.id ?? null, AIR_FADE_S);
    await sql`select pg_notify(${AIR_CHANNEL}, ${JSON.stringify({ show: comes?.id ?? null })})`.execute(
      this.db,
    );
    const by = { kind: 'air' as const, userId: actor.userId, userName: actor.name };
    if (now)
      this.note(now.id, {
        ...by,
        text: comes ? `“${comes.name}” was put on air in its place` : 'Took the show off air',
      });
    if (comes)
      this.note(comes.id, {
        ...by,
        text: `Put the show on air${now ? `, in place of “${now.name}”` : ''}`,
      });
    return {
      ok: true,
      message: comes ? `${comes.name} is on air` : `${show.name} is in rehearsal`,
    };
  }

  private putOnAir(showId: string | null, fade_s: number): void {
    if (this.airId !== null) this.wasOnAir.add(this.airId);
    this.airId = showId;
    if (this.mayOutput) this.clock.tell({ do: 'air', showId, fade_s });
    this.tellAir();
  }

  // --- waiting, and taking over ---

  /** Rows of shows that a waiting player keeps up to date, so that it goes on without loading them. */
  private readonly warm = new Map<string, { show: MutableShow; seq: number }>();

  private async rowsOf(showId: string): Promise<{ show: MutableShow; seq: number } | undefined> {
    const warm = this.warm.get(showId);
    if (!warm) return loadShow(this.db, showId);
    this.warm.delete(showId);
    for (const change of await changesAfter(this.db, showId, warm.seq)) advance(warm, change);
    return warm;
  }

  /** While another player is on air: keeps the show that is on air at hand. */
  async follow(): Promise<void> {
    if (this.mayOutput) return;
    const showId = await airShow(this.db);
    for (const id of this.warm.keys()) if (id !== showId) this.warm.delete(id);
    if (!showId) return;
    const warm = this.warm.get(showId);
    if (warm)
      for (const change of await changesAfter(this.db, showId, warm.seq)) advance(warm, change);
    else {
      const loaded = await loadShow(this.db, showId);
      if (loaded) this.warm.set(showId, loaded);
    }
  }

  get onAir(): boolean {
    return this.mayOutput;
  }
  /** Told when another player has taken the output while this one still sends. */
  displaced: (() => void) | null = null;
  /** How this player is reached; set by its main. */
  address = '';

  private otherPlayer(address: string): void {
    if (this.mayOutput && address !== this.address) this.displaced?.();
  }

  /** This player is the one that sends: what was on air goes on where it was. */
  async takeOutput(): Promise<void> {
    this.mayOutput = true;
    const showId = await airShow(this.db);
    if (showId) await this.open(showId);
    this.putOnAir(showId, 0);
  }

  // --- the database's news ---

  heard(channel: string, payload: unknown): void {
    const message = payload as (PeopleNews & { seq?: number; player?: string }) | null;
    if (channel === AIR_CHANNEL) {
      const showId = message?.show ?? null;
      if (message?.show !== undefined && showId !== this.airId && this.mayOutput)
        void (showId ? this.open(showId) : Promise.resolve()).then(() =>
          this.putOnAir(showId, AIR_FADE_S),
        );
      else if (message?.player !== undefined) this.otherPlayer(message.player);
    } else if (channel === MEMBERS_CHANNEL) this.peopleChanged(message ?? {});
    else if (message?.show && this.shows.has(message.show)) void this.catchUp(message.show);
  }

  /** After a lost connection anything may have been missed: changes, and who may be here. */
  caughtOff(): void {
    for (const id of this.shows.keys()) void this.catchUp(id);
    void this.lookAtSessions();
  }

  private readonly catching = new Map<string, Promise<void>>();

  private catchUp(showId: string): Promise<void> {
    const running = this.catching.get(showId) ?? Promise.resolve();
    const next = running.then(async () => {
      const show = this.shows.get(showId);
      if (!show) return;
      for (const change of await changesAfter(this.db, showId, show.copy.seq)) show.apply(change);
      // What is sent may be other universes by now (one-person.test.ts).
      if (showId === this.airId && JSON.stringify(this.air()) !== this.airTold) this.tellAir();
    });
    const guarded = next.catch((error: unknown) =>
      this.log.warn({ error: String(error) }, 'could not read changes; will try again'),
    );
    this.catching.set(showId, guarded);
    return guarded;
  }

  /** Roles, locks and sign-outs count at once on open screens. */
  private peopleChanged(message: PeopleNews): void {
    if (message.show)
      void this.rolesChanged(message.show, message.user).catch((error: unknown) =>
        this.log.warn({ error: String(error) }, 'could not read roles'),
      );
    if (message.inbox !== undefined) {
      const { inbox, of, says } = message;
      // Said on screens of that show; elsewhere it counts.
      for (const client of this.clients)
        if (client.actor.userId === inbox)
          client.send({ type: 'inbox', says: client.showId === of ? (says ?? null) : null });
    }
    if (message.session === undefined) return;
    for (const client of [...this.clients]) {
      if (client.sessionId !== message.session) continue;
      if (message.ended) client.showOut();
      else client.setLocked(message.locked ?? false);
    }
  }

  /** Once a second: boards of those who stay away, and people whose time is over. */
  lookAtPeople(): void {
    for (const show of this.shows.values()) show.lookAtPeople();
    const now = Date.now();
    for (const client of [...this.clients])
      if (client.leaves !== null && client.leaves <= now) this.placeOf(client, null);
  }

  /** Now and then, and after the database was away: whether everybody here is still who they were. */
  async lookAtSessions(): Promise<void> {
    try {
      const ended = await endedSessions(this.db, [
        ...new Set([...this.clients].map((c) => c.sessionId)),
      ]);
      for (const client of [...this.clients]) if (ended.has(client.sessionId)) client.showOut();
      for (const client of [...this.clients]) {
        const who = await standingOf(this.db, client.sessionId, client.showId);
        this.placeOf(client, who?.of ?? null);
        client.setLocked(who?.isLocked ?? false);
      }
      for (const show of this.shows.values())
        for (const [userId] of show.left.saved()) await this.lookAtHolder(show.id, userId);
    } catch (error) {
      this.log.warn({ error: String(error) }, 'could not look at who is here; will look again');
    }
  }

  /** @param userId whose place has changed; undefined for anybody's */
  private async rolesChanged(showId: string, userId: string | undefined): Promise<void> {
    for (const client of [...this.clients]) {
      if (client.showId !== showId || (userId !== undefined && client.actor.userId !== userId))
        continue;
      this.placeOf(client, (await membership(this.db, showId, client.actor.userId)) ?? null);
    }
    if (userId !== undefined) await this.lookAtHolder(showId, userId);
    this.tellPresence(showId);
  }

  /** Whoever holds light and has no screen here may be out of the show by now. */
  private async lookAtHolder(showId: string, userId: string): Promise<void> {
    const of = await membership(this.db, showId, userId);
    if (!of || !PLAYERS.includes(of.role))
      this.shows.get(showId)?.withdrawn(userId, of ? 'role' : 'removed');
  }

  /** A person's place in the show as it is now: on their screens, and on boards that they may not have any more. */
  private placeOf(client: Client, of: Membership | null): void {
    client.setRole(of);
    const show = this.shows.get(client.showId);
    if (!of || !PLAYERS.includes(of.role))
      show?.withdrawn(client.actor.userId, of ? 'role' : 'removed');
    else show?.left.back(client.actor.userId);
  }

  // --- people ---

  joined(client: Client): void {
    this.clients.add(client);
    if (PLAYERS.includes(client.actor.role))
      this.shows.get(client.showId)?.personCame(client.actor.userId);
    this.tellPresence(client.showId);
    this.tellFollowed(client.showId);
  }

  left(client: Client): void {
    this.clients.delete(client);
    const stays = [...this.clients].some(
      (c) => c.showId === client.showId && c.actor.userId === client.actor.userId,
    );
    if (!stays) this.shows.get(client.showId)?.personLeft(client.actor.userId, client.why);
    if (client.watching.follows !== null) this.tellFollowed(client.showId);
    this.tellPresence(client.showId);
  }

  private readonly presenceTold = new Map<string, { timer: NodeJS.Timeout; again: boolean }>();

  /** Tells all of a show who is where: at once, and then not again for a moment, however many move. */
  tellPresence(showId: string): void {
    const told = this.presenceTold.get(showId);
    if (told) {
      told.again = true;
      return;
    }
    this.sendPresence(showId);
    const timer = setTimeout(() => {
      const { again = false } = this.presenceTold.get(showId) ?? {};
      this.presenceTold.delete(showId);
      if (again) this.tellPresence(showId);
    }, PRESENCE_EVERY_MS);
    timer.unref();
    this.presenceTold.set(showId, { timer, again: false });
  }

  private sendPresence(showId: string): void {
    const people = new Map<string, Person>();
    const newest = [...this.clients]
      .filter((c) => c.showId === showId)
      .sort((a, b) => b.used_ms - a.used_ms);
    for (const c of newest) {
      const hands = c.hand !== null || c.doing !== '' ? [{ hand: c.hand, doing: c.doing }] : [];
      const known = people.get(c.actor.userId);
      if (known) {
        known.screens++;
        known.hands.push(...hands);
      } else
        people.set(c.actor.userId, {
          userId: c.actor.userId,
          name: c.actor.name,
          role: c.actor.role,
          place: c.place,
          cue: c.cue,
          device: c.device,
          screens: 1,
          hands,
        });
    }
    const text: ServerMessage = { type: 'presence', people: [...people.values()] };
    this.in(showId, (c) => c.send(text));
  }

  // --- going along with somebody ---

  /** Only the screen that its person used last is followed. */
  private isUsed(client: Client): boolean {
    return ![...this.clients].some(
      (c) =>
        c !== client &&
        c.showId === client.showId &&
        c.actor.userId === client.actor.userId &&
        c.used_ms > client.used_ms,
    );
  }

  /** Screens are told who goes along with them, so that they say what they look at while somebody does. */
  private tellFollowed(showId: string): void {
    for (const client of this.clients) {
      if (client.showId !== showId) continue;
      const by = [
        ...new Set(
          [...this.clients]
            .filter((c) => c.showId === showId && c.watching.follows === client.actor.userId)
            .map((c) => c.actor.name),
        ),
      ];
      if (by.join() === client.followedBy) continue;
      client.followedBy = by.join();
      client.send({ type: 'followed', by });
    }
  }

  viewed(client: Client, view: View): void {
    if (!this.isUsed(client)) return;
    for (const c of this.clients)
      if (c.showId === client.showId && c.watching.follows === client.actor.userId)
        c.send({ type: 'view', userId: client.actor.userId, view });
  }

  // --- levels to screens ---

  sendLevels(): void {
    for (const client of this.clients) {
      const show = this.shows.get(client.showId);
      if (show) client.sendLevels(show);
    }
  }

  // --- outputs to those who look at them ---

  discovery: Pick<Discovery, 'state' | 'wanted'> | null = null;
  ears: () => OutputState['osc'] = () => ({ port: null, problem: null });

  watched(client?: Client): void {
    if (client) this.tellFollowed(client.showId);
    this.discovery?.wanted([...this.clients].some((c) => c.watching.outputs));
    void this.sendOutputs();
  }

  /** Sources of bytes, and the state of the outputs, to the screens that show them. */
  async sendOutputs(): Promise<void> {
    for (const client of this.clients) {
      const show = this.shows.get(client.showId);
      if (show) client.sendSources(show);
    }
    const looking = [...this.clients].filter((c) => c.watching.outputs);
    if (looking.length === 0) return;
    const told = looking.map((c) => c.secondsTold);
    const [{ lines }, seconds] = await Promise.all([
      this.clock.stats(),
      this.clock.seconds(Math.min(...told)),
    ]);
    const found = this.discovery?.state() ?? { nodes: [], sources: [], deaf: [] };
    const osc = this.ears();
    for (const client of looking) {
      const after = client.secondsTold;
      client.secondsTold = seconds.at(-1)?.second ?? after;
      client.send({
        type: 'outputs',
        seconds: seconds.filter((s) => s.second > after),
        lines: client.showId === this.airId ? lines : [],
        ...found,
        osc,
      });
    }
  }

  /** Universes on the wire now, and where sACN goes, for telling others. */
  sending(): { sacn: number[]; hosts: string[]; artnet: string[] } {
    const show = this.airId && this.mayOutput ? this.shows.get(this.airId) : undefined;
    const routes = show?.sent() ?? [];
    const plainHosts = (protocol: 'sacn' | 'artnet'): string[] => [
      ...new Set(
        routes
          .filter((r) => r.protocol === protocol && r.destination !== 'multicast')
          .map((r) => r.destination),
      ),
    ];
    return {
      sacn: routes.filter((r) => r.protocol === 'sacn').map((r) => r.wire),
      hosts: plainHosts('sacn'),
      artnet: plainHosts('artnet'),
    };
  }

  // --- saving ---

  save(showId: string, in_ms: number): void {
    const saving = this.saving.get(showId) ?? {
      timer: null,
      running: false,
      again_ms: null,
      took_ms: 0,
    };
    this.saving.set(showId, saving);
    if (saving.running) {
      saving.again_ms = Math.min(saving.again_ms ?? Infinity, in_ms);
      return;
    }
    if (saving.timer) {
      if (in_ms > 0) return;
      clearTimeout(saving.timer);
    }
    saving.timer = setTimeout(() => void this.saveNow(showId, saving), in_ms);
  }

  private async saveNow(showId: string, saving: Saving): Promise<void> {
    const show = this.shows.get(showId);
    saving.timer = null;
    if (!show) return;
    saving.running = true;
    const start = performance.now();
    let failed = false;
    try {
      await this.keeping.write(showId, this.playerId, await show.saved());
    } catch (error) {
      // The database is away: playing goes on, and what plays is saved when it is back.
      failed = true;
      this.log.warn({ error: String(error) }, 'could not save what plays; will try again');
    }
    saving.took_ms = performance.now() - start;
    saving.running = false;
    const again_ms = saving.again_ms;
    saving.again_ms = null;
    // A GO that came in the middle of a save is not kept by it: the next one comes at once.
    if (failed) this.save(showId, SAVE_FAILED_MS);
    else if (again_ms !== null) this.save(showId, again_ms);
    else if (show.fading) this.save(showId, Math.max(SAVE_FADING_MS, saving.took_ms * SAVE_SHARE));
  }

  /** Saves every show once more, for a clean stop. @returns what could not be saved, in sentences */
  async saveAll(): Promise<string[]> {
    const unsaved: string[] = [];
    for (const [id, show] of this.shows) {
      const saving = this.saving.get(id);
      if (saving?.timer) clearTimeout(saving.timer);
      const state = await show.saved();
      try {
        await this.keeping.write(id, this.playerId, state);
      } catch (error) {
        this.log.warn({ error: String(error), show: show.name }, 'could not save on stop');
        unsaved.push(await this.sayUnsaved(id, show, state));
      }
    }
    return unsaved;
  }

  private async sayUnsaved(id: string, show: LiveShow, state: SavedShow): Promise<string> {
    const held = state.programmers.reduce(
      (n, [, o]) => n + o.values.filter(([, v]) => !v.recorded).length,
      0,
    );
    const at = show.playback().lists.find((l) => l.active);
    const what = [
      at === undefined || at.cueNumber === null ? '' : `cue ${formatCueNumber(at.cueNumber)}`,
      held > 0 ? `${plural(held, 'value')} that ${held === 1 ? 'is' : 'are'} not recorded` : '',
    ]
      .filter(Boolean)
      .join(', ');
    const kept = await this.keeping.leave(id, state);
    return `The database could not take what “${show.name}” plays${what ? ` (${what})` : ''}. ${kept ? 'It is kept in the data folder, and comes back with the next start.' : 'It could not be kept in the data folder either, and is lost with this stop.'}`;
  }
}

const newEditId = (): string =>
  `p${Date.now().toString(36)}${Math.random().toString(36).slice(2, 8)}`;
