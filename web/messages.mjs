// Catalogues of what the screens say: messages/<language>.json, by what stands in the source. `node messages.mjs` writes anew what the source says (en) and tells what
// another language lacks; `--check` writes nothing and fails where anything is missing, left over, or filled in otherwise.
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { parseSync, transformSync, traverse } from '@babel/core';

const here = dirname(fileURLToPath(import.meta.url));
const { makeConfig } = createRequire(import.meta.url)('@lingui/conf');

/** For the macro of Lingui, which else looks for a file of its own. */
export const linguiConfig = makeConfig(
  { locales: ['en', 'de'], sourceLocale: 'en', runtimeConfigModule: { Trans: ['/src/ui/Trans', 'Trans'] } },
  { skipValidation: true },
);

const sources = (folder) =>
  readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return sources(path);
    return /\.tsx?$/.test(name) && !/\.test\.|\.d\.ts$/.test(name) ? [path] : [];
  });

/** All that the source says, in the order of its files. */
export function said() {
  const found = new Map();
  for (const path of sources(join(here, 'src')).sort()) {
    const code = readFileSync(path, 'utf8');
    if (!code.includes('@lingui/')) continue;
    transformSync(code, {
      filename: path,
      babelrc: false,
      configFile: false,
      parserOpts: { plugins: path.endsWith('x') ? ['typescript', 'jsx'] : ['typescript'] },
      plugins: [
        ['@lingui/babel-plugin-lingui-macro', { extract: true, linguiConfig }],
        [
          '@lingui/babel-plugin-extract-messages',
          {
            onMessageExtracted: (m) => {
              if (!found.has(m.message)) found.set(m.message, relative(here, path));
            },
          },
        ],
      ],
    });
  }
  return found;
}

const told = /^(label|title|placeholder|aria-label|alt|what|press|words|about|empty|hint)$/;

/** What a screen shows and no catalogue knows: text between tags, in attributes that are read, and in the tables of words. */
export function unheard(folder = join(here, 'src')) {
  const faults = [];
  for (const path of sources(folder).sort()) {
    const code = readFileSync(path, 'utf8');
    const ast = parseSync(code, {
      filename: path,
      babelrc: false,
      configFile: false,
      parserOpts: { plugins: path.endsWith('x') ? ['typescript', 'jsx'] : ['typescript'] },
    });
    const fault = (node, text) =>
      faults.push(`${relative(here, path)}:${node.loc.start.line}: by no catalogue: ${text.trim()}`);
    const spoken = (p) =>
      p.findParent((x) => x.isJSXElement() && x.node.openingElement.name.name === 'Trans') !== null;
    traverse(ast, {
      JSXText(p) {
        if (/[A-Za-z]{2,}/.test(p.node.value) && !spoken(p)) fault(p.node, p.node.value);
      },
      JSXAttribute({ node }) {
        if (node.value?.type !== 'StringLiteral' || !told.test(node.name.name)) return;
        // An example to be typed, such as M8×1.25 or host:port, is one in every language.
        if (/[a-z]{2,} [a-z]{2,}|^[A-Z][a-z]+$/.test(node.value.value)) fault(node, node.value.value);
      },
      VariableDeclarator({ node }) {
        let { init } = node;
        while (init && /^TS(As|Satisfies)/.test(init.type)) init = init.expression;
        if (!/words$/i.test(node.id.name ?? '') || init?.type !== 'ObjectExpression') return;
        for (const { value } of init.properties)
          if (value?.type === 'StringLiteral' && /[A-Za-z]{3,}/.test(value.value)) fault(value, value.value);
      },
    });
  }
  return faults;
}

export const catalogue = (language) =>
  JSON.parse(readFileSync(join(here, 'messages', `${language}.json`), 'utf8'));

/** What is filled in: names, numbers, tags, and the forms of a plural. */
const holes = (text) =>
  [...text.matchAll(/\{(\w+)(?:, (plural|select))?(?=[},])|<\/?\d+\/?>/g)]
    .map((m) => m[0])
    .filter((h) => h.startsWith('<') || text.includes(`${h}}`) || /, (plural|select)/.test(h))
    .sort()
    .join(' ');

const outer = (text) =>
  holes(!/, plural,/.test(text) ? text : text.replace(/(one|few|many|other|zero|two) \{[^{}]*\}/g, '$1'));

const units = (text) =>
  [...text.matchAll(/(?<![\p{L}\d.])(mm|µm|°C|N·m|kN|MPa|MB|dB|min|h|g|%)(?![\p{L}\d])/gu)]
    .map((m) => m[0])
    .sort()
    .join(' ');

/** What is wrong with a language. */
export function wrong(language, source = said()) {
  const told = catalogue(language);
  const faults = [];
  for (const [message, at] of source) {
    const text = told[message];
    if (text === undefined) faults.push(`${at}: not in ${language}: ${message}`);
    else if (outer(text) !== outer(message)) faults.push(`${at}: filled in otherwise: ${message} → ${text}`);
    else if (/, plural,/.test(message) && !/\bone \{/.test(text))
      faults.push(`${at}: a plural without its forms: ${text}`);
    else if (units(text) !== units(message)) faults.push(`${at}: other units: ${message} → ${text}`);
    else if (/^\s/.test(message) !== /^\s/.test(text) || /\s$/.test(message) !== /\s$/.test(text))
      faults.push(`${at}: a blank at its edge: ${message} → ${text}`);
  }
  for (const message of Object.keys(told)) if (!source.has(message)) faults.push(`nobody says: ${message}`);
  return faults;
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const source = said();
  const english = Object.fromEntries([...source.keys()].map((m) => [m, m]));
  const stale = JSON.stringify(catalogue('en')) !== JSON.stringify(english);
  if (process.argv[2] !== '--check')
    writeFileSync(join(here, 'messages/en.json'), `${JSON.stringify(english, null, 2)}\n`);
  const faults = [
    ...(stale && process.argv[2] === '--check'
      ? ['messages/en.json is stale: npm run messages in web/']
      : []),
    ...wrong('de', source),
    ...unheard(),
  ];
  for (const fault of faults) console.log(fault);
  console.log(`${source.size} messages, ${faults.length} faults`);
  process.exitCode = process.argv[2] === '--check' && faults.length > 0 ? 1 : 0;
}
