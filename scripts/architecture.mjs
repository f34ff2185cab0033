import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { transformSync } from 'esbuild';

/**
 * Parses every import (of types, too) and fails on one that points upward, past a room's `index.ts`, or in a circle.
 * Workspaces: web → core, server → core. Rooms: the lists below, a room may use only rooms after it.
 */
const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

const ROOMS = {
  core: [
    ['contracts', 'perch', 'links', 'board-file'],
    ['history'],
    ['paint'],
    ['board', 'raster'],
    ['formats', 'subject'],
    ['schema'],
    ['items'],
    ['picture'],
    ['typesetting'],
    ['lens', 'light', 'form', 'freehand', 'motion', 'model', 'easel'],
    ['colour', 'geometry', 'text'],
    ['numeric'],
  ],
  server: [
    ['http'],
    [
      'pictures',
      'library',
      'subjects',
      'gathering',
      'events',
      'owners',
      'exports',
      'colours',
      'history',
      'board-files',
      'links',
    ],
    ['drawings'],
    ['boards'],
    ['intake'],
    ['jobs'],
    ['painting', 'pixels'],
    ['pages'],
    ['storage'],
    ['database'],
    ['requests'],
  ],
  web: [
    ['app'],
    ['boards', 'owner', 'library'],
    ['subjects', 'links', 'easel'],
    ['perch', 'study', 'motion', 'turning'],
    ['live'],
    ['gather', 'palette', 'layouts', 'looking', 'exporting', 'history'],
    ['items'],
    ['light', 'marks'],
    ['colour'],
    ['tools'],
    ['desk'],
    ['commands'],
    ['shell'],
    ['stage', 'sync'],
    ['pixels', 'models'],
    ['state'],
  ],
};
/** Large rooms have rooms of their own inside, and these again, with an order, too; what stands beside those may use all of them. */
const INNER = {
  'web/gather': [['pages'], ['sheets'], ['keeping'], ['reading']],
  'web/library': [['pages'], ['wall', 'labels'], ['finding']],
  'web/easel': [['painting', 'tracing'], ['following']],
  'web/easel/painting': [['hand'], ['card'], ['versions'], ['sheet'], ['worker']],
};
/** What serves every room: settings, and how programs are run. */
const SHARED = { server: ['settings.ts', 'programs.ts'] };
const WORKSPACES = {
  core: [],
  server: ['core'],
  web: ['core'],
  demo: ['core', 'server'],
  e2e: ['core', 'server', 'demo'],
  bench: ['core', 'server', 'demo', 'e2e'],
};

function* sources(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory() && !['node_modules', 'dist'].includes(entry.name)) yield* sources(path);
    else if (/\.tsx?$/.test(entry.name)) yield path;
  }
}

