import { t as tr } from '@lingui/core/macro';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState, type ReactNode } from 'react';
import { asked, ApiProblem } from '../api/client';
import { Trouble } from './basics';
import { megabytes } from './words';

const noAnswer = {
  title: tr`The server does not answer.`,
  detail: tr`The file is made there. Check the connection and press once more; nothing was changed.`,
};

/** Puts a file where this browser puts what it downloads. */
export function saveAs(blob: Blob, name: string) {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  // The browser reads it after the press.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** How far a file is: what of it is made, as a share, and then how many bytes of it are here. */
interface Far {
  made?: number;
  bytes: number;
}

/** A file that tells how far it is before it comes: lines of JSON, and the file after the one that says how large it is. */
const madeType = 'application/x-sleuth-made';

/** The lines that have come whole, and what stands after them. */
export function linesOf(bytes: Uint8Array<ArrayBuffer>): { lines: string[]; rest: Uint8Array<ArrayBuffer> } {
  const lines: string[] = [];
  let rest = bytes;
  for (let end = rest.indexOf(10); end >= 0; end = rest.indexOf(10)) {
    const line = new TextDecoder().decode(rest.subarray(0, end));
    rest = rest.subarray(end + 1);
    lines.push(line);
    // What follows is the file itself, whatever it looks like.
    if (line.startsWith('{"bytes"')) break;
  }
  return { lines, rest };
}

const joined = (a: Uint8Array, b: Uint8Array) => {
  const both = new Uint8Array(a.length + b.length);
  both.set(a);
  both.set(b, a.length);
  return both;
};

/** Fetches a file that the server makes, and tells how much of it is here. */
async function fetched(address: string, signal: AbortSignal, told: (far: Far) => void): Promise<Blob> {
  const answer = await fetch(address, {
    signal,
    headers: asked.lengths ? { 'X-Lengths': asked.lengths } : {},
  }).catch((e: unknown) => {
    throw signal.aborted ? e : new ApiProblem(0, noAnswer);
  });
  if (!answer.ok)
    throw new ApiProblem(answer.status, (await answer.json().catch(() => ({}))) as Record<string, unknown>);
  const pieces: BlobPart[] = [];
  let bytes = 0;
  let whole: number | null = null;
  const type = answer.headers.get('Content-Type') ?? '';
  let telling: Uint8Array<ArrayBuffer> | null = type.startsWith(madeType) ? new Uint8Array() : null;
  const reader = answer.body!.getReader();
  for (;;) {
    const { done, value } = await reader.read().catch((e: unknown) => {
      throw signal.aborted ? e : new ApiProblem(0, noAnswer);
    });
    if (done) {
      // Broken off before the file began, or in the middle of it.
      if (telling || (whole !== null && bytes < whole)) throw new ApiProblem(0, noAnswer);
      return new Blob(pieces, { type });
    }
    let piece = value;
    if (telling) {
      const { lines, rest } = linesOf(joined(telling, value));
      for (const line of lines) {
        const said = JSON.parse(line) as { done?: number; bytes?: number };
        whole = said.bytes ?? whole;
        if (said.done !== undefined) told({ made: said.done, bytes: 0 });
      }
      telling = lines.at(-1)?.startsWith('{"bytes"') ? null : rest;
      if (telling) continue;
      piece = rest;
    }
    pieces.push(piece);
    told({ bytes: (bytes += piece.length) });
  }
}

/** A key that makes and saves a file: says how far it is, can be stopped, and tells in words what went wrong. */
export function FileKey({
  href,
  name,
  label,
  className = '',
  children,
}: {
  href: string;
  /** What the file is called where it is saved. */
  name: string;
  label?: string;
  className?: string;
  children: ReactNode;
}) {
  const stop = useRef(new AbortController());
  const [far, setFar] = useState<Far>({ bytes: 0 });
  const make = useMutation<void, ApiProblem>({
    mutationFn: async () => {
      stop.current = new AbortController();
      setFar({ bytes: 0 });
      const { signal } = stop.current;
      const blob = await fetched(href, signal, setFar);
      if (!signal.aborted) saveAs(blob, name);
    },
    // A file that is not on its way is no entry that waits for a network.
    networkMode: 'always',
  });
  if (make.isPending)
    return (
      <span className="inline-flex items-center gap-2" aria-live="polite">
        <span>
          {far.bytes > 0
            ? tr`${megabytes(far.bytes)} MB here …`
            : far.made !== undefined
              ? tr`${Math.floor(100 * far.made)} % made …`
              : tr`Being made …`}
        </span>
        <button
          type="button"
          className="key"
          onClick={() => {
            stop.current.abort();
            make.reset();
          }}
        >
          {tr`Stop`}
        </button>
      </span>
    );
  return (
    <>
      <button type="button" className={`key ${className}`} aria-label={label} onClick={() => make.mutate()}>
        {children}
      </button>
      {make.error && (
        <div className="w-full max-w-md">
          <Trouble problem={make.error} />
        </div>
      )}
    </>
  );
}
