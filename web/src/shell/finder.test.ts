import { describe, expect, test } from 'vitest';
import { Finder, type Goal } from './finder';

const goal = (id: string, name: string, also: string[] = [], code?: string): Goal => ({
  id,
  kind: 'part',
  name,
  also,
  to: `/${id}`,
  ...(code ? { code } : {}),
});

const finder = new Finder([
  goal('P4', 'piston, cylinder 4', [], 'P4'),
  goal('P3', 'piston, cylinder 3', [], 'P3'),
  goal('R4U', 'upper shell, in the rod, cylinder 4', ['big end'], 'R4U'),
  goal('H1J', 'head joint', [], 'H1J'),
  goal('CR', 'crankshaft', [], 'CR'),
  goal('seized', 'Piston seized', ['picked up', 'nipped up']),
  goal('glaze', 'Bore glazed', ['glazing']),
  goal('reckon', 'Compression ratio'),
]);
const firstOf = (text: string) => finder.find(text)[0]?.id;

describe('one field goes anywhere', () => {
  test.each([
    ['R4U', 'R4U'],
    ['r4u', 'R4U'],
    ['piston 4', 'P4'],
    ['cyl 4 piston', 'P4'],
    ['head gasket', 'H1J'],
    ['crank', 'CR'],
    ['siezed', 'seized'],
    ['pistn seizure', 'seized'],
    ['picked up', 'seized'],
    ['glazing', 'glaze'],
    ['glaze', 'glaze'],
    ['compresion', 'reckon'],
  ])('%s', (typed, id) => expect(firstOf(typed)).toBe(id));

  test('what is gone to often comes first of what is alike', () => {
    expect(finder.find('piston', { P3: 9 })[0]!.id).toBe('P3');
    expect(finder.find('piston', { P4: 9 })[0]!.id).toBe('P4');
  });

  test('nothing typed is nothing asked, and nonsense finds nothing', () => {
    expect(finder.find('  ')).toEqual([]);
    expect(finder.find('qqqqxxzz')).toEqual([]);
  });
});
