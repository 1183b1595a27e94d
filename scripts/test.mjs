// Every check, on a fresh machine as well: types, lint, imports, unused code, unit tests, the build, end-to-end tests.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { prepareChromium, preparePackages, ROOT } from './prepare.mjs';

preparePackages();
prepareChromium();

const folder = mkdtempSync(join(tmpdir(), 'moth-test-'));
const npx = (...args) => ['npx', ['--no-install', ...args]];
const report = (name) => join(folder, `${name}.json`);
const vitest = (project) =>
  npx(
    'vitest',
    'run',
    '--project',
    project,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${report(project)}`,
  );

let passed = 0;
let failed = 0;
const check = (name, [command, args], project = null) => {
  console.log(`\n── ${name}`);
  const started = Date.now();
  const { status } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit' });
  console.log(`── ${name}: ${status === 0 ? 'good' : 'FAILED'}, ${Math.round((Date.now() - started) / 1000)} s`);
  const counts = project ? countTests(project) : null;
  passed += counts?.passed ?? (status === 0 ? 1 : 0);
  failed += counts?.failed ?? (status === 0 ? 0 : 1);
  // A run that ended badly without a failing test failed all the same.
  if (status !== 0 && counts && counts.failed === 0) failed += 1;
};

/** What the runner wrote down; a run that saw no test has failed. */
function countTests(project) {
  try {
    const { numPassedTests, numFailedTests } = JSON.parse(readFileSync(report(project), 'utf8'));
    return numPassedTests + numFailedTests > 0
      ? { passed: numPassedTests, failed: numFailedTests }
      : { passed: 0, failed: 1 };
  } catch {
    return { passed: 0, failed: 1 };
  }
}

check('types', npx('tsc', '-p', 'tsconfig.json'));
check('lint and format', npx('biome', 'check', '.'));
check('imports', ['node', ['scripts/checkImports.mjs']]);
check('unused code', npx('knip'));
check('unit tests', vitest('unit'), 'unit');
check('build', npx('vite', 'build', 'app', '--logLevel', 'warn'));
check('end-to-end tests', vitest('e2e'), 'e2e');

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
