/**
 * Two whole houses on one network, and a receiver that follows E1.31: the one with the lower priority follows the other,
 * and takes its place where that one is gone. They live in a network namespace of their own, where this file runs once more.
 */
import { spawnSync } from 'node:child_process';
import { createSocket, type Socket } from 'node:dgram';
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { readSacn, sacnMulticast } from '../../../src/core/output/sacn';
import { openHouse, scratch, Script, until, type House } from '../wingman';

jest.setTimeout(400_000);
const ROOT = resolve(__dirname, '../../..');
const IS_INSIDE = process.env.WINGMAN_NAMESPACE === 'own';
const CARD = '10.20.0.5';
const WIRE = 301;
/** Seconds after which a receiver gives up a source (E1.31 clause 6.7.1). */
const LOSS_MS = 2500;
/** A fade of four seconds goes 1.5 a frame; a receiver on a busy machine may miss a few frames. */
const STEP = 12;

const inOwnNetwork = (script: string) =>
  spawnSync(
    'unshare',
    [
      '-nm',
      'sh',
      '-ec',
      `mount -t sysfs sysfs /sys
       ip link set lo up
       ip link add lights type veth peer name lights-end
       ip link set lights-end up
       ip link set lights up
       ip addr add ${CARD}/16 brd + dev lights
       ip route add 239.255.0.0/16 dev lights
       ${script}`,
    ],
    {
      cwd: ROOT,
      encoding: 'utf8',
      timeout: 380_000,
      env: { ...process.env, WINGMAN_NAMESPACE: 'own' },
    },
  );

/** A receiver as the standard has it: of the sources that it hears, the one of the highest priority. */
class Receiver {
  private readonly sources = new Map<
    string,
    { priority: number; heard_ms: number; slots: Uint8Array }
  >();
  private shown: Uint8Array = new Uint8Array(0);
  /** The widest change of an address from one picture to the next, since it was last asked for. */
  private widest = 0;
  private readonly looking = setInterval(() => this.look(), 10);
  private constructor(private readonly socket: Socket) {
    socket.on('message', (bytes) => {
      const packet = readSacn(bytes);
      if (packet?.universe !== WIRE) return;
      if (packet.terminated) this.sources.delete(packet.cid);
      else
        this.sources.set(packet.cid, {
          priority: packet.priority,
          heard_ms: performance.now(),
          slots: packet.slots,
        });
      this.look();
    });
  }
  static open(): Promise<Receiver> {
    const socket = createSocket({ type: 'udp4', reuseAddr: true });
    return new Promise((done) =>
      socket.bind(5568, () => {
        socket.addMembership(sacnMulticast(WIRE), CARD);
        done(new Receiver(socket));
      }),
    );
  }

  private heard() {
    const now = performance.now();
    return [...this.sources.values()]
      .filter((s) => now - s.heard_ms < LOSS_MS)
      .sort((a, b) => b.priority - a.priority);
  }
  private look(): void {
    // A source that is lost leaves its last picture where nobody else is.
    const [first] = this.heard();
    if (!first) return;
    const { slots } = first;
    const before = this.shown.length === 0 ? slots : this.shown;
    slots.forEach((b, i) => (this.widest = Math.max(this.widest, Math.abs(b - (before[i] ?? 0)))));
    this.shown = slots;
  }
  get priorities(): number[] {
    return this.heard().map((s) => s.priority);
  }
  picture(): number[] {
    return [...this.shown];
  }
  step(): number {
    const { widest } = this;
    this.widest = 0;
    return widest;
  }
  close(): void {
    clearInterval(this.looking);
    this.socket.close();
  }
}

const childrenOf = (pid: number): number[] => {
  const own = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8')
    .split(' ')
    .filter(Boolean)
    .map(Number);
  return [...own, ...own.flatMap(childrenOf)];
};

