import { t as tr } from '@lingui/core/macro';
import { api, ApiProblem, unwrap } from '../api/client';
import { ScanCode } from '../ui/ScanCode';
import { useCaseContext } from './context';

/** Reads a tag of the engine. What it says is looked up by the server, so that a tag of another case is told as such. */
export function Scan({
  caseId,
  onFound,
  className = 'key',
  words = tr`Scan a tag`,
}: {
  caseId: string;
  onFound: (address: string) => void;
  className?: string;
  words?: string;
}) {
  const { openBag } = useCaseContext();
  const found = (address: string, isBag: boolean) => (isBag ? openBag : onFound)(address);
  return (
    <ScanCode
      words={words}
      className={className}
      title={tr`Hold the tag before the camera`}
      says={tr`A hand’s breadth away, square in the picture. Or type the address.`}
      read={async (tag) => {
        try {
          const answer = await unwrap(
            api.GET('/api/cases/{caseId}/scan', { params: { path: { caseId }, query: { tag } } }),
          );
          return () => found(answer.place, answer.isBag);
        } catch (e) {
          // Without a network the tag's own words must do; the server looks at the address again when something is sent.
          const own = new RegExp(`^vivid-sleuth:${caseId.replaceAll('-', '')}:([A-Z0-9.]+)$`, 'i').exec(
            tag,
          )?.[1];
          if (!own || !(e instanceof ApiProblem) || e.status !== 0) throw e;
          return () => found(own.toUpperCase(), /^[A-Z]{3,5}\d+$/i.test(own));
        }
      }}
    />
  );
}
