import { rmSync } from 'node:fs';
import { join } from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import { type PluginObj, transformAsync, types } from '@babel/core';
import react from '@vitejs/plugin-react';
import { type Plugin } from 'vite';
import { defineConfig } from 'vitest/config';
import { injectManifest } from 'workbox-build';
import { compileMessage } from '@lingui/message-utils/compileMessage';
import { generateMessageId } from '@lingui/message-utils/generateMessageId';
import { catalogue, linguiConfig } from './messages.mjs';
import { keepLastBuild } from './lastBuild.ts';

/** The service worker before it knows the files. */
const worker = 'sw.unlisted.js';

const outDir = '../src/VividSleuth.Server/wwwroot';

/** English stands in the program, ready to be filled in: whoever reads it fetches no catalogue. */
const readyMade = (): PluginObj => ({
  visitor: {
    ObjectExpression({ node }) {
      const field = (name: string) =>
        node.properties.find(
          (p): p is types.ObjectProperty =>
            types.isObjectProperty(p) &&
            types.isIdentifier(p.key, { name }) &&
            types.isStringLiteral(p.value),
        );
      const [id, message] = [field('id'), field('message')];
      if (!id || !message) return;
      const says = (message.value as types.StringLiteral).value;
      if ((id.value as types.StringLiteral).value === generateMessageId(says))
        message.value = types.valueToNode(compileMessage(says));
    },
  },
});

/** What the screens say goes by the catalogues: the macros become ids beside the English, and another language is a file of what stands at each. */
function speak(): Plugin {
  const named = 'virtual:messages/';
  return {
    name: 'speak',
    enforce: 'pre',
    resolveId: (id) => (id.startsWith(named) ? `\0${id}` : null),
    load(id) {
      if (!id.startsWith(`\0${named}`)) return null;
      const compiled = Object.entries<string>(catalogue(id.slice(named.length + 1))).map(
        ([message, text]) => [generateMessageId(message), compileMessage(text)],
      );
      return `export const messages = JSON.parse(${JSON.stringify(JSON.stringify(Object.fromEntries(compiled)))});`;
    },
    async transform(code, id) {
      const [, kind] = /\/src\/[^?]+\.(tsx?)$/.exec(id) ?? [];
      if (!kind || id.includes('node_modules') || !/@lingui\/\w+\/macro/.test(code)) return null;
      const out = await transformAsync(code, {
        filename: id,
        babelrc: false,
        configFile: false,
        sourceMaps: true,
        parserOpts: { plugins: kind === 'tsx' ? ['typescript', 'jsx'] : ['typescript'] },
        plugins: [
          ['@lingui/babel-plugin-lingui-macro', { linguiConfig, stripMessageField: false }],
          readyMade,
        ],
      });
      return out?.code ? { code: out.code, map: out.map ?? null } : null;
    },
  };
}

/** React's own compiler, on what draws. The ready-made plugin for it asks for a newer Node.js than the rest of the build. */
function compileReact(): Plugin {
  return {
    name: 'compile-react',
    apply: 'build',
    enforce: 'pre',
    async transform(code, id) {
      const [, kind] = /\/src\/[^?]+\.(tsx?)$/.exec(id) ?? [];
      if (!kind || id.includes('node_modules') || !/\buse[A-Z]|<\/|\/>/.test(code)) return null;
      const out = await transformAsync(code, {
        filename: id,
        babelrc: false,
        configFile: false,
        parserOpts: { plugins: kind === 'tsx' ? ['typescript', 'jsx'] : ['typescript'] },
        plugins: ['babel-plugin-react-compiler'],
      });
      return out?.code ? { code: out.code, map: null } : null;
    },
  };
}

/** The letters of the first page are fetched beside its script, not once its styles are read: the page does not move when they come. */
function fetchLetters(): Plugin {
  return {
    name: 'fetch-letters',
    apply: 'build',
    transformIndexHtml: {
      order: 'post',
      handler: (_, { bundle }) =>
        Object.keys(bundle ?? {})
          .filter((file) => /-latin-wght-normal.*\.woff2$/.test(file))
          .map((file) => ({
            tag: 'link',
            attrs: { rel: 'preload', as: 'font', type: 'font/woff2', href: `/${file}`, crossorigin: '' },
            injectTo: 'head' as const,
          })),
    },
  };
}

