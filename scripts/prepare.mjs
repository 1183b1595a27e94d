// What a fresh machine needs before anything else runs: packages, and a browser for the tests. Node built-ins only.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('..', import.meta.url));
const STAMP = `${ROOT}node_modules/.lock-digest`;
export const CHROMIUM = '/usr/bin/chromium';

/** Runs a command with its output shown; ends this script when it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  if (result.status !== 0) {
    console.error(`\n"${[command, ...args].join(' ')}" failed.`);
    process.exit(result.status ?? 1);
  }
}

/** Installs the packages when they are missing, or were installed from another lock file. */
export function preparePackages() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    console.error(`Steady Moth needs Node.js 20.19 or newer; this is ${process.versions.node}.`);
    process.exit(1);
  }
  const digest = createHash('sha256')
    .update(readFileSync(`${ROOT}package-lock.json`))
    .digest('hex');
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === digest) return;
  console.log('Installing packages …');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(STAMP, digest);
}

/** Finds Debian's Chromium, or installs it when it may; a clear sentence when it may not. */
export function prepareChromium() {
  if (existsSync(CHROMIUM)) return;
  if (process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')) {
    console.log('Installing Chromium …');
    const quiet = {
      cwd: ROOT,
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    };
    spawnSync('apt-get', ['update', '-qq'], quiet);
    spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], quiet);
  }
  if (!existsSync(CHROMIUM)) {
    console.error(
      `The tests drive Debian's Chromium, which is not at ${CHROMIUM}. Install it with: sudo apt-get install chromium`,
    );
    process.exit(1);
  }
}
