import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const record = '.last-build.json';

interface Builds {
  files: string[];
  before: string[];
}

const same = (a: string[], b: string[]) => a.length === b.length && a.every((f) => b.includes(f));

/**
 * Keeps the files of the build before beside those of this one, and lets go of older ones: a tab that was opened before an update still finds what it
 * has not fetched yet.
 * @param files Built files, by their names in the folder.
 * @returns Those of the build before that are not of this one.
 */
export function keepLastBuild(dir: string, files: string[]): string[] {
  const path = join(dir, record);
  const known: Builds = existsSync(path)
    ? (JSON.parse(readFileSync(path, 'utf8')) as Builds)
    : { files: [], before: [] };
  // Built again without a change, the build before is still the one before.
  const before = same(known.files, files) ? known.before : known.files;
  const kept = before.filter((f) => !files.includes(f));
  const assets = join(dir, 'assets');
  for (const name of existsSync(assets) ? readdirSync(assets) : []) {
    const file = `assets/${name}`;
    if (!files.includes(file) && !kept.includes(file)) rmSync(join(dir, file));
  }
  writeFileSync(path, JSON.stringify({ files, before } satisfies Builds));
  return kept.filter((f) => existsSync(join(dir, f)));
}
