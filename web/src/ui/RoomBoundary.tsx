import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { QueryErrorResetBoundary } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { ErrorBoundary } from 'react-error-boundary';

/** What stands where a part of the page failed: the rest of it goes on, and nothing that was entered is gone. */
function Failed({ what, error, again }: { what: string; error: unknown; again: () => void }) {
  return (
    <div role="alert" className="mx-auto my-6 max-w-lg rounded-lg border-2 border-lead bg-lead-tint p-4">
      <p className="text-lg font-bold">
        <Trans>{what} cannot be shown.</Trans>
      </p>
      <p className="mt-1">
        {tr`What you entered is kept: what the server has stands there, and what waits to be sent waits on this device. Try again, or go on in another room. If it happens again, tell whoever looks after the program what stands below.`}
      </p>
      <p className="fig mt-2 text-sm break-words">{error instanceof Error ? error.message : String(error)}</p>
      <div className="mt-3 flex flex-wrap gap-2">
        <button className="key key-go" onClick={again}>
          {tr`Try again`}
        </button>
        <a className="key flex items-center" href="/">
          {tr`Casebook`}
        </a>
      </div>
    </div>
  );
}

/** Keeps a failure within its room. It is tried again by itself when one goes elsewhere. */
export const RoomBoundary = ({
  what,
  at,
  children,
}: {
  what: string;
  /** Where one is; a change of it tries again. */
  at: string;
  children: ReactNode;
}) => (
  <QueryErrorResetBoundary>
    {({ reset }) => (
      <ErrorBoundary
        resetKeys={[at]}
        onReset={reset}
        fallbackRender={({ error, resetErrorBoundary }) => (
          <Failed what={what} error={error} again={resetErrorBoundary} />
        )}
      >
        {children}
      </ErrorBoundary>
    )}
  </QueryErrorResetBoundary>
);
