import { hashKey, QueryClient } from '@tanstack/react-query';
import { beforeEach, describe, expect, it } from 'vitest';
import { again, answerTags, askedAnew, ifAnother } from './again';

const client = new QueryClient();
const key = ['case', 'a', 'record'];
const room = (name: string) => ['case', 'a', 'room', name];

/** Headers of each question, and what is answered to it. */
let asked: Record<string, string>[];
const answers = (...said: { status?: number; data?: unknown; tag?: string }[]) => {
  const left = [...said];
  return (headers: Record<string, string>) => {
    asked.push(headers);
    const { status = 200, data, tag } = left.shift()!;
    const response = new Response(null, { status, ...(tag ? { headers: { ETag: tag } } : {}) });
    return Promise.resolve({ data: data as never, response });
  };
};

beforeEach(() => {
  asked = [];
  client.clear();
  answerTags.clear();
});

describe('what is read again', () => {
  it('is asked for whole the first time, by its tag from then on, and stays the same object while nothing has changed', async () => {
    const said = answers({ data: { n: 1 }, tag: 'W/"1"' }, { status: 304 }, { data: { n: 2 }, tag: 'W/"2"' });
    const first = await again<{ n: number }>(client, key, said);
    client.setQueryData(key, first);
    expect(await again(client, key, said)).toBe(first);
    expect(await again(client, key, said)).toEqual({ n: 2 });
    expect(asked).toEqual([{}, { 'If-None-Match': 'W/"1"' }, { 'If-None-Match': 'W/"1"' }]);
    expect(answerTags.get(hashKey(key))).toBe('W/"2"');
  });

  it('keeps no tag of an answer that comes after it was asked again, as that answer is thrown away', async () => {
    client.setQueryData(key, { n: 1 });
    answerTags.set(hashKey(key), 'W/"1"');
    let come: () => void = () => undefined;
    const late = new Promise<void>((go) => (come = go));
    const first = again(client, key, async () => {
      await late;
      return { data: { n: 2 }, response: new Response(null, { headers: { ETag: 'W/"2"' } }) };
    });
    // Asked again before it came: the server answers by the tag of what is here.
    const second = again<{ n: number }>(client, key, async (headers) => {
      asked.push(headers);
      come();
      await first;
      return { data: { n: 3 }, response: new Response(null, { headers: { ETag: 'W/"3"' } }) };
    });
    await first;
    expect(answerTags.get(hashKey(key))).toBe('W/"1"');
    expect(await second).toEqual({ n: 3 });
    expect(asked).toEqual([{ 'If-None-Match': 'W/"1"' }]);
    expect(answerTags.get(hashKey(key))).toBe('W/"3"');
  });

  it('keeps none either where it is to be asked anew and only waits for a quiet moment', async () => {
    client.setQueryData(key, { n: 1 });
    answerTags.set(hashKey(key), 'W/"1"');
    await again(client, key, async () => {
      askedAnew(hashKey(key));
      return { data: { n: 2 }, response: new Response(null, { headers: { ETag: 'W/"2"' } }) };
    });
    expect(answerTags.get(hashKey(key))).toBe('W/"1"');
  });

  it('keeps what was laid over it while the question was on its way', async () => {
    client.setQueryData(key, { n: 1 });
    answerTags.set(hashKey(key), 'W/"1"');
    const said = () => {
      client.setQueryData(key, { n: 1, waits: true });
      return Promise.resolve({ response: new Response(null, { status: 304 }) });
    };
    expect(await again(client, key, said)).toEqual({ n: 1, waits: true });
  });

  it('is not asked by a tag where nothing is here, or where its parts were read at different times', async () => {
    answerTags.set(hashKey(room('look')), 'W/"1"');
    await ifAnother(client, [room('look')], answers({ data: {}, tag: 'W/"1"' }));
    client.setQueryData(room('look'), {});
    client.setQueryData(room('gauge'), {});
    answerTags.set(hashKey(room('gauge')), 'W/"2"');
    await ifAnother(client, [room('look'), room('gauge')], answers({ data: {}, tag: 'W/"2"' }));
    expect(asked).toEqual([{}, {}]);
    // Both of one moment now.
    expect(await ifAnother(client, [room('look'), room('gauge')], answers({ status: 304 }))).toBeNull();
    expect(asked.at(-1)).toEqual({ 'If-None-Match': 'W/"2"' });
  });

  it('is forgotten with an answer that names no tag, and a failure changes nothing', async () => {
    client.setQueryData(key, { n: 1 });
    answerTags.set(hashKey(key), 'W/"1"');
    await expect(again(client, key, answers({ status: 503 }))).rejects.toMatchObject({ status: 503 });
    expect(answerTags.get(hashKey(key))).toBe('W/"1"');
    await again(client, key, answers({ data: { n: 2 } }));
    expect(answerTags.has(hashKey(key))).toBe(false);
  });
});
