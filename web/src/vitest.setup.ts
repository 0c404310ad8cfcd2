import { i18n } from '@lingui/core';

i18n.loadAndActivate({ locale: 'en', messages: {} });

// A busy machine must not fail a test that waits for the screen.
if (typeof document !== 'undefined')
  (await import('@testing-library/react')).configure({ asyncUtilTimeout: 60_000 });

export {};
