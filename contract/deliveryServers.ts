// Servers that copies are delivered to: of files (SFTP), or of objects (S3-compatible storage).

import { z } from 'zod';
import { done, id, idParams, route, text } from './route';

const HOST_KEY = /^SHA256:[A-Za-z0-9+/]{43}$/;
const serverName = text.trim().min(1).max(120);
/** The folder below which copies go; empty: where one is signed in to. */
const root = text
  .trim()
  .max(500)
  .refine((path) => !path.split('/').includes('..'), 'leads out of the server');

export const sftpServer = z.object({
  kind: z.literal('sftp'),
  name: serverName,
  host: text.trim().min(1).max(255),
  port: z.number().int().min(1).max(65_535).default(22),
  user: text.trim().min(1).max(200),
  root: root.default(''),
  hostKey: text
    .regex(HOST_KEY, 'is no fingerprint of a key')
    .nullable()
    .default(null)
    .describe('The fingerprint by which the server is known; null: not looked at yet'),
});
export const s3Server = z.object({
  kind: z.literal('s3'),
  name: serverName,
  endpoint: z.url({ protocol: /^https?$/ }).max(500),
  region: text.trim().min(1).max(100).default('us-east-1'),
  bucket: text.trim().min(1).max(255),
  user: text.trim().min(1).max(200).describe('The number of the access key'),
  root: root.default(''),
});
export const serverShape = z.discriminatedUnion('kind', [sftpServer, s3Server]);
export type ServerShape = z.infer<typeof serverShape>;

export const deliveryServer = z.object({ id: z.number(), server: serverShape });
export type DeliveryServer = z.infer<typeof deliveryServer>;

/** What a server is signed in with; null: what is kept already. */
const secret = text.min(1).max(2000).nullable();
const described = z.object({ serverId: id.nullable(), server: serverShape, secret });
export type DescribedServer = z.infer<typeof described>;

export const deliveryServerRoutes = {
  listDeliveryServers: route({
    method: 'GET',
    path: '/api/delivery-servers',
    access: 'deliver',
    shows: 'nothing',
    summary: 'Servers that copies can be delivered to',
    response: z.object({ servers: z.array(deliveryServer) }),
  }),
  tryDeliveryServer: route({
    method: 'POST',
    path: '/api/delivery-servers/try',
    access: 'administer',
    shows: 'nothing',
    summary: 'Sign in to a server, write a file there, read it back and remove it',
    body: described,
    response: z.object({
      problem: z.string().nullable().describe('Why it does not work; null: it does'),
      hostKey: z.string().nullable().describe('The fingerprint of the key that the server has shown'),
    }),
  }),
  saveDeliveryServer: route({
    method: 'POST',
    path: '/api/delivery-servers',
    access: 'administer',
    shows: 'nothing',
    summary: 'Keep a server; its password is kept encrypted, and never given out',
    body: described,
    response: deliveryServer,
  }),
  removeDeliveryServer: route({
    method: 'DELETE',
    path: '/api/delivery-servers/:id',
    access: 'administer',
    shows: 'nothing',
    summary: 'Forget a server and its password; what was delivered there stays',
    params: idParams,
    response: done,
  }),
};
