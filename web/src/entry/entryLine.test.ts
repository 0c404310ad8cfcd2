import { describe, expect, it } from 'vitest';
import { emptyLine, entryLine, type Line, type LineEvent } from './entryLine';

type At = { place: string; via?: string };
const point = (place: string): At => ({ place });
const start: Line<At> = { ...emptyLine, behind: [] };
const run = (line: Line<At>, ...events: LineEvent<At>[]) => events.reduce(entryLine<At>, line);
const enter = (figure: string, place: string, slip: string | null = null): LineEvent<At> => ({
  kind: 'entered',
  figure,
  slip,
  task: point(place),
});
const waiting = (line: Line<At>) => line.behind.map((b) => b.figure);
const question = { text: 'ten times too large', remedy: 'Correct it.' };

describe('the entry line', () => {
  it('sends a figure to where the round stood when it was entered, and empties the entry', () => {
    const line = run(start, { kind: 'typed', text: '71.98' }, enter('71.98', 'K1'));
    expect(line.sending).toEqual({ n: 1, figure: '71.98', confirmed: false, task: point('K1') });
    expect(line.typed).toBe('');
  });

  it('a press more or a figure more waits its turn and goes to the next point, in order', () => {
    let line = run(start, enter('71.98', 'K1'), enter('71.97', 'K1'), enter('71.96', 'K1'));
    expect(waiting(line)).toEqual(['71.97', '71.96']);
    line = run(line, { kind: 'sent' }, { kind: 'next', slip: null, task: point('K2') });
    expect(line.sending).toMatchObject({ figure: '71.97', task: point('K2') });
    line = run(line, { kind: 'next', slip: null, task: point('K3') });
    expect(line.sending).toMatchObject({ figure: '71.97', task: point('K2') });
    line = run(line, { kind: 'sent' }, { kind: 'next', slip: null, task: point('K3') });
    expect(line.sending).toMatchObject({ figure: '71.96', task: point('K3') });
    expect(waiting(line)).toEqual([]);
  });

  it('a press on a screen that has not seen the answer yet goes to the next point, not to the one before', () => {
    const before = run(start, enter('71.98', 'K1'));
    // The answer is there, the screen still shows K1.
    const late = { ...enter('71.97', 'K1'), seen: before.answered } as LineEvent<At>;
    let line = run(before, { kind: 'sent' }, late);
    expect(line.sending).toBeNull();
    expect(waiting(line)).toEqual(['71.97']);
    line = run(line, { kind: 'next', slip: null, task: point('K2') });
    expect(line.sending).toMatchObject({ figure: '71.97', task: point('K2') });
  });

  it('an empty press is nothing', () => expect(run(start, enter('  ', 'K1'))).toBe(start));

  it('a refused figure comes back, and entering it again keeps it as typed', () => {
    let line = run(start, enter('719.8', 'K1'), { kind: 'refused', question });
    expect(line).toMatchObject({ typed: '719.8', asked: '719.8', question, sending: null });
    line = run(line, enter('719.8', 'K1'));
    expect(line.sending).toMatchObject({ figure: '719.8', confirmed: true });
    expect(line.question).toBeNull();
    expect(run(line, { kind: 'sent' }).asked).toBe('');
  });

  it('a corrected figure is not taken for the one that was asked about', () => {
    const line = run(
      start,
      enter('719.8', 'K1'),
      { kind: 'refused', question },
      { kind: 'typed', text: '71.98' },
      enter('71.98', 'K1'),
    );
    expect(line.sending).toMatchObject({ figure: '71.98', confirmed: false });
  });

  it('what is being typed is not overwritten by a refusal or by the gauge', () => {
    const line = run(
      start,
      enter('719.8', 'K1'),
      { kind: 'typed', text: '71.' },
      { kind: 'refused', question },
    );
    expect(line.typed).toBe('71.');
    expect(run(line, { kind: 'fed', figure: '71.95', slip: null, task: point('K1') }).typed).toBe('71.');
  });

  it('without a network the bench asks by itself, and once', () => {
    let line = run(start, enter('719.8', 'K1', 'ten times too large'));
    expect(line.sending).toBeNull();
    expect(line).toMatchObject({ typed: '719.8', asked: '719.8' });
    line = run(line, enter('719.8', 'K1', 'ten times too large'));
    expect(line.sending).toMatchObject({ confirmed: true });
  });

  it('an open question holds back what waits and what the gauge sends, and loses none of it', () => {
    let line = run(start, enter('719.8', 'K1'), enter('71.97', 'K1'), { kind: 'refused', question });
    line = run(
      line,
      { kind: 'next', slip: null, task: point('K1') },
      { kind: 'fed', figure: '71.96', slip: null, task: point('K1') },
    );
    expect(line.sending).toBeNull();
    expect(waiting(line)).toEqual(['71.97', '71.96']);
    line = run(line, enter('71.98', 'K1'), { kind: 'sent' }, { kind: 'next', slip: null, task: point('K2') });
    expect(line.sending).toMatchObject({ figure: '71.97', task: point('K2') });
  });

  it('a figure refused outright holds what waits until another is entered or the entry is emptied', () => {
    const held = run(start, enter('71.98', 'K1'), enter('71.97', 'K1'), { kind: 'refused', question: null });
    expect(run(held, { kind: 'next', slip: null, task: point('K1') })).toEqual(held);
    const emptied = run(held, { kind: 'typed', text: '' }, { kind: 'next', slip: null, task: point('K2') });
    expect(emptied.sending).toMatchObject({ figure: '71.97', task: point('K2') });
    const mended = run(held, enter('71.99', 'K1'));
    expect(mended.sending).toMatchObject({ figure: '71.99', confirmed: false });
  });

  it('a figure of the gauge that had to wait is still told as the gauge’s', () => {
    const fed: LineEvent<At> = {
      kind: 'fed',
      figure: '71.97',
      slip: null,
      task: point('K1'),
      own: { via: 'bore gauge' },
    };
    const line = run(
      start,
      enter('71.98', 'K1'),
      fed,
      { kind: 'sent' },
      { kind: 'next', slip: null, task: point('K2') },
    );
    expect(line.sending?.task).toEqual({ place: 'K2', via: 'bore gauge' });
  });

  it('whatever the order of events, each figure entered is sent once, waits, or stands in the entry', () => {
    let seed = 11;
    const dice = (n: number) => (seed = (seed * 1103515245 + 12345) % 2147483648) % n;
    for (let trial = 0; trial < 300; trial++) {
      let line = start;
      const entered: string[] = [];
      const sent: string[] = [];
      for (let step = 0; step < 40; step++) {
        const figure = `${trial}.${step}`;
        const at = `K${step}`;
        const die = dice(5);
        if (die === 0) {
          // Somebody corrects what came back, or enters a new one.
          entered.push(figure);
          if (line.typed !== '') entered.splice(entered.indexOf(line.typed), 1);
          line = run(line, enter(figure, at));
        } else if (die === 1) {
          entered.push(figure);
          line = run(line, { kind: 'fed', figure, slip: null, task: point(at) });
        } else if (die === 2 && line.sending) {
          sent.push(line.sending.figure);
          line = run(line, { kind: 'sent' });
        } else if (die === 3 && line.sending && line.typed === '')
          line = run(line, { kind: 'refused', question });
        else line = run(line, { kind: 'next', slip: null, task: point(at) });
      }
      const held = [...sent, ...(line.sending ? [line.sending.figure] : []), ...waiting(line)];
      const all = line.typed === '' ? held : [...held, line.typed];
      expect(new Set(all).size).toBe(all.length);
      expect([...all].sort()).toEqual([...entered].sort());
    }
  });
});
