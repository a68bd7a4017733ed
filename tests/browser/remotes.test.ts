/** Hands that are not at a screen: OSC over sheets, MIDI and another desk at the player's machine; and windows of their own. */
import { createSocket, type Socket } from 'node:dgram';
import { By } from 'selenium-webdriver';
import { SACN_PORT } from '@/core/output/bytes';
import { oscMessage, readOsc } from '@/core/output/osc';
import { sacnFrame, sacnMulticast, sacnPacket } from '@/core/output/sacn';
import { showControlMessage } from '@/core/output/show-control';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(120_000);
let house: House;
let screen: Screen;
let script: Script;
let show = '';
let socket: Socket;
/** What was told over OSC, latest by address. */
const told = new Map<string, string>();

interface Ports {
  oscPort: number;
  midiInPort: number;
  messages: { kind: string; text: string }[];
}
const node = async (): Promise<Ports> => (await script.ask('/api/sim/node')).json;
const live = (command: unknown) => script.ask(`/api/shows/${show}/live`, command);
const edit = async (name: string, params: unknown): Promise<string> => {
  const { status, json } = await script.ask(`/api/shows/${show}/edits`, { edit: name, params });
  expect([name, status, json]).toEqual([name, 200, json]);
  return (json as { changes: { id: string }[] }).changes[0]?.id ?? '';
};
interface Stage {
  lists: { name: string; cue: string | null }[];
  master: number;
}
const stage = async (): Promise<Stage> => (await script.ask(`/api/shows/${show}/stage`)).json;
const send = (port: number, bytes: Uint8Array): void => socket.send(bytes, port, '127.0.0.1');
const midi = async (...bytes: number[]): Promise<void> =>
  send((await node()).midiInPort, Uint8Array.from(bytes));
const osc = async (address: string, ...args: (number | string)[]): Promise<void> =>
  send((await node()).oscPort, oscMessage(address, args));

beforeAll(async () => {
  house = await openHouse();
  screen = await Screen.open(house, 'owner');
  script = await new Script(house).signIn('owner');
  show = await script.showId('The Night Ferry');
  await screen.openShow('The Night Ferry');
  socket = createSocket('udp4');
  socket.on('message', (packet) => {
    const m = readOsc(packet);
    if (m) told.set(m.address, m.args.join(' '));
  });
  await new Promise<void>((done) => socket.bind(0, '127.0.0.1', () => done()));
  socket.setMulticastInterface('127.0.0.1');
  await live({ command: 'remotes', on: true });
});
afterAll(async () => {
  socket?.close();
  await Screen.closeAll();
  await house?.stop();
});

test('sheets are played over OSC, and whoever asked is told how they stand', async () => {
  const sheet = await edit('set-sheet', {
    set: { name: 'Far', columns: 24, rows: 24 },
    pieces: [
      { x: 0, y: 0, w: 4, h: 9, z: 1, label: 'All of it', is: { kind: 'master', as: 'upright' } },
      { x: 5, y: 0, w: 5, h: 4, z: 2, label: 'Dark', is: { kind: 'master', as: 'blackout' } },
    ],
  });
  const rows = (await script.ask(`/api/shows/${show}`)).json as {
    tables: { sheets: { id: string; number: number }[] };
  };
  const at = `/wingman/sheet/${rows.tables.sheets.find((s) => s.id === sheet)?.number}`;
  await osc('/wingman/subscribe');
  await until(() => told.get(`${at}/all-of-it`) === '1' && told.get(`${at}/dark`) === '0');
  await osc(`${at}/all-of-it`, 0.25);
  await until(async () => (await stage()).master === 0.25);
  await until(
    () => told.get(`${at}/all-of-it`) === '0.25' && told.get('/wingman/master') === '0.25',
  );
  await osc(`${at}/dark`, 1);
  await until(() => told.get(`${at}/dark`) === '1');
  await osc(`${at}/dark`, 0);
  await osc(`${at}/dark`);
  await until(() => told.get(`${at}/dark`) === '0');
  // Off is off: nothing is played, nothing is told.
  await live({ command: 'remotes', on: false });
  await osc(`${at}/all-of-it`, 1);
  await live({ command: 'master', level: 0.75 });
  await new Promise((done) => setTimeout(done, 400));
  expect([(await stage()).master, told.get('/wingman/master')]).toEqual([0.75, '0.25']);
  await live({ command: 'remotes', on: true });
  await until(() => told.get('/wingman/master') === '0.75');
});

