/** Jobs with files: done elsewhere, within limits, and nobody waits for them who does not ask. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isRefusal } from '../core/refusal.ts';
import { FileDesk } from './file-desk.ts';

const folder = mkdtempSync(join(tmpdir(), 'desk-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
/** What every process of a job begins with: it reads its job, and can say what came of it. */
const HEAD = `
const parts = []; for await (const part of process.stdin) parts.push(part);
const all = Buffer.concat(parts); const end = 4 + all.readUInt32LE(0);
const job = JSON.parse(all.toString('utf8', 4, end)); const bytes = all.subarray(end);
const say = (worked, file = Buffer.alloc(0)) => { const text = Buffer.from(JSON.stringify(worked)); const n = Buffer.alloc(4); n.writeUInt32LE(text.length); process.stdout.write(Buffer.concat([n, text, file])); };
`;
function desk(
  name: string,
  code: string,
  more: { memory_MB?: number; time_ms?: number } = {},
): FileDesk {
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
  const d = desk('slow', "setTimeout(() => say({ answer: '1' }), 250);");
  const all = await Promise.all(Array.from({ length: 14 }, () => d.do(JOB, bytes())));
  expect(all.filter((a) => isRefusal(a)).length).toBe(4);
  expect(all.filter((a) => !isRefusal(a)).length).toBe(10);
  expect(await d.do(JOB, bytes())).toMatchObject({ answer: '1' });
});
