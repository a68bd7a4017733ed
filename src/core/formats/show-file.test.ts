import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { cue, exampleShow } from '../testing/example.ts';
import { isRefusal } from '../refusal.ts';
import type { MutableShow } from '../show/show.ts';
import type { Change } from '../show/undo.ts';
import { measureJson } from './json-measured.ts';
import { readShowFile } from './read-show-file.ts';
import { SCHEMA, type ShowFile } from './show-file.ts';
import { writeShowFile } from './write-show-file.ts';
import { DAYS_KEPT, NEWEST_KEPT, outdated } from './rotation.ts';

const OPTIONS = {
  id: 'ferry',
  name: 'The Night Ferry',
  venue: 'Tidewater Hall',
  seq: 3,
  origin: { id: 'older', seq: 7 },
  by: 'Mara Kell',
  made: '2026-11-24T19:30:00.000Z',
};
const CHANGES: Change[] = [
  {
    seq: 1,
    editId: 'e1',
    userId: 'u',
    userName: 'Mara Kell',
    at: OPTIONS.made,
    edit: 'change-show',
    summary: 'Renamed',
    reverts: null,
    rows: [],
  },
];
const written = (show = exampleShow()): Promise<Uint8Array> =>
  writeShowFile(show, CHANGES, OPTIONS);
const rowsOf = (show: MutableShow): [string, unknown][] =>
  [...show.rows()]
    .map(({ table, row }): [string, unknown] => [`${table}/${row.id}`, row])
    .sort(([a], [b]) => (a < b ? -1 : 1));
const must = (file: Awaited<ReturnType<typeof readShowFile>>): ShowFile => {
  if (isRefusal(file)) throw new Error(file.message);
  return file;
};
const refusal = async (bytes: Uint8Array): Promise<string> => {
  const file = await readShowFile(bytes);
  if (!isRefusal(file)) throw new Error('was not refused');
  return file.message;
};
/** The file with some entries replaced; checksums as they were, or made right again. */
async function tampered(
  change: (files: Record<string, Uint8Array>, manifest: Record<string, unknown>) => void,
  right = false,
  show = exampleShow(),
): Promise<Uint8Array> {
  const files = unzipSync(await written(show));
  const manifest = JSON.parse(strFromU8(files['manifest.json'] as Uint8Array)) as Record<
    string,
    unknown
  >;
  change(files, manifest);
  if (right) {
    const sums: Record<string, string> = {};
    for (const [name, bytes] of Object.entries(files))
      if (name !== 'manifest.json')
        sums[name] = Buffer.from(await crypto.subtle.digest('SHA-256', bytes)).toString('hex');
    manifest.checksums = sums;
  }
  files['manifest.json'] = strToU8(JSON.stringify(manifest));
  return zipSync(files);
}

