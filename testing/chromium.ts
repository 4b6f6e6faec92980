import { existsSync } from 'node:fs';

const FULL = '/usr/bin/chromium';
/** The same without its windows: it starts and draws in two thirds of the time. */
const SHELL = '/usr/bin/chromium-headless-shell';

/** The Chromium that shows pages; `CHROMIUM` names another one. */
export const headless = (): string => process.env['CHROMIUM'] ?? (existsSync(SHELL) ? SHELL : FULL);

/** The Chromium that takes extensions. */
export const withExtensions = (): string => process.env['CHROMIUM'] ?? FULL;
