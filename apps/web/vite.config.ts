import { fileURLToPath } from 'node:url';
import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const source = (path: string) => fileURLToPath(new URL(`../../packages/${path}.ts`, import.meta.url));

export default defineConfig({
  plugins: [react(), tailwind()],
  resolve: {
    alias: {
      '@corvun/core': source('core/src/index'),
      ...Object.fromEntries(
        ['address', 'inputs', 'list-inputs', 'others-inputs', 'people', 'settings-inputs', 'source-inputs'].map((part) => [
          `@corvun/contract/${part}`,
          source(`contract/src/${part}`),
        ]),
      ),
    },
  },
  build: { outDir: 'dist', manifest: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 1500 },
  server: { port: 4601, proxy: { '/api': `http://127.0.0.1:${process.env['PORT'] ?? '4600'}` } },
});