describe('the show file', () => {
  test('a show goes out and comes in the same, row by row, with its log', async () => {
    const show = exampleShow();
    cue(show, 1, { 1: 50, 2: null });
    show.apply([
      {
        table: 'pictures',
        id: 'pic',
        before: null,
        after: { id: 'pic', name: 'Deck', data: 'data:image/png;base64,iVBORw0KGgo=' },
      },
      {
        table: 'sounds',
        id: 'bell',
        before: null,
        after: { id: 'bell', name: 'Bell', data: 'data:audio/wav;base64,UklGRg==' },
      },
    ]);
    const file = must(await readShowFile(await written(show)));
    expect(rowsOf(file.show)).toEqual(rowsOf(show));
    expect(file.changes).toEqual(CHANGES);
    expect(file.manifest).toMatchObject({
      schema: SCHEMA,
      seq: 3,
      origin: { id: 'older', seq: 7 },
      show: { name: 'The Night Ferry' },
    });
  });

  test('it is JSON that a person can read, a row a line, with sounds and pictures as files of their own', async () => {
    const show = exampleShow();
    show.apply([
      {
        table: 'sounds',
        id: 'bell',
        before: null,
        after: { id: 'bell', name: 'Bell', data: 'data:audio/wav;base64,UklGRg==' },
      },
    ]);
    const files = unzipSync(await written(show));
    expect(strFromU8(files['tables/fixtures.json'] as Uint8Array).split('\n')).toHaveLength(
      show.fixtures.size + 3,
    );
    expect(strFromU8(files['assets/bell.wav'] as Uint8Array)).toBe('RIFF');
    expect(JSON.parse(strFromU8(files['tables/sounds.json'] as Uint8Array))).toEqual([
      { id: 'bell', name: 'Bell', asset: 'assets/bell.wav' },
    ]);
  });

  test('an older schema is brought up to date', async () => {
    const show = exampleShow();
    const old = await tampered(
      (files, manifest) => {
        for (const table of ['parts', 'notes', 'areas', 'sheets', 'sheetpieces', 'hands'])
          delete files[`tables/${table}.json`];
        manifest.schema = 1;
      },
      true,
      show,
    );
    expect(rowsOf(must(await readShowFile(old)).show)).toEqual(rowsOf(show));
  });

  test('control pages of an older file are sheets, in its log as well', async () => {
    const page = {
      id: 'p1',
      number: 1,
      name: 'Doors',
      buttons: [{ label: 'Next', act: { do: 'go', list: 'main' } }],
      faders: [],
    };
    const made = { ...CHANGES[0], rows: [{ table: 'pages', id: 'p1', before: null, after: page }] };
    const old = await tampered((files, manifest) => {
      for (const table of ['areas', 'sheets', 'sheetpieces', 'hands'])
        delete files[`tables/${table}.json`];
      files['tables/pages.json'] = strToU8(JSON.stringify([page]));
      files['changes.json'] = strToU8(JSON.stringify([made]));
      manifest.schema = 3;
    }, true);
    const { show, changes } = must(await readShowFile(old));
    expect([...show.sheets.values()]).toMatchObject([{ id: 'p1', name: 'Doors' }]);
    expect([...show.sheetpieces.values()]).toMatchObject([{ sheet: 'p1', label: 'Next' }]);
    expect(changes[0]?.rows.map((r) => r.table)).toEqual(['sheets', 'sheetpieces']);
    // What is no page is no sheet either.
    const broken = await tampered((files, manifest) => {
      files['tables/pages.json'] = strToU8(JSON.stringify([{ ...page, buttons: 'many' }]));
      manifest.schema = 3;
    }, true);
    expect(await refusal(broken)).toMatch(/Nothing was changed/);
  });

  test('a newer schema is refused with what to do', async () => {
    expect(
      await refusal(await tampered((_, manifest) => (manifest.schema = SCHEMA + 1))),
    ).toContain('made by a newer Wingman');
  });

  test.each<[string, () => Promise<Uint8Array>, string]>([
    [
      'no ZIP at all',
      () => Promise.resolve(strToU8('a show, honestly')),
      'not a Wingman show file',
    ],
    ['an empty file', () => Promise.resolve(new Uint8Array(0)), 'not a Wingman show file'],
    ['a ZIP that is cut off', async () => (await written()).slice(0, 900), 'Nothing was changed'],
    [
      'another program’s ZIP',
      () => Promise.resolve(zipSync({ 'readme.txt': strToU8('hello') })),
      'an entry that no show file has (“readme.txt”)',
    ],
    [
      'a path out of the folder',
      () => tampered((files) => (files['../../etc/passwd'] = strToU8('x'))),
      'an entry that no show file has',
    ],
    [
      'an absolute path',
      () => tampered((files) => (files['/tables/cues.json'] = strToU8('[]'))),
      'an entry that no show file has',
    ],
    [
      'a changed table',
      () => tampered((files) => (files['tables/groups.json'] = strToU8('[]\n'))),
      'its checksum differs',
    ],
    [
      'a table too many for its manifest',
      () =>
        tampered((files, m) => {
          files['tables/extra.json'] = strToU8('[]');
          void m;
        }),
      'its manifest does not know',
    ],
    [
      'a table that is gone',
      () => tampered((files) => delete files['tables/cues.json']),
      '“tables/cues.json” is missing',
    ],
    [
      'bad JSON',
      () => tampered((files) => (files['tables/cues.json'] = strToU8('[{')), true),
      'its table “cues” cannot be read',
    ],
    [
      'a table that is no list',
      () => tampered((files) => (files['tables/cues.json'] = strToU8('{}')), true),
      'is no list',
    ],
    [
      'a row that is not valid',
      () =>
        tampered(
          (files) =>
            (files['tables/groups.json'] = strToU8(
              '[{"id":"g","number":-1,"name":"x","fixtures":[]}]',
            )),
          true,
        ),
      'a row of table “groups” is not valid',
    ],
    [
      'a row that leans on nothing',
      () =>
        tampered(
          (files) =>
            (files['tables/groups.json'] = strToU8(
              '[{"id":"g","number":1,"name":"x","fixtures":["gone"]}]',
            )),
          true,
        ),
      'leans on one that is not there',
    ],
    [
      'a row twice',
      () =>
        tampered(
          (files) =>
            (files['tables/groups.json'] = strToU8(
              '[{"id":"g","number":1,"name":"x","fixtures":[]},{"id":"g","number":2,"name":"y","fixtures":[]}]',
            )),
          true,
        ),
      'has a row twice',
    ],
    [
      'a table of a million rows, before any is read',
      () =>
        tampered(
          (files) => (files['tables/groups.json'] = strToU8(`[${'1,'.repeat(1_000_001)}1]`)),
          true,
        ),
      'has more in its table “groups” than a show can have',
    ],
    [
      'one row of six hundred thousand numbers',
      () =>
        tampered(
          (files) =>
            (files['tables/groups.json'] = strToU8(
              `[{"id":"g","number":1,"name":"x","fixtures":[${'1,'.repeat(600_000)}1]}]`,
            )),
          true,
        ),
      'has a row in its table “groups” that is larger than any of a show',
    ],
    [
      'lists in lists in lists',
      () =>
        tampered(
          (files) =>
            (files['tables/cues.json'] = strToU8(`${'['.repeat(50_000)}${']'.repeat(50_000)}`)),
          true,
        ),
      'nested deeper than anything of a show',
    ],
    [
      'a zero byte in a name',
      () =>
        tampered(
          (files) =>
            (files['tables/groups.json'] = strToU8(
              '[{"id":"g","number":1,"name":"x\\u0000","fixtures":[]}]',
            )),
          true,
        ),
      'text with zero bytes or broken characters',
    ],
    [
      'half a surrogate pair in a key',
      () =>
        tampered(
          (files) =>
            (files['tables/groups.json'] = strToU8(
              '[{"id":"g","number":1,"name":"x","fixtures":[],"\\ud800":1}]',
            )),
          true,
        ),
      'text with zero bytes or broken characters',
    ],
    [
      'a row’s name of 200 kB',
      () =>
        tampered(
          (files) =>
            (files['tables/groups.json'] = strToU8(
              `[{"id":"g","number":1,"name":"${'x'.repeat(200_000)}","fixtures":[]}]`,
            )),
          true,
        ),
      'a row of table “groups” is not valid',
    ],
    [
      'no cue list',
      () => tampered((files) => (files['tables/lists.json'] = strToU8('[]')), true),
      'Nothing was changed',
    ],
  ])('%s is refused in words', async (_, make, words) => {
    expect(await refusal(await make())).toContain(words);
  });

  test('how much JSON there is, is told without reading it: text does not count, also with quotes and brackets in it', () => {
    const size = (text: string): ReturnType<typeof measureJson> => measureJson(strToU8(text));
    expect(size('[{"a":[1,2]},{"a":"[,]\\",["}]')).toEqual({
      elements: 2,
      values: 6,
      depth: 3,
      largest: 5,
      numbered: 0,
    });
    // Characters by their number, and not a backslash before a letter.
    expect(size('["\\u0000\\n","\\\\u0000"]').numbered).toBe(1);
    expect(size('[]')).toMatchObject({ elements: 1, depth: 1 });
    expect(size('["\\\\",1]')).toMatchObject({ elements: 2, depth: 1 });
  });

  test('a file that unpacks to far more than it is stops before it is unpacked', async () => {
    const MB = 1024 * 1024;
    const bomb = await tampered((files) => (files['assets/big.png'] = new Uint8Array(60 * MB)));
    expect(bomb.length).toBeLessThan(MB);
    const refused = await readShowFile(bomb, 20 * MB);
    expect(refused).toMatchObject({
      refused: true,
      message: 'The file unpacks to more than any show can have. Nothing was changed.',
    });
  });
});

describe('rotation of back-ups', () => {
  const HOUR = 3600 * 1000;
  const now = Date.parse('2026-11-24T19:00:00Z');
  test('the newest stay, and of each day its last one, for two weeks', () => {
    const made = Array.from({ length: 24 * 40 }, (_, i) => now - i * HOUR);
    const gone = new Set(outdated(made, now));
    const kept = made.filter((m) => !gone.has(m));
    expect(kept.slice(0, NEWEST_KEPT)).toEqual(made.slice(0, NEWEST_KEPT));
    const days = kept.slice(NEWEST_KEPT).map((m) => new Date(m).toISOString());
    expect(days.every((d) => d.slice(11, 13) === '23')).toBe(true);
    expect(new Set(kept.map((m) => new Date(m).toISOString().slice(0, 10))).size).toBe(
      DAYS_KEPT + 1,
    );
  });
  test('a few are all kept, however old', () => {
    expect(outdated([now - 400 * 24 * HOUR, now], now)).toEqual([]);
  });
});
