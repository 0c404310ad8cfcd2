import { i18n } from '@lingui/core';
import type { TransProps } from '@lingui/react';
import { TransNoContext } from '@lingui/react/server';

/** Words with elements among them, in the one language of the page; the macro puts this in the place of `<Trans>`. */
export const Trans = (props: TransProps) => <TransNoContext {...props} lingui={{ i18n }} />;
