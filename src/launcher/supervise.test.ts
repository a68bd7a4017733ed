/** What dies is started again, what hangs is ended; with real processes and real signals. */
import { spawn, type ChildProcess } from 'node:child_process';
import { getPriority } from 'node:os';
import { end, gone, isAlive, isOurs, stateOf } from './processes.ts';
import { Supervisor, waitBefore } from './supervise.ts';
import { until } from '../core/testing/until.ts';

const begun: ChildProcess[] = [];
const sleeper = (): ChildProcess => {
  const child = spawn('sleep', ['60'], { stdio: 'ignore' });
  begun.push(child);
  return child;
};
let supervisor: Supervisor;
let said: string[];
let changes: number;
beforeEach(() => {
  [said, changes] = [[], 0];
  supervisor = new Supervisor(
    () => changes++,
    (text) => said.push(text),
  );
});
afterEach(() => {
  jest.useRealTimers();
  supervisor.stopKeeping();
  for (const child of begun.splice(0)) child.kill('SIGKILL');
});
const pid = (name = 'player'): number => supervisor.pids().find((p) => p.name === name)?.pid ?? 0;

test('what had lived is started again at once; what dies as it starts waits longer and longer, up to some seconds', () => {
  expect(waitBefore(4000, 5000)).toBe(0);
  expect(waitBefore(3_600_000, 800)).toBe(0);
  const waits = [0];
  for (let n = 0; n < 9; n++) waits.push(waitBefore(50, waits.at(-1) ?? 0));
  expect(waits.slice(1)).toEqual([100, 200, 400, 800, 1600, 3200, 5000, 5000, 5000]);
});

test('those that play have the processor before the others', () => {
  for (const name of ['player', 'standby', 'web', 'database'])
    supervisor.keep({ name, start: sleeper });
  const [plays, waits, pages, rows] = ['player', 'standby', 'web', 'database'].map((name) =>
    getPriority(pid(name)),
  );
  expect(plays).toBe(waits);
  expect(plays).toBeLessThan(pages ?? 0);
  expect(pages).toBe(rows);
});

test('a killed process is there again, another one, and whoever keeps the list of them is told', async () => {
  supervisor.keep({ name: 'player', start: sleeper });
  const first = pid();
  expect(isAlive(first)).toBe(true);
  const before = changes;
  process.kill(first, 'SIGKILL');
  await until(() => pid() !== 0 && pid() !== first);
  expect(isAlive(pid())).toBe(true);
  expect(changes).toBeGreaterThanOrEqual(before + 2);
  expect(said).toEqual(['The player process ended (SIGKILL); starting it again.']);
});

test('a process that a signal has stopped is ended and replaced; one that goes on in time is left', async () => {
  supervisor.keep({ name: 'player', start: sleeper });
  supervisor.keep({ name: 'web', start: sleeper });
  const [first, web] = [pid(), pid('web')];
  process.kill(first, 'SIGSTOP');
  process.kill(web, 'SIGSTOP');
  await until(() => stateOf(web) === 'T');
  process.kill(web, 'SIGCONT');
  await until(() => pid() !== 0 && pid() !== first);
  expect(said[0]).toBe('The player process was stopped and hangs; ending it.');
  expect(pid('web')).toBe(web);
  expect(await gone(first, 1000)).toBe(true);
});

test('one that answered before and does not any more is ended; one that has never answered yet is given its time', async () => {
  jest.useFakeTimers();
  supervisor = new Supervisor(
    () => undefined,
    (text) => said.push(text),
  );
  let answers = true;
  supervisor.keep({ name: 'player', start: sleeper, answers: () => Promise.resolve(answers) });
  supervisor.keep({
    name: 'standby',
    start: sleeper,
    answers: () => Promise.reject(new Error('not yet')),
  });
  const [first, other] = [pid(), pid('standby')];
  for (let n = 0; n < 6; n++) await jest.advanceTimersByTimeAsync(500);
  answers = false;
  for (let n = 0; n < 14; n++) await jest.advanceTimersByTimeAsync(500);
  expect(said).toEqual([]);
  for (let n = 0; n < 6 && said.length === 0; n++) await jest.advanceTimersByTimeAsync(500);
  expect(said[0]).toBe('The player process does not answer any more; ending it.');
  jest.useRealTimers();
  expect(await gone(first, 2000)).toBe(true);
  expect(isAlive(other)).toBe(true);
});

test('a launcher that slept itself has seen nobody hang', async () => {
  jest.useFakeTimers();
  supervisor = new Supervisor(
    () => undefined,
    (text) => said.push(text),
  );
  let answers = true;
  supervisor.keep({ name: 'player', start: sleeper, answers: () => Promise.resolve(answers) });
  for (let n = 0; n < 4; n++) await jest.advanceTimersByTimeAsync(500);
  answers = false;
  jest.setSystemTime(Date.now() + 60_000);
  // The whole machine stood still for a minute: one look comes late, and the next are as always.
  const clock = jest.spyOn(performance, 'now');
  const real = performance.now();
  clock.mockImplementation(() => real + 60_000);
  await jest.advanceTimersByTimeAsync(500);
  clock.mockRestore();
  expect(said).toEqual([]);
});

test('a process of an earlier launcher is taken over, and started anew when it goes', async () => {
  const old = sleeper();
  supervisor.adopt({ name: 'player', start: sleeper }, old.pid ?? 0);
  expect(pid()).toBe(old.pid);
  old.kill('SIGKILL');
  await until(() => pid() !== 0 && pid() !== old.pid);
  expect(said).toEqual(['The player process ended (it is gone); starting it again.']);
});

test('stopping ends them, and nothing is started again; what does not want to end is ended', async () => {
  supervisor.keep({ name: 'player', start: () => spawnDeaf() });
  const first = pid();
  await until(() => deafReady);
  supervisor.stopKeeping();
  await supervisor.stop('player', 'SIGTERM', 300);
  expect(isAlive(first)).toBe(false);
  await new Promise((done) => setTimeout(done, 400));
  expect(said).toEqual([]);
});
let deafReady = false;
function spawnDeaf(): ChildProcess {
  const child = spawn(
    process.execPath,
    ['-e', "process.on('SIGTERM', () => {}); console.log('ready'); setInterval(() => {}, 1000)"],
    { stdio: ['ignore', 'pipe', 'ignore'] },
  );
  child.stdout?.once('data', () => (deafReady = true));
  begun.push(child);
  return child;
}

test('ours is what carries our data folder in its environment, or the word in its command line; nobody else', async () => {
  const mine = spawn('sleep', ['60'], {
    stdio: 'ignore',
    env: { PATH: process.env.PATH, WINGMAN_DATA: '/tmp/here' } as unknown as NodeJS.ProcessEnv,
  });
  begun.push(mine);
  await until(() => isOurs(mine.pid ?? 0, '/tmp/here'));
  expect(isOurs(mine.pid ?? 0, '/tmp/her')).toBe(false);
  expect(isOurs(mine.pid ?? 0, '/tmp/elsewhere', 'sleep')).toBe(true);
  expect(isOurs(mine.pid ?? 0, '/tmp/elsewhere', 'postgres')).toBe(false);
  expect(isOurs(2 ** 30, '/tmp/here')).toBe(false);
  await end(mine.pid ?? 0, 'SIGTERM', 1000);
  expect(isAlive(mine.pid ?? 0)).toBe(false);
});
