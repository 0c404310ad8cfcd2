import { marks, scatter, type Box } from './marks';
import { outlines } from './outlines';

export interface Drawing {
  base: string;
  marks: { kind: string; box: [number, number, number, number] }[];
}

/** Reads the one-line notation of a drawing: “shell: scores 10 20 80 40; specks”. The server has checked it. */
export function parseDrawing(line: string): Drawing {
  const [base = '', rest = ''] = line.split(':');
  return {
    base: base.trim(),
    marks: rest
      .split(';')
      .map((m) => m.trim())
      .filter(Boolean)
      .map((m) => {
        const [kind = '', ...box] = m.split(/\s+/);
        const [x = 0, y = 0, w = 100, h = 100] = box.map(Number);
        return { kind, box: [x, y, w, h] };
      }),
  };
}

const seedOf = (text: string) => [...text].reduce((h, c) => (Math.imul(h, 31) + c.charCodeAt(0)) | 0, 7);

/** A sign as a line drawing: the part in thin lines, the damage in the colour of damage. */
export function SignArt({ draw, className = '' }: { draw: string; className?: string }) {
  const { base, marks: drawn } = parseDrawing(draw);
  const outline = outlines[base];
  if (!outline) return null;
  const [fx, fy, fw, fh] = outline.face;
  const random = scatter(seedOf(draw));
  return (
    <svg
      viewBox="0 0 160 120"
      className={className}
      fill="none"
      stroke="currentColor"
      strokeWidth="1.2"
      strokeLinejoin="round"
      aria-hidden
    >
      <g className="text-soft" opacity="0.85">
        {outline.lines}
      </g>
      <g className="text-lead">
        {drawn.map((m, i) => {
          const [x, y, w, h] = m.box;
          const box: Box = [fx + (x / 100) * fw, fy + (y / 100) * fh, (w / 100) * fw, (h / 100) * fh];
          return <g key={i}>{marks[m.kind]?.(box, random)}</g>;
        })}
      </g>
    </svg>
  );
}
