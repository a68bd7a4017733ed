import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { fileName } from '@/app/server/file-name';
import { gdtfFile } from '@/app/server/type-file';
import { stop } from '@/app/server/handle';
import { streamed } from '@/app/server/streamed';
import { cueSheet, scriptSheet, trackingSheet } from '@/app/server/papers/book-sheets';
import { logPaper, LOGS, logTable, readLog } from '@/app/server/papers/log-sheet';
import { notesSheet } from '@/app/server/papers/notes-sheet';
import { makePdf, type Paper } from '@/app/server/papers/paper';
import { PATCH_PAPERS, patchPaper, type PatchPaper } from '@/app/server/papers/patch-sheet';
import { writeAscii } from '@/core/ascii/write';
import { writeCuesCsv } from '@/core/formats/cues-csv';
import { writePatchCsv } from '@/core/formats/patch-csv';
import { TABLE_FILES } from '@/core/import/csv';
import { writeMvr } from '@/core/mvr/write';
import { isRefusal, refuse } from '@/core/refusal';
import { FAMILIES } from '@/core/show/fields';
import { firstList, showName } from '@/core/show/show';
import { trackSoundOf } from '@/core/sounds/track-sound';
import { SHEET_ZOOM, timeSheet } from '@/app/server/papers/time-sheet';
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

