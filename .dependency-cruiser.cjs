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
        pathNot: 'node_modules/(zod|papaparse|@types/papaparse|fflate)',
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
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    exclude: { path: '\\.next' },
  },
};
