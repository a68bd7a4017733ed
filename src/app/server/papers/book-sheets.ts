/** The book on paper: cue sheet, tracking sheet, script with its calls. */
import type { Content } from 'pdfmake/interfaces';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import { CELL, columnsOf, sheetOf } from '@/core/cues/sheet';
import { timeWords, timingOf } from '@/core/cues/times';
import { blocksOf, sectionAt, type Block } from '@/core/script/parse';
import type { CueRow } from '@/core/cues/rows';
import type { Family } from '@/core/show/fields';
import type { ScriptRow } from '@/core/script/rows';
import { showName, type Show } from '@/core/show/show';
import { actionWords } from '@/core/cues/action-words';
import { picturesOf, type CuePicture } from '@/ui/book/time/ribbon';
import { triggerOf } from '@/ui/book/words';
import { mono, plainText, RULED, type Paper } from './paper';

const heading = (show: Show): Pick<Paper, 'show' | 'venue'> => ({
  show: showName(show),
  venue: show.settings.get('show')?.venue ?? '',
});
const th = (text: string): Content => plainText(text, { bold: true, fontSize: 8 });

/** A cue's times as they are played, and how long it takes in all where that is longer than its plain fade. */
function timesOf(show: Show, cue: CueRow): string {
  const { total_s } = timingOf(show, cue);
  return `${timeWords(cue)}${total_s > Math.max(cue.up_s, cue.down_s) + 0.05 ? `, ${formatTime(Math.round(total_s * 10) / 10)} in all` : ''}`;
}

/** What an operator has beside the desk: number, word, times, notes, actions. */
export function cueSheet(show: Show, listId: string): Paper {
  const list = show.lists.get(listId);
  const cues = show.cuesOf(listId);
  const places = new Map([...show.calls.values()].map((c) => [c.cueId, c]));
  let section = '';
  const body: Content[][] = [];
  cues.forEach((cue, i) => {
    const call = places.get(cue.id);
    const script = call ? show.scripts.get(call.scriptId) : undefined;
    const at = call && script ? sectionAt(script, call.from) : undefined;
    const here = at ? [at.act, at.scene].filter(Boolean).join(' · ') : section;
    if (here !== section) {
      section = here;
      body.push([
        {
          colSpan: 6,
          text: here,
          bold: true,
          fontSize: 8.5,
          margin: [0, 5, 0, 1],
          color: '#333',
        } as Content,
        '',
        '',
        '',
        '',
        '',
      ]);
    }
    const notes = [
      cue.operatorNote,
      cue.note,
      ...(cue.actions ?? []).map((a) => `• ${actionWords(show, a)}`),
    ]
      .filter((t): t is string => !!t)
      .flatMap((t) => t.split('\n'));
    const next = cue.link
      ? `then ${formatCueNumber(show.cues.get(cue.link.to)?.number ?? 0)}${cue.link.times ? ` x${cue.link.times}` : ''}`
      : '';
    body.push([
      mono(formatCueNumber(cue.number), { bold: true, fontSize: 10 }),
      plainText(cue.name, { bold: true }),
      plainText(triggerOf(cue, cues[i - 1]).short),
      mono(at ? String(at.page) : '', { alignment: 'right' }),
      mono([timesOf(show, cue), next].filter(Boolean).join('; '), { margin: [6, 0, 0, 0] }),
      { stack: notes.map((t) => plainText(t, { fontSize: 8 })) },
    ]);
  });
  const total = cues.reduce((sum, c) => sum + timingOf(show, c).total_s, 0);
  return {
    title: `Cue sheet: ${list?.name ?? ''}`,
    ...heading(show),
    about: `${cues.length} cues, ${formatTime(Math.round(total))} of fades`,
    content: [
      {
        table: {
          headerRows: 1,
          widths: [34, 110, 90, 22, 92, '*'],
          body: [
            ['Cue', 'Name', 'Called on', 'Page', 'Times', 'Notes and actions'].map(th),
            ...body,
          ],
          dontBreakRows: true,
        },
        layout: RULED,
      },
    ],
  };
}

/** Columns that fit beside each other on a page turned on its side. */
const ACROSS = 22;

