// A stand-in for a storage of objects: speaks what we need of the protocol of S3 on this machine and keeps what comes in a folder. It
// looks at the signatures of requests (AWS Signature Version 4) and at checksums. For the demo and for tests.

import { createHash, createHmac } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { dirname, join, posix } from 'node:path';
import { serveHere, type StandIn } from '../../standIn';

interface Options {
  folder: string;
  /** 0: any that is free. */
  port: number;
  bucket: string;
  user: string;
  secret: string;
}

interface Asked {
  request: IncomingMessage;
  response: ServerResponse;
  /** Where the object lies. */
  file: string;
}

/** Starts it on the loopback interface. */
export async function s3StandIn({ folder, port, bucket, user, secret }: Options): Promise<StandIn> {
  await mkdir(folder, { recursive: true });
  const server = createServer((request, response) => {
    const refuse = (status: number, code: string) => {
      response.writeHead(status, { 'content-type': 'application/xml' });
      response.end(
        request.method === 'HEAD' ? undefined : `<Error><Code>${code}</Code><Message>${code}</Message></Error>`,
      );
    };
    const path = decodeURIComponent(new URL(request.url ?? '/', 'http://localhost').pathname);
    if (!isSigned(request, user, secret)) return refuse(403, 'SignatureDoesNotMatch');
    if (!path.startsWith(`/${bucket}/`)) return refuse(404, 'NoSuchBucket');
    const file = join(folder, posix.normalize(path.slice(bucket.length + 1)));
    const serve = SERVED[request.method ?? ''];
    if (!serve) return refuse(405, 'MethodNotAllowed');
    serve({ request, response, file }, refuse).catch(() => refuse(500, 'InternalError'));
  });
  return serveHere(server, port, () => server.closeAllConnections());
}

type Refuse = (status: number, code: string) => void;

const SERVED: Readonly<Record<string, (asked: Asked, refuse: Refuse) => Promise<void>>> = {
  async PUT({ request, response, file }, refuse) {
    const parts: Buffer[] = [];
    for await (const part of request) parts.push(part as Buffer);
    const bytes = Buffer.concat(parts);
    const told = request.headers['x-amz-checksum-sha256'];
    if (told !== undefined && told !== createHash('sha256').update(bytes).digest('base64'))
      return refuse(400, 'BadDigest');
    await mkdir(dirname(file), { recursive: true });
    await writeFile(`${file}.part`, bytes);
    await rename(`${file}.part`, file);
    response.writeHead(200, { etag: `"${createHash('md5').update(bytes).digest('hex')}"` });
    response.end();
  },
  async GET({ response, file }, refuse) {
    const found = await there(file);
    if (!found) return refuse(404, 'NoSuchKey');
    response.writeHead(200, found);
    createReadStream(file).pipe(response);
  },
  async HEAD({ response, file }, refuse) {
    const found = await there(file);
    if (!found) return refuse(404, 'NotFound');
    response.writeHead(200, found);
    response.end();
  },
  async DELETE({ response, file }) {
    await rm(file, { force: true });
    response.writeHead(204);
    response.end();
  },
};

async function there(file: string): Promise<Record<string, string> | undefined> {
  const found = await stat(file).catch(() => undefined);
  if (!found?.isFile()) return undefined;
  return { 'content-length': String(found.size), 'last-modified': found.mtime.toUTCString() };
}

/** Whether a request is signed with the secret of the key. */
function isSigned(request: IncomingMessage, user: string, secret: string): boolean {
  const match =
    /^AWS4-HMAC-SHA256 Credential=([^/]+)\/(\d{8})\/([^/]+)\/s3\/aws4_request, ?SignedHeaders=([^,]+), ?Signature=([0-9a-f]{64})$/.exec(
      request.headers.authorization ?? '',
    );
  if (!match) return false;
  const [, key, day = '', region = '', signed = '', signature] = match;
  const [path = '', query = ''] = (request.url ?? '/').split('?');
  const headers = signed
    .split(';')
    .map((name) => `${name}:${String(request.headers[name] ?? '').trim()}\n`)
    .join('');
  const canonical = [
    request.method,
    path,
    query.split('&').sort().join('&'),
    headers,
    signed,
    String(request.headers['x-amz-content-sha256'] ?? ''),
  ].join('\n');
  const hash = createHash('sha256').update(canonical).digest('hex');
  const text = ['AWS4-HMAC-SHA256', request.headers['x-amz-date'], `${day}/${region}/s3/aws4_request`, hash].join('\n');
  const hmac = (by: Buffer | string, of: string) => createHmac('sha256', by).update(of).digest();
  const signing = [day, region, 's3', 'aws4_request'].reduce<Buffer | string>(hmac, `AWS4${secret}`);
  return key === user && createHmac('sha256', signing).update(text).digest('hex') === signature;
}
