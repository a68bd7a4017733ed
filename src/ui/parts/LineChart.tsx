/**
 * Lines that people compare, by Chart.js: what a point is stands beside the pointer, a click goes there, and the arrow
 * keys go from point to point for who has no pointer.
 */
'use client';
import {
  CategoryScale,
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
  type ChartDataset,
} from 'chart.js';
import { useEffect, useRef, useState } from 'react';
import { useLook } from '../state/look';
import { coloursAt, type Colours, type Token } from './tokens';

Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);

export interface ChartLine {
  name: string;
  values: readonly number[];
  /** A token of the theme, to be told apart with the dash as well. */
  colour: Token;
  /** How it is drawn besides its colour; absent: a plain line. */
  dash?: readonly number[];
}

const FONT_PX = 11;
/** `12 400`, as everywhere. */
const grouped = (v: number, digits = 0): string =>
  v
    .toLocaleString('en', { minimumFractionDigits: digits, maximumFractionDigits: digits })
    .replaceAll(',', '\u00a0');

const dataset = (
  line: ChartLine,
  stepped: boolean,
  colours: Colours,
): ChartDataset<'line', number[]> => ({
  label: line.name,
  data: [...line.values],
  borderColor: colours(line.colour),
  backgroundColor: colours(line.colour),
  borderDash: [...(line.dash ?? [])],
  borderWidth: 1.5,
  pointRadius: 0,
  pointHoverRadius: 4,
  stepped,
});

export function LineChart({
  label,
  points,
  lines,
  unit,
  say,
  onPoint,
  stepped = false,
  digits = 0,
}: {
  /** What is compared, for who does not see it. */
  label: string;
  /** Names along the bottom. */
  points: readonly string[];
  lines: readonly ChartLine[];
  unit: string;
  /** A point in words: `cue 12 “Quay”`. */
  say: (point: number) => string;
  onPoint?: (point: number) => void;
  /** Values stand until the next point. */
  stepped?: boolean;
  /** After the point. */
  digits?: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useLook((s) => s.theme);
  const chart = useRef<Chart<'line', number[]> | null>(null);
  const ways = useRef({ say, onPoint, unit, digits });
  useEffect(() => {
    ways.current = { say, onPoint, unit, digits };
  });
  const [at, setAt] = useState<number | null>(null);

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const colours = coloursAt(element);
    const font = { family: getComputedStyle(element).fontFamily, size: FONT_PX };
    const made = new Chart<'line', number[]>(element, {
      type: 'line',
      data: { labels: [], datasets: [] },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        interaction: { mode: 'index', intersect: false },
        onClick: (_, hit) => {
          const point = hit[0]?.index;
          if (point !== undefined) ways.current.onPoint?.(point);
        },
        scales: {
          x: {
            ticks: { color: colours('muted'), font, autoSkip: true, maxRotation: 0 },
            grid: { display: false },
            border: { color: colours('line') },
          },
          y: {
            beginAtZero: true,
            ticks: {
              color: colours('muted'),
              font,
              callback: (v) => grouped(Number(v), ways.current.digits),
            },
            grid: { color: colours('line') },
            border: { display: false },
          },
        },
        plugins: {
          tooltip: {
            backgroundColor: colours('raised'),
            borderColor: colours('edge'),
            borderWidth: 1,
            titleColor: colours('text'),
            bodyColor: colours('soft'),
            titleFont: font,
            bodyFont: font,
            callbacks: {
              title: (items) => ways.current.say(items[0]?.dataIndex ?? 0),
              label: (item) =>
                `${item.dataset.label}: ${grouped(item.parsed.y ?? 0, ways.current.digits)} ${ways.current.unit}`,
            },
          },
        },
      },
    });
    chart.current = made;
    return () => made.destroy();
  }, [theme]);
  // What is drawn changes in the chart that stands: the mark under the pointer stays.
  useEffect(() => {
    const made = chart.current;
    if (!made) return;
    const colours = coloursAt(made.canvas);
    made.data.labels = [...points];
    made.data.datasets = lines.map((line) => dataset(line, stepped, colours));
    made.update('none');
  }, [points, lines, stepped, theme]);

  /** The pointer's mark, moved by keys. */
  const mark = (point: number): void => {
    const made = chart.current;
    const element = made?.getDatasetMeta(0).data[point];
    if (!made || !element) return;
    const all = made.data.datasets.map((_, datasetIndex) => ({ datasetIndex, index: point }));
    made.setActiveElements(all);
    made.tooltip?.setActiveElements(all, { x: element.x, y: element.y });
    made.update('none');
    setAt(point);
  };
  const byKey = (e: React.KeyboardEvent): void => {
    const last = points.length - 1;
    const to = {
      ArrowLeft: Math.max(0, (at ?? 1) - 1),
      ArrowRight: Math.min(last, (at ?? -1) + 1),
      Home: 0,
      End: last,
    }[e.key];
    if (to !== undefined) {
      e.preventDefault();
      mark(to);
    } else if (e.key === 'Enter' && at !== null) {
      e.preventDefault();
      onPoint?.(at);
    }
  };
  const said = (point: number): string =>
    `${say(point)}: ${lines.map((l) => `${l.name} ${grouped(l.values[point] ?? 0, digits)} ${unit}`).join(', ')}`;
  return (
    <div
      role="application"
      aria-label={`${label}. Arrow keys go from point to point${onPoint ? ', Enter goes there' : ''}.`}
      tabIndex={0}
      onKeyDown={byKey}
      className="relative h-full w-full rounded"
    >
      <canvas ref={canvas} role="img" aria-label={label} />
      <p className="sr-only" aria-live="polite">
        {at === null ? '' : said(at)}
      </p>
    </div>
  );
}

/** What each line is, in its colour and dashes. */
export function Legend({ lines }: { lines: readonly ChartLine[] }) {
  return (
    <ul className="flex flex-wrap gap-x-4 text-[12px] text-soft">
      {lines.map(({ name, colour, dash }) => (
        <li key={name} className="flex items-center gap-1.5">
          <svg width="22" height="6" aria-hidden>
            <line
              x1="0"
              y1="3"
              x2="22"
              y2="3"
              stroke={`var(--color-${colour})`}
              strokeWidth="2"
              strokeDasharray={dash?.join(' ')}
            />
          </svg>
          {name}
        </li>
      ))}
    </ul>
  );
}
