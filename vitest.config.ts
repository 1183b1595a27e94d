import { defineConfig } from 'vitest/config';

const UNIT = {
  exclude: ['**/node_modules/**'],
  environment: 'node',
  setupFiles: ['scripts/propertySeed.ts'],
  // Left to itself it keeps one of two cores free for nobody.
  maxWorkers: 2,
  testTimeout: 90_000,
};

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          ...UNIT,
          name: 'unit',
          include: ['{core,rig,server,bench,fuzz,scripts}/**/*.test.ts'],
          // Nothing there changes what is around it: all tests of a worker share what they import.
          isolate: false,
        },
      },
      { test: { ...UNIT, name: 'unit-app', include: ['app/**/*.test.{ts,tsx}'] } },
      {
        test: {
          name: 'e2e',
          include: ['e2e/**/*.e2e.ts'],
          environment: 'node',
          // Each file has a server and a browser of its own; a test waits more than it works.
          maxWorkers: 2,
          testTimeout: 180_000,
          // What the workers find out comes when it comes, on a slow machine too.
          expect: { poll: { timeout: 15_000 } },
          hookTimeout: 180_000,
        },
      },
    ],
  },
});
