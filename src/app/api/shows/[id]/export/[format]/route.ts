import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { asFile, asPaper, asTable } from '@/app/server/file-answer';
import { fileName } from '@/app/server/file-name';
import { gdtfFile } from '@/app/server/type-file';
import { streamed } from '@/app/server/streamed';
import { cueSheet, scriptSheet, trackingSheet } from '@/app/server/papers/book-sheets';
import { logPaper, LOGS, logTable, readLog } from '@/app/server/papers/log-sheet';
import { notesSheet } from '@/app/server/papers/notes-sheet';
import { PATCH_PAPERS, patchPaper } from '@/app/server/papers/patch-sheet';
import { SHEET_ZOOM, timeSheet } from '@/app/server/papers/time-sheet';
import { writeAscii } from '@/core/ascii/write';
import { writeCuesCsv } from '@/core/formats/cues-csv';
import { writePatchCsv } from '@/core/formats/patch-csv';
import { TABLE_FILES } from '@/core/import/csv';
import { writeMvr } from '@/core/mvr/write';
import { isRefusal, refuse, type Refusal } from '@/core/refusal';
import { FAMILIES } from '@/core/show/fields';
import { firstList, showName, type Show } from '@/core/show/show';
import { trackSoundOf } from '@/core/sounds/track-sound';
import { loadShow } from '@/store/shows';
import { shapeOfShow } from '@/store/sounds/kept';
import { withSounds } from '@/store/sounds/show-sounds';

export const dynamic = 'force-dynamic';

const Query = z.object({
  /** Of a log: `history` or `journal`. */
  what: z.string().default('history'),
  /** Of a patch on paper: `number`, `universe`, `position` or `switches`. */
  by: z.string().default('number'),
  list: z.string().max(120).optional(),
  family: z.string().default('intensity'),
  script: z.string().max(120).optional(),
  /** Of a fixture type: its id in the show. */
  type: z.string().max(120).optional(),
});

type Query = z.infer<typeof Query>;

interface Asked {
  id: string;
  show: Show;
  query: Query;
  /** What a file of this show is called. */
  called: (rest: string) => string;
}
type Written = Response | Refusal;
type Writer = (asked: Asked) => Written | Promise<Written>;

/** The whole show with its sounds, read and packed where files are. */
async function showFile(id: string, by: string): Promise<Written> {
  const written = await server().files.do({ do: 'write', showId: id, by });
  if (isRefusal(written)) return written;
  const { name, seq, sounds } = JSON.parse(written.answer) as {
    name: string;
    seq: number;
    sounds: string[];
  };
  const { bytes, pieces } = await withSounds(server().db, written.bytes, sounds);
  return asFile('zip', fileName(name, `${seq}.wingman`), streamed(pieces()), bytes);
}

/** @param as as a table, or on paper */
const log =
  (as: 'csv' | 'pdf'): Writer =>
  async ({ id, show, query, called }) => {
    const what = LOGS.find((l) => l === query.what);
    if (!what) return refuse('invalid', `A log is ${LOGS.join(' or ')}.`, { what: 'Unknown.' });
    const lines = await readLog(server().db, id, what);
    const name = called(`${what}.${as}`);
    return as === 'csv'
      ? asTable(name, logTable(lines, what))
      : asPaper(name, logPaper(show, lines, what));
  };

const typeFile: Writer = ({ show, query }) => {
  const type = show.types.get(query.type ?? '');
  return type
    ? gdtfFile(type)
    : refuse('not-found', 'This show has no such type.', { type: 'Unknown.' });
};

const patchSheet: Writer = ({ show, query, called }) => {
  const by = PATCH_PAPERS.find((p) => p === query.by);
  return by
    ? asPaper(called(`patch-${by}.pdf`), patchPaper(show, by))
    : refuse('invalid', `A patch sheet is by ${PATCH_PAPERS.join(', ')}.`, { by: 'Unknown.' });
};

