/** A fingerprint in fours, as it is read out and compared. */
export const digits = (fingerprint: string) => fingerprint.match(/.{1,4}/g)?.join(' ') ?? '';