/** `patch.csv`, `patch.pdf?by=number|universe|position|switches`; of a list `?list=` `cues.csv`, `cues.pdf`, `time.pdf`, `tracking.pdf?family=`; `script.pdf`, `notes.pdf`; `log.csv` and `log.pdf?what=history|journal`. */
export const GET = showRoute<undefined, z.infer<typeof Query>, { id: string; format: string }>(
  {
    says: 'The show, the patch, the book, notes and the log as files.',
    answers: 'a file',
    may: 'see the show',
    query: Query,
  },
  async ({ id, who, params: { format }, query }) => {
    if (format === 'show.wingman') {
      const written = await server().files.do({ do: 'write', showId: id, by: who.name });
      if (isRefusal(written)) return written;
      const { name, seq, sounds } = JSON.parse(written.answer) as {
        name: string;
        seq: number;
        sounds: string[];
      };
      const { bytes, pieces } = await withSounds(server().db, written.bytes, sounds);
      return new Response(streamed(pieces()), {
        headers: {
          'content-type': 'application/zip',
          'content-length': String(bytes),
          'content-disposition': `attachment; filename="${fileName(name, `${seq}.wingman`)}"`,
          'cache-control': 'no-store',
        },
      });
    }
    const loaded = await loadShow(server().db, id);
    if (!loaded) stop(refuse('not-found', 'This show does not exist.'));
    const { show } = loaded;
    if (format === 'log.csv' || format === 'log.pdf') {
      const what =
        LOGS.find((l) => l === query.what) ??
        stop(refuse('invalid', `A log is ${LOGS.join(' or ')}.`, { what: 'Unknown.' }));
      const lines = await readLog(server().db, id, what);
      const [body, type] =
        format === 'log.csv'
          ? [`\ufeff${logTable(lines, what)}`, 'text/csv; charset=utf-8']
          : [
              new Uint8Array(await makePdf(logPaper(show, lines, what), new Date())),
              'application/pdf',
            ];
      return new Response(body, {
        headers: {
          'content-type': type,
          'content-disposition': `${format === 'log.csv' ? 'attachment' : 'inline'}; filename="${fileName(showName(show), `${what}.${format.slice(4)}`)}"`,
          'cache-control': 'no-store',
        },
      });
    }
    const table = format === 'patch.csv' ? writePatchCsv : TABLE_FILES[format];
    if (table) {
      // The mark at the start tells spreadsheets that it is UTF-8.
      return new Response(`\ufeff${table(show)}`, {
        headers: {
          'content-type': 'text/csv; charset=utf-8',
          'content-disposition': `attachment; filename="${fileName(showName(show), format)}"`,
          'cache-control': 'no-store',
        },
      });
    }
    if (format === 'rig.mvr')
      return new Response(new Uint8Array(writeMvr(show)), {
        headers: {
          'content-type': 'application/zip',
          'content-disposition': `attachment; filename="${fileName(showName(show), 'rig.mvr')}"`,
          'cache-control': 'no-store',
        },
      });
    if (format === 'type.gdtf') {
      const type = show.types.get(query.type ?? '');
      return type
        ? gdtfFile(type)
        : refuse('not-found', 'This show has no such type.', { type: 'Unknown.' });
    }
    if (format === 'patch.pdf') {
      const by = query.by;
      if (!(PATCH_PAPERS as readonly string[]).includes(by))
        stop(
          refuse('invalid', `A patch sheet is by ${PATCH_PAPERS.join(', ')}.`, { by: 'Unknown.' }),
        );
      const pdf = await makePdf(patchPaper(show, by as PatchPaper), new Date());
      return new Response(new Uint8Array(pdf), {
        headers: {
          'content-type': 'application/pdf',
          'content-disposition': `inline; filename="${fileName(showName(show), `patch-${by}.pdf`)}"`,
          'cache-control': 'no-store',
        },
      });
    }
    const listId = query.list ?? firstList(show)?.id ?? '';
    const list = show.lists.get(listId);
    if (format !== 'script.pdf' && format !== 'notes.pdf' && !list)
      stop(refuse('not-found', 'There is no such cue list.', { list: 'Unknown.' }));
    const pdf = async (paper: Paper, name: string): Promise<Response> =>
      new Response(new Uint8Array(await makePdf(paper, new Date())), {
        headers: {
          'content-type': 'application/pdf',
          'content-disposition': `inline; filename="${fileName(showName(show), name)}"`,
          'cache-control': 'no-store',
        },
      });
    switch (format) {
      case 'cues.csv':
        return new Response(`\ufeff${writeCuesCsv(show, listId)}`, {
          headers: {
            'content-type': 'text/csv; charset=utf-8',
            'content-disposition': `attachment; filename="${fileName(showName(show), 'cues.csv')}"`,
            'cache-control': 'no-store',
          },
        });
      case 'cues.asc':
        return new Response(writeAscii(show, listId), {
          headers: {
            'content-type': 'text/plain; charset=utf-8',
            'content-disposition': `attachment; filename="${fileName(showName(show), 'cues.asc')}"`,
            'cache-control': 'no-store',
          },
        });
      case 'cues.pdf':
        return pdf(cueSheet(show, listId), 'cues.pdf');
      case 'tracking.pdf': {
        const family = query.family;
        const known = FAMILIES.find((f) => f === family);
        return known
          ? pdf(trackingSheet(show, listId, known), `tracking-${known}.pdf`)
          : refuse('invalid', `A tracking sheet is of ${FAMILIES.join(', ')}.`, {
              family: 'Unknown.',
            });
      }
      case 'time.pdf': {
        const sum = trackSoundOf(show.sounds, list?.time?.sound)?.file.sha256;
        const shape =
          sum === undefined ? undefined : await shapeOfShow(server().db, id, sum, SHEET_ZOOM);
        return pdf(timeSheet(show, listId, shape), 'time.pdf');
      }
      case 'notes.pdf':
        return pdf(notesSheet(show), 'notes.pdf');
      case 'script.pdf': {
        const wanted = query.script;
        const script =
          (wanted === undefined ? undefined : show.scripts.get(wanted)) ??
          [...show.scripts.values()][0];
        return script
          ? pdf(scriptSheet(show, script), 'script.pdf')
          : refuse('not-found', 'This show has no script yet.');
      }
      default:
        return refuse(
          'not-found',
          'This kind of file is not one that Wingman writes: patch.csv, groups.csv, palettes.csv, outputs.csv, rig.mvr, type.gdtf, patch.pdf, cues.csv, cues.asc, cues.pdf, time.pdf, tracking.pdf, script.pdf, notes.pdf, log.csv and log.pdf are.',
        );
    }
  },
);
