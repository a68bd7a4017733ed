/** Notes from the house on paper, for the morning: open ones by cue, with their pictures, then what was worked off. */
import type { Content } from 'pdfmake/interfaces';
import { formatCueNumber } from '@/core/cues/number';
import { aboutNote, noteWords } from '@/core/notes/words';
import type { NoteRow } from '@/core/notes/rows';
import { showName, type Show } from '@/core/show/show';
import { mono, plainText, RULED, type Paper } from './paper';

const at = (iso: string): string => iso.slice(0, 16).replace('T', ' ');
/** Points on paper. */
const PICTURE = { width: 200, height: 112 };

/** Notes of runs for paper, open ones first, by their cues. */
export function notesSheet(show: Show): Paper {
  const all = [...show.notes.values()].sort(
    (a, b) => (a.cueNumber ?? 0) - (b.cueNumber ?? 0) || a.by.at.localeCompare(b.by.at),
  );
  const [open, done] = [all.filter((n) => !n.done), all.filter((n) => n.done)];
  const content: Content[] = [];
  const table = (notes: readonly NoteRow[], title: string): void => {
    if (notes.length === 0) return;
    content.push(
      plainText(title, { bold: true, fontSize: 11, margin: [0, 10, 0, 4], headlineLevel: 1 }),
    );
    content.push({
      table: {
        headerRows: 1,
        widths: [44, '*', 92, 14],
        body: [
          ['Cue', 'Note', 'For, and from', ''].map((t) =>
            plainText(t, { bold: true, fontSize: 8 }),
          ),
          ...notes.map((n) => row(show, n)),
        ],
        dontBreakRows: true,
      },
      layout: RULED,
    });
  };
  table(open, `To do: ${open.length}`);
  table(done, `Worked off: ${done.length}`);
  if (content.length === 0) content.push(plainText('No notes.'));
  return {
    title: 'Notes',
    show: showName(show),
    venue: show.settings.get('show')?.venue ?? '',
    about: `${open.length} to do, ${done.length} worked off`,
    content,
  };
}

function row(show: Show, n: NoteRow): Content[] {
  const cue = n.cueId === undefined ? undefined : show.cues.get(n.cueId);
  const number = cue?.number ?? n.cueNumber;
  const about = n.fixtureId !== undefined || n.place || n.words ? aboutNote(show, n) : '';
  const text = [noteWords(n.kind), n.text].filter(Boolean).join(': ');
  const photo = n.photo === undefined ? undefined : show.photos.get(n.photo)?.data;
  return [
    {
      stack: [
        mono(number === undefined ? '–' : formatCueNumber(number), { bold: true, fontSize: 10 }),
        ...(cue?.name ? [plainText(cue.name, { fontSize: 7, color: '#555' })] : []),
      ],
    },
    {
      stack: [
        ...(about ? [plainText(about, { fontSize: 8, color: '#555' })] : []),
        plainText(text || (n.drawing ? 'a drawing' : 'a photo')),
        ...(n.place
          ? [
              plainText(`at x ${n.place.x.toFixed(1)} m, y ${n.place.y.toFixed(1)} m`, {
                fontSize: 8,
                color: '#555',
              }),
            ]
          : []),
        ...(n.replies ?? []).map((r) =>
          plainText(`${r.by.name}: ${r.text}`, { fontSize: 8, margin: [8, 1, 0, 0] }),
        ),
        // Paper takes PNG and JPEG; what else a note has is seen on a screen.
        ...(photo && /^data:image\/(png|jpeg)/.test(photo)
          ? [
              {
                image: photo,
                fit: [PICTURE.width, PICTURE.height],
                margin: [0, 3, 0, 2],
              } as Content,
            ]
          : []),
        ...(n.drawing ? [drawing(show, n.drawing)] : []),
      ],
    },
    {
      stack: [
        plainText(n.to ? `for ${n.to.name}` : '', { bold: true, fontSize: 8 }),
        plainText(n.by.name, { fontSize: 8 }),
        mono(at(n.by.at), { fontSize: 7 }),
        ...(n.done ? [plainText(`done by ${n.done.name}`, { fontSize: 8 })] : []),
      ],
    },
    // A box to tick by hand.
    {
      canvas: [
        {
          type: 'rect',
          x: 0,
          y: 2,
          w: 9,
          h: 9,
          lineWidth: 0.8,
          ...(n.done ? { color: '#999' } : {}),
        },
      ],
    },
  ];
}

/** The lines, on the picture that they were drawn on. */
function drawing(show: Show, d: NonNullable<NoteRow['drawing']>): Content {
  const picture = d.picture === undefined ? undefined : show.photos.get(d.picture)?.data;
  const { width, height } = PICTURE;
  const lines = d.lines.map((l) => ({
    type: 'polyline' as const,
    lineWidth: 1.6,
    lineColor: '#d2691e',
    points: Array.from({ length: l.length / 2 }, (_, k) => ({
      x: (l[k * 2] ?? 0) * width,
      y: (l[k * 2 + 1] ?? 0) * height,
    })),
  }));
  if (!picture || !/^data:image\/(png|jpeg)/.test(picture)) return { canvas: lines };
  return {
    stack: [
      { image: picture, width, height },
      { canvas: lines, relativePosition: { x: 0, y: -height } },
    ],
    margin: [0, 3, 0, 2],
  };
}
