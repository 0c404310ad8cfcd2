import { readdirSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { marks, scatter } from '../art/marks';
import { outlines } from '../art/outlines';
import { parseDrawing, SignArt } from '../art/SignArt';
import { lengthOf } from '../pictures/markLength';
import { meets, type Sign } from './useLook';
import { chapterName } from '../ui/lookWords';
import { columnOrder, faceFor, featureRuns, sector, toggled, type ZoneFace } from './zones';

const folder = resolve(import.meta.dirname, '../../../knowledge/signs');
const draws = readdirSync(folder).flatMap((f) =>
  [...readFileSync(resolve(folder, f), 'utf8').matchAll(/^ {2}draw: "(.*)"$/gm)].map((m) => m[1]!),
);

const core = readFileSync(
  resolve(import.meta.dirname, '../../../src/VividSleuth.Core/Look/SignDrawing.cs'),
  'utf8',
);
const named = (list: string) =>
  [...new RegExp(`${list} \\{ get; \\} =\\s*\\[([^\\]]*)\\]`).exec(core)![1]!.matchAll(/"([^"]+)"/g)].map(
    (m) => m[1]!,
  );

describe('the atlas', () => {
  it('draws every outline and every mark that the core allows, and no other', () => {
    expect(Object.keys(outlines).sort()).toEqual(named('Bases').sort());
    expect(Object.keys(marks).sort()).toEqual(named('MarkKinds').sort());
  });

  it('draws every sign, with strokes for each of its marks, the same each time', () => {
    expect(draws.length).toBeGreaterThanOrEqual(180);
    for (const draw of draws) {
      const svg = renderToStaticMarkup(<SignArt draw={draw} />);
      expect(svg, draw).not.toContain('NaN');
      expect(svg, draw).toBe(renderToStaticMarkup(<SignArt draw={draw} />));
      const damage = svg.slice(svg.indexOf('text-lead'));
      for (const m of parseDrawing(draw).marks) expect(marks[m.kind], draw).toBeDefined();
      expect(damage.match(/<(path|circle|ellipse|rect|text)/g)?.length, draw).toBeGreaterThanOrEqual(
        parseDrawing(draw).marks.length,
      );
    }
  });

  it('reads the one-line notation; a mark without a box fills the face', () => {
    expect(parseDrawing('shell: scores 10 20 80 40; specks')).toEqual({
      base: 'shell',
      marks: [
        { kind: 'scores', box: [10, 20, 80, 40] },
        { kind: 'specks', box: [0, 0, 100, 100] },
      ],
    });
  });

  it('scatters evenly enough and always alike', () => {
    const random = scatter(5);
    const drawn = Array.from({ length: 2000 }, random);
    expect(drawn.every((v) => v >= 0 && v < 1)).toBe(true);
    expect(drawn.reduce((a, b) => a + b) / drawn.length).toBeCloseTo(0.5, 1);
    expect(scatter(5)()).toBe(drawn[0]);
  });

  it('finds a sign by the trade’s other names', () => {
    const sign = { name: 'Shell turned in its seat', also: ['spun bearing'], term: '' } as unknown as Sign;
    expect(meets(sign, 'SPUN')).toBe(true);
    expect(meets(sign, 'turned seat')).toBe(true);
    expect(meets(sign, 'wiped')).toBe(false);
    expect(chapterName('plain-bearings')).toBe('Plain bearings');
  });
});

const clock = { columns: 12, wraps: true } as ZoneFace;
const arc = { columns: 9, wraps: false } as ZoneFace;

describe('the maps', () => {
  it('lay a clock flat from 12, so that both thrust sides stand whole', () => {
    expect(columnOrder(clock).slice(0, 3)).toEqual([12, 1, 2]);
    expect(columnOrder(arc)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9]);
    expect(featureRuns(clock, { column: 3, width: 3 }, columnOrder(clock))).toEqual([[2, 4]]);
  });

  it('split what lies over 12 o’clock in two', () => {
    expect(featureRuns(clock, { column: 12, width: 2 }, columnOrder(clock))).toEqual([
      [0, 1],
      [11, 11],
    ]);
    expect(featureRuns(arc, { column: 1, width: 0.8 }, columnOrder(arc))).toEqual([[0, 0]]);
  });

  it('touch and untouch a zone, each once', () => {
    expect(toggled(['E3'], 'E4', true)).toEqual(['E3', 'E4']);
    expect(toggled(['E3'], 'E3', true)).toEqual(['E3']);
    expect(toggled(['E3', 'E4'], 'E3', false)).toEqual(['E4']);
  });

  it('draw 12 o’clock at the top of a round face', () => {
    expect(sector(0, 78, 12, 12)).toMatch(/^M79\.81 24\.66/);
    expect(sector(40, 78, 3, 12)).toContain('A40 40');
  });

  it('begin with the face on which the sign is usually seen', () => {
    expect(faceFor('crown: melt')).toBe('Crown');
    expect(faceFor('back: fret 1 2 3 4')).toBe('Back');
    expect(faceFor('piston: scratches')).toBeUndefined();
  });
});

describe('a scale on the picture', () => {
  const scale = { kind: 'scale', x1: 0.1, y1: 0.5, x2: 0.6, y2: 0.5, length: 40 } as never;
  it('gives the width of a ring in its plane, and nothing of an arrow', () => {
    const ring = { kind: 'ring', x1: 0.5, y1: 0.5, x2: 0.5, y2: 0.6 } as const;
    // Half the picture's width, 4/6 of its height, is 40 mm; the ring is twice a tenth of the height.
    expect(lengthOf(ring, scale, 4 / 3)).toBeCloseTo((0.2 / (0.5 * (4 / 3))) * 40, 9);
    expect(lengthOf({ ...ring, kind: 'arrow' }, scale, 4 / 3)).toBeNull();
    expect(lengthOf(ring, undefined, 4 / 3)).toBeNull();
  });
});
