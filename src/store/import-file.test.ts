/** Files from elsewhere in the database: previews write nothing, what comes in is one change, types are kept by the house. */
import { zipSync } from 'fflate';
import { gdtfOf, HEAD, headFile, PNG } from '../core/gdtf/golden';
import { ShowStore, type Author } from './commit';
import { connect, type Database } from './database';
import { wordsOf } from './documents';
import { importFile } from './import-file';
import { bringType, dropType, houseType, houseTypes } from './library';
import { migrate } from './migrate';
import { must } from './simulated-crew';
import { createShow, loadShow } from './shows';

const url = process.env.WINGMAN_TEST_DATABASE ?? '';
const mara: Author = { userId: 'mara-of-files', name: 'Mara Kell' };
const ID = 'house-5c1f6f0e-7d0a-4a53-9c11-aa0102030405';
let db: Database;
let store: ShowStore;
let show = '';
let n = 0;

beforeAll(async () => {
  db = connect(url, 4).db;
  await migrate(db);
  await db
    .insertInto('user')
    .values({ id: mara.userId, name: mara.name, email: 'mara@files.example' })
    .onConflict((c) => c.doNothing())
    .execute();
  store = new ShowStore(db);
});
afterAll(() => db.destroy());
beforeEach(async () => {
  await db.deleteFrom('house_types').execute();
  show = must(await createShow(db, mara.userId, `Files ${n++}`)).id;
});

const take = (
  bytes: Uint8Array,
  more: { name?: string; preview?: boolean; keeps?: boolean } = {},
) =>
  importFile(
    store,
    {
      showId: show,
      author: mara,
      editId: `f${Date.now()}${n++}`,
      name: 'file',
      options: {},
      preview: false,
      keeps: false,
      ...more,
    },
    bytes,
  );
const seq = async (): Promise<number> => (await loadShow(db, show))?.seq ?? -1;
const text = (words: string): Uint8Array => new TextEncoder().encode(words);

test('a preview says the same and writes nothing, neither to the show nor to the house', async () => {
  const before = await seq();
  const preview = must(await take(headFile(), { preview: true, keeps: true }));
  expect(preview).toMatchObject({
    kind: 'gdtf',
    is: 'a fixture type (GDTF)',
    rows: 1,
    items: [{ what: 'type', does: 'new' }],
  });
  expect([await seq(), await houseTypes(db, mara.userId)]).toEqual([before, []]);
  const { seq: at, ...done } = must(await take(headFile()));
  expect(done).toEqual(preview);
  expect(at).toBe(before + 1);
});

test('types are kept by the house where that is theirs to fill, with the shows that have them', async () => {
  must(await take(headFile(), { keeps: false }));
  expect(await houseType(db, ID)).toBeUndefined();
  show = must(await createShow(db, mara.userId, 'Second')).id;
  must(await take(headFile(), { keeps: true }));
  const [kept] = await houseTypes(db, mara.userId);
  expect(kept).toMatchObject({
    id: ID,
    name: 'Oriel 300 wash',
    revision: '2026-03-02',
    modes: [{ name: 'Basic', channels: 14 }],
  });
  expect(kept?.shows).toContain('Second');
  expect((await houseTypes(db, 'somebody else'))[0]?.shows).toEqual([]);
});

test('the library alone: new, the same, changed; out of it, shows keep theirs', async () => {
  const was = async (bytes: Uint8Array, preview = false): Promise<string> =>
    must(await bringType(db, bytes, 'Mara', preview)).was;
  expect(await was(headFile(), true)).toBe('new');
  expect(await houseType(db, ID)).toBeUndefined();
  expect(await was(headFile())).toBe('new');
  expect(await was(headFile())).toBe('same');
  const newer = gdtfOf(HEAD.replace('Value="12.500000"', 'Value="13"'), {
    'wheels/tide.png': PNG,
    'oriel.png': PNG,
  });
  expect(await was(newer, true)).toBe('changed');
  expect(await was(newer)).toBe('changed');
  expect((await houseType(db, ID))?.weight_kg).toBe(13);
  expect(must(await dropType(db, ID)).name).toBe('Quillon Oriel 300 wash');
  expect(await dropType(db, ID)).toMatchObject({ code: 'not-found' });
  expect(await bringType(db, text('nothing'), 'Mara', false)).toMatchObject({ code: 'invalid' });
});

