/** Jobs with files: done elsewhere, within limits, and nobody waits for them who does not ask. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isRefusal } from '../core/refusal.ts';
import { until } from '../core/testing/until.ts';
import { FileDesk, type DeskOptions } from './file-desk.ts';

const folder = mkdtempSync(join(tmpdir(), 'desk-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
/** What every process of jobs begins with: it reads a job and its file, and can say what came of it. */
const HEAD = `
let known = Buffer.alloc(0), wake = () => undefined;
process.stdin.on('data', (d) => { known = Buffer.concat([known, d]); wake(); });
process.stdin.on('end', () => process.exit(0));
const take = async (n) => { while (known.length < n) await new Promise((d) => (wake = d)); const b = known.subarray(0, n); known = known.subarray(n); return b; };
const piece = async () => take((await take(4)).readUInt32LE(0));
const next = async () => { const job = JSON.parse(String(await piece())); const parts = []; for (let p = await piece(); p.length > 0; p = await piece()) parts.push(p); return { job, bytes: Buffer.concat(parts) }; };
const say = (worked, file = Buffer.alloc(0), holds_MB = 50) => { const text = Buffer.from(JSON.stringify({ worked, holds_MB })); const n = Buffer.alloc(8); n.writeUInt32LE(text.length); n.writeUInt32LE(file.length, 4); process.stdout.write(Buffer.concat([n, text, file])); };
const { job, bytes } = await next();
`;
function desk(name: string, code: string, more: Omit<DeskOptions, 'file'> = {}): FileDesk {
  const file = join(folder, `${name}.mjs`);
  writeFileSync(file, HEAD + code);
  return new FileDesk({ file, ...more });
}
const JOB = { do: 'open', userId: 'mara' } as const;
/** In two pieces. */
const bytes = (n = 4): Uint8Array[] => [
  new Uint8Array(n / 2).fill(7),
  new Uint8Array(n / 2).fill(7),
];

test('the file goes there, the answer comes back as text, and what was written as bytes', async () => {
  const d = desk(
    'echo',
    "say({ answer: JSON.stringify({ size: bytes.length, first: bytes[0], job: job.do }) }, Buffer.from('written'));",
  );
  const done = await d.do(JOB, bytes(100_000));
  expect(done).toMatchObject({ answer: '{"size":100000,"first":7,"job":"open"}' });
  expect('bytes' in done && Buffer.from(done.bytes).toString()).toBe('written');
});

test('a refusal is a refusal; a mistake and a lost database are told as what they are', async () => {
  expect(
    await desk(
      'refuse',
      "say({ refusal: { refused: true, code: 'invalid', message: 'No.' } });",
    ).do(JOB, bytes()),
  ).toMatchObject({ code: 'invalid' });
  await expect(desk('wrong', "say({ failed: 'a mistake' });").do(JOB, bytes())).rejects.toThrow(
    'a mistake',
  );
  await expect(desk('away', "say({ away: 'away' });").do(JOB, bytes())).rejects.toMatchObject({
    code: 'ECONNREFUSED',
  });
  await expect(desk('throws', "throw new TypeError('oops');").do(JOB, bytes())).rejects.toThrow(
    'without an answer',
  );
  await expect(desk('leaves', 'process.exit(0);').do(JOB, bytes())).rejects.toThrow(
    'without an answer',
  );
});

test('what takes more memory than a show does is refused, and this process goes on', async () => {
  const d = desk(
    'hungry',
    'const heap = []; for (;;) heap.push({ a: heap.length, b: [heap.length] });',
    { memory_MB: 48 },
  );
  expect(await d.do(JOB, bytes())).toMatchObject({
    code: 'too-large',
    message: expect.stringContaining('more memory'),
  });
});

test('what does not end is ended and refused, and nobody else waits meanwhile', async () => {
  const d = desk('endless', 'for (;;) { /* on and on */ }', { time_ms: 800 });
  const asked = d.do(JOB, bytes());
  let turns = 0;
  const turning = setInterval(() => turns++, 10);
  const done = await asked;
  clearInterval(turning);
  expect(done).toMatchObject({ code: 'too-large', message: expect.stringContaining('longer') });
  expect(turns).toBeGreaterThan(10);
});

