import { z } from 'zod';
import { route } from './route';

export const DRIVE_STATES = ['attached', 'away', 'new'] as const;

export const drive = z.object({
  key: z.string().describe('The drive’s id, or for a drive that is not catalogued yet the name of its mount point'),
  id: z.uuid().nullable(),
  label: z.string(),
  state: z.enum(DRIVE_STATES),
  mountPoint: z.string().nullable(),
  photos: z.number(),
  lastSeen: z.string().nullable(),
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
    access: 'viewer',
    summary: 'All drives: catalogued ones and new ones that can be taken in',
    response: z.object({ drives: z.array(drive) }),
  }),
  listFolders: route({
    method: 'GET',
    path: '/api/folders',
    access: 'viewer',
    summary: 'All folders of all drives with their numbers of photos',
    response: z.object({ folders: z.array(folder) }),
  }),
  listBay: route({
    method: 'GET',
    path: '/api/bay',
    access: 'viewer',
    summary: 'The drive bay of the demo; empty where there is none',
    response: z.object({ drives: z.array(bayDrive), slots: z.array(z.string()) }),
  }),
  attach: route({
    method: 'POST',
    path: '/api/bay/attach',
    access: 'cataloguer',
    summary: 'Plug a drive of the demo bay in',
    body: z.object({ name: z.string().max(100), slot: z.string().max(100).optional() }),
    response: bayDrive,
  }),
  detach: route({
    method: 'POST',
    path: '/api/bay/detach',
    access: 'cataloguer',
    summary: 'Unplug a drive of the demo bay',
    body: z.object({ name: z.string().max(100) }),
    response: bayDrive,
  }),
};
