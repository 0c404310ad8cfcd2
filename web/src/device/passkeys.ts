import { t as tr } from '@lingui/core/macro';
import { ApiProblem } from '../api/client';

/** A passkey lives with the device or the browser; not every browser and no bare address of numbers has them. */
export const canPasskeys = () =>
  typeof PublicKeyCredential !== 'undefined' &&
  typeof PublicKeyCredential.parseRequestOptionsFromJSON === 'function' &&
  !/^[\d.]+$|^\[/.test(location.hostname);

const notGiven = (what: string) =>
  new ApiProblem(0, {
    title: tr`No passkey was ${what}.`,
    detail: tr`Try again, or use your password.`,
  });

/** Asks the device for one of its passkeys. */
export async function getPasskey(options: unknown): Promise<unknown> {
  const credential = await navigator.credentials
    .get({
      publicKey: PublicKeyCredential.parseRequestOptionsFromJSON(
        options as PublicKeyCredentialRequestOptionsJSON,
      ),
    })
    .catch(() => null);
  if (!credential) throw notGiven('given');
  return (credential as PublicKeyCredential).toJSON() as unknown;
}

/** Has the device make one. */
export async function makePasskey(options: unknown): Promise<unknown> {
  const credential = await navigator.credentials
    .create({
      publicKey: PublicKeyCredential.parseCreationOptionsFromJSON(
        options as PublicKeyCredentialCreationOptionsJSON,
      ),
    })
    .catch(() => null);
  if (!credential) throw notGiven('made');
  return (credential as PublicKeyCredential).toJSON() as unknown;
}