test('a device at the player’s machine is learned from a screen, and plays by the right it was given', async () => {
  await screen.place('sheets');
  await (await screen.find('[aria-label="New hand"]')).click();
  await screen.fill('Name', 'Rack wing');
  await (await screen.find('[role=dialog] select[name=at]')).sendKeys('the player');
  await screen.says('[role=dialog]', 'It plays by the right of');
  await screen.press('Make it');
  await screen.says('[data-hand-name="Rack wing"]', 'at the player');
  await screen.press('Learn');
  const choice = await screen.find('[aria-label="What it shall do"]');
  await choice.findElement(By.xpath('option[.="Grand master"]')).click();
  await screen.says('[data-testid=learning]', '“Grand master”');
  const before = (await stage()).master;
  await midi(0xb0, 7, 64);
  await screen.says('[data-part="cc.1.7"]', 'Grand master');
  expect((await stage()).master).toBe(before);
  await screen.press('Learned');
  await midi(0xb0, 7, 127);
  await until(async () => (await stage()).master === 1);
  await midi(0xb0, 7, 32);
  await until(async () => Math.abs((await stage()).master - 32 / 127) < 0.001);
  // What plays is told back to it.
  await live({ command: 'master', level: 1 });
  await until(async () =>
    (await node()).messages.some((m) => m.text.includes('number 7 value 127')),
  );
});

test('show control goes to a cue, and a cue sends it', async () => {
  await edit('set-hand', {
    set: { name: 'Sound desk', kind: 'midi', at: 'player', port: '', pages: [''], showControl: 3 },
  });
  const first = (await stage()).lists[0]?.cue;
  const wanted = first === '4' ? '5' : '4';
  await midi(...showControlMessage({ device: 9, command: 'go', cue: wanted }));
  await midi(...showControlMessage({ device: 3, command: 'go', cue: wanted }));
  await until(async () => (await stage()).lists[0]?.cue === wanted);
  const rows = (await script.ask(`/api/shows/${show}`)).json as {
    tables: {
      cues: { id: string; number: number; listId: string }[];
      lists: { id: string; number: number }[];
    };
  };
  const main = rows.tables.lists.find((l) => l.number === 1)?.id;
  const cue = rows.tables.cues.find((c) => c.listId === main && c.number === 6000);
  await edit('change-cue', {
    id: cue?.id,
    set: { actions: [{ do: 'bytes', bytes: '90 3C 64' }] },
  });
  // A GO of the cue that is next is GO, with what the cue does besides light.
  await live({ command: 'goto', cue: '5' });
  await midi(...showControlMessage({ device: 3, command: 'go', cue: '6' }));
  await until(async () =>
    (await node()).messages.some((m) => m.text.includes('note-on channel 1 number 60')),
  );
});

test('another desk over the network is a hand: what stands first moves nothing, what moves then does', async () => {
  await live({ command: 'master', level: 0.5 });
  const hand = await edit('set-hand', {
    set: { name: 'Old desk', kind: 'desk', at: 'player', port: 'sacn/777', pages: [''] },
  });
  await edit('bind', { hand, page: 1, control: 'slot.3', act: { do: 'master' } });
  const cid = Uint8Array.from({ length: 16 }, (_, i) => i + 1);
  const packet = sacnPacket({ cid, name: 'Old desk' }, 777, 100);
  const dmx = new Uint8Array(512);
  const out = (): void => socket.send(sacnFrame(packet, dmx, 0), SACN_PORT, sacnMulticast(777));
  dmx[2] = 200;
  await until(async () => {
    out();
    return (await screen.words('[data-hand-name="Old desk"]')).includes('at the player');
  });
  expect((await stage()).master).toBe(0.5);
  dmx[2] = 51;
  await until(async () => {
    out();
    return Math.abs((await stage()).master - 0.2) < 0.001;
  });
  await live({ command: 'master', level: 1 });
});

test('a panel stands in a window of its own, is true, and comes again', async () => {
  const main = await screen.driver.getWindowHandle();
  const others = async (): Promise<string[]> =>
    (await screen.driver.getAllWindowHandles()).filter((h) => h !== main);
  await screen.driver.actions().keyDown('\uE00A').sendKeys('w').keyUp('\uE00A').perform();
  await screen.says('[role=dialog]', 'For a second screen');
  await screen.press('Cue now and next');
  await until(async () => (await others()).length === 1);
  const [own = ''] = await others();
  await screen.driver.switchTo().window(own);
  await screen.says('h1', 'Cue now and next');
  await live({ command: 'goto', cue: '7' });
  await screen.says('main', 'Pistons');
  await screen.driver.switchTo().window(main);
  // The window that remembers it is looked at now and then.
  await until(async () =>
    (
      await screen.driver.executeScript<string>('return JSON.stringify({...window.localStorage})')
    ).includes('panel#now'),
  );
  await screen.driver.navigate().refresh();
  await screen.find('[aria-label="New hand"]');
  await screen.driver.actions().keyDown('\uE00A').sendKeys('w').keyUp('\uE00A').perform();
  await screen.says('[role=dialog]', 'Last here: Cue now and next');
});

test('a sheet is handed to a phone as a code', async () => {
  await screen.driver.navigate().refresh();
  await screen.find('[data-sheet]');
  const sheet = await screen.find('[data-sheet]');
  await screen.driver.actions().contextClick(sheet).perform();
  const item = By.xpath('//*[@role="menuitem"][.="On a phone or tablet …"]');
  await until(async () => (await screen.driver.findElements(item)).length > 0);
  await screen.driver.findElement(item).click();
  await screen.says('[role=dialog]', `/shows/${show}/page#`);
  expect(await screen.count('[data-testid=qr]')).toBe(1);
});
