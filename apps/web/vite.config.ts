import { fileURLToPath } from 'node:url';
import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const source = (name: string) => fileURLToPath(new URL(`../../packages/${name}/src/index.ts`, import.meta.url));

export default defineConfig({
  plugins: [react(), tailwind()],
  resolve: { alias: { '@corvun/core': source('core') } },
  build: { outDir: 'dist', manifest: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 1500 },
  server: { port: 4601, proxy: { '/api': `http://127.0.0.1:${process.env['PORT'] ?? '4600'}` } },
});
