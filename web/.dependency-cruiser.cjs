/** Arrows between the rooms of the screens; see docs/decisions/0018. */
const rooms = ['arrival', 'strip', 'index', 'look', 'gauge', 'trace', 'verdict', 'dossier', 'shop', 'casebook'];
module.exports = {
  forbidden: [
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    { name: 'api-knows-no-outbox', severity: 'error', from: { path: '^src/api/' }, to: { path: '^src/(outbox|device)/' } },
    { name: 'ui-knows-no-room', severity: 'error', from: { path: '^src/ui/' }, to: { path: `^src/(${rooms.join('|')}|outbox|device)/` } },
  ],
  options: { tsPreCompilationDeps: true, tsConfig: { fileName: 'tsconfig.json' }, exclude: '\\.test\\.' },
};
