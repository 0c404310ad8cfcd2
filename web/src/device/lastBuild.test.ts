import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, expect, it } from 'vitest';
import { keepLastBuild } from '../../lastBuild.ts';

let dir = '';
afterEach(() => rmSync(dir, { recursive: true }));

it('keeps the files of the build before, and lets go of older ones', () => {
  dir = mkdtempSync(join(tmpdir(), 'build-'));
  mkdirSync(join(dir, 'assets'));
  const build = (...names: string[]) => {
    const files = names.map((n) => `assets/${n}.js`);
    for (const file of files) writeFileSync(join(dir, file), '');
    const kept = keepLastBuild(dir, files);
    return { kept, here: readdirSync(join(dir, 'assets')).sort() };
  };
  expect(build('a1', 'b1')).toEqual({ kept: [], here: ['a1.js', 'b1.js'] });
  expect(build('a2', 'b1')).toEqual({ kept: ['assets/a1.js'], here: ['a1.js', 'a2.js', 'b1.js'] });
  // Built again without a change.
  expect(build('a2', 'b1')).toEqual({ kept: ['assets/a1.js'], here: ['a1.js', 'a2.js', 'b1.js'] });
  expect(build('a3', 'b1')).toEqual({ kept: ['assets/a2.js'], here: ['a2.js', 'a3.js', 'b1.js'] });
});