/** A house whose universe 1 goes out by the card. */
class Desk {
  private constructor(
    readonly house: House,
    readonly owner: Script,
    readonly show: string,
  ) {}
  static async open(data?: string): Promise<Desk> {
    // Made anew each: two copies of one demo are one sender to the network, by what it calls itself.
    const house = await openHouse(data ?? scratch());
    const owner = await new Script(house).signIn('owner');
    return new Desk(house, owner, await owner.showId('The Night Ferry'));
  }
  async live(command: object): Promise<void> {
    expect(await this.owner.ask(`/api/shows/${this.show}/live`, command)).toMatchObject({
      status: 200,
    });
  }
  async edit(edit: string, params: object): Promise<void> {
    expect(await this.owner.ask(`/api/shows/${this.show}/edits`, { edit, params })).toMatchObject({
      status: 200,
    });
  }
  async sends(priority: number): Promise<void> {
    const said = await this.owner.ask(
      '/api/house/wires',
      { card: 'lights', asked: true },
      { method: 'PUT' },
    );
    expect(said.status).toBe(200);
    await this.edit('set-route', {
      set: {
        universe: 1,
        protocol: 'sacn',
        destination: 'multicast',
        wire: WIRE,
        priority,
        on: true,
      },
    });
    await this.live({ command: 'board', do: 'take' });
  }
  /** What leaves of universe 1. */
  async bytes(): Promise<number[]> {
    const stage = await this.owner.ask(`/api/shows/${this.show}/stage`);
    return (stage.json as { universes: Record<string, number[]> }).universes[1] ?? [];
  }
  /** As a machine does whose power goes. */
  dies(): void {
    const { pid = 0 } = this.house.launcher;
    for (const child of [pid, ...childrenOf(pid)]) process.kill(child, 'SIGKILL');
  }
}

const sleep = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

if (!IS_INSIDE) {
  test('two houses on a network of their own', () => {
    const can = inOwnNetwork('ip -br addr');
    if (can.status !== 0) {
      console.warn(
        `Skipped: this machine has no network namespaces for two houses (${can.stderr.trim() || String(can.error)}).`,
      );
      return;
    }
    const jest = `${process.execPath} --experimental-vm-modules --no-warnings ${join(ROOT, 'node_modules/jest/bin/jest.js')}`;
    const ran = inOwnNetwork(
      `exec ${jest} --selectProjects=moments --runInBand --forceExit --testPathPatterns=two-houses`,
    );
    if (ran.status !== 0) throw new Error(`${ran.stdout}${ran.stderr}`);
  });
} else {
  let receiver: Receiver;
  let first: Desk;
  let second: Desk;

  beforeAll(async () => {
    receiver = await Receiver.open();
    first = await Desk.open();
    second = await Desk.open();
    await first.sends(120);
    await second.sends(90);
    await until(() => receiver.priorities.join() === '120,90');
  });
  afterAll(async () => {
    receiver.close();
    await first.house.stop();
    await second.house.stop();
  });

  test('the second one follows: what it sends is what the first one shows, and receivers show the first', async () => {
    await second.edit('set-input', {
      set: { name: 'First house', port: `sacn/${WIRE}`, universe: 1, merge: 'follow', on: true },
    });
    await first.live({ command: 'goto', cue: '18', time: 0 });
    await until(async () => {
      const [theirs, ours] = [await first.bytes(), receiver.picture()];
      return theirs.some((b) => b > 0) && theirs.join() === ours.join();
    });
    await second.live({ command: 'goto', cue: '5', time: 0 });
    await sleep(500);
    expect(receiver.picture()).toEqual(await first.bytes());
  });

  test('the first one loses its power in the middle of a fade: nothing is seen of it, and the second has its place', async () => {
    await first.live({ command: 'goto', cue: '19', time: 6 });
    await sleep(2000);
    receiver.step();
    first.dies();
    await until(() => receiver.priorities.join() === '90', 10_000);
    await sleep(1000);
    expect(receiver.step()).toBeLessThanOrEqual(STEP);
    const held = receiver.picture();
    expect(held.some((b) => b > 0)).toBe(true);
    await sleep(3000);
    expect(receiver.picture()).toEqual(held);
  });

  test('somebody takes over: it goes to what the second one plays itself, without a step', async () => {
    receiver.step();
    const { inputs } = (
      (await second.owner.ask(`/api/shows/${second.show}`)).json as {
        tables: { inputs: { id: string }[] };
      }
    ).tables;
    await second.edit('set-input', {
      id: inputs[0]?.id,
      set: { name: 'First house', port: `sacn/${WIRE}`, universe: 1, merge: 'look', on: true },
    });
    await sleep(3500);
    expect(receiver.picture()).toEqual(await second.bytes());
    expect(receiver.step()).toBeLessThanOrEqual(STEP);
  });

  test('the first one comes back and is seen again; following it, the second stands by once more', async () => {
    first = await Desk.open(first.house.data);
    await until(() => receiver.priorities.join() === '120,90', 60_000);
    await first.live({ command: 'go' });
    await until(async () => (await first.bytes()).join() === receiver.picture().join(), 30_000);
  });
}
