// Who may import whom (docs/architecture.md): core ← server ← app; ui never imports server; cli imports core and server; nothing imports app; no circles.
const no = (name, from, to, comment) => ({ name, severity: 'error', comment, from, to });
const core = '^src/core/';

module.exports = {
  forbidden: [
    no('no-circles', {}, { circular: true }, 'No circles.'),
    no('core-alone', { path: core }, { path: '^src/(server|app|ui|cli|bench)/' }, 'The core imports nothing of ours but itself.'),
    no('core-pure', { path: core }, { dependencyTypes: ['core'] }, 'The core imports no Node module.'),
    no(
      'core-no-framework',
      { path: core },
      { path: 'node_modules/(react|next|pg|drizzle-orm|piscina)/' },
      'The core imports no framework and no database.',
    ),
    no('server-below-app', { path: '^src/server/' }, { path: '^src/(app|ui|cli)/' }, 'The server knows no screens.'),
    no('ui-not-server', { path: '^src/ui/' }, { path: '^src/(server|app|cli|bench)/' }, 'Screens get data and actions from the app.'),
    no('bench-below', { path: '^src/bench/' }, { path: '^src/(app|ui|cli)/' }, 'The bench imports core and server.'),
    no('cli-not-app', { path: '^src/cli/' }, { path: '^src/(app|ui)/' }, 'The command line has no screens.'),
    no(
      'cli-no-database',
      { path: '^src/cli/' },
      { path: '^src/server/(database|campaigns|projects|evidence|events|worker|maintain)/' },
      'The command line needs no database.',
    ),
    no('app-on-top', { pathNot: '^src/app/' }, { path: '^src/app/' }, 'Nothing imports the app.'),
    no(
      'core-one-door',
      { path: '^src/core/([^/]+)/' },
      { path: '^src/core/([^/]+)/(?!index\\.ts$)', pathNot: ['^src/core/$1/', '^src/core/emit/(js|c|scxml|st)/index\\.ts$'] },
      'A folder of the core is entered by its index.',
    ),
    no(
      'core-doors',
      { path: '^src/(server|app|ui|cli)/' },
      { path: '^src/core/(?!([^/]+|emit/(js|c|scxml|st))/index\\.ts$)' },
      'A folder of the core is entered by its index.',
    ),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.json'],
    },
  },
};
