import type { Settings } from '@corvun/core';

/** What an export says of itself; nothing in it changes when it is read in and exported again. */
export interface ExportManifest {
  format: 'corvun-export';
  version: 1;
  account: { name: string; zone: string; hours: Record<number, string[]>; settings?: Partial<Settings> };
}

export const EXPORT_MANIFEST = 'export.json';
