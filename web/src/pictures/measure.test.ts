import { describe, expect, it } from 'vitest';
import { isEnough, isFull, linesOf, pointsOf, sent, undone } from './measure';

const at = (...flat: number[]) => pointsOf('length', flat);

describe('points of a measure', () => {
  it('go to the server and come back as they were set', () => {
    const points = at(0.1, 0.1, 0.9, 0.1, 0.9, 0.9, 0.1, 0.9, 0.2, 0.2, 0.3, 0.2, 0.3, 0.3);
    // The face is set first and sent last.
    expect(sent('share', points).slice(0, 2)).toEqual([0.2, 0.2]);
    expect(pointsOf('share', sent('share', points))).toEqual(points);
    const grown = at(0.1, 0.1, 0.9, 0.1, 0.9, 0.9, 0.1, 0.9, 0.4, 0.6);
    expect(sent('grown', grown).slice(0, 2)).toEqual([0.4, 0.6]);
    expect(pointsOf('grown', sent('grown', grown))).toEqual(grown);
    expect([isEnough('grown', grown), isEnough('grown', grown.slice(0, 4))]).toEqual([true, false]);
    const wall = at(0.1, 0.5, 0.5, 0.1, 0.9, 0.5, 0.4, 0.5, 0.5, 0.4, 0.6, 0.5, 0.5, 0.2);
    expect(sent('wallGrown', wall).slice(0, 2)).toEqual([0.5, 0.2]);
    expect(pointsOf('wallGrown', sent('wallGrown', wall))).toEqual(wall);
    expect([isFull('wallGrown', wall), isEnough('wallShare', wall)]).toEqual([true, false]);
    expect(sent('length', at(0, 0.5, 1, 0.25))).toEqual([0, 0.5, 1, 0.25]);
  });

  it('are enough when the task can be reckoned, and full when it takes no more', () => {
    expect([isEnough('across', at(0, 0, 1, 1)), isFull('across', at(0, 0, 1, 1))]).toEqual([true, false]);
    expect([isEnough('angle', at(0, 0, 1, 1)), isEnough('radius', at(0, 0, 1, 1, 1, 0))]).toEqual([
      false,
      true,
    ]);
  });

  it('are drawn as what they are', () => {
    expect(linesOf('hatch', at(0, 0, 1, 0.5))[0]).toEqual({
      points: at(0, 0, 1, 0, 1, 0.5, 0, 0.5),
      closed: true,
    });
    expect(linesOf('angle', at(0, 0, 1, 1, 0, 1, 1, 0))).toHaveLength(2);
    expect(linesOf('across', at(0, 0, 1, 1, 0.5, 0.5))[0]!.points).toHaveLength(2);
    // The edge of a bore as the circle through its three points, however wide the picture is.
    const [edge] = linesOf('wallShare', at(0.25, 0.5, 0.5, 0, 0.75, 0.5), 2);
    for (const p of edge!.points) expect(Math.hypot(2 * (p.x - 0.5), p.y - 0.5)).toBeCloseTo(0.5);
    const line = at(0.1, 0.1, 0.2, 0.2, 0.3, 0.3);
    expect(linesOf('wallShare', line)[0]!.points).toEqual(line);
  });
});

describe('a picture over another', () => {
  it('is brought back by the map that undoes it', () => {
    const m = [0.9, 0.2, -0.2, 0.9, 30, -12];
    const n = undone(m);
    const on = ([a, b, c, d, e, f]: number[], x: number, y: number) => [
      a! * x + c! * y + e!,
      b! * x + d! * y + f!,
    ];
    const [x, y] = on(m, 40, 70);
    const back = on(n, x!, y!);
    expect(back[0]).toBeCloseTo(40);
    expect(back[1]).toBeCloseTo(70);
  });
});
