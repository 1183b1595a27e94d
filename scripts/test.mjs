// Every check, on a fresh machine as well: types, lint, imports, unused code, unit tests, the build, end-to-end tests.
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { prepareChromium, preparePackages, ROOT } from './prepare.mjs';

preparePackages();
prepareChromium();

const folder = mkdtempSync(join(tmpdir(), 'moth-test-'));
const npx = (...args) => ['npx', ['--no-install', ...args]];
const report = (project) => join(folder, `${project.replace('*', '')}.json`);
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
/** A check that says what it has to say at once, or, where several run side by side, when it is done. */
async function check(name, [command, args], { project = null, beside = false } = {}) {
  const started = Date.now();
  if (!beside) console.log(`\n── ${name}`);
  const child = spawn(command, args, { cwd: ROOT, stdio: beside ? ['ignore', 'pipe', 'pipe'] : 'inherit' });
  const said = [];
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (bytes) => said.push(bytes));
  const status = await new Promise((resolve) => child.on('close', resolve).on('error', () => resolve(1)));
  if (beside) console.log(`\n── ${name}\n${Buffer.concat(said)}`);
  console.log(`── ${name}: ${status === 0 ? 'good' : 'FAILED'}, ${Math.round((Date.now() - started) / 1000)} s`);
  const counts = project ? countTests(project) : null;
  passed += counts?.passed ?? (status === 0 ? 1 : 0);
  failed += counts?.failed ?? (status === 0 ? 0 : 1);
  // A run that ended badly without a failing test failed all the same.
  if (status !== 0 && counts && counts.failed === 0) failed += 1;
}

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

// The types take as long as all the others of these.
const beside = { beside: true };
const types = check('types', npx('tsc', '-p', 'tsconfig.json'), beside);
await check('lint and format', npx('biome', 'check', '.'), beside);
for (const own of ['core', 'rig', 'server']) await check(`types of ${own} alone`, npx('tsc', '-p', own), beside);
await check('imports', ['node', ['scripts/checkImports.mjs']], beside);
await check('unused code', npx('knip'), beside);
await check('build', npx('vite', 'build', 'app', '--logLevel', 'warn'), beside);
await types;
await check('unit tests', vitest('unit*'), { project: 'unit*' });
await check('end-to-end tests', vitest('e2e'), { project: 'e2e' });

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