test('what cannot come in changes nothing, and says why', async () => {
  const before = await seq();
  expect(await take(text('Channel,Type,Address\n1,Puffin,1.1\n'), { name: 'p.csv' })).toMatchObject(
    {
      code: 'invalid',
      fields: { 'line 2, type': 'There is no type “Puffin”.' },
    },
  );
  expect(
    must(
      await take(text('Channel,Type,Address\n1,Puffin,1.1\n'), { name: 'p.csv', preview: true }),
    ),
  ).toMatchObject({ rows: 0, problems: [{ where: 'line 2, type' }] });
  expect(await take(new Uint8Array([1, 2, 3]), { name: 'x.bin' })).toMatchObject({
    code: 'invalid',
  });
  expect(await seq()).toBe(before);
  must(await take(headFile()));
  expect(await take(headFile())).toMatchObject({ code: 'nothing' });
});

describe('documents', () => {
  const paragraph = (words: string): string => `<w:p><w:r><w:t>${words}</w:t></w:r></w:p>`;
  const docx = zipSync({
    '[Content_Types].xml': text(
      '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
    ),
    '_rels/.rels': text(
      '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
    ),
    'word/document.xml': text(
      `<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${['ACT ONE', 'MARA', 'All aboard.'].map(paragraph).join('')}</w:body></w:document>`,
    ),
  });
  /** Two pages with a line each, by hand (PDF 1.4). */
  function pdf(): Uint8Array {
    const stream = (words: string): string =>
      `<</Length ${30 + words.length}>>stream\nBT /F1 12 Tf 72 700 Td (${words}) Tj ET\nendstream`;
    const objects = [
      '<</Type/Catalog/Pages 2 0 R>>',
      '<</Type/Pages/Kids[3 0 R 5 0 R]/Count 2>>',
      '<</Type/Page/Parent 2 0 R/MediaBox[0 0 612 792]/Contents 4 0 R/Resources<</Font<</F1 7 0 R>>>>>>',
      stream('ACT ONE'),
      '<</Type/Page/Parent 2 0 R/MediaBox[0 0 612 792]/Contents 6 0 R/Resources<</Font<</F1 7 0 R>>>>>>',
      stream('All aboard.'),
      '<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>',
    ];
    let out = '%PDF-1.4\n';
    const at = objects.map((o, i) => {
      const from = out.length;
      out += `${i + 1} 0 obj${o}endobj\n`;
      return from;
    });
    const xref = out.length;
    out += `xref\n0 8\n0000000000 65535 f \n${at.map((a) => `${String(a).padStart(10, '0')} 00000 n \n`).join('')}trailer<</Size 8/Root 1 0 R>>\nstartxref\n${xref}\n%%EOF`;
    return text(out);
  }

  test('a DOCX is a script by its words', async () => {
    expect(must(await take(docx, { name: 'ferry.docx' }))).toMatchObject({
      kind: 'script',
      items: [{ what: 'script', name: 'ferry', does: 'new' }],
    });
    const [script] = [...((await loadShow(db, show))?.show.scripts.values() ?? [])];
    expect(script?.text.trim().split('\n')).toEqual(['ACT ONE', 'MARA', 'All aboard.']);
  });

  test('a PDF is one by the words of its pages', async () => {
    const words = must(await wordsOf('ferry.pdf', pdf(), 'pdf'));
    expect(words.split('\f').map((p) => p.trim())).toEqual(['ACT ONE', 'All aboard.']);
  });

  test('broken documents are refused in a sentence', async () => {
    for (const kind of ['docx', 'pdf'] as const)
      expect(await wordsOf('x', text('%PDF-1.4 nothing'), kind)).toMatchObject({
        refused: true,
        message: expect.stringMatching(/changed\.$/),
      });
  });
});
