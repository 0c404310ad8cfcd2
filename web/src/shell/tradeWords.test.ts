import { readdirSync, readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { Finder, type Goal } from './finder';

/** Names of signs and causes as they stand in the knowledge base, and of the parts that a mechanic calls by word. */
const known = (folder: string): Goal[] =>
  readdirSync(`../knowledge/${folder}`).flatMap((file) => {
    const text = readFileSync(`../knowledge/${folder}/${file}`, 'utf8');
    return [
      ...text.matchAll(/^(?:- | {2})name: (.*)$(?:\n {2}(?!name:).*)*?(?:\n {2}also: \[(.*)\])?/gm),
    ].map(([, name = '', also = ''], i) => ({
      id: `${folder}/${file}/${i}`,
      kind: folder,
      name: name.replace(/"/g, ''),
      also: also.split(',').map((a) => a.trim()),
      to: '/',
    }));
  });

const finder = new Finder([...known('signs'), ...known('causes')]);

// What mechanics typed. Common practice, no source.
test.each(
  `slapped, seized, siezed, seisure, pinking, knocking, stuck ring, stuck rings, gummed rings, burned, hot spot, cold seizure, nipped up, nip,
   picked up, pre-ignition, preignition, babbitt, babbit, white metal, copper showing, pitted, pitting, flaked, spun bearing, wrong shells,
   oil starvation, low oil, knackered, bluing, pitted cam, dropped valve, tulipped valve, emulsion, chipped tooth, slack chain, bent conrod,
   big end gone, little end, lip at top of bore, glazing, clogged screen, wet liner, snapped bolt, stripped thread, crankshaft cracked,
   hydraulic lock, hydrolock, water in cylinder, dusted, belt snapped, chain jumped, overspeed, misaligned`
    .split(',')
    .map((w) => w.trim().replace(/\s+/g, ' ')),
)('“%s” finds something', (typed) => {
  const found = finder.find(typed).map((g) => [g.name, ...(g.also ?? [])].join(' / '));
  expect(found.length, typed).toBeGreaterThan(0);
});

test.each([
  ['preignition', /pre-ignition/i],
  ['hydrolock', /water/i],
  ['overspeed', /over-revved/i],
  ['dropped valve', /valve/i],
  ['bent conrod', /rod bent/i],
  ['siezed', /seiz/i],
  ['stripped thread', /thread/i],
])('“%s” finds what is meant', (typed, meant) => {
  expect(
    finder
      .find(typed)
      .slice(0, 5)
      .some((g) => meant.test([g.name, ...(g.also ?? [])].join(' / '))),
    finder
      .find(typed)
      .map((g) => g.name)
      .join('; '),
  ).toBe(true);
});
