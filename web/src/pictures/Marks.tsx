import { t as tr } from '@lingui/core/macro';
import { useRef, useState, type PointerEvent } from 'react';
import { useWatch } from 'react-hook-form';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import type { Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Choice, Trouble } from '../ui/basics';
import { EntryForm, FigureField, numberTyped, TextField, useEntryForm } from '../ui/form';
import { stands } from '../ui/words';
import { lengthOf, type MarkPoints } from './markLength';
import { rounded } from '../ui/region';
import { usePictureUrl, type Photo } from './picture';
import { useMayWrite } from '../api/queries';

type Mark = Schemas['PhotoMark'];
type Tool = Schemas['PhotoMarkKind'];

const tools = [
  ['arrow', tr`➚ Arrow`],
  ['ring', tr`○ Ring`],
  ['scale', tr`⊢⊣ Scale`],
] as const satisfies readonly (readonly [Tool, string])[];

const schema = z.object({ label: z.string().check(z.trim()), length: numberTyped({ min: 0 }) });

const blank = { label: '', length: '' };

/** A picture with its marks laid over it; the picture itself stays as it is. */
export function MarkedPicture({ photo, context }: { photo: Photo; context: CaseContext }) {
  const { engineCase } = context;
  const mayWrite = useMayWrite();
  const url = usePictureUrl(engineCase.id, photo, 'view');
  const [tool, setTool] = useState<Tool | null>(null);
  const [drawn, setDrawn] = useState<MarkPoints | null>(null);
  const { form, settle } = useEntryForm(schema, blank);
  const label = useWatch({ control: form.control, name: 'label' });
  const drawing = useRef(false);
  const marks = engineCase.photoMarks.filter((m) => m.photo === photo.id && stands(m));
  const scale = marks.find((m) => m.kind === 'scale');
  const aspect = photo.width / photo.height || 4 / 3;
  const takeBack = useWrite(context.engineCase.id, writes.takeBack);
  const add = useWrite(engineCase.id, writes.photoMark);
  const at = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const share = (v: number) => Math.min(1, Math.max(0, v));
    return { x: share((e.clientX - box.left) / box.width), y: share((e.clientY - box.top) / box.height) };
  };
  return (
    <div>
      {/* As large as the screen allows, with what marks it in view below. */}
      <div
        className="relative mx-auto bg-steel"
        style={{ aspectRatio: aspect, width: `min(100%, calc((100dvh - 13rem) * ${aspect}))` }}
      >
        <img src={url} alt={photo.caption || photo.place} className="size-full object-contain" />
        <svg
          className={`absolute inset-0 size-full ${tool ? 'cursor-crosshair touch-none' : 'pointer-events-none'}`}
          viewBox={`0 0 ${aspect} 1`}
          preserveAspectRatio="none"
          role="img"
          aria-label={
            marks.length > 0 ? tr`Marks: ${marks.map((m) => m.label || m.kind).join(', ')}` : tr`No marks yet`
          }
          onPointerDown={(e) => {
            if (!tool) return;
            e.currentTarget.setPointerCapture(e.pointerId);
            const p = at(e);
            drawing.current = true;
            setDrawn({ kind: tool, x1: p.x, y1: p.y, x2: p.x, y2: p.y });
          }}
          onPointerMove={(e) => {
            if (!drawing.current || !drawn) return;
            const p = at(e);
            setDrawn({ ...drawn, x2: p.x, y2: p.y });
          }}
          onPointerUp={() => {
            drawing.current = false;
            if (drawn && Math.hypot(drawn.x2 - drawn.x1, drawn.y2 - drawn.y1) < 0.01) setDrawn(null);
          }}
        >
          {marks.map((m) => (
            <MarkShape
              key={m.id}
              mark={m}
              aspect={aspect}
              size={lengthOf(m, scale, aspect)}
              label={m.label}
            />
          ))}
          {drawn && (
            <MarkShape mark={drawn} aspect={aspect} size={lengthOf(drawn, scale, aspect)} label={label} />
          )}
        </svg>
      </div>
      {mayWrite && (
        <EntryForm
          form={form}
          send={async ({ label: words, length }) => {
            if (!drawn) return;
            if (drawn.kind === 'scale' && !length)
              return form.setError('length', { message: tr`Give its length in mm.` }, { shouldFocus: true });
            const typed = form.getValues();
            // The next mark may be drawn while this one is on its way; a refused one comes back to the form.
            setDrawn(null);
            settle(blank);
            setTool(null);
            add.mutate(
              {
                mark: {
                  id: v7(),
                  photo: photo.id,
                  ...drawn,
                  length: drawn.kind === 'scale' ? length : null,
                  label: words,
                },
                fileName: photo.fileName,
                place: photo.place,
              },
              {
                onError: () => {
                  setDrawn(drawn);
                  settle(typed);
                },
              },
            );
          }}
          className="mt-2 space-y-2 px-3"
        >
          <Choice
            label={
              tool
                ? tr`Draw over the picture from one point to the other`
                : tr`Mark the picture; it is never drawn into`
            }
            value={tool}
            options={tools}
            onChange={(t) => {
              setTool(t === tool ? null : t);
              setDrawn(null);
            }}
          />
          {drawn && (
            <div className="flex flex-wrap gap-2">
              {drawn.kind === 'scale' ? (
                <FigureField
                  form={form}
                  name="length"
                  label={tr`Length of the scale in mm`}
                  placeholder={tr`Its length in mm`}
                  unseen
                  className="max-w-48"
                />
              ) : (
                <TextField
                  form={form}
                  name="label"
                  label={tr`What the mark shows`}
                  placeholder={tr`What it shows`}
                  unseen
                  className="max-w-72"
                />
              )}
              <button className="key key-go">{tr`Keep the mark`}</button>
            </div>
          )}
          <Trouble problem={add.error ?? takeBack.error} />
          {marks.length > 0 && (
            <ul className="flex flex-wrap gap-2 text-sm" aria-label={tr`Marks on this picture`}>
              {marks.map((m) => (
                <li key={m.id} className="flex items-center gap-1 rounded-lg border border-line pl-2">
                  {m.kind === 'scale' ? tr`scale ${m.length!} mm` : m.label || m.kind}
                  {m.kind === 'ring' &&
                    scale &&
                    tr`, about ${rounded(lengthOf(m, scale, aspect) ?? 0, 2)} mm`}
                  <button
                    type="button"
                    className="key border-transparent px-2"
                    aria-label={tr`Take the mark ${m.label || m.kind} back`}
                    onClick={() =>
                      takeBack.mutate({
                        of: 'photo-marks',
                        record: m,
                        why: tr`Drawn by mistake`,
                        words: tr`mark ${m.label || m.kind}`,
                      })
                    }
                  >
                    ✕
                  </button>
                </li>
              ))}
            </ul>
          )}
        </EntryForm>
      )}
    </div>
  );
}

