// Drives, their folders, and the drive bay of the demo.

import { z } from 'zod';
import { done, route, text } from './route';

export const DRIVE_STATES = ['attached', 'away', 'new', 'copy'] as const;

export const drive = z.object({
  key: z.string().describe('The drive’s id, or for a drive that is not catalogued yet the name of its mount point'),
  id: z.uuid().nullable(),
  label: z.string(),
  state: z.enum(DRIVE_STATES),
  mountPoint: z.string().nullable(),
  copyOf: z.string().nullable().describe('The label of the drive whose marker it carries as well'),
  photos: z.number(),
  photoBytes: z.number(),
  missing: z.number().describe('Photos whose file is not where it was'),
  capacityBytes: z.number().nullable(),
  freeBytes: z.number().nullable(),
  readOnly: z.boolean(),
  note: z.string(),
  readText: z.boolean().describe('The text in its pictures is read in the background'),
  browseAway: z.boolean().describe('Its large pictures are kept for looking at them while it is away'),
  lastSeen: z.string().nullable(),
  lastChecked: z.string().nullable().describe('When it was last looked through'),
});
export type Drive = z.infer<typeof drive>;

export const folder = z.object({
  id: z.number(),
  driveId: z.uuid(),
  parentId: z.number().nullable(),
  name: z.string(),
  path: z.string().describe('Below the drive, with / between; empty for the drive itself'),
  photos: z.number().describe('In the folder itself'),
  photosWithin: z.number().describe('In the folder and all below it'),
  colour: z.string().describe('How it is marked; empty: not at all'),
  note: z.string(),
});
export type Folder = z.infer<typeof folder>;

export const bayDrive = z.object({
  name: z.string(),
  label: z.string(),
  attachedAt: z.string().nullable().describe('The name of the mount point it is plugged in at'),
});

export const driveRoutes = {
  listDrives: route({
    method: 'GET',
    path: '/api/drives',
    access: 'see',
    shows: 'seen',
    summary: 'All drives: catalogued ones and new ones that can be taken in',
    response: z.object({ drives: z.array(drive) }),
  }),
  listFolders: route({
    method: 'GET',
    path: '/api/folders',
    access: 'see',
    shows: 'seen',
    summary: 'All folders of all drives with their numbers of photos',
    response: z.object({ folders: z.array(folder) }),
  }),
  changeDrive: route({
    method: 'POST',
    path: '/api/drives/:id',
    access: 'administer',
    shows: 'nothing',
    summary: 'Rename a drive, or change its note',
    params: z.object({ id: z.uuid() }),
    body: z.object({ label: text.trim().min(1).max(100).optional(), note: text.max(2000).optional() }),
    response: done,
  }),
  separateDrive: route({
    method: 'POST',
    path: '/api/drives/separate',
    access: 'administer',
    shows: 'nothing',
    summary: 'Make a drive of its own of one that carries the marker of another',
    body: z.object({ mountPoint: text.min(1).max(4000) }),
    response: done,
  }),
  addPlace: route({
    method: 'POST',
    path: '/api/drives/places',
    access: 'administer',
    shows: 'nothing',
    summary: 'Look at a folder of this machine or of the network as at a drive',
    body: z.object({ path: text.trim().min(1).max(4000) }),
    response: done,
  }),
};

/** The drive bay: of the demo only. */
export const bayRoutes = {
  listBay: route({
    method: 'GET',
    path: '/api/bay',
    access: 'intake',
    summary: 'The drive bay of the demo',
    response: z.object({ drives: z.array(bayDrive), slots: z.array(z.string()) }),
  }),
  attach: route({
    method: 'POST',
    path: '/api/bay/attach',
    access: 'intake',
    summary: 'Plug a drive of the demo bay in',
    body: z.object({ name: text.max(100), slot: text.max(100).optional() }),
    response: bayDrive,
  }),
  touch: route({
    method: 'POST',
    path: '/api/bay/touch',
    access: 'intake',
    summary: 'Let a stand-in for another program change files of a drive of the demo bay',
    body: z.object({ name: text.max(100), count: z.number().int().min(1).max(1000) }),
    response: z.object({ files: z.array(z.string()) }),
  }),
  detach: route({
    method: 'POST',
    path: '/api/bay/detach',
    access: 'intake',
    summary: 'Unplug a drive of the demo bay',
    body: z.object({ name: text.max(100) }),
    response: bayDrive,
  }),
};
