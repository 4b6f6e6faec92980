import { fileURLToPath } from 'node:url';
import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
  plugins: [react(), tailwind()],
  resolve: {
    alias: {
      '@corvun/core': here('../../packages/core/src/index.ts'),
      '@corvun/contract/address': here('../../packages/contract/src/address.ts'),
    },
  },
  build: {
    outDir: 'dist',
    assetsInlineLimit: 0,
    modulePreload: false,
    chunkSizeWarningLimit: 1500,
    rollupOptions: {
      input: {
        ...{ popup: here('popup.html'), options: here('options.html'), held: here('held.html') },
        background: here('src/background.ts'),
      },
      output: { entryFileNames: '[name].js' },
    },
  },
});