const script: Writer = ({ show, query, called }) => {
  const found = show.scripts.get(query.script ?? '') ?? [...show.scripts.values()][0];
  return found
    ? asPaper(called('script.pdf'), scriptSheet(show, found))
    : refuse('not-found', 'This show has no script yet.');
};

/** @param write with the list that was asked for, or the first one */
const ofList =
  (write: (asked: Asked, listId: string) => Written | Promise<Written>): Writer =>
  (asked) => {
    const { show, query } = asked;
    const listId = query.list ?? firstList(show)?.id ?? '';
    return show.lists.has(listId)
      ? write(asked, listId)
      : refuse('not-found', 'There is no such cue list.', { list: 'Unknown.' });
  };

const tracking = ofList(({ show, query, called }, listId) => {
  const family = FAMILIES.find((f) => f === query.family);
  return family
    ? asPaper(called(`tracking-${family}.pdf`), trackingSheet(show, listId, family))
    : refuse('invalid', `A tracking sheet is of ${FAMILIES.join(', ')}.`, { family: 'Unknown.' });
});

const time = ofList(async ({ id, show, called }, listId) => {
  const sum = trackSoundOf(show.sounds, show.lists.get(listId)?.time?.sound)?.file.sha256;
  const shape = sum === undefined ? undefined : await shapeOfShow(server().db, id, sum, SHEET_ZOOM);
  return asPaper(called('time.pdf'), timeSheet(show, listId, shape));
});

const WRITERS: ReadonlyMap<string, Writer> = new Map<string, Writer>([
  ['log.csv', log('csv')],
  ['log.pdf', log('pdf')],
  ['patch.csv', ({ show, called }) => asTable(called('patch.csv'), writePatchCsv(show))],
  ...Object.entries(TABLE_FILES).map(([format, table]): [string, Writer] => [
    format,
    ({ show, called }) => asTable(called(format), table(show)),
  ]),
  [
    'rig.mvr',
    ({ show, called }) => asFile('zip', called('rig.mvr'), new Uint8Array(writeMvr(show))),
  ],
  ['type.gdtf', typeFile],
  ['patch.pdf', patchSheet],
  [
    'cues.csv',
    ofList(({ show, called }, list) => asTable(called('cues.csv'), writeCuesCsv(show, list))),
  ],
  [
    'cues.asc',
    ofList(({ show, called }, list) => asFile('text', called('cues.asc'), writeAscii(show, list))),
  ],
  [
    'cues.pdf',
    ofList(({ show, called }, list) => asPaper(called('cues.pdf'), cueSheet(show, list))),
  ],
  ['tracking.pdf', tracking],
  ['time.pdf', time],
  ['notes.pdf', ({ show, called }) => asPaper(called('notes.pdf'), notesSheet(show))],
  ['script.pdf', script],
]);

/** `patch.csv`, `patch.pdf?by=number|universe|position|switches`; of a list `?list=` `cues.csv`, `cues.pdf`, `time.pdf`, `tracking.pdf?family=`; `script.pdf`, `notes.pdf`; `log.csv` and `log.pdf?what=history|journal`. */
export const GET = showRoute<undefined, Query, { id: string; format: string }>(
  {
    says: 'The show, the patch, the book, notes and the log as files.',
    answers: 'a file',
    may: 'see the show',
    query: Query,
  },
  async ({ id, who, params: { format }, query }) => {
    if (format === 'show.wingman') return showFile(id, who.name);
    const loaded = await loadShow(server().db, id);
    if (!loaded) return refuse('not-found', 'This show does not exist.');
    const { show } = loaded;
    const write = WRITERS.get(format);
    return write
      ? write({ id, show, query, called: (rest) => fileName(showName(show), rest) })
      : refuse(
          'not-found',
          `This kind of file is not one that Wingman writes: ${['show.wingman', ...WRITERS.keys()].join(', ')} are.`,
        );
  },
);
