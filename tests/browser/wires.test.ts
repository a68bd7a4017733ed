/** Real wires: what the house is called, other desks that come in, units that hang there, faults of a house. */
import { createSocket, type Socket } from 'node:dgram';
import { By, Key } from 'selenium-webdriver';
import { sacnFrame, sacnMulticast, sacnPacket, sacnTerminated } from '../../src/core/output/sacn';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(180_000);
let house: House;
let screen: Screen;
let script: Script;
let show = '';

interface Received {
  protocol: string;
  universe: number;
  source: string;
  wins: boolean;
  state: string;
  slots: number[];
}
interface NodeReport {
  universes: Received[];
  names: { shortName: string };
  syncs: { sacn: number; artnet: number };
  identifying: string[];
}
const node = async (): Promise<NodeReport> => (await script.ask('/api/sim/node')).json;
const faults = (body: object) => script.ask('/api/sim/node', body);
const live = (body: object) => script.ask(`/api/shows/${show}/live`, body);
const dmx = async (universe: number, address: number): Promise<number> =>
  ((await script.ask(`/api/shows/${show}/stage`)).json as { universes: Record<string, number[]> })
    .universes[universe]?.[address - 1] ?? -1;
const tab = async (name: string): Promise<void> =>
  (
    await screen.driver.findElement(
      By.xpath(
        `//div[@role="tablist"][@aria-label="Below"]//button[starts-with(normalize-space(.), "${name}")]`,
      ),
    )
  ).click();

/** Another desk on this machine: sACN by multicast that does not leave it. Nobody else's tests use this universe. */
const THEIRS = 51_000 + (process.pid % 9000);
const SOURCE = {
  cid: Uint8Array.from({ length: 16 }, (_, i) => (process.pid + i) & 255),
  name: 'House desk',
};
class Desk {
  private readonly packet = sacnPacket(SOURCE, THEIRS, 100);
  private readonly slots = new Uint8Array(512);
  private sending: NodeJS.Timeout | null = null;
  private constructor(private readonly socket: Socket) {}

  static open(): Promise<Desk> {
    const socket = createSocket('udp4');
    return new Promise((done) =>
      socket.bind(0, '127.0.0.1', () => {
        socket.setMulticastInterface('127.0.0.1');
        socket.setMulticastTTL(0);
        done(new Desk(socket));
      }),
    );
  }
  private send(packet: Uint8Array): void {
    this.socket.send(packet, 5568, sacnMulticast(THEIRS));
  }
  shows(levels: Readonly<Record<number, number>>): void {
    for (const [address, level] of Object.entries(levels)) this.slots[Number(address) - 1] = level;
    this.sending ??= setInterval(() => this.send(sacnFrame(this.packet, this.slots, 0)), 50);
  }
  ends(): void {
    if (this.sending) clearInterval(this.sending);
    this.sending = null;
    for (let i = 0; i < 3; i++) this.send(sacnTerminated(this.packet));
  }
  close(): void {
    if (this.sending) clearInterval(this.sending);
    this.socket.close();
  }
}
let desk: Desk;

beforeAll(async () => {
  house = await openHouse();
  script = await new Script(house).signIn('owner');
  show = await script.showId('The Night Ferry');
  screen = await Screen.open(house, 'owner');
  await screen.openShow('The Night Ferry');
  await screen.place('rig');
  await tab('Outputs');
  await screen.says('[data-testid=wires]', 'Lights leave');
  desk = await Desk.open();
});
afterAll(async () => {
  desk.close();
  await Screen.closeAll();
  await house.stop();
});

test('Outputs opens at its beginning', async () => {
  const top = await screen.driver.executeScript(
    'return document.querySelector("[data-testid=wires]").parentElement.scrollTop',
  );
  expect(top).toBe(0);
});

test('the house says what it is called and that universes are one moment, and the wire says so too', async () => {
  await screen.says('[data-testid=wires]', /as “Wingman”/);
  await screen.press('Change …');
  await screen.fill('Called on the network', 'Tidewater, stage left');
  await screen.fill('sACN synchronisation, universe', '7000');
  await (await screen.driver.findElement(By.xpath('//label[contains(., "ArtSync")]'))).click();
  await screen.press('Say so');
  await screen.says(
    '[data-testid=wires]',
    /as “Tidewater, stage left”; sACN waits for universe 7000, ArtSync/,
  );
  await until(async () =>
    (await node()).universes.some(
      (u) => u.protocol === 'sacn' && u.source === 'Tidewater, stage left',
    ),
  );
  const before = (await node()).syncs;
  await until(async () => {
    const { sacn, artnet } = (await node()).syncs;
    return sacn > before.sacn && artnet > before.artnet;
  });
  // What cannot be is said, and changes nothing.
  const odd = await script.ask(
    '/api/house/wires',
    { sourceName: 'x'.repeat(70) },
    {
      method: 'PUT',
    },
  );
  expect([odd.status, JSON.stringify(odd.json)]).toEqual([
    400,
    expect.stringContaining('63 bytes'),
  ]);
});

