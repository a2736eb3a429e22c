// A storage of objects that is spoken to by the protocol of S3, which several storages know.

import type { Readable } from 'node:stream';
import {
  DeleteObjectCommand,
  GetObjectCommand,
  HeadObjectCommand,
  PutObjectCommand,
  S3Client,
  S3ServiceException,
} from '@aws-sdk/client-s3';
import type { z } from 'zod';
import type { s3Server } from '@stellin/contract/deliveryServers';
import { sizeText } from '@stellin/contract/sizeText';
import { joinPath } from '../files/drivePath';
import type { ServerClient } from './serverDestination';

/** The largest object that comes in one piece. */
const MAX_OBJECT_BYTES = 5 * 1024 ** 3;

/** What goes wrong is said where something is asked for. */
const nothing = () => undefined;
const SILENT = { trace: nothing, debug: nothing, info: nothing, warn: nothing, error: nothing };

/** A storage as somebody with a key sees it; nothing is asked of it yet. */
export function s3Client(server: z.infer<typeof s3Server>, secret: string): ServerClient {
  const client = new S3Client({
    endpoint: server.endpoint,
    region: server.region,
    credentials: { accessKeyId: server.user, secretAccessKey: secret },
    // Other storages know buckets as folders only.
    forcePathStyle: true,
    logger: SILENT,
    // We give our own, of all of it.
    requestChecksumCalculation: 'WHEN_REQUIRED',
    responseChecksumValidation: 'WHEN_REQUIRED',
  });
  const at = (path: string) => ({ Bucket: server.bucket, Key: joinPath(server.root.replace(/^\/+|\/+$/g, ''), path) });

  return {
    async lookAt(path) {
      try {
        const { ContentLength = 0, LastModified } = await client.send(new HeadObjectCommand(at(path)));
        return { bytes: ContentLength, mtimeMs: LastModified?.getTime() ?? 0 };
      } catch (error) {
        if (error instanceof S3ServiceException && error.$metadata.httpStatusCode === 404) return undefined;
        throw error;
      }
    },

    async read(path) {
      const { Body } = await client.send(new GetObjectCommand(at(path)));
      if (!Body) throw new Error('the storage gave nothing');
      // In Node.js it is a stream of Node.js.
      return Body as Readable;
    },

    /** The storage compares what came with the checksum, and refuses what differs: an object is there whole or not at all. */
    async put(path, { bytes, open, sha256 }) {
      if (bytes > MAX_OBJECT_BYTES) throw new Error(`it is larger than ${sizeText(MAX_OBJECT_BYTES)}`);
      await client.send(
        new PutObjectCommand({
          ...at(path),
          Body: open(),
          ContentLength: bytes,
          ChecksumSHA256: Buffer.from(sha256, 'hex').toString('base64'),
        }),
      );
    },

    async remove(path) {
      await client.send(new DeleteObjectCommand(at(path)));
    },

    async isThere() {
      try {
        await this.lookAt('.stellin-asked');
        return true;
      } catch (error) {
        // One that refuses is there.
        return error instanceof S3ServiceException;
      }
    },

    close() {
      client.destroy();
      return Promise.resolve();
    },
  };
}
