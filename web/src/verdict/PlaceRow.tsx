import { Addr } from '../ui/basics';
import { spans } from './places';

/** Places in a line, rows of them by their ends. */
export function PlaceRow({ codes, most = 8 }: { codes: readonly string[]; most?: number }) {
  const all = spans(codes);
  return (
    <span className="flex flex-wrap gap-x-2">
      {all.slice(0, most).map((s) => (
        <Addr key={s} code={s} className="text-[0.95em]" />
      ))}
      {all.length > most && <span className="text-soft">+{all.length - most}</span>}
    </span>
  );
}
