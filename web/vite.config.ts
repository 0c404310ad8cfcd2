import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

const outDir = '../src/VividSleuth.Server/wwwroot';

/** Writes the list of built files into the service worker, which keeps them for the bench without a network. */
function listFiles(): Plugin {
  return {
    name: 'list-files',
    apply: 'build',
    writeBundle({ dir }) {
      const files = readdirSync(dir!, { recursive: true, withFileTypes: true })
        .filter((f) => f.isFile() && f.name !== 'sw.js')
        .map((f) => join(f.parentPath, f.name))
        .map((path) => {
          const url = '/' + relative(dir!, path).replaceAll('\\', '/');
          const hash = createHash('sha256').update(readFileSync(path)).digest('hex').slice(0, 16);
          return { url, revision: url.startsWith('/assets/') ? null : hash };
        })
        .sort((a, b) => a.url.localeCompare(b.url));
      const worker = join(dir!, 'sw.js');
      writeFileSync(worker, `self.__FILES__=${JSON.stringify(files)};${readFileSync(worker, 'utf8')}`);
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwindcss(), listFiles()],
  build: {
    outDir,
    emptyOutDir: true,
    target: 'es2022',
    rollupOptions: {
      input: { index: 'index.html', sw: 'src/sw.ts' },
      output: { entryFileNames: (chunk) => (chunk.name === 'sw' ? 'sw.js' : 'assets/[name]-[hash].js') },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8737' } },
});
