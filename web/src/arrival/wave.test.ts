import { expect, test } from 'vitest';
import { wave } from './wave';

test('a recording becomes a WAV file with its channels side by side', async () => {
  const blob = wave([new Float32Array([0, 1, -1]), new Float32Array([0.5, 2, 0])], 3, 8000);
  const data = new DataView(await new Response(blob).arrayBuffer());
  const text = (at: number) =>
    String.fromCharCode(...Array.from({ length: 4 }, (_, i) => data.getUint8(at + i)));
  expect([text(0), text(8), text(36)]).toEqual(['RIFF', 'WAVE', 'data']);
  expect(data.getUint32(4, true)).toBe(data.byteLength - 8);
  expect([data.getUint16(22, true), data.getUint32(24, true), data.getUint32(28, true)]).toEqual([
    2, 8000, 32_000,
  ]);
  const samples = Array.from({ length: 6 }, (_, i) => data.getInt16(44 + 2 * i, true));
  // What is louder than can be is cut off and does not turn over.
  expect(samples).toEqual([0, 16_384, 32_767, 32_767, -32_767, 0]);
});
