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
  type ChartOptions,
} from 'chart.js';
import { useEffect, useRef, useState } from 'react';
import { useLook } from '../state/look';
import { coloursAt, type Colours, type Token } from './tokens';

Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);

/** A line of a chart, a value for each point. */
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

interface Ways {
  /** A point in words: `cue 12 “Quay”`. */
  say: (point: number) => string;
  onPoint?: ((point: number) => void) | undefined;
  unit: string;
  /** After the point. */
  digits: number;
}
type OfLines = Chart<'line', number[]>;

/** @param ways as they are when somebody points, and not when the chart was made */
function optionsOf(colours: Colours, family: string, ways: () => Ways): ChartOptions<'line'> {
  const font = { family, size: FONT_PX };
  return {
    animation: false,
    responsive: true,
    maintainAspectRatio: false,
    interaction: { mode: 'index', intersect: false },
    onClick: (_, hit) => {
      const point = hit[0]?.index;
      if (point !== undefined) ways().onPoint?.(point);
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
          callback: (v) => grouped(Number(v), ways().digits),
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
          title: (items) => ways().say(items[0]?.dataIndex ?? 0),
          label: ({ dataset: { label }, parsed }) =>
            `${label}: ${grouped(parsed.y ?? 0, ways().digits)} ${ways().unit}`,
        },
      },
    },
  };
}

/** The chart on its canvas. What is drawn changes in the chart that stands: the mark under the pointer stays. */
function useChart(
  lines: readonly ChartLine[],
  points: readonly string[],
  stepped: boolean,
  now: Ways,
) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useLook((s) => s.theme);
  const chart = useRef<OfLines | null>(null);
  const ways = useRef(now);
  useEffect(() => {
    ways.current = now;
  });
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const { fontFamily } = getComputedStyle(element);
    const made: OfLines = new Chart(element, {
      type: 'line',
      data: { labels: [], datasets: [] },
      options: optionsOf(coloursAt(element), fontFamily, () => ways.current),
    });
    chart.current = made;
    return () => made.destroy();
  }, [theme]);
  useEffect(() => {
    const made = chart.current;
    if (!made) return;
    const colours = coloursAt(made.canvas);
    made.data.labels = [...points];
    made.data.datasets = lines.map((line) => dataset(line, stepped, colours));
    made.update('none');
  }, [points, lines, stepped, theme]);
  return { canvas, chart };
}

/** Puts the pointer's mark on a point. @returns whether there is one */
function mark(made: OfLines | null, point: number): boolean {
  const element = made?.getDatasetMeta(0).data[point];
  if (!made || !element) return false;
  const all = made.data.datasets.map((_, datasetIndex) => ({ datasetIndex, index: point }));
  made.setActiveElements(all);
  made.tooltip?.setActiveElements(all, { x: element.x, y: element.y });
  made.update('none');
  return true;
}

/** Where an arrow key, Home or End leads; undefined for any other key. @param at none yet: null */
const leadsTo = (key: string, at: number | null, last: number): number | undefined =>
  ({
    ArrowLeft: Math.max(0, (at ?? 1) - 1),
    ArrowRight: Math.min(last, (at ?? -1) + 1),
    Home: 0,
    End: last,
  })[key];

/** Lines over points, with words for those who do not see them; a point can be gone to. */
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
  say: (point: number) => string;
  onPoint?: (point: number) => void;
  /** Values stand until the next point. */
  stepped?: boolean;
  digits?: number;
}) {
  const { canvas, chart } = useChart(lines, points, stepped, { say, onPoint, unit, digits });
  const [at, setAt] = useState<number | null>(null);
  const byKey = (e: React.KeyboardEvent): void => {
    const to = leadsTo(e.key, at, points.length - 1);
    if (to !== undefined) {
      e.preventDefault();
      if (mark(chart.current, to)) setAt(to);
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
