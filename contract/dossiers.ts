// Dossiers: what is said of them, and the changes to them.

import { z } from 'zod';
import { MARK_COLOURS } from '@stellin/core/describing/marks';
import { selection } from './photos';
import { id, route, text } from './route';

const name = text
  .trim()
  .min(1)
  .max(200)
  .refine((given) => !given.includes('/'), 'A name has no “/”.');
const note = text.max(5000);
const colour = z.enum(['', ...MARK_COLOURS]);

/** What a person says of a dossier. */
export const dossierShape = z.object({ name, note, colour });

/** The changes to dossiers: entries of the union of changes. */
export const dossierChanges = [
  z.object({
    kind: z.literal('makeDossier'),
    name,
    parentId: id.nullable().default(null),
    note: note.default(''),
    colour: colour.default(''),
    selection: selection.optional().describe('The photos it holds from the beginning'),
  }),
  z.object({
    kind: z.literal('changeDossier'),
    dossierId: id,
    name: name.optional(),
    note: note.optional(),
    colour: colour.optional(),
    coverPhoto: id.nullable().optional(),
  }),
  z.object({
    kind: z.literal('placeDossier'),
    dossierId: id,
    parentId: id.nullable(),
    before: id.nullable().describe('The one it is to stand before; null: last'),
  }),
  z.object({ kind: z.literal('copyDossier'), dossierId: id, name }),
  z.object({ kind: z.literal('removeDossier'), dossierId: id }),
  z.object({ kind: z.literal('putInDossier'), dossierId: id, selection }),
  z.object({ kind: z.literal('takeFromDossier'), dossierId: id, selection }),
  z.object({
    kind: z.literal('arrangeDossier'),
    dossierId: id,
    photoIds: z.array(id).min(1).max(20_000),
    before: id.nullable().describe('The photo they are to stand before; null: last'),
  }),
] as const;

export const dossier = z.object({
  id: z.number(),
  parentId: z.number().nullable(),
  name: z.string(),
  path: z.string().describe('Names from the top down, with / between'),
  query: z.string().describe('What finds its photos, in the query language'),
  note: z.string(),
  colour: z.string(),
  cover: z.object({ photoId: z.number(), version: z.number() }).nullable(),
  photos: z.number().describe('What its query finds: with those of dossiers below it'),
  pinned: z.boolean().describe('Whether one’s single key puts photos here'),
});
export type Dossier = z.infer<typeof dossier>;

export const dossierRoutes = {
  listDossiers: route({
    method: 'GET',
    path: '/api/dossiers',
    access: 'see',
    shows: 'seen',
    summary: 'All dossiers, each before those below it, in their order',
    response: z.object({ dossiers: z.array(dossier) }),
  }),
  pinDossier: route({
    method: 'POST',
    path: '/api/dossiers/pin',
    access: 'describe',
    shows: 'seen',
    summary: 'Choose the dossier into which one puts photos with a single key',
    body: z.object({ dossierId: id.nullable() }),
    response: z.object({}),
  }),
};