test('a node is renamed after a question, and keeps its name', async () => {
  await screen.says('[aria-label="Art-Net nodes"]', 'Simulated node');
  await (await screen.find('[aria-label="Rename Simulated node"]')).click();
  await screen.says('[role=dialog]', /Rename the node at 127\.0\.0\.1\?/);
  await screen.fill('Short name, 17 letters at most', 'Bow rack');
  await screen.press('Rename it');
  await until(async () => (await node()).names.shortName === 'Bow rack');
  await screen.says('[aria-label="Art-Net nodes"]', 'Bow rack');
});

test('who else sends a universe, and who wins, is said; a port with a fault says which', async () => {
  expect(
    (await faults({ rival: { universe: 1, priority: 120, level: 9 }, deadPort: 1 })).status,
  ).toBe(200);
  await screen.says(
    '[aria-label="Universes that others send too"]',
    /universe 1 is sent by “Simulated rival” .* priority 120; ours is 100: theirs is seen/,
  );
  await screen.says('[aria-label="Art-Net nodes"]', 'short circuit');
  await until(async () => {
    const first = (await node()).universes.filter((u) => u.protocol === 'sacn' && u.universe === 1);
    return first.length === 2 && first.every((u) => u.wins === (u.source === 'Simulated rival'));
  });
  await faults({});
  await until(
    async () => (await screen.count('[aria-label="Universes that others send too"]')) === 0,
  );
});

test('what another desk sends is seen beside ours, merged, and let go again', async () => {
  await screen.fill('Another desk', 'House desk');
  await screen.fill('Number there', String(THEIRS));
  await screen.fill('Our universe', '1');
  await screen.press('Receive it');
  await screen.says('[data-input]', 'nothing heard');
  desk.shows({ 1: 200, 300: 77 });
  await screen.says('[data-input]', 'House desk, 127.0.0.1');
  // Looked at, it changes nothing.
  expect(await dmx(1, 300)).toBe(0);
  await tab('DMX');
  await screen.says('[data-address="300"] [data-incoming]', /^(30|77|4D)$/);
  await tab('Outputs');
  await (await screen.find('[aria-label="What House desk does"]')).sendKeys('merged');
  await until(async () => (await dmx(1, 300)) === 77 && (await dmx(1, 1)) === 200);
  await until(async () =>
    (await node()).universes.some(
      (u) => u.protocol === 'sacn' && u.universe === 1 && u.slots[299] === 77,
    ),
  );
  desk.shows({ 300: 0 });
  await until(async () => (await dmx(1, 300)) === 0);
  expect(await dmx(1, 1)).toBe(200);
});

test('what it shows is taken into the programmer, and recorded', async () => {
  const [take] = await screen.driver.findElements(
    By.xpath('//li[@data-input]//button[contains(., "Take what it shows")]'),
  );
  await take?.click();
  await screen.says('body', /What “House desk” shows is in your programmer/);
  // The merge goes, and our own values stay.
  await (await screen.find('[aria-label="What House desk does"]')).sendKeys('looked');
  await new Promise((done) => setTimeout(done, 300));
  expect(Math.abs((await dmx(1, 1)) - 200)).toBeLessThanOrEqual(1);
  await screen.command('record look 77 "From the house"');
  await until(async () => {
    const rows = (await script.ask(`/api/shows/${show}`)).json as {
      tables: { looks: { number: number }[] };
    };
    return rows.tables.looks.some((l) => l.number === 77);
  });
  await screen.command('clear');
  await until(async () => (await dmx(1, 1)) !== 200);
  desk.ends();
});

test('units say what they are; one at a wrong address is a finding, and is set after a question', async () => {
  await screen.says('[aria-label="What hangs there"]', 'speak RDM say what they are');
  await screen.press('Ask them');
  await screen.says(
    '[aria-label="What hangs there"]',
    /34 units answered, 2 not as patched/,
    40_000,
  );
  await tab('Findings');
  await screen.says('[aria-label=Findings]', /It is at 480; unit 43 Front par 3/);
  await tab('Outputs');
  await screen.press('Set it to 9 …');
  await screen.says('[role=dialog]', /what is patched stays as it is/);
  await screen.press('Set it to 9');
  await screen.says('[aria-label="What hangs there"]', /34 units answered, 1 not as patched/);
  // It shows itself, until it is told to stop.
  await (await screen.find('[data-unit] [aria-label^="Have"]')).click();
  await until(async () => (await node()).identifying.length === 1);
  await (await screen.find('[data-unit] [aria-label$="end it"]')).click();
  await until(async () => (await node()).identifying.length === 0);
  expect(
    (await live({ command: 'rdm', do: 'address', uid: '7ff1:00000001', value: 512 })).status,
  ).toBe(400);
});

test('a cable that is pulled and comes back is taken up again, and packets that are lost or late end nothing', async () => {
  await faults({ pulled: true });
  await until(async () => (await node()).universes.every((u) => u.state !== 'receiving'));
  await until(async () => (await screen.count('[aria-label="Art-Net nodes"] li')) === 0, 20_000);
  await faults({ loss: 0.3, reorder: true });
  await until(async () => (await node()).universes.some((u) => u.state === 'receiving'));
  await faults({});
  await screen.says('[aria-label="Art-Net nodes"]', 'Bow rack');
  await (await screen.find('body')).sendKeys(Key.ESCAPE);
});
