// Checks who imports whom; fails when the checker saw too few files to have looked at all.
import { spawnSync } from 'node:child_process';

/** The tree has about 1,050 files: a check that sees far fewer did not look at all of it. */
const FEWEST_MODULES = 900;
const run = spawnSync(
  'npx',
  [
    '--no-install',
    'depcruise',
    '--output-type',
    'json',
    'core/src',
    'rig/src',
    'app/src',
    'server/src',
    'bench',
    'e2e',
    'scripts',
    'fuzz',
  ],
  {
    encoding: 'utf8',
    maxBuffer: 256e6,
  },
);
let report;
try {
  report = JSON.parse(run.stdout);
} catch {
  console.error(`The import check gave no report.\n${run.stderr}`);
  process.exit(1);
}
const own = report.modules.filter((m) => !m.source.includes('node_modules') && /\.tsx?$/.test(m.source));
const dependencies = own.reduce((sum, m) => sum + m.dependencies.length, 0);
if (own.length < FEWEST_MODULES || dependencies < own.length) {
  console.error(`The import check saw only ${own.length} files with ${dependencies} imports: it did not look.`);
  process.exit(1);
}
for (const v of report.summary.violations) console.error(`${v.rule.name}: ${v.from} → ${v.to}`);
console.log(`${own.length} files, ${dependencies} imports, ${report.summary.violations.length} against the rules`);
process.exit(report.summary.violations.length ? 1 : 0);