/** What is set is a number, what tracks a stroke: groups across, cues down, as many sheets as it takes. */
export function trackingSheet(show: Show, listId: string, family: Family): Paper {
  const list = show.lists.get(listId);
  const cues = show.cuesOf(listId);
  const columns = columnsOf(show, family, new Set());
  const sheet = sheetOf(show, cues, columns, family);
  const content: Content[] = [];
  for (let from = 0; from < columns.length; from += ACROSS) {
    const part = columns.slice(from, from + ACROSS);
    const body = cues.map((cue, r) => [
      mono(formatCueNumber(cue.number), { bold: true }),
      plainText(`${cue.block ? '== ' : ''}${cue.name}`, { fontSize: 8 }),
      ...part.map((_, i): Content => {
        const cell = r * sheet.columns + from + i;
        const flags = sheet.flags[cell] ?? 0;
        if (flags & CELL.release) return mono('off', { alignment: 'center', fontSize: 7 });
        if (flags & CELL.set) {
          const label = sheet.labels[sheet.label[cell] ?? 0] ?? '';
          return label === '' && family === 'intensity'
            ? mono(
                `${flags & CELL.mixed ? '~' : ''}${Math.round((sheet.level[cell] ?? 0) * 100)}`,
                { alignment: 'center', bold: true, fontSize: 8 },
              )
            : plainText(label || 'set', { alignment: 'center', fontSize: 6.5, bold: true });
        }
        return mono(flags & CELL.above && sheet.complete[r] === 0 ? '|' : '', {
          alignment: 'center',
          color: '#999',
          fontSize: 7,
        });
      }),
    ]);
    content.push({
      table: {
        headerRows: 1,
        widths: [30, 96, ...part.map(() => '*')],
        body: [
          [
            th('Cue'),
            th('Name'),
            ...part.map((c) =>
              plainText(c.label, { bold: true, fontSize: 6.5, alignment: 'center' }),
            ),
          ],
          ...body,
        ],
        dontBreakRows: true,
      },
      layout: { ...RULED, paddingLeft: () => 1, paddingRight: () => 1 },
      ...(from > 0 ? { pageBreak: 'before' as const } : {}),
    });
  }
  return {
    title: `Tracking sheet: ${list?.name ?? ''}, ${family}`,
    ...heading(show),
    about: 'A number is set, a stroke tracks, off lets go, == is blocked, ~ differs within a group',
    landscape: true,
    content,
  };
}

/** What a cue looks like, part by part: a strip of colours in the margin. */
function cuePicture(of: CuePicture | undefined): Content[] {
  const parts = (of?.length ?? 0) / 3;
  if (!of || parts === 0) return [];
  const width = 60 / parts;
  return [
    {
      margin: [0, 1, 0, 2],
      canvas: Array.from({ length: parts }, (_, i) => ({
        type: 'rect' as const,
        x: i * width,
        y: 0,
        w: width,
        h: 7,
        lineWidth: 0.3,
        lineColor: '#999',
        color: `#${[0, 1, 2].map((k) => (of[i * 3 + k] ?? 0).toString(16).padStart(2, '0')).join('')}`,
      })),
    },
  ];
}

/** How the blocks of a script are set; lines of speech are plain. */
const STYLES: Partial<Record<Block['kind'], Record<string, unknown>>> = {
  act: { bold: true, fontSize: 13, margin: [0, 12, 0, 4] },
  scene: { bold: true, fontSize: 11, margin: [0, 9, 0, 3] },
  speaker: { fontSize: 8.5, color: '#444', margin: [0, 6, 0, 0] },
  action: { color: '#555', margin: [0, 1, 0, 1] },
};

/** The script with its calls in the margin. */
export function scriptSheet(show: Show, script: ScriptRow): Paper {
  const calls = [...show.calls.values()]
    .filter((c) => c.scriptId === script.id)
    .sort((a, b) => a.from - b.from);
  const stories = new Map(
    [...new Set(calls.map((c) => show.cues.get(c.cueId)?.listId ?? ''))].map((list) => [
      list,
      picturesOf(show, list).pictures,
    ]),
  );
  let next = 0;
  let page = 0;
  const content: Content[] = [];
  for (const block of blocksOf(script)) {
    const here = [];
    while (next < calls.length && (calls[next]?.from ?? 0) < block.to) {
      const call = calls[next];
      const cue = call ? show.cues.get(call.cueId) : undefined;
      if (call && cue) here.push({ call, cue });
      next++;
    }
    const text = script.text.slice(block.from, block.to);
    const words: Content[] = [];
    let at = block.from;
    for (const { call } of here) {
      const from = Math.max(at, call.from);
      words.push(
        plainText(script.text.slice(at, from)),
        plainText(script.text.slice(from, Math.max(from, call.to)), {
          bold: true,
          decoration: 'underline',
        }),
      );
      at = Math.max(from, call.to);
    }
    words.push(plainText(script.text.slice(at, Math.max(at, block.to))));
    const style = STYLES[block.kind] ?? { fontSize: 10.5 };
    const unflagged = text.length > 0 ? [plainText(text)] : [];
    const flags = here.map(({ cue }) => `LX ${formatCueNumber(cue.number)}`).join(' ');
    content.push({
      columns: [
        {
          width: 78,
          stack: [
            mono(flags, { bold: true, fontSize: 10 }),
            ...here.flatMap(({ cue }) => cuePicture(stories.get(cue.listId)?.get(cue.id))),
          ],
        },
        {
          text: here.length > 0 ? words : unflagged,
          width: '*',
          ...style,
        },
        mono(block.page !== page ? `p. ${block.page}` : '', {
          width: 34,
          alignment: 'right',
          color: '#777',
        }),
      ],
      ...(block.page !== page && page > 0 && block.page % 3 === 1 ? { margin: [0, 6, 0, 0] } : {}),
    });
    page = block.page;
  }
  return {
    title: script.title,
    ...heading(show),
    about: `Draft ${script.draft} with ${calls.length} calls`,
    content,
  };
}