type Info = (id: string) => { importedIds: string[] } | null;

/** What a script imports, and what that does, without what is fetched later. */
function closure(from: string, info: Info) {
  const all = new Set<string>();
  const open = [from];
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    if (all.has(id)) continue;
    all.add(id);
    open.push(...(info(id)?.importedIds ?? []));
  }
  return all;
}

const source = (name: string) => join(import.meta.dirname, 'src', name);

let parts: { language: Set<string>; first: Set<string> } | undefined;

/** The script that chooses the language is one file; what the program itself needs from the first, beside that, another. */
function partOf(id: string, info: Info) {
  parts ??= {
    language: closure(source('main.tsx'), info),
    first: closure(source('app.tsx'), info),
  };
  if (id === source('app.tsx') || id === source('main.tsx')) return null;
  return parts.language.has(id) ? 'language' : parts.first.has(id) ? 'first' : null;
}

/** The program is fetched beside the script that chooses the language, not after it. */
function fetchProgram(): Plugin {
  return {
    name: 'fetch-program',
    apply: 'build',
    transformIndexHtml: {
      order: 'post',
      handler: (_, { bundle }) => {
        const chunks = Object.values(bundle ?? {}).filter((c) => c.type === 'chunk');
        const app = chunks.find((c) => c.facadeModuleId === source('app.tsx'));
        if (!app) throw new Error('No chunk of src/app.tsx.');
        const entry = chunks.find((c) => c.isEntry && c.imports.length > 0 && c.name === 'index');
        return [app.fileName, ...app.imports.filter((i) => !entry?.imports.includes(i))].map((file) => ({
          tag: 'link',
          attrs: { rel: 'modulepreload', crossorigin: '', href: `/${file}` },
          injectTo: 'head' as const,
        }));
      },
    },
  };
}

/** Writes the list of built files into the service worker, which keeps them for the bench without a network. */
function listFiles(): Plugin {
  return {
    name: 'list-files',
    apply: 'build',
    async writeBundle({ dir }, bundle) {
      const last = keepLastBuild(
        dir!,
        Object.keys(bundle).filter((f) => f.startsWith('assets/')),
      );
      const { warnings } = await injectManifest({
        swSrc: join(dir!, worker),
        swDest: join(dir!, 'sw.js'),
        globDirectory: dir!,
        globPatterns: ['**/*'],
        // Kept for open tabs, and nothing for a device to fetch beforehand.
        globIgnores: [worker, 'sw.js', ...last],
        dontCacheBustURLsMatching: /^assets\//,
        maximumFileSizeToCacheInBytes: 20_000_000,
      });
      if (warnings.length > 0) throw new Error(warnings.join('\n'));
      rmSync(join(dir!, worker));
    },
  };
}

export default defineConfig({
  // The compiler keeps what has not changed from being drawn anew: a figure that is entered does not draw the whole engine.
  plugins: [speak(), react(), compileReact(), tailwindcss(), fetchLetters(), fetchProgram(), listFiles()],
  build: {
    outDir,
    emptyOutDir: false,
    target: 'es2022',
    rollupOptions: {
      input: { index: 'index.html', sw: 'src/sw.ts' },
      output: {
        entryFileNames: (chunk) => (chunk.name === 'sw' ? worker : 'assets/[name]-[hash].js'),
        // Each file costs a slow device some milliseconds: what comes together is one.
        codeSplitting: {
          groups: [
            {
              name: (id, of) => partOf(id, (m) => of.getModuleInfo(m)),
              priority: 2,
              includeDependenciesRecursively: false,
            },
            { name: 'shared', minShareCount: 2, entriesAware: true, entriesAwareMergeThreshold: 24_000 },
          ],
        },
      },
    },
  },
  // No test here is about time; a busy machine must not fail one.
  test: { testTimeout: 120_000, hookTimeout: 120_000, setupFiles: ['src/vitest.setup.ts'] },
  server: { proxy: { '/api': 'http://127.0.0.1:8737' } },
});
