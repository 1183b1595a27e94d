import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { createServer } from './http';

const PORT = 4180;
/** Ports tried one after the other when the first is taken. */
const PORTS_TRIED = 20;

const folder = (path: string): string => fileURLToPath(new URL(path, import.meta.url));
const appFolder = folder('../../app/dist');
if (!existsSync(`${appFolder}/index.html`)) {
  console.error('The application is not built yet: run "npm run build" first.');
  process.exit(1);
}

// Only this machine, unless the person asks for the local network.
const local = process.argv.includes('--local-network');
const host = local ? '0.0.0.0' : '127.0.0.1';
const server = createServer({
  appFolder,
  demoFolder: folder('../../demo/pictures'),
  jobsFolder: folder('../../demo/jobs'),
  onFault: (error) => console.error(error),
});

function listen(port: number, left: number): void {
  const listening = server.listen(port, host);
  listening.on('listening', () => console.log(`Steady Moth is at http://${local ? host : 'localhost'}:${port}/`));
  listening.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE' && left > 0) listen(port + 1, left - 1);
    else {
      console.error(`The server cannot listen on ${host}:${port}: ${error.message}`);
      process.exit(1);
    }
  });
}

listen(Number(process.env.PORT ?? PORT), PORTS_TRIED);