/** Every module that a file imports or re-exports, types included, found by a parser and not by a pattern. */
export function importsOf(source, loader) {
  // With names kept and nothing dropped, esbuild prints each import once, on a line of its own.
  const typesKept = source
    .replace(/\bimport\s+type\s+(?=[{*\w])/g, 'import ')
    .replace(/\bexport\s+type\s+(?=[{*])/g, 'export ')
    .replace(/([{,]\s*)type\s+(?=\w)/g, '$1');
  const { code } = transformSync(typesKept, {
    loader,
    format: 'esm',
    jsx: 'preserve',
    tsconfigRaw: { compilerOptions: { verbatimModuleSyntax: true } },
  });
  const found = [];
  for (const match of code.matchAll(/^(?:import|export)\b[^;]*?from\s+"([^"]+)";$|^import\s+"([^"]+)";$/gm)) {
    found.push(match[1] ?? match[2]);
  }
  for (const match of code.matchAll(/\bimport\("([^"]+)"\)|new URL\("(\.[^"]+\.ts)"/g))
    found.push(match[1] ?? match[2]);
  return found;
}

/** Programs for browsers that the server hands out as files: it bundles them, and imports nothing of them. */
const HANDED_OUT = {
  'server/src/programs.ts': ['web/src/viewer/viewer.ts', 'web/src/viewer/looker.ts'],
};

const isTest = (path) => /\.test\.tsx?$/.test(path) || /\/test\//.test(path);
const levelOf = (workspace, room) => ROOMS[workspace]?.findIndex((level) => level.includes(room)) ?? -1;

/** The application knows the commands of every room before the room itself is loaded, and asks for its pages alone. */
const isItsTable = (fromRoom, toFile) => fromRoom === 'app' && ['commands.ts', 'pages.ts'].includes(toFile);

/** Whether one file of a large room uses one of a higher room inside it. */
function isUpwardInside(from, to) {
  return Object.entries(INNER).some(([room, order]) => {
    const [workspace, ...rest] = room.split('/');
    const folder = `${[workspace, 'src', ...rest].join('/')}/`;
    if (!from.startsWith(folder) || !to.startsWith(folder)) return false;
    const level = (path) =>
      order.findIndex((rooms) => rooms.includes(path.slice(folder.length).split('/')[0]));
    return level(from) > level(to) && level(to) >= 0;
  });
}

/** Checks one import of one file. @returns what is wrong, undefined for nothing */
export function faultOf(from, specifier) {
  const [workspace] = from.split('/');
  if (specifier.startsWith('@miradero/')) {
    const [, target, ...rest] = specifier.split('/');
    if (!WORKSPACES[workspace]?.includes(target)) return `${workspace} may not use ${target}`;
    return target === 'core' && rest.length !== 1 ? 'a room of core is entered by its name alone' : undefined;
  }
  if (!specifier.startsWith('.')) {
    if (workspace === 'core' && specifier.startsWith('node:') && !isTest(from))
      return 'core may not use Node.js';
    return undefined;
  }
  const to = normalize(join(dirname(from), specifier));
  if (HANDED_OUT[from]?.includes(to)) return undefined;
  const [target] = to.split('/');
  if (target !== workspace)
    return WORKSPACES[workspace]?.includes(target) ? undefined : `${workspace} may not use ${target}`;
  if (!ROOMS[workspace]) return undefined;
  const [, , fromRoom, fromFile] = from.split('/');
  const [, , toRoom, toFile] = to.split('/');
  if (!isTest(from) && isUpwardInside(from, to))
    return `${fromFile} may not use ${toFile}: arrows point downward`;
  if (SHARED[workspace]?.includes(to.split('/').slice(2).join('/'))) return undefined;
  const isInRoom = fromFile !== undefined;
  if (toFile === undefined || (isInRoom && fromRoom === toRoom) || isTest(from)) return undefined;
  if (workspace !== 'server' && !/^index\.tsx?$/.test(toFile) && !isItsTable(fromRoom, toFile))
    return `a room is entered by its index.ts: ${to}`;
  if (levelOf(workspace, toRoom) < 0) return `the room ${toRoom} has no place in the order`;
  if (isInRoom && levelOf(workspace, fromRoom) >= levelOf(workspace, toRoom)) {
    return `${fromRoom} may not use ${toRoom}: arrows point downward`;
  }
  return undefined;
}

/** Circles among files: every file is visited once; meeting one that is still open closes a circle. */
export function circlesIn(graph) {
  const circles = [];
  const state = new Map();
  const visit = (file, path) => {
    if (state.get(file) === 'done') return;
    if (state.get(file) === 'open') {
      circles.push([...path.slice(path.indexOf(file)), file].join(' → '));
      return;
    }
    state.set(file, 'open');
    for (const next of graph.get(file) ?? []) visit(next, [...path, file]);
    state.set(file, 'done');
  };
  for (const file of graph.keys()) visit(file, []);
  return circles;
}

function main() {
  const graph = new Map();
  const faults = [];
  for (const workspace of Object.keys(WORKSPACES)) {
    const folder = join(ROOT, workspace);
    if (!existsSync(folder)) continue;
    for (const path of sources(folder)) {
      const from = relative(ROOT, path);
      const specifiers = importsOf(readFileSync(path, 'utf8'), path.endsWith('x') ? 'tsx' : 'ts');
      for (const specifier of specifiers) {
        const fault = faultOf(from, specifier);
        if (fault) faults.push(`${from}: ${fault}`);
      }
      const inner = specifiers
        .filter((specifier) => specifier.startsWith('.') && /\.tsx?$/.test(specifier))
        .map((specifier) => normalize(join(dirname(from), specifier)));
      graph.set(from, inner);
    }
  }
  faults.push(...circlesIn(graph).map((circle) => `circle: ${circle}`));
  for (const fault of faults) console.error(fault);
  console.log(
    faults.length === 0
      ? `architecture: ${graph.size} files, every arrow points downward`
      : `${faults.length} faults`,
  );
  process.exit(faults.length === 0 ? 0 : 1);
}

if (process.argv[1] === fileURLToPath(import.meta.url)) main();
