import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { kernelWithoutEval } from './withoutEval';

export default defineConfig({
  root: fileURLToPath(new URL('.', import.meta.url)),
  plugins: [react(), tailwindcss(), kernelWithoutEval()],
  // Its glue must come through the plugin in development too.
  optimizeDeps: { exclude: ['replicad-opencascadejs'] },
  build: { outDir: 'dist', emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit: 900 },
  worker: {
    format: 'es',
    plugins: () => [kernelWithoutEval()],
    rolldownOptions: {
      output: {
        // The reader of letters asks for what it has learned by this name, and cannot be told another: it lies outside
        // the folder of which browsers are told that nothing in it ever changes.
        assetFileNames: ({ names }) =>
          names.includes('eng.traineddata.gz') ? 'letters/[name][extname]' : 'assets/[name]-[hash][extname]',
      },
    },
  },
});
