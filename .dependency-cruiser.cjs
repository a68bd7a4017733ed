/** Arrows point down: ui and app may use core; core uses nothing of ours. */
const only = (name, from, forbidden) => ({
  name,
  severity: 'error',
  from: { path: from },
  to: { path: forbidden },
});
module.exports = {
  forbidden: [
    only(
      'core-stands-alone',
      '^src/core',
      '^src/(store|player|keeper|sim|app|ui|web|launcher|bench)|^demo',
    ),
    {
      name: 'core-has-no-platform',
      severity: 'error',
      from: { path: '^src/core', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-has-few-libraries',
      severity: 'error',
      from: { path: '^src/core', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm'],
        pathNot:
          'node_modules/(zod|date-fns|osc-min|papaparse|@types/papaparse|fflate|suncalc|fast-xml-parser)',
      },
    },
    only(
      'store-knows-core-only',
      '^src/store',
      '^src/(player|keeper|sim|app|ui|web|launcher|bench)',
    ),
    only(
      'player-has-no-web',
      '^src/player',
      '^src/(app|ui|web|launcher|bench)|node_modules/(next|react)',
    ),
    only('ui-has-no-server', '^src/ui', '^src/(store|player|keeper|sim|web|launcher|bench|app)'),
    // Layers of core, in files (docs/decisions/0029-each-noun-knows-itself.md).
    {
      name: 'rows-know-fields',
      severity: 'error',
      from: { path: '^src/core/[a-z-]+/rows\\.ts$' },
      to: {
        path: '^src/core',
        pathNot: 'rows\\.ts$|^src/core/(roles|dmx|show/fields|cues/number)\\.ts$',
      },
    },
    {
      name: 'tables-know-no-show',
      severity: 'error',
      from: { path: '^src/core/[a-z-]+/tables\\.ts$', pathNot: '^src/core/show/' },
      to: {
        path: '^src/core/(show/(?!define-table|plain-words|fields)|edits/|command/|live/)|edits(/|\\.ts)',
      },
    },
    {
      name: 'show-knows-tables-through-the-list',
      severity: 'error',
      from: { path: '^src/core/show/', pathNot: '(tables|show)\\.ts$|\\.test\\.ts$' },
      to: {
        path: '^src/core/[a-z-]+/',
        pathNot: '^src/core/(show/|script/sections\\.ts)',
      },
    },
    {
      name: 'what-is-computed-knows-no-edits',
      severity: 'error',
      from: {
        path: '^src/core/',
        pathNot: '^src/core/(edits|command|bring-in|import|testing)/|edits(/|\\.ts)|\\.test\\.ts$',
      },
      to: { path: '^src/core/(edits/|[a-z-]+/edits(/|\\.ts))' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    exclude: { path: '\\.next' },
  },
};