test('two are done at once, some wait, more are turned away with a word', async () => {
  const d = desk(
    'slow',
    "for (;; await next()) { await new Promise((d) => setTimeout(d, 250)); say({ answer: '1' }); }",
  );
  const all = await Promise.all(Array.from({ length: 14 }, () => d.do(JOB, bytes())));
  expect(all.filter((a) => isRefusal(a)).length).toBe(4);
  expect(all.filter((a) => !isRefusal(a)).length).toBe(10);
  expect(await d.do(JOB, bytes())).toMatchObject({ answer: '1' });
});

/** Says who it is, and how many jobs it did: every one the same. */
const COUNTS = `
let n = 0;
for (let j = { job, bytes }; ; j = await next()) {
  n++;
  say(SAYS);
}
`;
const counting = (name: string, says: string, more: Omit<DeskOptions, 'file'> = {}): FileDesk =>
  desk(name, COUNTS.replace('SAYS', says), more);
const ANSWER = '{ answer: JSON.stringify({ pid: process.pid, n, size: j.bytes.length }) }';
const asked = async (d: FileDesk, file = bytes()): Promise<{ pid: number; n: number }> => {
  const done = await d.do(JOB, file);
  return JSON.parse('answer' in done ? done.answer : '{}') as { pid: number; n: number };
};

test('a process whose job went well does the next one too', async () => {
  const d = counting('again', ANSWER);
  const first = await asked(d, bytes(200_000));
  expect(first).toMatchObject({ n: 1, size: 200_000 });
  expect(await asked(d)).toEqual({ pid: first.pid, n: 2, size: 4 });
});

/** Whether there is such a process, or one whose end nobody has noticed yet. */
function isThere(pid: number): boolean {
  try {
    return process.kill(pid, 0);
  } catch {
    return false;
  }
}

test('one that holds much, that refused, or that ended is not asked again', async () => {
  const full = counting('full', `${ANSWER}, undefined, 900`);
  expect((await asked(full)).pid).not.toBe((await asked(full)).pid);

  const refuses = counting(
    'refuses',
    "j.bytes.length === 2 ? { refusal: { refused: true, code: 'invalid', message: 'No.' } } : { answer: JSON.stringify({ pid: process.pid, n }) }",
  );
  const before = await asked(refuses);
  expect(isRefusal(await refuses.do(JOB, bytes(2)))).toBe(true);
  const after = await asked(refuses);
  expect(after.n).toBe(1);
  expect(after.pid).not.toBe(before.pid);

  const gone = counting('gone', ANSWER);
  const { pid } = await asked(gone);
  process.kill(pid, 'SIGKILL');
  // It is there until its end has been noticed here.
  await until(() => !isThere(pid));
  expect((await asked(gone)).n).toBe(1);
});

test('one that is being ended, since nothing came for it, is given nothing', async () => {
  const d = counting('ending', ANSWER, { kept_ms: 30 });
  const { pid } = await asked(d);
  const next = new Promise<Promise<{ pid: number; n: number }>>((done) =>
    setTimeout(() => done(asked(d)), 31),
  );
  // Both are due: its end, and right after that the next job, before anything is heard of the end.
  const due = performance.now() + 80;
  while (performance.now() < due);
  const after = await next;
  expect(after.n).toBe(1);
  expect(after.pid).not.toBe(pid);
});

test('an answer before the file is whole is heard, and what still comes is passed over', async () => {
  const d = desk('early', '');
  writeFileSync(
    join(folder, 'early.mjs'),
    `${HEAD.slice(0, HEAD.indexOf('const { job'))} await piece(); say({ answer: String(process.pid) });`,
  );
  // As long as nothing is answered there is more of it, however long a process takes to begin.
  let sent = 0;
  let left = Infinity;
  const slowly = async function* () {
    for (; left > 0 && sent < 2000; sent++, left--) {
      yield new Uint8Array(10);
      await new Promise((done) => setTimeout(done, 20));
    }
  };
  const done = await d.do(JOB, slowly());
  expect(done).toHaveProperty('answer');
  expect(sent).toBeLessThan(2000);
  left = 3;
  // It was not read to its end: the next job has a process of its own.
  expect(await d.do(JOB, bytes())).not.toEqual(done);
  while (left > 0) await new Promise((then) => setTimeout(then, 50));
});
