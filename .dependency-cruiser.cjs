/** Which folder may call which: the architecture as rules. */

// What serves all subjects, or puts them together; every other folder of the server is a subject.
const subjects = '^server/(?!api/|routes/|http/|middleware/|plugins/|pages/|database/|jobs/|ports/)[^/]+/'

module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-is-pure', severity: 'error', comment: 'core imports nothing outside core but named pure packages',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { pathNot: '^core/|^node_modules/(zod|rrule-temporal|temporal-polyfill|liquidjs|ical\\.js|libphonenumber-js|markdown-it|fastest-levenshtein|windows-iana)/' },
    },
    {
      name: 'sentences-at-the-edge', severity: 'error', comment: 'codes and values travel between parts; sentences are made by who shows them',
      from: { path: '^core/(?!catalogue/|messages/|event-type/(sentence|changes)\\.ts)', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/catalogue/' },
    },
    { name: 'app-without-server', severity: 'error', from: { path: '^app/' }, to: { path: '^(~~/)?(server|stand-ins|demo|scripts)/' } },
    { name: 'stand-ins-apart', severity: 'error', from: { path: '^stand-ins/' }, to: { path: '^(core|server|app|demo|scripts)/' } },
    { name: 'nobody-imports-stand-ins', severity: 'error', from: { path: '^(core|server|app|demo)/' }, to: { path: '^stand-ins/' } },
    { name: 'server-without-app', severity: 'error', from: { path: '^server/' }, to: { path: '^(app|demo|scripts|tests)/' } },
    { name: 'api-without-sql', severity: 'error', from: { path: '^server/api/' }, to: { path: 'drizzle-orm|^node_modules/pg/|^server/database/' } },
    { name: 'use-cases-without-http', severity: 'error', from: { path: subjects }, to: { path: '^server/(http|api|routes)/|^node_modules/h3/' } },
    { name: 'ground-below-subjects', severity: 'error', from: { path: '^server/(database|jobs|ports)/' }, to: { path: subjects } },
    { name: 'ports-apart', severity: 'error', from: { path: '^server/ports/' }, to: { path: '^server/(?!ports/)' } },
    { name: 'services-through-their-port', severity: 'error', from: { path: '^server/(?!ports/)' }, to: { path: '^server/ports/[^/]+/[^/]+/', pathNot: '^server/ports/(mail/smtp|phone-text/http)/index\\.ts$' } },
    {
      name: 'subjects-through-their-index', severity: 'error',
      from: { path: '^server/([^/]+)/' },
      to: { path: subjects, pathNot: '^server/[^/]+/index\\.ts$|^server/$1/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '^(\\.nuxt|\\.output)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.tools.json' },
    enhancedResolveOptions: { conditionNames: ['import', 'node', 'types', 'default'], exportsFields: ['exports'] },
  },
}
