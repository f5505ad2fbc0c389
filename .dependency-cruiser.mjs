// The graph of docs/architecture.md as rules: which room may use which; no cycle, neither of files nor of folders.

/** Rooms of core, and what each may use. */
const CORE = {
  units: [],
  sheet: [],
  notes: ['units'],
  braille: [],
  geometry: [],
  arrangement: ['geometry'],
  'medial-axis': ['geometry', 'arrangement'],
  mesh: ['geometry'],
  artwork: ['geometry', 'arrangement'],
  type: ['geometry', 'arrangement'],
  'sign/document': ['units', 'braille', 'type', 'geometry'],
  'sign/ticket': ['units', 'braille', 'type', 'sign/document'],
  'sign/edit': ['units', 'braille', 'type', 'geometry', 'sign/document', 'sign/ticket'],
  'sign/kinds': ['units', 'sign/document'],
  'relief/profile': ['geometry', 'sign'],
  'relief/placing': ['units', 'braille', 'notes', 'geometry', 'arrangement', 'medial-axis', 'type', 'sign', 'relief/profile'],
  'relief/slopes': ['geometry', 'arrangement', 'medial-axis', 'mesh', 'relief/profile', 'relief/placing'],
  'relief/plan': [
    'units',
    'notes',
    'geometry',
    'arrangement',
    'type',
    'sign',
    'relief/profile',
    'relief/placing',
    'relief/slopes',
  ],
  checks: ['units', 'braille', 'notes', 'geometry', 'arrangement', 'sign', 'relief'],
  solid: ['geometry', 'arrangement', 'mesh', 'sign', 'relief'],
  drawing: ['units', 'notes', 'geometry', 'arrangement', 'sign', 'relief', 'solid'],
  format: ['units', 'geometry', 'mesh', 'sign', 'drawing', 'solid'],
  tooling: ['geometry'],
  shop: ['sign', 'tooling'],
  cutting: ['geometry', 'arrangement', 'medial-axis', 'mesh', 'relief', 'solid', 'tooling', 'shop'],
  gcode: ['shop', 'cutting'],
  program: ['geometry'],
  'dry-run': ['geometry', 'mesh', 'tooling', 'program'],
  making: ['geometry', 'arrangement', 'sign', 'relief', 'solid', 'shop', 'tooling', 'cutting', 'gcode', 'program', 'dry-run'],
  picture: ['geometry', 'mesh', 'sign', 'relief', 'drawing', 'solid'],
  'in-place': ['geometry', 'mesh', 'solid', 'picture'],
  processes: ['geometry', 'arrangement', 'medial-axis', 'mesh', 'tooling', 'sign', 'relief', 'drawing', 'solid'],
  nesting: ['geometry', 'arrangement'],
  runs: ['geometry', 'type', 'checks', 'notes', 'sign', 'relief', 'drawing', 'nesting'],
  inspection: [
    'units',
    'braille',
    'type',
    'checks',
    'geometry',
    'arrangement',
    'medial-axis',
    'mesh',
    'sign',
    'relief',
    'solid',
    'shop',
    'processes',
  ],
};

const inside = (room) => `^core/src/${room}/`;
/** A room is entered from outside by its door; its own files know each other. */
const doorOf = (room) => (room.includes('/') ? `^core/src/${room}/[^/]+$` : `^core/src/${room}/index\\.ts$`);
const SOURCES = { pathNot: '\\.test\\.ts$' };

const arrows = Object.entries(CORE).map(([room, uses]) => ({
  name: `core-${room.replace('/', '-')}`,
  comment: `${room} uses ${uses.join(', ') || 'no other room'}, each by its index.ts.`,
  severity: 'error',
  from: { path: inside(room), ...SOURCES },
  to: { path: '^(core|server|web|e2e)/', pathNot: [inside(room), ...uses.map(doorOf)] },
}));

export default {
  forbidden: [
    ...arrows,
    {
      name: 'every-room-of-core-is-named',
      comment: 'A new room gets its arrows in .dependency-cruiser.mjs and docs/architecture.md.',
      severity: 'error',
      from: {
        path: '^core/src/',
        pathNot: [...Object.keys(CORE).map(inside), '^core/src/(sign|relief)/index\\.ts$', '\\.test\\.ts$'],
      },
      to: {},
    },
    {
      name: 'platform-knows-no-feature',
      comment: 'Database, HTTP, queue and settings serve the features of server/src/modules.',
      severity: 'error',
      from: { path: '^server/src/platform/' },
      to: { path: '^server/src/', pathNot: '^server/src/platform/' },
    },
    {
      name: 'features-know-no-process',
      comment: 'app, main, worker and migrate put features together.',
      severity: 'error',
      from: { path: '^server/src/(modules|cli)/' },
      to: { path: '^server/src/[^/]+$' },
    },
    {
      name: 'server-and-page-meet-in-core-and-api',
      severity: 'error',
      from: { path: '^(server|web)/' },
      to: { path: '^(server|web)/', pathNot: '^$1/' },
    },
    {
      name: 'machine-knows-programs',
      comment: 'The practice machine is a process of its own, which is spoken to over a line.',
      severity: 'error',
      from: { path: '^machine/' },
      to: { path: '^(core|api|server|web|e2e)/', pathNot: '^core/src/program/index\\.ts$' },
    },
    {
      name: 'machine-is-not-imported',
      severity: 'error',
      from: { path: '^(core|api|server|web)/' },
      to: { path: '^machine/' },
    },
    {
      name: 'api-is-schemas',
      comment: 'What is sent between page and server, in the words of core; entered by index.ts and states.ts.',
      severity: 'error',
      from: { path: '^api/' },
      to: { path: '^(core|server|web|e2e)/', pathNot: '^core/src/(braille|in-place|making|sheet|shop|sign|type)/index\\.ts$' },
    },
    {
      name: 'api-has-two-doors',
      severity: 'error',
      from: { path: '^(server|web|e2e)/' },
      to: { path: '^api/', pathNot: '^api/src/(index|states)\\.ts$' },
    },
    {
      name: 'no-cycle-of-files',
      severity: 'error',
      from: SOURCES,
      to: { circular: true, dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'no-cycle-of-folders',
      severity: 'error',
      scope: 'folder',
      from: {},
      to: { circular: true },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules|/dist/' },
    exclude: { path: 'node_modules|/dist/|\\.test\\.ts$' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.tests.json' },
    enhancedResolveOptions: { extensions: ['.ts', '.mjs', '.js'] },
  },
};
