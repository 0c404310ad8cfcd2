import { expect, test } from 'vitest';
import { named } from './terms';

test.each([
  ['burned', 'Valve burnt away at its edge'],
  ['pitted', 'Pitting in the load zone'],
  ['gummed rings', 'Ring gummed in its groove'],
  ['head gasket', 'Head joint blown'],
  ['seized', 'Overheating seizure'],
  ['gray', 'Grey and matt'],
  ['conrod', 'Rod bent'],
])('“%s” meets “%s”', (search, name) => expect(named([name], search)).toBe(true));

test('a word that is in none of the names meets nothing', () => {
  expect(named(['Bore glazed', 'glazing'], 'glazed piston')).toBe(false);
});
