// A delivery that is being prepared: which photos, how, and for whom. What was set is remembered on this machine, so that nothing
// typed is lost by leaving the place.

import { z } from 'zod';
import {
  copySettings,
  gallerySettings,
  sheetSettings,
  tableSettings,
  type CopySettings,
  type DeliveryKind,
  type DeliverySettings,
  type DeliveryTarget,
} from '@stellin/contract/delivering';
import { SORTS, type Sort } from '@stellin/core/search/sorts';
import { selection, type Selection } from '@stellin/contract/photos';

/** What leaves, in the order in which it is offered. */
export const KIND_LABELS: Record<DeliveryKind, string> = {
  copies: 'Copies',
  table: 'Table',
  sheet: 'Sheet',
  gallery: 'Gallery',
};
export const KINDS = Object.keys(KIND_LABELS) as [DeliveryKind, ...DeliveryKind[]];

export const draftSchema = z.object({
  kind: z.enum(KINDS),
  settings: copySettings,
  table: tableSettings,
  sheet: sheetSettings,
  gallery: gallerySettings,
  presetId: z.number().nullable(),
  recipient: z.string(),
  reason: z.string(),
  /** Empty: it is downloaded. */
  driveId: z.string(),
  /** Goes before the drive. */
  serverId: z.number().nullable().default(null),
  /** Handed over to another program; goes before drive and server. The name of a program that is started; empty for none. */
  handover: z.boolean().default(false),
  program: z.string().default(''),
  folder: z.string(),
});
export type Draft = z.infer<typeof draftSchema>;

export const NEW_DRAFT: Draft = {
  kind: 'copies',
  settings: copySettings.parse({}),
  table: tableSettings.parse({
    kind: 'table',
    format: 'csv',
    columns: ['file', 'taken', 'field:title', 'field:description', 'terms', 'field:personInImage', 'field:city'],
  }),
  sheet: sheetSettings.parse({ kind: 'sheet', fields: ['name', 'field:headline'] }),
  gallery: gallerySettings.parse({ kind: 'gallery', fields: ['taken', 'field:creator', 'field:city'] }),
  presetId: null,
  recipient: '',
  reason: '',
  driveId: '',
  serverId: null,
  handover: false,
  program: '',
  folder: 'Deliveries',
};

/** The settings of what is to leave. */
export function settingsOf({ kind, settings, table, sheet, gallery }: Draft): DeliverySettings {
  return { copies: settings, table, sheet, gallery }[kind];
}

/** Where it goes: only copies go elsewhere than to this computer. */
export function targetOf({ kind, driveId, serverId, handover, program, folder: typed }: Draft): DeliveryTarget {
  if (kind === 'copies' && handover) return { kind: 'handover', program };
  const folder = typed.replace(/^\/+|\/+$/g, '');
  if (kind === 'copies' && serverId !== null) return { kind: 'server', serverId, folder };
  return kind === 'copies' && driveId !== '' ? { kind: 'drive', driveId, folder } : { kind: 'download' };
}

/** Sets a part of the settings. */
export type SetSettings = (part: Partial<CopySettings>) => void;

export const leavingSchema = z.object({ selection, sort: z.enum(SORTS) });
export type Leaving = z.infer<typeof leavingSchema>;

/** What is to leave, as it stands in the history of the browser. */
export function leavingOf(state: unknown): Leaving | undefined {
  return leavingSchema.safeParse(state).data;
}

/** What is to leave, for the history of the browser. */
export function leavingState(chosen: Selection, sort: Sort): Leaving {
  return { selection: chosen, sort };
}

/** The address of the place with what a query finds. */
export function deliverLink(query: string, sort: Sort): string {
  return `/deliver?${String(new URLSearchParams({ q: query, sort }))}`;
}
