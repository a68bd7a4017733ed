/** The Book at size: the sheet of 2,000 cues by 1,000 fixtures made and scrolled, findings of a list, a rehearsal. */
import { By } from 'selenium-webdriver';
import { consequences } from '../core/cues/consequences.ts';
import { bookFindings } from '../core/cues/findings.ts';
import { columnsOf, sheetOf } from '../core/cues/sheet.ts';
import { unpackShow, type PackedShow } from '../core/formats/pack.ts';
import { planEdit } from '../core/edits/plan-edit.ts';
import { isRefusal } from '../core/refusal.ts';
import { frames, inBrowser } from './browser.ts';
import { Visitor } from './house.ts';
import { sleep, type Row, row } from './numbers.ts';

const TIMES = 7;
const SCROLL_MS = 4000;
const timed = (times: number, act: () => unknown): number[] =>
  Array.from({ length: times }, () => {
    const start = performance.now();
    act();
    return performance.now() - start;
  });

/** @param name of the large show, which must be there */
export async function measureBook(url: string, name: string): Promise<Row[]> {
  const owner = await Visitor.signIn(url, 'owner');
  const { shows } = await owner.ask<{ shows: { id: string; name: string }[] }>('/api/shows');
  const id = shows.find((s) => s.name === name)?.id ?? '';
  const { packed } = await owner.ask<{ packed: PackedShow }>(`/api/shows/${id}?packed=1`);
  const show = unpackShow(packed);
  const cues = show.cuesOf('main');
  const columns = columnsOf(show, 'intensity', new Set());
  const size = `${cues.length} cues x ${columns.length} columns`;
  const rows = [
    row(
      'the cue sheet made anew, intensity',
      timed(TIMES, () => sheetOf(show, cues, columns, 'intensity')),
      'ms',
      '',
      `${size}, in a worker`,
    ),
    row(
      'the cue sheet made anew, colour',
      timed(TIMES, () => sheetOf(show, cues, columnsOf(show, 'colour', new Set()), 'colour')),
      'ms',
    ),
  ];
  // A record of a hundred values in the middle of the list, and what it changes after it.
  const [cue] = cues.slice(1000);
  const values = [...show.fixtures.values()]
    .slice(0, 100)
    .map((f) => ({ fixtureId: f.id, attribute: 'Dimmer', level: 0.123 }));
  const plan = (): void => {
    const planned = planEdit(
      show,
      'owner',
      'record-cue',
      { listId: 'main', number: cue?.number, values },
      'bench',
    );
    if (!isRefusal(planned)) consequences(show, planned.changes, new Set([cue?.id ?? '']));
  };
  rows.push(
    row(
      'a record of 100 values planned, with its consequences',
      timed(25, plan),
      'ms',
      '',
      `${cues.length} cues`,
    ),
  );
  rows.push(
    row(
      'findings of the list',
      timed(3, () => bookFindings(show, 'main')),
      'ms',
      '',
      'in a worker',
    ),
  );
  const scrolled = await inBrowser(url, `/shows/${id}/book`, async (driver) => {
    await driver.wait(
      async () => (await driver.findElements(By.css('[data-sheet-cue]'))).length > 0,
      60_000,
    );
    await sleep(6000);
    const scroll = (body: string): Promise<number[]> =>
      frames(
        driver,
        SCROLL_MS,
        `const s = document.querySelector('[data-testid=cue-sheet]'); ${body}`,
      );
    return {
      down: await scroll('s.scrollTop = (n * 90) % 60000;'),
      across: await scroll('s.scrollTop += 40; s.scrollLeft = (n * 60) % 30000;'),
    };
  });
  if (scrolled)
    rows.push(
      row('frame of the sheet scrolled down', scrolled.down, 'ms', '16.7', size),
      row('frame of the sheet scrolled down and across', scrolled.across, 'ms', '16.7', size),
    );
  const rehearsed: number[] = [];
  const ferry = shows.find((s) => s.name === 'The Night Ferry')?.id ?? '';
  for (let i = 0; i < 3; i++)
    rehearsed.push(
      (await owner.ask<{ took_ms: number }>(`/api/shows/${ferry}/rehearse?list=main`, {})).took_ms,
    );
  rows.push(
    row('The Night Ferry rehearsed in fast motion', rehearsed, 'ms', '', '61 cues, without output'),
  );
  return rows;
}
