/** Jobs with files: done elsewhere, within limits, and nobody waits for them who does not ask. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isRefusal } from '../core/refusal.ts';
import { FileDesk } from './file-desk.ts';

const folder = mkdtempSync(join(tmpdir(), 'desk-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const HEAD = "import { parentPort, workerData } from 'node:worker_threads';\n";
function desk(name: string, code: string, more: { memory_MB?: number; time_ms?: number } = {}): FileDesk {
  const worker = join(folder, `${name}.mjs`);
  writeFileSync(worker, HEAD + code);
  return new FileDesk({ databaseUrl: '', worker, ...more });
}
const JOB = { do: 'open', userId: 'mara' } as const;
const bytes = (n = 4): Uint8Array => new Uint8Array(n).fill(7);

test('the answer is passed on as text; the file is handed over, not copied', async () => {
  const d = desk('echo', "parentPort.postMessage({ answer: JSON.stringify({ size: workerData.bytes.length, first: workerData.bytes[0], job: workerData.job.do }) });");
  const file = bytes(100);
  expect(await d.do(JOB, file)).toEqual({ answer: '{"size":100,"first":7,"job":"open"}' });
  expect(file.length).toBe(0);
});

test('a refusal is a refusal; a mistake and a lost database are told as what they are', async () => {
  expect(await desk('refuse', "parentPort.postMessage({ refusal: { refused: true, code: 'invalid', message: 'No.' } });").do(JOB, bytes())).toMatchObject({ code: 'invalid' });
  await expect(desk('wrong', "parentPort.postMessage({ failed: 'a mistake' });").do(JOB, bytes())).rejects.toThrow('a mistake');
  await expect(desk('away', "parentPort.postMessage({ away: 'away' });").do(JOB, bytes())).rejects.toMatchObject({ code: 'ECONNREFUSED' });
  await expect(desk('throws', "throw new TypeError('oops');").do(JOB, bytes())).rejects.toThrow('oops');
  await expect(desk('leaves', 'process.exit(0);').do(JOB, bytes())).rejects.toThrow('without an answer');
});

test('what takes more memory than a show does is refused, and this process goes on', async () => {
  const d = desk('hungry', 'const all = []; for (;;) all.push({ a: all.length, b: [all.length] });', { memory_MB: 48 });
  expect(await d.do(JOB, bytes())).toMatchObject({ code: 'too-large', message: expect.stringContaining('more memory') });
}, 30_000);

test('what does not end is ended and refused, and nobody else waits meanwhile', async () => {
  const d = desk('endless', 'for (;;) { /* on and on */ }', { time_ms: 400 });
  const asked = d.do(JOB, bytes());
  let turns = 0;
  const turning = setInterval(() => turns++, 10);
  const done = await asked;
  clearInterval(turning);
  expect(done).toMatchObject({ code: 'too-large', message: expect.stringContaining('longer') });
  expect(turns).toBeGreaterThan(10);
});

test('two are done at once, some wait, more are turned away with a word', async () => {
  const d = desk('slow', "setTimeout(() => parentPort.postMessage({ answer: '1' }), 120);");
  const all = await Promise.all(Array.from({ length: 14 }, () => d.do(JOB, bytes())));
  expect(all.filter((a) => isRefusal(a)).length).toBe(4);
  expect(all.filter((a) => !isRefusal(a)).length).toBe(10);
  expect(await d.do(JOB, bytes())).toEqual({ answer: '1' });
});
