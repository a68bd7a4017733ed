/** The interface for programs, to be read: made from the same definitions as `/api/openapi.json`. */
import type { Metadata } from 'next';
import { METHODS, WAYS } from '@/app/server/openapi';
import { LIVE, LIVE_NAMES } from '@/core/live/commands';
import { EDITS } from '@/core/edits/list';
import { shapeOf } from '@/docs/generated';
import { z } from 'zod';

export const metadata: Metadata = { title: 'For programs · Wingman' };

const HEAD = 'mt-8 mb-2 text-[15px] font-semibold';
const CELL = 'border-t border-line px-3 py-2 align-top';
const CODE = 'num text-[12px] break-words text-soft';

function Ways() {
  return (
    <table className="w-full table-fixed border-collapse text-left">
      <thead>
        <tr className="text-muted">
          <th className="w-[31%] px-3 py-1 font-medium">Call</th>
          <th className="w-[34%] px-3 py-1 font-medium">What it does</th>
          <th className="w-[20%] px-3 py-1 font-medium">Answers with</th>
          <th className="px-3 py-1 font-medium">The right to</th>
        </tr>
      </thead>
      <tbody>
        {WAYS.map(({ method, path, says, answers, may, body, query, takesFile }) => (
          <tr key={`${method} ${path}`}>
            <td className={CELL}>
              <div className="num break-words">
                <b className={METHODS.indexOf(method) > 0 ? 'text-lime-word' : 'text-standby'}>
                  {method}
                </b>{' '}
                {path}
              </div>
              {query && (
                <div className={CODE}>?{shapeOf(query).slice(1, -1).replaceAll(', ', '&')}</div>
              )}
              {body && <div className={CODE}>{shapeOf(body)}</div>}
              {takesFile && <div className={CODE}>the file as body</div>}
            </td>
            <td className={CELL}>{says}</td>
            <td className={`${CELL} text-soft`}>{answers}</td>
            <td className={`${CELL} text-soft`}>{may ?? 'by what is sent'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface Named {
  name: string;
  shape: string;
  says: string;
}
function Shapes({ rows }: { rows: readonly Named[] }) {
  return (
    <dl>
      {rows.map(({ name, shape, says }) => (
        <div key={name} className="border-t border-line px-3 py-2">
          <dt className="num">
            {name} <span className={CODE}>{shape}</span>
          </dt>
          <dd className="text-muted">{says}</dd>
        </div>
      ))}
    </dl>
  );
}

export default function Reference() {
  const live = LIVE_NAMES.map((name) => ({
    name,
    shape: shapeOf(z.object(LIVE[name].params)),
    says: `${LIVE[name].says} ${LIVE[name].roles.join(', ')}.`,
  }));
  const edits = [...EDITS.values()].map((e) => ({
    name: e.name,
    shape: shapeOf(e.params),
    says: e.roles.join(', '),
  }));
  return (
    <main className="mx-auto max-w-[1180px] px-6 py-8">
      <h1 className="text-[22px] font-semibold">For scripts and other programs</h1>
      <p className="mt-2 max-w-[70ch] text-soft">
        Everything that screens do can be asked for over HTTP with the cookie of a session. Refusals
        say in words what happened and what to do, and change nothing. The same as{' '}
        <a className="text-standby underline" href="/api/openapi.json">
          OpenAPI 3.1
        </a>
        .
      </p>
      <h2 className={HEAD}>Calls</h2>
      <Ways />
      <h2 className={HEAD}>Live commands</h2>
      <p className="mb-2 text-muted">The body of POST /api/shows/&#123;id&#125;/live.</p>
      <Shapes rows={live} />
      <h2 className={HEAD}>Edits</h2>
      <p className="mb-2 text-muted">
        The params of POST /api/shows/&#123;id&#125;/edits, by the name of the edit.
      </p>
      <Shapes rows={edits} />
    </main>
  );
}
