/** A number on paper: what is heard, what the light does, bars and cues along time, and each cue in words. */
import type { Content } from 'pdfmake/interfaces';
import { formatCueNumber } from '@/core/cues/number';
import { timeWords } from '@/core/cues/times';
import { showName, type Show } from '@/core/show/show';
import { stepOf, stepsAt } from '@/core/sounds/shape';
import { partOf, trackSoundOf } from '@/core/sounds/track-sound';
import { formatMoment } from '@/core/time/moment';
import { NO_TIME } from '@/core/time/rows';
import { barBeatAt, beatsWithin, sayBarBeat } from '@/core/time/tempo';
import { endOf, timedCues, type TimedCue } from '@/core/time/timed';
import { plural } from '@/core/words';
import { triggerOf } from '@/ui/book/words';
import { barStep } from '@/ui/book/time/lanes';
import { ribbonsOf, type Ribbon } from '@/ui/book/time/ribbon';
import { mono, plainText, printable, RULED, type Paper } from './paper';

/** A line of the sheet, in points, and how much of the number it holds. */
const LINE = { width: 770, wave: 34, strip: 7, cues: 26, left: 58 };
const LINE_S = 48;
const MOST_LINES = 90;
const SAMPLES = 220;
const NAME_PX = 90;
/** Of the shape that is drawn. */
export const SHEET_ZOOM = 1;

const escaped = (text: string): string =>
  printable(text).replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
const label = (x: number, y: number, text: string, size: number, more = ''): string =>
  `<text x="${x.toFixed(1)}" y="${y.toFixed(1)}" font-size="${size}" font-family="Sans" ${more}>${escaped(text)}</text>`;
const box = (x: number, y: number, w: number, h: number, fill: string): string =>
  `<rect x="${x.toFixed(2)}" y="${y.toFixed(2)}" width="${Math.max(0, w).toFixed(2)}" height="${Math.max(0, h).toFixed(2)}" fill="${fill}"/>`;

interface Sheet {
  show: Show;
  listId: string;
  shape: Uint8Array | undefined;
  ribbons: readonly Ribbon[];
  cues: readonly TimedCue[];
  end_s: number;
}

/** What is heard in a stretch, a bar of grey for each two points. */
function wave(
  { show, listId, shape, end_s }: Sheet,
  from_s: number,
  x: (s: number) => number,
): string {
  const heard = trackSoundOf(show.sounds, show.lists.get(listId)?.time?.sound);
  if (!heard || !shape) return '';
  const part = partOf(heard.sound, heard.file.length_s);
  const steps = stepsAt(SHEET_ZOOM);
  const out: string[] = [];
  const dt = LINE_S / 350;
  for (let s = from_s; s < Math.min(end_s, from_s + LINE_S); s += dt) {
    const at = s - heard.sound.at_s;
    if (at < 0 || at >= part.to_s - part.from_s) continue;
    let most = 0;
    const first = Math.floor((part.from_s + at) * steps);
    for (let k = first; k < first + Math.max(1, dt * steps); k++) {
      const { low, high } = stepOf(shape, k);
      most = Math.max(most, high, -low);
    }
    const h = Math.max(0.6, most * LINE.wave);
    out.push(box(x(s), 18 + (LINE.wave - h) / 2, 1.4, h, '#999999'));
  }
  return out.join('');
}

const strips = (
  { ribbons, end_s }: Sheet,
  from_s: number,
  x: (s: number) => number,
  top: number,
): string =>
  ribbons
    .map(({ name, rgb }, row) => {
      const y = top + row * (LINE.strip + 1);
      const count = rgb.length / 3;
      const cells: string[] = [label(0, y + 6, name.slice(0, 12), 6.5, 'fill="#555555"')];
      for (let i = 0; i < count; i++) {
        const at = (end_s * i) / count;
        const next = (end_s * (i + 1)) / count;
        if (next <= from_s || at >= from_s + LINE_S) continue;
        const [a, b] = [Math.max(at, from_s), Math.min(next, from_s + LINE_S)];
        const colour = `rgb(${rgb[i * 3] ?? 0},${rgb[i * 3 + 1] ?? 0},${rgb[i * 3 + 2] ?? 0})`;
        cells.push(box(x(a), y, x(b) - x(a) + 0.3, LINE.strip, colour));
      }
      return cells.join('');
    })
    .join('');

/** A cue that comes near the right edge has its words before its line. */
function cueMark(cue: TimedCue, x: number, y: number): string {
  const number = formatCueNumber(cue.number);
  const room = 5 + number.length * 5.2;
  const isLast = x > LINE.width - NAME_PX;
  const [at, name_x, anchor] = isLast
    ? [x - 2.5, x - room, 'text-anchor="end"']
    : [x + 2.5, x + room, ''];
  return (
    box(x, 18, 0.8, y - 17, '#000000') +
    label(at, y, number, 9, `font-weight="bold" ${anchor}`) +
    label(name_x, y, cue.name.slice(0, 22), 7, anchor)
  );
}

