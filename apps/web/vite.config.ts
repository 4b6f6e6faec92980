import { fileURLToPath } from 'node:url';
import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const source = (path: string) => fileURLToPath(new URL(`../../packages/${path}.ts`, import.meta.url));

interface Modules {
  getModuleInfo: (id: string) => { isEntry: boolean; importers: readonly string[] } | null;
}

const first = new Map<string, boolean>();

/** Whether a module is there before anything is loaded later: then it is part of one script, which is smaller than many. */
function isFirst(id: string, modules: Modules, seen = new Set<string>()): boolean {
  const known = first.get(id);
  if (known !== undefined || seen.has(id)) return known ?? false;
  seen.add(id);
  const info = modules.getModuleInfo(id);
  const found = info !== null && (info.isEntry || info.importers.some((one) => isFirst(one, modules, seen)));
  if (found || seen.size === 1) first.set(id, found);
  return found;
}

const firstPart = (id: string, modules: Modules): string | null =>
  id.includes('/apps/web/src/') && isFirst(id, modules) ? 'first' : null;

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
  build: {
    outDir: 'dist',
    manifest: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1500,
    rolldownOptions: { output: { codeSplitting: { groups: [{ name: firstPart, debugName: 'first' }] } } },
  },
  server: { port: 4601, proxy: { '/api': `http://127.0.0.1:${process.env['PORT'] ?? '4600'}` } },
});
