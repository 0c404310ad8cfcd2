/** Arrows between the floors of the screens; see docs/decisions/0018. The rooms stand side by side; what two of them share lies below. */
const rooms = ['arrival', 'strip', 'index', 'look', 'gauge', 'trace', 'verdict', 'build', 'dossier', 'shop'];
const shared = ['outbox', 'device', 'section', 'pictures', 'entry', 'art', 'casebook', 'shell'];
module.exports = {
    forbidden: [
        { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
        {
            name: 'api-knows-api-alone',
            severity: 'error',
            from: { path: '^src/api/' },
            to: { path: `^src/(${[...rooms, ...shared].join('|')})/` },
        },
        {
            name: 'ui-knows-no-room',
            severity: 'error',
            from: { path: '^src/ui/' },
            to: { path: `^src/(${[...rooms, ...shared].join('|')})/` },
        },
        {
            name: 'rooms-know-no-other-room',
            severity: 'error',
            from: { path: `^src/(${rooms.join('|')})/` },
            to: { path: `^src/(${rooms.join('|')})/`, pathNot: '^src/$1/' },
        },
        {
            name: 'what-is-shared-knows-no-room',
            severity: 'error',
            from: { path: `^src/(${shared.filter((s) => s !== 'shell').join('|')})/` },
            to: { path: `^src/(${rooms.join('|')}|shell)/` },
        },
        {
            name: 'no-room-knows-the-shell',
            severity: 'error',
            from: { path: `^src/(${rooms.join('|')})/` },
            to: { path: '^src/shell/' },
        },
    ],
    options: {
        doNotFollow: { path: 'node_modules' },
        tsPreCompilationDeps: true,
        tsConfig: { fileName: 'tsconfig.json' },
        exclude: '\\.test\\.',
    },
};
