import { fileURLToPath } from 'node:url';
import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  base: '/for-others/',
  plugins: [react(), tailwind()],
  resolve: { alias: { '@corvun/core': fileURLToPath(new URL('../../packages/core/src/index.ts', import.meta.url)) } },
  build: { outDir: 'dist', assetsInlineLimit: 0, modulePreload: false },
});