function MarkShape({
  mark,
  aspect,
  size,
  label,
}: {
  mark: Mark | MarkPoints;
  aspect: number;
  size: number | null;
  label: string;
}) {
  const [x1, y1, x2, y2] = [mark.x1 * aspect, mark.y1, mark.x2 * aspect, mark.y2];
  const long = Math.hypot(x2 - x1, y2 - y1) || 1;
  const [ux, uy] = [(x2 - x1) / long, (y2 - y1) / long];
  const head = Math.min(0.04, long / 2);
  const d =
    mark.kind === 'ring'
      ? `M${x1 + long} ${y1}A${long} ${long} 0 1 1 ${x1 - long} ${y1}A${long} ${long} 0 1 1 ${x1 + long} ${y1}`
      : mark.kind === 'arrow'
        ? `M${x1} ${y1}L${x2} ${y2}M${x2 - head * (ux - 0.5 * uy)} ${y2 - head * (uy + 0.5 * ux)}L${x2} ${y2}L${x2 - head * (ux + 0.5 * uy)} ${y2 - head * (uy - 0.5 * ux)}`
        : `M${x1} ${y1}L${x2} ${y2}M${x1 - 0.02 * uy} ${y1 + 0.02 * ux}L${x1 + 0.02 * uy} ${y1 - 0.02 * ux}M${x2 - 0.02 * uy} ${y2 + 0.02 * ux}L${x2 + 0.02 * uy} ${y2 - 0.02 * ux}`;
  const words = [label, size !== null ? `≈ ${rounded(size, 2)} mm` : ''].filter(Boolean).join(' ');
  const [tx, ty] = mark.kind === 'ring' ? [x1, y1 - long - 0.02] : [x1, y1 - 0.02];
  return (
    <g fill="none" strokeLinecap="round" strokeLinejoin="round">
      <path d={d} stroke="#fff" strokeWidth="0.012" />
      <path d={d} stroke={mark.kind === 'scale' ? '#1d3f8f' : '#b3361b'} strokeWidth="0.006" />
      {words && (
        <text
          x={Math.min(Math.max(tx, 0.08), aspect - 0.08)}
          y={Math.max(0.05, ty)}
          fontSize="0.04"
          fontWeight="700"
          textAnchor="middle"
          fill="#17212b"
          stroke="#fff"
          strokeWidth="0.01"
          paintOrder="stroke"
        >
          {words}
        </text>
      )}
    </g>
  );
}
