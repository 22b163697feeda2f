// Builds the web app and the server, unless what is built is newer than every source file.
import { existsSync, mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';

const STAMP = 'server/dist/.built';
const ROOT = resolve(import.meta.dirname, '..');

function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(
    0,
    ...readdirSync(path)
      .filter((n) => n !== 'dist' && n !== 'node_modules')
      .map((n) => newest(join(path, n))),
  );
}

export async function build({ force = false } = {}) {
  const sources = [
    'core/src',
    'server/src',
    'demo/src',
    'web/src',
    'web/public',
    'web/index.html',
    'web/vite.config.ts',
    'package-lock.json',
    'tools/build.mjs',
  ];
  if (
    !force &&
    existsSync(STAMP) &&
    existsSync('web/dist/index.html') &&
    statSync(STAMP).mtimeMs > Math.max(...sources.map(newest))
  )
    return;
  console.log('Building…');
  const { build: viteBuild } = await import('vite');
  // It sets this for the whole program, and tests that are begun after would load what is made for production.
  const { NODE_ENV } = process.env;
  await viteBuild({ configFile: 'web/vite.config.ts', logLevel: 'warn' });
  if (NODE_ENV === undefined) delete process.env['NODE_ENV'];
  else process.env['NODE_ENV'] = NODE_ENV;
  await bundleServer('server/dist');
  mkdirSync('server/dist', { recursive: true });
  writeFileSync(STAMP, '');
}

/** Bundles the server and its threads into a folder, which must lie below its packages. */
export async function bundleServer(outdir) {
  const { build: esbuild, stop } = await import('esbuild');
  await esbuild({
    entryPoints: [
      'main.ts',
      'imports/parseWorker.ts',
      'recordings/readWorker.ts',
      'readings/growWorker.ts',
    ].map((path) => join(ROOT, 'server/src', path)),
    outdir,
    entryNames: '[name]',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    plugins: [
      {
        // Our own packages are bundled from source, and so are the schemas they are described with, seven hundred files that
        // every thread would load anew. Everything else stays in node_modules.
        name: 'own-packages-inside',
        setup(b) {
          b.onResolve({ filter: /^[^./]/ }, ({ path, kind }) => {
            if (kind === 'entry-point') return null;
            if (path === 'typebox') return null;
            const own = /^@lucky-needle\/(core|demo)(?:\/(.+))?$/.exec(path);
            if (!own) return { path, external: true };
            const [, workspace, folder] = own;
            return { path: join(ROOT, workspace, 'src', folder ?? '', 'index.ts') };
          });
        },
      },
    ],
  });
  // Its own process would go on beside the server for as long as that runs.
  await stop();
}

if (process.argv[1] === resolve('tools/build.mjs')) await build({ force: process.argv.includes('--force') });
