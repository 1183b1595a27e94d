// Builds the application, then measures. Arguments go through, as in: npm run bench -- --scenes 2000
import { prepareChromium, preparePackages, run } from './prepare.mjs';

preparePackages();
prepareChromium();
run('npx', ['--no-install', 'vite', 'build', 'app', '--logLevel', 'warn']);
run('npx', ['--no-install', 'tsx', 'bench/run.ts', ...process.argv.slice(2)]);
