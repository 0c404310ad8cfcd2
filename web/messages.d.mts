import type { LinguiConfigNormalized } from '@lingui/conf';

export const linguiConfig: LinguiConfigNormalized;
export function said(): Map<string, string>;
export function catalogue(language: string): Record<string, string>;
export function wrong(language: string, source?: Map<string, string>): string[];
