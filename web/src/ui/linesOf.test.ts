import { expect, test } from 'vitest';
import { linesOf } from './FileKey';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = (text: string) => {
  const { lines, rest } = linesOf(bytes(text));
  return { lines, rest: new TextDecoder().decode(rest) };
};

test('what is told before a file comes is read line by line, and the file is left as it is', () => {
  expect(read('{"done":0.5}\n{"do')).toEqual({ lines: ['{"done":0.5}'], rest: '{"do' });
  expect(read('')).toEqual({ lines: [], rest: '' });
  // A file has line ends of its own.
  expect(read('{"done":1}\n{"bytes":9}\n%PDF\n{"x"}\n')).toEqual({
    lines: ['{"done":1}', '{"bytes":9}'],
    rest: '%PDF\n{"x"}\n',
  });
});
