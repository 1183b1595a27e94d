// One command from a fresh clone to the running application.
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { preparePackages, ROOT, run } from './prepare.mjs';

preparePackages();
if (!existsSync(`${ROOT}demo/pictures/index.json`)) run('npx', ['--no-install', 'tsx', 'scripts/makeDemo.ts']);
run('npx', ['--no-install', 'vite', 'build', 'app', '--logLevel', 'warn']);
const server = spawn('npx', ['--no-install', 'tsx', 'server/src/main.ts', ...process.argv.slice(2)], {
  cwd: ROOT,
  stdio: 'inherit',
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
