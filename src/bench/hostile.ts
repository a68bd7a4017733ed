/** Files that are made to harm, given to a running house: how long anybody else waits meanwhile. */
import { fork } from 'node:child_process';
import { createHash } from 'node:crypto';
import { strToU8, unzipSync, zipSync, type Unzipped } from 'fflate';
import { Visitor } from './house.ts';
import { hr, quantile, type Row, sleep } from './numbers.ts';

const MB = 1024 * 1024;
/** So often somebody else asks. */
const ASK_MS = 20;

/** A show file with some entries changed and its checksums made right again. */
function forged(file: Uint8Array, change: (files: Unzipped) => void): Uint8Array {
  const files = unzipSync(file);
  change(files);
  const manifest = JSON.parse(
    Buffer.from(files['manifest.json'] ?? new Uint8Array(0)).toString('utf8'),
  ) as { checksums: Record<string, string> };
  manifest.checksums = Object.fromEntries(
    Object.entries(files)
      .filter(([name]) => name !== 'manifest.json')
      .map(([name, bytes]) => [name, createHash('sha256').update(bytes).digest('hex')]),
  );
  files['manifest.json'] = strToU8(JSON.stringify(manifest));
  return zipSync(files, { level: 9 });
}

/** Files to open, by what is wrong with them. */
function hostileFiles(good: Uint8Array): [string, Uint8Array][] {
  const group = (i: number): string => `{"id":"g${i}","number":${i + 1},"name":"x","fixtures":[]}`;
  const many = Array.from({ length: 400_000 }, (_, i) => group(i)).join(',');
  return [
    ['zeros that unpack to 1 GB', forgedZeros(good)],
    [
      'a list of two million empty lists',
      forged(good, (f) => (f['tables/groups.json'] = strToU8(`[${'[],'.repeat(2_000_000)}[]]`))),
    ],
    [
      'one row with twenty million numbers',
      forged(
        good,
        (f) =>
          (f['tables/groups.json'] = strToU8(
            `[{"id":"g","number":1,"name":"x","fixtures":[${'1,'.repeat(20_000_000)}1]}]`,
          )),
      ),
    ],
    [
      'lists in lists, a million deep',
      forged(
        good,
        (f) =>
          (f['tables/cues.json'] = strToU8(`${'['.repeat(1_000_000)}${']'.repeat(1_000_000)}`)),
      ),
    ],
    [
      'four hundred thousand groups',
      forged(good, (f) => (f['tables/groups.json'] = strToU8(`[${many}]`))),
    ],
    [
      'a name of 100 MB',
      forged(
        good,
        (f) =>
          (f['tables/groups.json'] = strToU8(
            `[{"id":"g","number":1,"name":"${'x'.repeat(100 * MB)}","fixtures":[]}]`,
          )),
      ),
    ],
    [
      '60 MB of noise',
      Uint8Array.from({ length: 60 * MB }, (_, i) =>
        i < 2 ? ([0x50, 0x4b][i] ?? 0) : (i * 2654435761) & 255,
      ),
    ],
  ];
}
function forgedZeros(good: Uint8Array): Uint8Array {
  const files = unzipSync(good);
  // Sixteen entries of 64 MB share their bytes here; each is unpacked for itself there.
  const zeros = new Uint8Array(64 * MB);
  for (let i = 0; i < 16; i++) files[`assets/zero${i}.png`] = zeros;
  return zipSync(files, { level: 9 });
}

interface Asker {
  /** Waits since the last question, in ms. */
  waits: () => Promise<number[]>;
  end: () => void;
}
async function askerOf(url: string, cookie: string): Promise<Asker> {
  const child = fork(new URL('./asker.mjs', import.meta.url), [url, cookie, String(ASK_MS)], {
    execArgv: [],
  });
  await new Promise((resolve) => child.once('message', resolve));
  return {
    waits: () =>
      new Promise((resolve) => {
        child.once('message', (m: { waits: number[] }) => resolve(m.waits));
        child.send('?');
      }),
    end: () => child.disconnect(),
  };
}

/** Does something while the asker asks. @returns the waits in ms, and what the work came to */
async function whileAsking<T>(
  asker: Asker,
  work: () => Promise<T>,
): Promise<{ waits: number[]; came: T; took_ms: number }> {
  // What was asked while a file was being made does not count.
  await asker.waits();
  const start = hr();
  const came = await work();
  const took_ms = hr() - start;
  await sleep(300);
  return { waits: await asker.waits(), came, took_ms };
}

/** The longest wait of somebody who asks for the stage, and what the file came to. */
export async function measureHostile(url: string): Promise<Row[]> {
  const owner = await Visitor.signIn(url, 'owner');
  const other = await Visitor.signIn(url, 'operator');
  const { shows } = await owner.ask<{ shows: { id: string; name: string }[] }>('/api/shows');
  const id = shows.find((s) => s.name === 'The Night Ferry')?.id ?? '';
  const asker = await askerOf(`${url}/api/shows/${id}/stage`, other.cookie);
  const row = (what: string, waits: number[], note: string): Row => ({
    what: `${what}: others wait`,
    median: quantile(waits, 0.5),
    p99: Math.max(...waits),
    unit: 'ms',
    wanted: 'max < 200',
    note,
  });
  const rows: Row[] = [];
  const quiet = await whileAsking(asker, () => sleep(3000));
  rows.push(
    row(
      'no file at all',
      quiet.waits,
      `${quiet.waits.length} questions; in the second column the longest`,
    ),
  );
  const good = new Uint8Array(await owner.bytes(`/api/shows/${id}/export/show.wingman`));
  for (const [what, bytes] of hostileFiles(good)) {
    const { waits, came, took_ms } = await whileAsking(asker, () =>
      owner.post('/api/shows/import', bytes as unknown as ArrayBuffer).then(
        () => 'opened',
        (e: Error) => /import: (\d+)/.exec(e.message)?.[1] ?? e.message,
      ),
    );
    rows.push(
      row(
        `${what} (${(bytes.length / 1000).toFixed(0)} kB)`,
        waits,
        `answered ${came} after ${(took_ms / 1000).toFixed(1)} s`,
      ),
    );
  }
  const scripts: [string, string][] = [
    ['a script of one line of 2 million spaces', `x${' '.repeat(1_999_990)}x`],
    ['a script of 400,000 lines', 'a b\n\n'.repeat(399_999)],
  ];
  for (const [what, text] of scripts) {
    const { waits, came, took_ms } = await whileAsking(asker, () =>
      owner
        .ask(`/api/shows/${id}/edits`, {
          edit: 'import-script',
          params: { title: 'Noise', format: 'markdown', text },
        })
        .then(
          () => 'taken in',
          (e: Error) => /edits: (\d+)/.exec(e.message)?.[1] ?? e.message,
        ),
    );
    rows.push(row(what, waits, `answered ${came} after ${(took_ms / 1000).toFixed(1)} s`));
  }
  asker.end();
  return rows;
}
