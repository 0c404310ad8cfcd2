import { useMutation } from '@tanstack/react-query';
import { useRef, useState, type ReactNode } from 'react';
import { asked, ApiProblem } from '../api/client';
import { Trouble } from './basics';
import { megabytes } from './words';

const noAnswer = {
  title: 'The server does not answer.',
  detail: 'The file is made there. Check the connection and press once more; nothing was changed.',
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

/** Fetches a file that the server makes, and tells how much of it is here. */
async function fetched(address: string, signal: AbortSignal, told: (bytes: number) => void): Promise<Blob> {
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
  const reader = answer.body!.getReader();
  for (;;) {
    const { done, value } = await reader.read().catch((e: unknown) => {
      throw signal.aborted ? e : new ApiProblem(0, noAnswer);
    });
    if (done) return new Blob(pieces, { type: answer.headers.get('Content-Type') ?? '' });
    pieces.push(value);
    told((bytes += value.length));
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
  const [bytes, setBytes] = useState(0);
  const make = useMutation<void, ApiProblem>({
    mutationFn: async () => {
      stop.current = new AbortController();
      setBytes(0);
      const { signal } = stop.current;
      const blob = await fetched(href, signal, setBytes);
      if (!signal.aborted) saveAs(blob, name);
    },
    // A file that is not on its way is no entry that waits for a network.
    networkMode: 'always',
  });
  if (make.isPending)
    return (
      <span className="inline-flex items-center gap-2" aria-live="polite">
        <span>{bytes === 0 ? 'Being made …' : `${megabytes(bytes)} MB here …`}</span>
        <button
          type="button"
          className="key"
          onClick={() => {
            stop.current.abort();
            make.reset();
          }}
        >
          Stop
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
