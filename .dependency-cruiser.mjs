// The house (docs/architecture.md): imports go one way, inside the core a room uses only the ones before it, and no two files need each
// other, not even for a type: what both need lives in a third.
const rooms = [
  'quantity',
  'why',
  'rules',
  'book',
  'facts',
  'ground',
  'budget',
  'organics',
  'nitrogen',
  'tissue',
  'laboratory',
  'document',
  'lines',
  'warnings',
  'assessment',
  'season',
  'account',
  'views',
  'farm',
  'methods',
];
/** Explanation stands on the ground floor; judgement says things with it; the book stands beside both. */
const beside = { why: ['quantity'], rules: ['quantity', 'why'], book: ['quantity'] };
const tests = '\\.test\\.tsx?$|testDesk\\.tsx$|\\.testkit\\.ts$';
const forbid = (name, from, to) => ({
  name,
  severity: 'error',
  // A test may look at its file through any room, and at the demo farms.
  from: { path: from, pathNot: tests },
  to: { path: to },
});
const outside = (...own) =>
  `^(src/(${['core', 'demo', 'data', 'server', 'app', 'ui', 'workers'].filter((r) => !own.includes(r)).join('|')})/${own.includes('cli') ? '' : '|cli/'})`;

const config = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    ...rooms
      .map((room, i) => {
        const allowed = beside[room] ?? rooms.slice(0, i);
        const others = rooms.filter((r) => r !== room && !allowed.includes(r));
        return forbid(`core-${room}`, `^src/core/${room}/`, `^src/core/(${others.join('|')})/`);
      })
      .slice(0, -1),
    forbid('core', '^src/core/', outside('core')),
    forbid('demo', '^src/demo/', outside('core', 'demo')),
    forbid('data', '^src/data/', outside('core', 'demo', 'data')),
    forbid('server', '^src/server/', outside('core', 'demo', 'data', 'server')),
    forbid('workers', '^src/workers/', outside('core', 'workers')),
    forbid('ui', '^src/ui/', outside('core', 'workers', 'ui')),
    forbid('app', '^src/app/', outside('core', 'server', 'ui', 'app')),
    forbid('cli', '^cli/', outside('core', 'cli')),
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.json$' },
  },
};
export default config;