/** One line of the number as a drawing. */
function line(sheet: Sheet, from_s: number): Content {
  const { show, listId, cues, end_s, ribbons } = sheet;
  const time = show.lists.get(listId)?.time ?? NO_TIME;
  const x = (s: number): number => LINE.left + ((s - from_s) / LINE_S) * (LINE.width - LINE.left);
  const to_s = Math.min(end_s, from_s + LINE_S);
  const stripsAt = 18 + LINE.wave + 3;
  const cuesAt = stripsAt + ribbons.length * (LINE.strip + 1) + 2;
  const height = cuesAt + LINE.cues + 8;
  const bars = beatsWithin(time.tempo, from_s, to_s, 400).filter((b) => b.beat === 1);
  // The same in every line: by the fastest of its tempos.
  const bar_s = Math.min(...time.tempo.map((b) => (60 / b.bpm) * b.beats));
  const every = barStep(bar_s, (LINE.width - LINE.left) / LINE_S / 0.5);
  const parts = [
    label(0, 10, formatMoment(from_s), 8, 'font-weight="bold"'),
    ...bars.map(({ at_s, bar }) =>
      (bar - 1) % every === 0
        ? box(x(at_s), 4, 0.4, cuesAt - 4, '#bbbbbb') +
          label(x(at_s) + 1.5, 10, String(bar), 6.5, 'fill="#666666"')
        : '',
    ),
    wave(sheet, from_s, x),
    strips(sheet, from_s, x, stripsAt),
    ...time.marks
      .filter((m) => m.at_s >= from_s && m.at_s < to_s)
      .map((m) => label(x(m.at_s) + 2, 17, m.name, 6.5, 'fill="#8a5a00"')),
    ...cues
      .filter((c) => c.at_s >= from_s && c.at_s < from_s + LINE_S)
      .map((c, i) => cueMark(c, x(c.at_s), cuesAt + 8 + (i % 2) * 11)),
  ];
  return {
    svg: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${LINE.width} ${height}" width="${LINE.width}" height="${height}">${parts.join('')}</svg>`,
    width: LINE.width,
    margin: [0, 0, 0, 6],
  };
}

const th = (text: string): Content => plainText(text, { bold: true, fontSize: 8 });

/** Each cue in words: when, in the music, how, on what. */
function table({ show, listId, cues }: Sheet): Content {
  const tempo = show.lists.get(listId)?.time?.tempo ?? [];
  const all = show.cuesOf(listId);
  return {
    margin: [0, 8, 0, 0],
    layout: RULED,
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: [44, 70, 34, 130, 80, 150, '*'],
      body: [
        ['At', 'In the music', 'Cue', 'Name', 'Times', 'On', 'Notes'].map(th),
        ...cues.map((cue) => {
          const bar = barBeatAt(tempo, cue.at_s);
          const before = all[all.findIndex((c) => c.id === cue.id) - 1];
          return [
            mono(formatMoment(cue.at_s)),
            plainText(bar ? sayBarBeat(bar) : ''),
            mono(formatCueNumber(cue.number), { bold: true }),
            plainText(cue.name, { bold: true }),
            mono(timeWords(cue)),
            plainText(triggerOf(cue, before).short),
            plainText([cue.operatorNote, cue.note].filter(Boolean).join(' · '), { fontSize: 8 }),
          ];
        }),
      ],
    },
  };
}

/** @param shape of its sound at `SHEET_ZOOM`; absent where it has none */
export function timeSheet(show: Show, listId: string, shape: Uint8Array | undefined): Paper {
  const list = show.lists.get(listId);
  const cues = timedCues(show, listId);
  const end_s = endOf(show, listId);
  const lines = Math.min(MOST_LINES, Math.ceil(end_s / LINE_S));
  const ribbons = end_s > 0 ? ribbonsOf(show, listId, SAMPLES * Math.max(1, lines), end_s) : [];
  const sheet: Sheet = { show, listId, shape, ribbons, cues, end_s };
  const sound = show.sounds.get(list?.time?.sound?.sound ?? '')?.name;
  return {
    title: `Time sheet: ${list?.name ?? ''}`,
    show: showName(show),
    venue: show.settings.get('show')?.venue ?? '',
    about: [
      formatMoment(end_s),
      plural(cues.length, 'cue'),
      ...(sound ? [`along “${sound}”`] : []),
    ].join(', '),
    landscape: true,
    content:
      cues.length === 0
        ? [plainText('No cue of this list stands on its track yet.')]
        : [...Array.from({ length: lines }, (_, i) => line(sheet, i * LINE_S)), table(sheet)],
  };
}
